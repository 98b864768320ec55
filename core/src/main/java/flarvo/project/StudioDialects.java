package flarvo.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import flarvo.convention.Dialect;
import flarvo.convention.DialectJson;
import flarvo.convention.Dialects;
import flarvo.report.InputError;
import flarvo.work.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.regex.Pattern;

/** Dialects of the studio, kept by name for every project: one JSON file each. */
public final class StudioDialects {

  /** Such as {@code layout-zup-cm}: it names a file. */
  private static final Pattern NAME = Pattern.compile("[a-z0-9][a-z0-9-]{0,60}");

  private static final ObjectMapper MAPPER =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  private StudioDialects() {}

  /** Where they are kept. */
  public static Path folder() {
    return UserFolder.settings().resolve("dialects");
  }

  /** The shipped dialects, and the studio's own. */
  public static Dialects known() {
    return Dialects.with(folder());
  }

  /**
   * Whether a name can be kept.
   *
   * @throws InputError when it cannot, or a shipped dialect has it
   */
  public static void checkName(String name) {
    if (!NAME.matcher(name).matches()) {
      throw InputError.words(
          "'" + name + "' is no name for a dialect", "Use small letters, digits and hyphens");
    }
    if (name.equals(Dialect.CANONICAL.name()) || Dialects.shipped().find(name).isPresent()) {
      throw InputError.words("a shipped dialect is called " + name, "Choose another name");
    }
  }

  /** Whether a dialect of that name is kept. */
  public static boolean isKept(String name) {
    return Files.exists(file(name));
  }

  /**
   * Keeps a dialect under its name, in the place of an earlier one.
   *
   * @return its file
   * @throws InputError when the name cannot be used, or the disk refuses
   */
  public static Path keep(Dialect d) {
    checkName(d.name());
    try {
      byte[] text =
          (MAPPER.writeValueAsString(DialectJson.write(d)) + "\n").getBytes(StandardCharsets.UTF_8);
      AtomicFile.write(file(d.name()), out -> out.write(text));
      return file(d.name());
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("a tree can always be written", e);
    }
  }

  private static Path file(String name) {
    return folder().resolve(name + Dialects.ENDING);
  }
}
