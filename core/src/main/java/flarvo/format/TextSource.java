package flarvo.format;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;

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

  private static String read(Path file, ReadLimits limits, boolean anyLetters) {
    try {
      if (Files.isDirectory(file)) {
        throw new InputError(file.toString(), "", "this is a folder", "Name a file in it");
      }
      long size = Files.size(file);
      if (size == 0) {
        throw new InputError(file.toString(), "", "the file is empty", "Request a new copy");
      }
      if (size > limits.largestFile()) {
        throw new InputError(
            file.toString(), "", "the file is larger than " + limits.largestFile() + " bytes", "");
      }
      byte[] bytes = Files.readAllBytes(file);
      try {
        return StandardCharsets.UTF_8
            .newDecoder()
            .onMalformedInput(CodingErrorAction.REPORT)
            .decode(ByteBuffer.wrap(bytes))
            .toString();
      } catch (CharacterCodingException e) {
        if (anyLetters) {
          return new String(bytes, StandardCharsets.ISO_8859_1);
        }
        throw e;
      }
    } catch (NoSuchFileException e) {
      throw new InputError(file.toString(), "", "file not found", "Check the path", e);
    } catch (CharacterCodingException e) {
      throw new InputError(
          file.toString(), "", "not an UTF-8 text", "Save it as UTF-8, or check its kind", e);
    } catch (IOException e) {
      throw new InputError(
          file.toString(), "", "the file cannot be read (" + e.getMessage() + ")", "", e);
    }
  }

  /** Text that lies in bytes already opened. */
  public static String decode(String name, ByteSource in) {
    try {
      return StandardCharsets.UTF_8
          .newDecoder()
          .onMalformedInput(CodingErrorAction.REPORT)
          .decode(in.buffer(0, in.size()))
          .toString();
    } catch (CharacterCodingException e) {
      throw new InputError(name, "", "not an UTF-8 text", "Save it as UTF-8, or check its kind", e);
    }
  }

  /** First bytes of a file, for recognition. */
  public static byte[] head(Path file) {
    try (var in = Files.newInputStream(file)) {
      return in.readNBytes(HEAD);
    } catch (NoSuchFileException e) {
      throw new InputError(file.toString(), "", "file not found", "Check the path", e);
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
