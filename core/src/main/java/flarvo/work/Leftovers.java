package flarvo.work;

import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Unfinished neighbours of files: {@code .flarvo-HOST-PROCESS-NUMBER.part}. The name does not hold
 * the file's, which may be as long as the disk allows.
 */
final class Leftovers {

  private static final Pattern NAME = Pattern.compile("\\.flarvo-([0-9a-f]+)-(\\d+)-(\\d+)\\.part");
  private static final String HOST = Integer.toHexString(host().hashCode());
  private static final long MINE = ProcessHandle.current().pid();
  private static final AtomicLong NEXT = new AtomicLong(System.nanoTime() & 0xFFFFFFFFFFL);

  /** Folders that were looked through; once in a run is enough. */
  private static final Set<Path> CLEAN = ConcurrentHashMap.newKeySet();

  private Leftovers() {}

  private static String host() {
    Map<String, String> env = System.getenv();
    String named = env.getOrDefault("HOSTNAME", env.getOrDefault("COMPUTERNAME", ""));
    if (!named.isEmpty()) {
      return named;
    }
    try {
      return Files.readString(Path.of("/proc/sys/kernel/hostname")).strip();
    } catch (IOException e) {
      return "this";
    }
  }

  /** A name that nobody else takes. */
  static Path name(Path folder) {
    return folder.resolve(".flarvo-" + HOST + "-" + MINE + "-" + NEXT.incrementAndGet() + ".part");
  }

  /** Removes what processes of this machine that are gone left in a folder. */
  static void remove(Path folder) {
    if (!CLEAN.add(folder)) {
      return;
    }
    try (DirectoryStream<Path> all = Files.newDirectoryStream(folder, ".flarvo-*.part")) {
      for (Path p : all) {
        Matcher m = NAME.matcher(p.getFileName().toString());
        if (m.matches() && m.group(1).equals(HOST) && isGone(Long.parseLong(m.group(2)))) {
          Files.deleteIfExists(p);
        }
      }
    } catch (IOException | NumberFormatException e) {
      // Litter is no reason not to write.
    }
  }

  private static boolean isGone(long process) {
    return process != MINE && ProcessHandle.of(process).filter(ProcessHandle::isAlive).isEmpty();
  }
}
