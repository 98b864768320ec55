package flarvo.format.fbx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.scene.Pose;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Targets, takes, inherit types and geometry of scenes written by hand. */
class FbxSceneTest {

  @TempDir private Path dir;

  private FileScene read(String objects, String connections, Optional<String> take)
      throws IOException {
    Path f = dir.resolve("s.fbx");
    Files.writeString(
        f,
        "FBXHeaderExtension: {\n}\nGlobalSettings: {\n Properties70: {\n"
            + "  P: \"TimeMode\", \"enum\", \"\", \"\",11\n }\n}\nObjects: {\n"
            + objects
            + "}\nConnections: {\n"
            + connections
            + "}\n");
    return new FbxTextFormat().read(f, Dialect.CANONICAL, ReadLimits.USUAL, take, Progress.NONE);
  }

  private static String model(int id, String name, String kind, String properties) {
    return "Model: "
        + id
        + ", \"Model::"
        + name
        + "\", \""
        + kind
        + "\" {\n Properties70: {\n"
        + properties
        + " }\n}\n";
  }

  private static String p(String name, Object... values) {
    StringBuilder s = new StringBuilder("  P: \"" + name + "\", \"\", \"\", \"\"");
    for (Object v : values) {
      s.append(',').append(v);
    }
    return s.append('\n').toString();
  }

  private static final String LENS =
      "NodeAttribute: 9, \"NodeAttribute::cam\", \"Camera\" {\n Properties70: {\n"
          + p("FilmWidth", 1.417)
          + p("FilmHeight", 0.945)
          + p("FocalLength", 35)
          + " }\n}\n";

  @Test
  void aCameraWithATargetLooksAtIt() throws IOException {
    String objects =
        model(1, "cam", "Camera", p("Lcl Translation", 1, 2, 3) + p("Lcl Rotation", 11, 22, 33))
            + LENS
            + model(2, "aim", "Null", p("Lcl Translation", 5, 2, 6))
            + model(3, "top", "Null", p("Lcl Translation", 1, 9, 3))
            + model(4, "rig", "Null", "");
    String connections =
        "C: \"OO\",9,1\nC: \"OO\",2,4\nC: \"OP\",2,1, \"LookAtProperty\"\n"
            + "C: \"OP\",3,1, \"UpVectorProperty\"\n";
    Pose pose =
        read(objects, connections, Optional.empty()).cameras().get(0).camera().poses().at(0);
    Vec3 view = pose.rotation().apply(new Vec3(1, 0, 0));
    assertThat(view.minus(new Vec3(0.8, 0, 0.6)).length()).isLessThan(1e-12);
    Vec3 up = pose.rotation().apply(new Vec3(0, 1, 0));
    assertThat(up.minus(new Vec3(0, 1, 0)).length()).isLessThan(1e-12);
    assertThat(pose.position()).isEqualTo(new Vec3(1, 2, 3));
  }

  private static String take(int id, String name, int layer, int node, int curve, double to) {
    return "AnimationStack: "
        + id
        + ", \"AnimStack::"
        + name
        + "\", \"\" {\n}\n"
        + "AnimationLayer: "
        + layer
        + ", \"AnimLayer::l\", \"\" {\n}\n"
        + "AnimationCurveNode: "
        + node
        + ", \"AnimCurveNode::T\", \"\" {\n}\n"
        + "AnimationCurve: "
        + curve
        + ", \"AnimCurve::\", \"\" {\n KeyTime: *2 {\n a: 0,"
        + FbxTime.TICKS_PER_SECOND
        + "\n }\n KeyValueFloat: *2 {\n a: 0,"
        + to
        + "\n }\n}\n";
  }

