package flarvo.note;

import flarvo.report.InputError;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;

/**
 * A file as it lies on disk, or several that belong together.
 *
 * @param file the file; of several, the folder that they lie in
 * @param count how many files it is
 * @param bytes of all of them
 * @param sha256 in hexadecimal; of several, of their contents one after the other
 */
public record FileFacts(Path file, int count, long bytes, String sha256) {

  /**
   * Reads all of it.
   *
   * @throws InputError when it cannot be read
   */
  static FileFacts of(Path file) {
    return of(file, List.of(file));
  }

  /**
   * Reads all of some files of one folder, in their order.
   *
   * @throws InputError when one cannot be read
   */
  static FileFacts ofAll(List<Path> files) {
    return of(files.get(0).getParent(), files);
  }

  private static FileFacts of(Path name, List<Path> files) {
    MessageDigest sha = digest();
    byte[] part = new byte[1 << 16];
    long bytes = 0;
    for (Path file : files) {
      try (InputStream in = Files.newInputStream(file)) {
        for (int n = in.read(part); n >= 0; n = in.read(part)) {
          sha.update(part, 0, n);
          bytes += n;
        }
      } catch (IOException e) {
        throw new InputError(file.toString(), "", "cannot be read", "Send it again", e);
      }
    }
    return new FileFacts(name, files.size(), bytes, HexFormat.of().formatHex(sha.digest()));
  }

  private static MessageDigest digest() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e); // every Java has it
    }
  }

  String name() {
    return file.getFileName() + (count > 1 ? "/ (" + count + " files)" : "");
  }
}
