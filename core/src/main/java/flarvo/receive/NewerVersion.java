package flarvo.receive;

import java.io.IOException;
import java.nio.file.DirectoryIteratorException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Finds newer versions by name: {@code solve_v003.usda} beside {@code solve_v002.usda}, or the same
 * name in {@code v003/} beside {@code v002/}, up to two folders up.
 */
final class NewerVersion {

  private static final Pattern VERSION =
      Pattern.compile("(?i)(?<![\\p{L}\\p{N}])v(\\d{1,6})(?!\\d)");
  private static final int LEVELS = 2;

  /** Entries of a folder that are looked at. */
  private static final int MOST = 10_000;

  private NewerVersion() {}

  private record Found(long number, Path file) {}

  /** The newest version of a file that is newer than itself; empty where there is none. */
  static Optional<Path> of(Path file) {
    Path at = file.toAbsolutePath().normalize();
    Found best = newest(at, null, at.getFileName().toString());
    Path below = at.getFileName();
    Path folder = at.getParent();
    for (int k = 0; k < LEVELS && folder != null && folder.getFileName() != null; k++) {
      Found f = newest(folder, below, folder.getFileName().toString());
      best = f != null && (best == null || f.number > best.number) ? f : best;
      below = folder.getFileName().resolve(below);
      folder = folder.getParent();
    }
    return Optional.ofNullable(best).map(Found::file);
  }

  /**
   * @param versioned a file or folder whose name may have a version
   * @param below from there to the file; null where it is the file itself
   */
  private static Found newest(Path versioned, Path below, String name) {
    Matcher own = last(name);
    if (own == null || versioned.getParent() == null) {
      return null;
    }
    long had = Long.parseLong(own.group(1));
    String before = name.substring(0, own.start(1));
    String after = name.substring(own.end(1));
    Found best = null;
    try (DirectoryStream<Path> all = Files.newDirectoryStream(versioned.getParent())) {
      int n = 0;
      for (Path p : all) {
        String other = String.valueOf(p.getFileName());
        String digits = between(other, before, after);
        if (++n > MOST || digits == null) {
          continue;
        }
        long number = Long.parseLong(digits);
        if (number > Math.max(had, best == null ? 0 : best.number)) {
          Path f = below == null ? p : inside(p, below, had, number);
          best = f != null && Files.isRegularFile(f) ? new Found(number, f) : best;
        }
      }
    } catch (IOException | DirectoryIteratorException e) {
      return null; // a folder that cannot be listed has nothing to offer
    }
    return best;
  }

  /** The same file there; its own name may count along. */
  private static Path inside(Path folder, Path below, long had, long number) {
    Path same = folder.resolve(below);
    if (Files.isRegularFile(same)) {
      return same;
    }
    String name = below.getFileName().toString();
    Matcher m = last(name);
    if (m == null || Long.parseLong(m.group(1)) != had) {
      return null;
    }
    String digits = String.valueOf(number);
    String padded = "0".repeat(Math.max(0, m.group(1).length() - digits.length())) + digits;
    return same.resolveSibling(name.substring(0, m.start(1)) + padded + name.substring(m.end(1)));
  }

  private static String between(String name, String before, String after) {
    int length = name.length() - before.length() - after.length();
    if (length < 1 || length > 6 || !name.startsWith(before) || !name.endsWith(after)) {
      return null;
    }
    String digits = name.substring(before.length(), before.length() + length);
    return digits.chars().allMatch(c -> c >= '0' && c <= '9') ? digits : null;
  }

  private static Matcher last(String name) {
    Matcher m = VERSION.matcher(name);
    int at = -1;
    while (m.find()) {
      at = m.start();
    }
    return at >= 0 && m.find(at) ? m : null;
  }
}