  @Test
  void oneOfSeveralTakesIsChosenByName() throws IOException {
    String objects =
        model(1, "cam", "Camera", "")
            + LENS
            + take(20, "walk", 21, 22, 23, 10)
            + take(30, "run", 31, 32, 33, 99);
    String connections =
        "C: \"OO\",9,1\nC: \"OO\",21,20\nC: \"OO\",22,21\nC: \"OP\",22,1, \"Lcl Translation\"\n"
            + "C: \"OP\",23,22, \"d|X\"\nC: \"OO\",31,30\nC: \"OO\",32,31\n"
            + "C: \"OP\",32,1, \"Lcl Translation\"\nC: \"OP\",33,32, \"d|X\"\n";
    FileScene first = read(objects, connections, Optional.empty());
    assertThat(first.takes()).containsExactly("walk", "run");
    assertThat(first.notes().toString()).contains("2 takes");
    assertThat(first.cameras().get(0).camera().poses().at(24).position().x()).isEqualTo(10);
    FileScene run = read(objects, connections, Optional.of("run"));
    assertThat(run.cameras().get(0).camera().poses().at(24).position().x()).isEqualTo(99);
    assertThatThrownBy(() -> read(objects, connections, Optional.of("fly")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no take 'fly'")
        .hasMessageContaining("walk");
  }

  /** Rotation of all, then scale of all; against whole matrices; against no parent's scale. */
  @Test
  void inheritTypesMixRotationAndScaleInTheirOwnWay() throws IOException {
    Vector3d[] x = new Vector3d[3];
    for (int inherit = 0; inherit < 3; inherit++) {
      String objects =
          model(1, "a", "Null", p("Lcl Scaling", 2, 1, 1))
              + model(2, "b", "Null", p("InheritType", inherit) + p("Lcl Rotation", 0, 0, 90))
              + model(3, "tip", "Null", p("InheritType", 1) + p("Lcl Translation", 1, 0, 0));
      FileScene s = read(objects, "C: \"OO\",2,1\nC: \"OO\",3,2\n", Optional.empty());
      Vec3 v = s.trackers().get(0).position(0);
      x[inherit] = new Vector3d(v.x(), v.y(), v.z());
    }
    assertThat(x[0].distance(0, 2, 0)).as("turned, then the parent's scale on x").isLessThan(1e-12);
    Matrix4d whole = new Matrix4d().scale(2, 1, 1).rotateZ(Math.PI / 2);
    assertThat(x[1].distance(whole.transformPosition(new Vector3d(1, 0, 0)))).isLessThan(1e-12);
    assertThat(x[2].distance(0, 1, 0)).as("without the parent's scale").isLessThan(1e-12);
  }

  @Test
  void geometryHasAPlaceOfItsOwnThatNobodyInherits() throws IOException {
    String objects =
        model(
                1,
                "m",
                "Mesh",
                p("Lcl Translation", 10, 0, 0)
                    + p("GeometricTranslation", 0, 5, 0)
                    + p("GeometricScaling", 2, 2, 2))
            + "Geometry: 2, \"Geometry::g\", \"Mesh\" {\n Vertices: *9 {\n a: 0,0,0,1,0,0,0,1,0\n }\n"
            + " PolygonVertexIndex: *3 {\n a: 0,1,-3\n }\n}\n"
            + model(3, "child", "Null", p("Lcl Translation", 1, 0, 0));
    FileScene s = read(objects, "C: \"OO\",2,1\nC: \"OO\",3,1\n", Optional.empty());
    assertThat(s.meshes().get(0).x(1)).isCloseTo(12, within(1e-12));
    assertThat(s.meshes().get(0).y(0)).isCloseTo(5, within(1e-12));
    assertThat(s.meshes().get(0).faceIndices()).containsExactly(0, 1, 2);
    assertThat(s.trackers().get(0).position(0)).isEqualTo(new Vec3(11, 0, 0));
  }

  /** A mesh with and one without a skin: of the one it is said that it does not follow. */
  @Test
  void aMeshThatJointsDeformIsReadAsModelledAndSaid() throws IOException {
    String objects =
        model(1, "skinned", "Mesh", "")
            + model(3, "stiff", "Mesh", "")
            + "Deformer: 5, \"Deformer::s\", \"Skin\" {\n}\n";
    for (int id : new int[] {2, 4}) {
      objects +=
          "Geometry: "
              + id
              + ", \"Geometry::g\", \"Mesh\" {\n Vertices: *9 {\n a: 0,0,0,1,0,0,0,1,0\n }\n"
              + " PolygonVertexIndex: *3 {\n a: 0,1,-3\n }\n}\n";
    }
    FileScene s = read(objects, "C: \"OO\",2,1\nC: \"OO\",4,3\nC: \"OO\",5,2\n", Optional.empty());
    assertThat(s.meshes()).hasSize(2);
    assertThat(s.notes().stream().filter(n -> n.toString().contains("deform")))
        .singleElement()
        .asString()
        .contains("Model skinned");
  }
}
