package flarvo.format.gltf;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.Mesh;
import org.junit.jupiter.api.Test;

/** A point is there once for every normal and pair of texture coordinates that it has. */
class GltfCornersTest {

  private static Mesh folded() {
    return Mesh.of(
        "m",
        new double[] {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 1},
        new int[] {3, 3},
        new int[] {0, 1, 2, 0, 2, 3});
  }

  @Test
  void withoutEitherThePointsStay() {
    GltfCorners c = new GltfCorners(folded());
    assertThat(c.count()).isEqualTo(4);
    for (int i = 0; i < 6; i++) {
      assertThat(c.point(c.of(i))).isEqualTo(folded().faceIndices()[i]);
    }
  }

  @Test
  void aSharpEdgeSplitsItsPoints() {
    double[] normals = {0, 0, 1, 0, 0, 1, 0, 0, 1, 0, -1, 0, 0, -1, 0, 0, -1, 0};
    Mesh m = folded().withNormals(normals);
    GltfCorners c = new GltfCorners(m);
    assertThat(c.count()).isEqualTo(6);
    double[] written = c.normals();
    for (int i = 0; i < 6; i++) {
      assertThat(c.point(c.of(i))).isEqualTo(m.faceIndices()[i]);
      for (int k = 0; k < 3; k++) {
        assertThat(written[3 * c.of(i) + k]).isEqualTo(normals[3 * i + k]);
      }
    }
  }

  @Test
  void aSmoothSurfaceSharesThem() {
    double[] uvs = {0, 0, 1, 0, 1, 1, 0, 0, 1, 1, 0, 1};
    GltfCorners c = new GltfCorners(folded().withUvs(uvs));
    assertThat(c.count()).isEqualTo(4);
    assertThat(c.uvsDown()).containsExactly(0, 1, 1, 1, 1, 0, 0, 0);
  }
}
