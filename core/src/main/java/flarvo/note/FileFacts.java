package flarvo.note;

import flarvo.report.InputError;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/**
 * A file as it lies on disk.
 *
 * @param sha256 in hexadecimal
 */
public record FileFacts(Path file, long bytes, String sha256) {

  /**
   * Reads all of it.
   *
   * @throws InputError when it cannot be read
   */
  static FileFacts of(Path file) {
    try (InputStream in = Files.newInputStream(file)) {
      MessageDigest sha = MessageDigest.getInstance("SHA-256");
      byte[] part = new byte[1 << 16];
      long bytes = 0;
      for (int n = in.read(part); n >= 0; n = in.read(part)) {
        sha.update(part, 0, n);
        bytes += n;
      }
      return new FileFacts(file, bytes, HexFormat.of().formatHex(sha.digest()));
    } catch (IOException e) {
      throw new InputError(file.toString(), "", "cannot be read", "Send it again", e);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e); // every Java has it
    }
  }

  String name() {
    return file.getFileName().toString();
  }
}
