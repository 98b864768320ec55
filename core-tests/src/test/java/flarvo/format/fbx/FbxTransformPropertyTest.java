package flarvo.format.fbx;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.format.ReadLimits;
import flarvo.work.Progress;
import java.util.Random;
import org.joml.Matrix4d;
import org.junit.jupiter.api.Test;

/** Random pivots, offsets, pre- and post-rotations, here and by plain matrix products. */
class FbxTransformPropertyTest {

  private static final String[] VECTORS = {
    "Lcl Translation",
    "RotationOffset",
    "RotationPivot",
    "PreRotation",
    "Lcl Rotation",
    "PostRotation",
    "ScalingOffset",
    "ScalingPivot",
    "Lcl Scaling"
  };

  /** Axis letters, first turn first, by the number that the format stores. */
  private static final String[] ORDERS = {"XYZ", "XZY", "YZX", "YXZ", "ZXY", "ZYX"};

  private final Random random = new Random(31);

  @Test
  void anyModelEqualsTheDocumentedProduct() {
    for (int i = 0; i < 400; i++) {
      double[][] v = new double[VECTORS.length][3];
      int order = random.nextInt(6);
      StringBuilder p = new StringBuilder();
      for (int k = 0; k < v.length; k++) {
        for (int c = 0; c < 3; c++) {
          v[k][c] = k == 8 ? 0.5 + random.nextDouble() : 30 * random.nextGaussian();
        }
        p.append("P: \"").append(VECTORS[k]).append("\", \"Vector3D\", \"Vector\", \"\",");
        p.append(v[k][0]).append(',').append(v[k][1]).append(',').append(v[k][2]).append('\n');
      }
      p.append("P: \"RotationActive\", \"bool\", \"\", \"\",1\n");
      p.append("P: \"RotationOrder\", \"enum\", \"\", \"\",").append(order).append('\n');
      Matrix4d found = FbxTransform.world(model(p.toString()), 0);
      Matrix4d expected =
          new Matrix4d()
              .translate(v[0][0], v[0][1], v[0][2])
              .translate(v[1][0], v[1][1], v[1][2])
              .translate(v[2][0], v[2][1], v[2][2])
              .mul(turn(v[3], "XYZ"))
              .mul(turn(v[4], ORDERS[order]))
              .mul(turn(v[5], "XYZ").invert())
              .translate(-v[2][0], -v[2][1], -v[2][2])
              .translate(v[6][0], v[6][1], v[6][2])
              .translate(v[7][0], v[7][1], v[7][2])
              .scale(v[8][0], v[8][1], v[8][2])
              .translate(-v[7][0], -v[7][1], -v[7][2]);
      assertThat(found.equals(expected, 1e-8)).as(p.toString()).isTrue();
    }
  }

  /** Without its flag, order, pre- and post-rotation do not count. */
  @Test
  void rotationThatIsNotActiveIsPlain() {
    Matrix4d found =
        FbxTransform.world(
            model(
                """
                P: "PreRotation", "Vector3D", "Vector", "",0,90,0
                P: "RotationOrder", "enum", "", "",5
                P: "Lcl Rotation", "Lcl Rotation", "", "A",10,20,30
                """),
            0);
    assertThat(found.equals(turn(new double[] {10, 20, 30}, "XYZ"), 1e-12)).isTrue();
  }

  private static FbxObject model(String properties) {
    String text =
        "FBXHeaderExtension: { }\nObjects: {\n Model: 7, \"Model::m\", \"Null\" {\n"
            + "  Properties70: {\n"
            + properties
            + "  }\n }\n}\nConnections: { }\n";
    FbxNode root = new FbxTextParser("t", text, ReadLimits.USUAL, Progress.NONE).parse();
    return new FbxScene(root, "t", java.util.Optional.empty()).objects.get(7L);
  }

  private static Matrix4d turn(double[] degrees, String order) {
    Matrix4d m = new Matrix4d();
    for (int i = 2; i >= 0; i--) {
      switch (order.charAt(i)) {
        case 'X' -> m.rotateX(Math.toRadians(degrees[0]));
        case 'Y' -> m.rotateY(Math.toRadians(degrees[1]));
        default -> m.rotateZ(Math.toRadians(degrees[2]));
      }
    }
    return m;
  }

  @Test
  void recordsAreReadAsOthersWriteThem() {
    FbxNode root =
        new FbxTextParser(
                "t",
                """
                ; a comment
                A:  1, -2.5e-3, "text, with; marks", Y,
                    "next line" {
                  ; inside
                  B: *3 {
                    a: 1,2,
                       3
                  }
                  C:
                  D: "say &quot;hi&quot;"
                }
                """,
                ReadLimits.USUAL,
                Progress.NONE)
            .parse();
    FbxNode a = root.child("A").orElseThrow();
    assertThat(a.values).containsExactly(1L, -0.0025, "text, with; marks", "Y", "next line");
    assertThat(a.child("B").orElseThrow().array()).containsExactly(1, 2, 3);
    assertThat(a.child("C").orElseThrow().values).isEmpty();
    assertThat(a.child("D").orElseThrow().text(0)).isEqualTo("say \"hi\"");
    assertThat(a.number(9)).isNaN();
  }
}
