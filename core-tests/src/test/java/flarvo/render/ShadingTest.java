package flarvo.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.plate.Raster;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.Staging;
import flarvo.work.Progress;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** The brightness of round and edged things beside what the light's law gives for their shape. */
@Tag("numeric")
class ShadingTest {

  private static final PictureSize PICTURE = PictureSize.of(240, 136);
  private static final FrameRange FRAMES = new FrameRange(1, 3);
  private static final Vec3 LIGHT = new Vec3(1, 2, 0.7);
  private static final Vec3 EYE = new Vec3(0, 1, 4);

  /** Of radius one about the origin, in quads and triangles at the poles. */
  private static Mesh sphere(int rings, int around) {
    int n = (rings - 1) * around + 2;
    double[] xyz = new double[3 * n];
    for (int r = 1; r < rings; r++) {
      for (int a = 0; a < around; a++) {
        double up = Math.PI * r / rings;
        double turn = 2 * Math.PI * a / around;
        int at = 3 * ((r - 1) * around + a);
        xyz[at] = Math.sin(up) * Math.cos(turn);
        xyz[at + 1] = Math.cos(up);
        xyz[at + 2] = -Math.sin(up) * Math.sin(turn);
      }
    }
    int top = n - 2;
    int bottom = n - 1;
    xyz[3 * top + 1] = 1;
    xyz[3 * bottom + 1] = -1;
    int[] sizes = new int[rings * around];
    int[] index = new int[2 * 3 * around + (rings - 2) * 4 * around];
    int f = 0;
    int at = 0;
    for (int r = 0; r < rings; r++) {
      for (int a = 0; a < around; a++) {
        int b = (a + 1) % around;
        int high = (r - 1) * around;
        int low = r * around;
        int[] face =
            r == 0
                ? new int[] {top, low + a, low + b}
                : r == rings - 1
                    ? new int[] {high + a, bottom, high + b}
                    : new int[] {high + a, low + a, low + b, high + b};
        sizes[f++] = face.length;
        for (int p : face) {
          index[at++] = p;
        }
      }
    }
    return Mesh.of("ball", xyz, sizes, index);
  }

  /** The same with the sphere's own normals, or with each turned inside out. */
  private static Mesh withNormals(Mesh m, double sign) {
    int[] index = m.faceIndices();
    double[] normals = new double[3 * index.length];
    for (int i = 0; i < index.length; i++) {
      normals[3 * i] = sign * m.x(index[i]);
      normals[3 * i + 1] = sign * m.y(index[i]);
      normals[3 * i + 2] = sign * m.z(index[i]);
    }
    return m.withNormals(normals);
  }

  private static Raster drawn(Mesh m) {
    ShotCamera camera =
        new ShotCamera(
            "cam",
            PoseTrack.of(FRAMES, f -> new Pose(EYE, Rotation.about(new Vec3(1, 0, 0), -0.24))),
            OpticsTrack.constant(FRAMES, Optics.centred(35, 36, 20.4)),
            Optional.empty());
    Shot s =
        new Shot(
            "s",
            PICTURE,
            Rate.FPS_24,
            FRAMES,
            1,
            List.of(camera),
            List.of(),
            Observations.NONE,
            List.of(),
            List.of(m),
            Similarity.IDENTITY);
    RenderScene scene = RenderScene.of(s, Staging.NONE);
    return FramePasses.of(
        scene, camera, PICTURE, 2, new RenderLook(LIGHT, Set.of()), Progress.NONE);
  }

  private static double expected(Vec3 normal) {
    double lit = Math.max(0, normal.dot(LIGHT.normalized()));
    return (0.35 + 0.65 * lit) * 0.58; // red of a mesh
  }

  /** Largest and mean difference from a true sphere's, where a pixel spans little of it. */
  private static double[] off(Raster p) {
    double worst = 0;
    double sum = 0;
    int n = 0;
    for (int y = 0; y < PICTURE.height(); y++) {
      for (int x = 0; x < PICTURE.width(); x++) {
        Vec3 at = new Vec3(p.at(x, y, 5), p.at(x, y, 6), p.at(x, y, 7));
        if (p.at(x, y, 3) == 1 && at.normalized().dot(EYE.minus(at).normalized()) > 0.4) {
          double d = Math.abs(p.at(x, y, 0) - expected(at.normalized()));
          worst = Math.max(worst, d);
          sum += d;
          n++;
        }
      }
    }
    assertThat(n).isGreaterThan(2000);
    return new double[] {worst, sum / n};
  }

