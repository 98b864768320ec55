package flarvo.format.gltf;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.report.Note;
import flarvo.scene.Texture;
import java.net.URI;
import java.net.URISyntaxException;
import java.util.List;
import java.util.Locale;
import java.util.OptionalInt;

/** A texture as an unlit material. The format has stills of two kinds, and no sequences. */
final class GltfMaterialMaker {

  private static final String UNLIT = "KHR_materials_unlit";
  private static final int CLAMP = 33071;

  private final ObjectNode root;
  private final List<Note> notes;

  GltfMaterialMaker(ObjectNode root, List<Note> notes) {
    this.root = root;
    this.notes = notes;
  }

  /**
   * The number of the material; empty where its picture is of a kind that the format has not.
   *
   * @param frame whose picture a sequence shows
   */
  OptionalInt write(Texture t, String name, int frame) {
    String path = t.at(frame);
    if (!holds(path)) {
      notes.add(
          Note.lost(name, "its picture is neither JPEG nor PNG, and glTF files hold no other"));
      return OptionalInt.empty();
    }
    ArrayNode images = root.withArray("images");
    images.addObject().put("uri", address(path));
    ArrayNode samplers = root.withArray("samplers");
    if (samplers.isEmpty()) {
      samplers.addObject().put("wrapS", CLAMP).put("wrapT", CLAMP);
    }
    ArrayNode textures = root.withArray("textures");
    textures.addObject().put("sampler", 0).put("source", images.size() - 1);
    ArrayNode materials = root.withArray("materials");
    ObjectNode m = materials.addObject().put("name", name + "_material");
    ObjectNode pbr = m.putObject("pbrMetallicRoughness");
    pbr.putObject("baseColorTexture").put("index", textures.size() - 1);
    pbr.put("metallicFactor", 0).put("roughnessFactor", 1);
    if (t.alpha()) {
      m.put("alphaMode", "BLEND");
    }
    m.putObject("extensions").putObject(UNLIT);
    if (!root.has("extensionsUsed")) {
      root.putArray("extensionsUsed").add(UNLIT);
    }
    return OptionalInt.of(materials.size() - 1);
  }

  static boolean holds(String path) {
    return path.toLowerCase(Locale.ROOT).matches(".*\\.(png|jpe?g)");
  }

  private static String address(String path) {
    try {
      return new URI(null, null, path, null).toASCIIString();
    } catch (URISyntaxException e) {
      return path; // a path that is an address already
    }
  }
}
