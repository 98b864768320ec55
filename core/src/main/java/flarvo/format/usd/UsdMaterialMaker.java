package flarvo.format.usd;

import flarvo.scene.Texture;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * A texture as a material of the preview surface: black to every light, with the picture as what it
 * emits, so that a picture card shows its plate as it is.
 */
final class UsdMaterialMaker {

  static final String BINDING = "material:binding";
  static final String SURFACE = "UsdPreviewSurface";
  static final String PICTURE = "UsdUVTexture";

  private UsdMaterialMaker() {}

  /**
   * The material's prim.
   *
   * @param uvs the primvar that holds the texture coordinates
   */
  static UsdPrim make(Texture t, String name, String parent, String uvs) {
    UsdPrim material = def("Material", name, parent);
    UsdPrim surface = def("Shader", "surface", material.path);
    UsdPrim picture = def("Shader", "picture", material.path);
    UsdPrim coordinates = def("Shader", "coordinates", material.path);
    material.children.addAll(List.of(surface, picture, coordinates));
    connect(material, "token", "outputs:surface", surface, "outputs:surface");

    put(surface, "token", "info:id", SURFACE);
    put(surface, "color3f", "inputs:diffuseColor", new UsdArray(1, new double[3]));
    connect(surface, "color3f", "inputs:emissiveColor", picture, "outputs:rgb");
    if (t.alpha()) {
      connect(surface, "float", "inputs:opacity", picture, "outputs:a");
    }
    put(surface, "float", "inputs:roughness", 1.0);
    put(surface, "token", "outputs:surface", null);

    put(picture, "token", "info:id", PICTURE);
    picture.attributes.put("inputs:file", file(t));
    connect(picture, "float2", "inputs:st", coordinates, "outputs:result");
    put(picture, "token", "inputs:wrapS", "clamp");
    put(picture, "token", "inputs:wrapT", "clamp");
    put(picture, "float", "outputs:a", null);
    put(picture, "float3", "outputs:rgb", null);

    put(coordinates, "token", "info:id", "UsdPrimvarReader_float2");
    put(coordinates, "string", "inputs:varname", uvs);
    put(coordinates, "float2", "outputs:result", null);
    return material;
  }

  /** Ties a mesh to its material. */
  static void bind(UsdPrim mesh, UsdPrim material) {
    mesh.metadata.put(UsdPrim.API_SCHEMAS, List.of("MaterialBindingAPI"));
    mesh.metadata.put(UsdTextWriter.REL + BINDING, material.path);
  }

  private static UsdAttribute file(Texture t) {
    if (t.isStill()) {
      return UsdAttribute.fixed("inputs:file", "asset", new UsdAsset(t.at(0), ""));
    }
    double[] times = t.files().keySet().stream().mapToDouble(Integer::doubleValue).toArray();
    List<Object> samples = new ArrayList<>();
    for (Map.Entry<Integer, String> e : t.files().entrySet()) {
      samples.add(new UsdAsset(e.getValue(), ""));
    }
    return new UsdAttribute("inputs:file", "asset", null, times, samples);
  }

  private static void connect(UsdPrim prim, String type, String name, UsdPrim to, String output) {
    put(prim, type, name, null);
    prim.metadata.put(UsdPrim.CONNECTION + name, to.path + "." + output);
  }

  private static void put(UsdPrim prim, String type, String name, Object value) {
    prim.attributes.put(name, UsdAttribute.fixed(name, type, value));
  }

  private static UsdPrim def(String type, String name, String parent) {
    return new UsdPrim(UsdPrim.Specifier.DEF, type, name, parent);
  }
}
