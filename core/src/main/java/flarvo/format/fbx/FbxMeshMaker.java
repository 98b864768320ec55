package flarvo.format.fbx;

import flarvo.scene.Mesh;
import flarvo.scene.Vec3;
import java.util.function.LongSupplier;

/** A mesh as a model and its geometry, with normals and texture coordinates where it has them. */
final class FbxMeshMaker {

  /** Connects a child to its parent, both by number. */
  interface Connect {
    void accept(long child, long parent);
  }

  /** Connects a child to a property of its parent. */
  interface ConnectTo {
    void accept(long child, long parent, String property);
  }

  private final FbxTree out;
  private final LongSupplier ids;
  private final Connect connect;

  FbxMeshMaker(FbxTree out, LongSupplier ids, Connect connect) {
    this.out = out;
    this.ids = ids;
    this.connect = connect;
  }

  /**
   * Writes it and answers with the number of its model. The last corner of a face is stored as −1 −
   * its point.
   *
   * @param origin of the space that the mesh is in
   * @param parent number of the model that it hangs in
   */
  long write(Mesh m, String name, Vec3 origin, long parent) {
    long geometry = ids.getAsLong();
    double[] xyz = new double[3 * m.points()];
    for (int i = 0; i < m.points(); i++) {
      xyz[3 * i] = m.x(i) - origin.x();
      xyz[3 * i + 1] = m.y(i) - origin.y();
      xyz[3 * i + 2] = m.z(i) - origin.z();
    }
    int[] corners = m.faceIndices();
    int end = 0;
    for (int f = 0; f < m.faces(); f++) {
      end += m.corners(f);
      if (m.corners(f) > 0) {
        corners[end - 1] = -1 - corners[end - 1];
      }
    }
    out.open("Geometry", geometry, new FbxName("Geometry", name), "Mesh");
    out.array("Vertices", xyz);
    out.array("PolygonVertexIndex", corners);
    out.record("GeometryVersion", 124);
    layer("LayerElementNormal", 101, "Normals", m.normals());
    layer("LayerElementUV", 101, "UV", m.uvs());
    if (m.texture().isPresent()) {
      oneMaterial();
    }
    layers(m);
    out.close();
    long model = ids.getAsLong();
    out.open("Model", model, new FbxName("Model", name), "Mesh");
    out.record("Version", 232);
    out.open("Properties70");
    out.property("InheritType", "enum", "", "", 1);
    out.close();
    out.record("Shading", true);
    out.record("Culling", "CullingOff");
    out.close();
    connect.accept(geometry, model);
    connect.accept(model, parent);
    return model;
  }

  private void layer(String element, int version, String values, double[] perCorner) {
    if (perCorner.length == 0) {
      return;
    }
    out.open(element, 0);
    out.record("Version", version);
    out.record("Name", values.equals("UV") ? "map1" : "");
    out.record("MappingInformationType", "ByPolygonVertex");
    if (values.equals("UV")) {
      // Texture coordinates are looked up by number in every reader; ours count upwards.
      out.record("ReferenceInformationType", "IndexToDirect");
      out.array(values, perCorner);
      int[] index = new int[perCorner.length / 2];
      java.util.Arrays.setAll(index, i -> i);
      out.array("UVIndex", index);
    } else {
      out.record("ReferenceInformationType", "Direct");
      out.array(values, perCorner);
    }
    out.close();
  }

  private void oneMaterial() {
    out.open("LayerElementMaterial", 0);
    out.record("Version", 101);
    out.record("Name", "");
    out.record("MappingInformationType", "AllSame");
    out.record("ReferenceInformationType", "IndexToDirect");
    out.array("Materials", new int[1]);
    out.close();
  }

  private void layers(Mesh m) {
    boolean normals = m.normals().length > 0;
    boolean uvs = m.uvs().length > 0;
    boolean material = m.texture().isPresent();
    if (!normals && !uvs && !material) {
      return;
    }
    out.open("Layer", 0);
    out.record("Version", 100);
    if (normals) {
      layerElement("LayerElementNormal");
    }
    if (uvs) {
      layerElement("LayerElementUV");
    }
    if (material) {
      layerElement("LayerElementMaterial");
    }
    out.close();
  }

  private void layerElement(String type) {
    out.open("LayerElement");
    out.record("Type", type);
    out.record("TypedIndex", 0);
    out.close();
  }
}