  @Test
  void aBallIsShadedLikeABall() {
    Mesh m = sphere(24, 48);
    double[] averaged = off(drawn(m));
    assertThat(averaged[0]).isLessThan(0.01);
    assertThat(averaged[1]).isLessThan(0.002);
    double[] own = off(drawn(withNormals(sphere(36, 72), 1)));
    assertThat(own[0]).isLessThan(0.006);
    // Normals that point inwards are those of the same surface.
    assertThat(drawn(withNormals(m, -1)).values()).isEqualTo(drawn(withNormals(m, 1)).values());
  }

  /** A box's faces meet at more than the crease's angle: each has one brightness all over. */
  @Test
  void edgesStayEdges() {
    double[] xyz = new double[24];
    for (int i = 0; i < 24; i++) {
      xyz[i] = (i / 3 >> i % 3 & 1) == 0 ? -0.7 : 0.7;
    }
    int[] index = {0, 2, 3, 1, 4, 5, 7, 6, 0, 1, 5, 4, 2, 6, 7, 3, 0, 4, 6, 2, 1, 3, 7, 5};
    Raster p = drawn(Mesh.of("box", xyz, new int[] {4, 4, 4, 4, 4, 4}, index));
    int seen = 0;
    for (int y = 0; y < PICTURE.height(); y++) {
      for (int x = 0; x < PICTURE.width(); x++) {
        Vec3 at = new Vec3(p.at(x, y, 5), p.at(x, y, 6), p.at(x, y, 7));
        if (p.at(x, y, 3) == 1 && near(at.y()) + near(at.z()) == 1) {
          Vec3 n = near(at.y()) == 1 ? new Vec3(0, 1, 0) : new Vec3(0, 0, 1);
          assertThat((double) p.at(x, y, 0)).isCloseTo(expected(n), within(1e-6));
          seen++;
        }
      }
    }
    assertThat(seen).isGreaterThan(2000);
  }

  /** Whether a coordinate is the box's, away from its edges: 1, 0, or far from 1 at an edge. */
  private static int near(double v) {
    return Math.abs(v - 0.7) < 1e-4 ? 1 : Math.abs(v - 0.7) < 0.05 ? 9 : 0;
  }

  /** Normals turn with the group: a ball that has turned looks as it did. */
  @Test
  void normalsTurnWithWhatTheyAreOn() {
    Mesh m = withNormals(sphere(36, 72), 1);
    Group turning =
        Group.moving(
            "g",
            PoseTrack.of(
                FRAMES,
                f -> new Pose(Vec3.ZERO, Rotation.about(new Vec3(0.3, 1, 0.2), 1.1 * (f - 1)))));
    assertThat(off(drawn(m.inGroup(Optional.of(turning))))[0]).isLessThan(0.006);
  }

  /** A point that ten thousand faces share is no reason to wait. */
  @Test
  void aFanOfManyFacesIsQuick() {
    int n = 10_000;
    double[] xyz = new double[3 * (n + 1)];
    int[] sizes = new int[n];
    int[] index = new int[3 * n];
    xyz[1] = 0.3;
    for (int i = 0; i < n; i++) {
      xyz[3 * i + 3] = Math.cos(2 * Math.PI * i / n);
      xyz[3 * i + 5] = -Math.sin(2 * Math.PI * i / n);
      sizes[i] = 3;
      index[3 * i + 1] = 1 + i;
      index[3 * i + 2] = 1 + (i + 1) % n;
    }
    long start = System.nanoTime();
    double[] normals = CornerNormals.of(Mesh.of("fan", xyz, sizes, index));
    // Each with each would be 10^8 steps a corner set; this is a few thousand.
    assertThat((System.nanoTime() - start) / 1e9).isLessThan(5);
    for (int c = 0; c < index.length; c++) {
      Vec3 v = new Vec3(normals[3 * c], normals[3 * c + 1], normals[3 * c + 2]);
      assertThat(v.length()).isCloseTo(1, within(1e-9));
      assertThat(v.y()).isGreaterThan(0.9);
    }
  }
}
