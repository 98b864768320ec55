package flarvo.format;

import flarvo.format.abc.AbcFormat;
import flarvo.format.fbx.FbxBinaryFormat;
import flarvo.format.fbx.FbxTextFormat;
import flarvo.format.gltf.GltfFormat;
import flarvo.format.json.SceneJsonFormat;
import flarvo.format.mesh.ObjFormat;
import flarvo.format.mesh.PlyFormat;
import flarvo.format.table.TableFormat;
import flarvo.format.usd.UsdCrateFormat;
import flarvo.format.usd.UsdPackageFormat;
import flarvo.format.usd.UsdTextFormat;
import flarvo.report.InputError;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/** The formats known here. Adding one adds its package and one line below. */
public final class Formats {

  private static final List<SceneFormat> ALL =
      List.of(
          new UsdTextFormat(),
          new UsdCrateFormat(),
          new UsdPackageFormat(),
          new FbxBinaryFormat(),
          new FbxTextFormat(),
          new AbcFormat(),
          GltfFormat.binary(),
          GltfFormat.text(),
          new PlyFormat(),
          new ObjFormat(),
          new SceneJsonFormat(),
          new TableFormat());

  private Formats() {}

  public static List<SceneFormat> all() {
    return ALL;
  }

  /**
   * The format of that id.
   *
   * @throws IllegalArgumentException when there is none
   */
  public static SceneFormat byId(String id) {
    return ALL.stream()
        .filter(f -> f.id().equals(id))
        .findFirst()
        .orElseThrow(
            () ->
                InputError.words(
                    "there is no format '" + id + "'",
                    "Known are: "
                        + ALL.stream().map(SceneFormat::id).collect(Collectors.joining(", "))));
  }

  /** Whether some format knows these first bytes. */
  public static boolean isKnown(byte[] head) {
    return ALL.stream().anyMatch(f -> f.recognises(head));
  }

  /** Whether a file is called as one of some format, whatever is in it. */
  public static boolean isExtension(Path file) {
    String name = file.getFileName().toString().toLowerCase(Locale.ROOT);
    return ALL.stream().anyMatch(f -> f.extensions().stream().anyMatch(name::endsWith));
  }

  /** What a file is, by its content and not its extension. */
  public static SceneFormat recognise(Path file) {
    byte[] head = TextSource.head(file);
    if (head.length == 0) {
      throw new InputError(file.toString(), "", "the file is empty", "Request a new copy");
    }
    return ALL.stream()
        .filter(f -> f.recognises(head))
        .findFirst()
        .orElseThrow(
            () ->
                new InputError(
                    file.toString(),
                    "byte offset 0",
                    "unrecognised file format",
                    "Known are: "
                        + ALL.stream().map(SceneFormat::title).collect(Collectors.joining(", "))));
  }

  /** What a file to be written shall be, by its extension. */
  public static SceneFormat forWriting(Path file) {
    String name = file.getFileName().toString().toLowerCase(Locale.ROOT);
    return ALL.stream()
        .filter(SceneFormat::writes)
        .filter(f -> f.extensions().stream().anyMatch(name::endsWith))
        .findFirst()
        .orElseThrow(
            () ->
                InputError.words(
                    "'" + file.getFileName() + "' has no extension that can be written here",
                    "Use one of "
                        + ALL.stream()
                            .filter(SceneFormat::writes)
                            .map(f -> f.extensions().get(0))
                            .distinct()
                            .collect(Collectors.joining(", "))));
  }
}
