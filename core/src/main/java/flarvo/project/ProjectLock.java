package flarvo.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.report.StrictJson;
import java.io.IOException;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.Optional;
import java.util.UUID;

/**
 * Says who edits a project, in {@code .NAME.lock} beside it. The lock of a process of this machine
 * that is gone is taken over; of another machine nobody can tell from here, so its lock counts
 * until somebody removes the file.
 */
public final class ProjectLock {

  private static final ObjectMapper MAPPER = new ObjectMapper();

  /**
   * Who holds a project.
   *
   * @param begun when that process was started, which tells it from a later one of the same number
   */
  public record Holder(String host, long process, String begun, Instant since, String run) {

    boolean isGone() {
      if (!host.equals(thisHost())) {
        return false;
      }
      Optional<ProcessHandle> p = ProcessHandle.of(process).filter(ProcessHandle::isAlive);
      return p.isEmpty() || !startOf(p.get()).equals(begun);
    }
  }

  private final Path file;
  private final Holder holder;

  private ProjectLock(Path file, Holder holder) {
    this.file = file;
    this.holder = holder;
  }

  private static Path lockOf(Path project) {
    return project.toAbsolutePath().resolveSibling("." + project.getFileName() + ".lock");
  }

  private static String thisHost() {
    try {
      return InetAddress.getLocalHost().getHostName();
    } catch (UnknownHostException e) {
      return "this machine";
    }
  }

  private static String startOf(ProcessHandle p) {
    return p.info().startInstant().map(Instant::toString).orElse("");
  }

  /** Who else holds a project; empty where nobody does. */
  public static Optional<Holder> holder(Path project) {
    return read(lockOf(project)).filter(h -> !h.isGone());
  }

  private static Optional<Holder> read(Path file) {
    try {
      StrictJson n = StrictJson.of(MAPPER.readTree(Files.readString(file)), "lock");
      return Optional.of(
          new Holder(
              n.text("host"),
              Long.parseLong(n.text("process")),
              n.text("begun"),
              Instant.parse(n.text("since")),
              n.text("run")));
    } catch (IOException | IllegalArgumentException | DateTimeParseException e) {
      return Optional.empty(); // none, or not one of ours
    }
  }

  /**
   * Takes a project.
   *
   * @return empty where another holds it, or the folder cannot be written to
   */
  public static Optional<ProjectLock> take(Path project) {
    Path file = lockOf(project);
    ProcessHandle me = ProcessHandle.current();
    Holder mine =
        new Holder(thisHost(), me.pid(), startOf(me), Instant.now(), UUID.randomUUID().toString());
    for (int tries = 0; tries < 2; tries++) {
      try {
        Files.createFile(file);
        try {
          Files.write(file, text(mine));
        } catch (IOException e) {
          remove(file); // a full disk takes the name and not the words
          throw e;
        }
        return Optional.of(new ProjectLock(file, mine));
      } catch (FileAlreadyExistsException e) {
        if (holder(project).isPresent()) {
          return Optional.empty();
        }
        remove(file);
      } catch (IOException e) {
        return Optional.empty();
      }
    }
    return Optional.empty();
  }

  private static byte[] text(Holder h) throws JsonProcessingException {
    ObjectNode o = MAPPER.createObjectNode().put("host", h.host);
    o.put("process", Long.toString(h.process)).put("begun", h.begun);
    o.put("since", h.since.toString()).put("run", h.run);
    return MAPPER.writeValueAsString(o).getBytes(StandardCharsets.UTF_8);
  }

  private static void remove(Path file) {
    try {
      Files.deleteIfExists(file);
    } catch (IOException e) {
      // Then it cannot be taken, which the caller hears of.
    }
  }

  /** Lets go of the project; a lock that somebody else made meanwhile stays. */
  public void release() {
    if (read(file).filter(h -> h.run.equals(holder.run)).isPresent()) {
      remove(file);
    }
  }
}
