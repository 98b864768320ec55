package flarvo.receive;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Notices when files that came for a shot change on disk, or newer versions of them appear. It is
 * asked again and again; a file that is still being written is told when it has come to rest.
 */
public final class IncomingWatch {

  private final Map<Path, Seen> known = new HashMap<>(); // by the file that came
  private Map<Path, Stamp> lately = Map.of();

  private record Stamp(long bytes, long modified) {}

  /** What nothing has to be told of. */
  private record Seen(Path file, Stamp stamp) {}

  /**
   * A file that takes the place of one that came.
   *
   * @param old the one that came
   * @param file the same where it changed, else a newer version of it
   */
  public record Arrival(Path old, Path file) {

    /** Whether the file is another one, and the old one is still there as it was. */
    public boolean isNewVersion() {
      return !old.equals(file);
    }
  }

  /** From now on, for the files of a shot: scenes, tables, lens sheets and logs. */
  public IncomingWatch(ReceivedSet set) {
    this(files(set));
  }

  IncomingWatch(List<Path> files) {
    files.forEach(f -> stamp(f).ifPresent(s -> known.put(f, new Seen(f, s))));
  }

  private static List<Path> files(ReceivedSet set) {
    List<Path> out = new ArrayList<>();
    set.files().forEach(f -> out.add(f.path()));
    set.lenses().forEach(l -> out.add(l.path()));
    set.logs().stream().filter(l -> l.entry().isEmpty()).forEach(l -> out.add(l.path()));
    return out;
  }

  /**
   * Looks at the disk, which may take long where it is far away.
   *
   * @return what took the place of what came, and did not change since it was looked at before
   */
  public List<Arrival> look() {
    Map<Path, Stamp> now = new HashMap<>();
    List<Arrival> out = new ArrayList<>();
    for (Path old : known.keySet().stream().sorted().toList()) {
      Path file = NewerVersion.of(old).orElse(old);
      Optional<Stamp> stamp = stamp(file);
      if (stamp.isEmpty() || known.get(old).equals(new Seen(file, stamp.get()))) {
        continue;
      }
      now.put(file, stamp.get());
      if (stamp.get().bytes() > 0 && stamp.get().equals(lately.get(file))) {
        out.add(new Arrival(old, file));
      }
    }
    lately = now;
    return out;
  }

  /** What arrived is not wanted: it is told again when it changes once more, or gets newer. */
  public void dismiss(List<Arrival> arrivals) {
    for (Arrival a : arrivals) {
      Stamp s = lately.get(a.file());
      if (s != null) {
        known.put(a.old(), new Seen(a.file(), s));
      }
    }
  }

  private static Optional<Stamp> stamp(Path file) {
    try {
      BasicFileAttributes a = Files.readAttributes(file, BasicFileAttributes.class);
      return a.isRegularFile()
          ? Optional.of(new Stamp(a.size(), a.lastModifiedTime().toMillis()))
          : Optional.empty();
    } catch (IOException e) {
      return Optional.empty(); // gone for the moment
    }
  }
}
