package flarvo.desktop.state;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** What project files held when they were read or written last, so that a change is noticed. */
final class SeenOnDisk {

  private final Map<Path, String> seen = new ConcurrentHashMap<>();

  private static Path key(Path file) {
    return file.toAbsolutePath().normalize();
  }

  void remember(Path file) {
    seen.put(key(file), digest(file));
  }

  /**
   * @throws InputError when somebody changed the file since
   */
  void check(Path file) {
    String before = seen.get(key(file));
    if (before != null && Files.isRegularFile(file) && !digest(file).equals(before)) {
      throw new InputError(
          file.toString(),
          "",
          "it was changed on disk since it was opened here",
          "Save under another name with Ctrl+Shift+S, or open it again");
    }
  }

  private static String digest(Path file) {
    try {
      byte[] sum = MessageDigest.getInstance("SHA-256").digest(Files.readAllBytes(file));
      return HexFormat.of().formatHex(sum);
    } catch (IOException e) {
      return ""; // whoever reads it says why it cannot be read
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
