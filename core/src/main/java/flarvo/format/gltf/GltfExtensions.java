package flarvo.format.gltf;

import de.javagl.jgltf.impl.v2.GlTF;
import flarvo.report.InputError;
import flarvo.report.Note;
import java.util.List;
import java.util.Set;

/**
 * Extensions of the format: those that may be passed over, and those without which a file is wrong.
 */
final class GltfExtensions {

  /** Followed, or about things that are not read. */
  private static final Set<String> KNOWN =
      Set.of(
          "KHR_animation_pointer",
          "KHR_mesh_quantization",
          "KHR_lights_punctual",
          "KHR_texture_basisu",
          "KHR_texture_transform",
          "KHR_xmp_json_ld");

  /** Looks alone. */
  private static final List<String> LOOKS =
      List.of("KHR_materials_", "EXT_materials_", "EXT_texture_", "MSFT_texture_");

  private GltfExtensions() {}

  private static boolean isKnown(String name) {
    return KNOWN.contains(name) || LOOKS.stream().anyMatch(name::startsWith);
  }

  /**
   * The format's own rule: a file that requires what its reader does not know must not be read.
   *
   * @throws InputError naming the extension
   */
  static void refuseUnknown(GlTF g, String file) {
    if (g.getExtensionsRequired() == null) {
      return;
    }
    for (String e : g.getExtensionsRequired()) {
      if (e != null && !isKnown(e)) {
        throw new InputError(
            file, "extensionsRequired", "it needs " + e + ", which is not read", "Save without it");
      }
    }
  }

  /** Says which extensions a file uses that are not followed. */
  static void note(GlTF g, List<Note> notes) {
    if (g.getExtensionsUsed() == null) {
      return;
    }
    for (String e : g.getExtensionsUsed()) {
      if (e != null && !isKnown(e)) {
        notes.add(Note.ignored("extensionsUsed", e + " is not followed"));
      }
    }
  }
}
