package flarvo.format;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.Arrays;

/** Reads a text file whole, within limits, with one clear error for everything that can fail. */
public final class TextSource {

  /** Most bytes that {@link #head} returns. */
  public static final int HEAD = 4096;

  private TextSource() {}

  /**
   * The whole of a text file, decoded by its byte order mark, else as UTF-8.
   *
   * @throws InputError when it is missing, empty or over the limit
   */
  public static String read(Path file, ReadLimits limits) {
    return read(file, limits, false);
  }

  /** For formats whose words do not matter: what is no UTF-8 is taken letter by letter. */
  public static String readAny(Path file, ReadLimits limits) {
    return read(file, limits, true);
  }

  /**
   * The whole of a text file as UTF-8 without a byte order mark, for readers that find cells in
   * bytes.
   *
   * @throws InputError as {@link #read(Path, ReadLimits)}
   */
  public static byte[] bytes(Path file, ReadLimits limits) {
    byte[] b = load(file, limits);
    boolean plain = !isMarked(b) && charset(b).equals(StandardCharsets.UTF_8);
    if (plain && ByteScan.isAscii(b)) {
      return b;
    }
    try {
      String text = decode(b);
      return plain ? b : text.getBytes(StandardCharsets.UTF_8);
    } catch (CharacterCodingException e) {
      throw notText(file, e);
    }
  }

  private static InputError notText(Path file, CharacterCodingException e) {
    return new InputError(
        file.toString(), "", "not an UTF-8 text", "Save it as UTF-8, or check its kind", e);
  }

  private static String read(Path file, ReadLimits limits, boolean anyLetters) {
    byte[] bytes = load(file, limits);
    try {
      return decode(bytes);
    } catch (CharacterCodingException e) {
      if (anyLetters) {
        return new String(bytes, StandardCharsets.ISO_8859_1);
      }
      throw notText(file, e);
    }
  }

  private static byte[] load(Path file, ReadLimits limits) {
    try {
      if (Files.isDirectory(file)) {
        throw new InputError(file.toString(), "", "this is a folder", "Name a file in it");
      }
      Regular.check(file);
      long size = Files.size(file);
      if (size == 0) {
        throw new InputError(file.toString(), "", "the file is empty", "Request a new copy");
      }
      if (size > limits.largestFile()) {
        throw new InputError(
            file.toString(), "", "the file is larger than " + limits.largestFile() + " bytes", "");
      }
      return Files.readAllBytes(file);
    } catch (NoSuchFileException e) {
      throw Regular.absent(file, e);
    } catch (IOException e) {
      throw new InputError(
          file.toString(), "", "the file cannot be read (" + e.getMessage() + ")", "", e);
    }
  }

  /** By its byte order mark, which is no part of the text; else as UTF-8. */
  private static String decode(byte[] b) throws CharacterCodingException {
    Charset charset = charset(b);
    if (charset.equals(StandardCharsets.UTF_8) && ByteScan.isAscii(b)) {
      return new String(b, StandardCharsets.ISO_8859_1);
    }
    int mark = charset.equals(StandardCharsets.UTF_8) ? (isMarked(b) ? 3 : 0) : 2;
    return charset
        .newDecoder()
        .onMalformedInput(CodingErrorAction.REPORT)
        .decode(ByteBuffer.wrap(b, mark, b.length - mark))
        .toString();
  }

  private static boolean isMarked(byte[] b) {
    return b.length >= 3 && b[0] == (byte) 0xEF && b[1] == (byte) 0xBB && b[2] == (byte) 0xBF;
  }

  private static Charset charset(byte[] b) {
    if (b.length >= 2 && b[0] == (byte) 0xFF && b[1] == (byte) 0xFE) {
      return StandardCharsets.UTF_16LE;
    }
    return b.length >= 2 && b[0] == (byte) 0xFE && b[1] == (byte) 0xFF
        ? StandardCharsets.UTF_16BE
        : StandardCharsets.UTF_8;
  }

  /**
   * The first bytes of a text as UTF-8 without a mark, whatever its encoding; of anything else, as
   * they are.
   */
  public static byte[] plain(byte[] head) {
    if (!isMarked(head) && charset(head).equals(StandardCharsets.UTF_8)) {
      return head;
    }
    try {
      int even = charset(head).equals(StandardCharsets.UTF_8) ? head.length : head.length / 2 * 2;
      return decode(Arrays.copyOf(head, even)).getBytes(StandardCharsets.UTF_8);
    } catch (CharacterCodingException e) {
      return head; // no text
    }
  }

  /** Text that lies in bytes already opened. */
  public static String decode(String name, ByteSource in) {
    byte[] b = in.bytes(0, in.size());
    if (ByteScan.isAscii(b)) {
      return new String(b, StandardCharsets.ISO_8859_1);
    }
    try {
      return StandardCharsets.UTF_8
          .newDecoder()
          .onMalformedInput(CodingErrorAction.REPORT)
          .decode(ByteBuffer.wrap(b))
          .toString();
    } catch (CharacterCodingException e) {
      throw new InputError(name, "", "not an UTF-8 text", "Save it as UTF-8, or check its kind", e);
    }
  }

  /** First bytes of a file, for recognition. */
  public static byte[] head(Path file) {
    Regular.check(file);
    try (var in = Files.newInputStream(file)) {
      return plain(in.readNBytes(HEAD));
    } catch (NoSuchFileException e) {
      throw Regular.absent(file, e);
    } catch (IOException e) {
      throw new InputError(
          file.toString(),
          "",
          Files.isDirectory(file) ? "this is a folder" : "the file cannot be read",
          "Name a file",
          e);
    }
  }
}
