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
import flarvo.stage.Gauge;
import flarvo.stage.Staging;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Passes beside a ray caster that tries every triangle, and edges that are known. */
@Tag("numeric")
class PassesTest {

  private static final PictureSize PICTURE = PictureSize.of(480, 270);
  private static final FrameRange FRAMES = new FrameRange(1001, 1008);

  /** Random triangles before, behind and around the eye, a moving box, gauges; lens shift. */
  private static Shot shot(long seed) {
    Random r = new Random(seed);
    List<Mesh> meshes = new ArrayList<>();
    for (int m = 0; m < 6; m++) {
      int n = 20;
      double[] xyz = new double[9 * n];
      int[] sizes = new int[n];
      int[] index = new int[3 * n];
      for (int i = 0; i < xyz.length; i++) {
        double reach = i % 3 == 2 ? 9 : 4;
        int corner = i - i % 9 + i % 3;
        xyz[i] =
            i % 9 < 3 ? reach * (2 * r.nextDouble() - 1) : xyz[corner] + 3 * r.nextDouble() - 1.5;
      }
      for (int i = 0; i < n; i++) {
        sizes[i] = 3;
      }
      for (int i = 0; i < index.length; i++) {
        index[i] = i;
      }
      Mesh made = Mesh.of("m" + m, xyz, sizes, index);
      Group g =
          Group.moving(
              "g",
              PoseTrack.of(
                  FRAMES,
                  f ->
                      new Pose(
                          new Vec3(0.1 * (f - 1001), 0, 0),
                          Rotation.about(new Vec3(0, 1, 0), 0.1 * (f - 1001)))));
      meshes.add(m == 0 ? made.inGroup(Optional.of(g)) : made);
    }
    ShotCamera camera =
        new ShotCamera(
            "cam",
            PoseTrack.of(
                FRAMES,
                f ->
                    new Pose(
                        new Vec3(0.3, 1.4, 2),
                        Rotation.about(new Vec3(0.2, 1, 0.1), 0.05 * (f - 1001)))),
            OpticsTrack.constant(FRAMES, new Optics(24, 36, 20.25, 1.5, -0.8)),
            Optional.empty());
    return new Shot(
        "shot",
        PICTURE,
        Rate.FPS_24,
        FRAMES,
        1001,
        List.of(camera),
        List.of(),
        Observations.NONE,
        List.of(),
        meshes,
        Similarity.IDENTITY);
  }

  private static final Staging GAUGES =
      Staging.NONE.withGauges(
          List.of(
              new Gauge("post", Gauge.Kind.POST, new Vec3(0, 0, -2), 1, 0.3, Optional.empty()),
              new Gauge("tile", Gauge.Kind.TILE, new Vec3(1, 0, -3), 0.8, 0.7, Optional.empty()),
              new Gauge("crate", Gauge.Kind.CRATE, new Vec3(-1, 0, -3), 0.5, 1, Optional.empty())));

  private static Raster passes(RenderScene s, int frame, RenderLook look) {
    ShotCamera c = s.shot().camera().orElseThrow();
    return FramePasses.of(s, c, PICTURE, frame, look, Progress.NONE);
  }

  /** What a ray meets first: depth along the view, item, place. */
  private record Hit(double depth, int id, Vec3 at, double clear) {}

  /** The camera's own arithmetic, written out once more: film coordinates, rotation, depth. */
  private static Hit cast(RenderScene s, int frame, double px, double py) {
    ShotCamera c = s.shot().camera().orElseThrow();
    Optics o = c.optics().at(frame);
    Pose pose = c.poses().at(frame);
    double fx = (px / PICTURE.width() - 0.5) * o.filmWidthMm() - o.principalXMm();
    double fy = (0.5 - py / PICTURE.height()) * o.filmHeightMm() - o.principalYMm();
    Vec3 way = pose.rotation().apply(new Vec3(fx / o.focalLengthMm(), fy / o.focalLengthMm(), -1));
    Vec3 eye = pose.position();
    double best = Double.POSITIVE_INFINITY;
    double clear = Double.POSITIVE_INFINITY;
    int id = 0;
    for (RenderItem i : s.items()) {
      for (int t = 0; t < i.corners().length; t += 3) {
        Vec3 a = i.mesh().position(i.corners()[t], frame);
        Vec3 b = i.mesh().position(i.corners()[t + 1], frame);
        Vec3 d = i.mesh().position(i.corners()[t + 2], frame);
        Vec3 n = b.minus(a).cross(d.minus(a));
        double k = n.dot(a.minus(eye)) / n.dot(way);
        if (!(k > 0.01) || !Double.isFinite(k)) {
          continue;
        }
        Vec3 p = eye.plus(way.times(k));
        double in = Math.min(edge(a, b, p, n), Math.min(edge(b, d, p, n), edge(d, a, p, n)));
        clear = Math.min(clear, Math.abs(in)); // how near an edge passes, of whatever it hits
        if (in >= 0 && k < best) {
          best = k;
          id = i.id();
        }
      }
    }
    return new Hit(best, id, eye.plus(way.times(Double.isInfinite(best) ? 0 : best)), clear);
  }

  /** Metres from an edge to a point of the triangle's plane, positive inside. */
  private static double edge(Vec3 a, Vec3 b, Vec3 p, Vec3 n) {
    Vec3 e = b.minus(a);
    return n.cross(e).dot(p.minus(a)) / (n.length() * e.length());
  }

  @Test
  void everyPassIsThatOfARayCaster() {
    Random r = new Random(7);
    int compared = 0;
    int covered = 0;
    for (long seed = 1; seed <= 5; seed++) {
      RenderScene s = RenderScene.of(shot(seed), GAUGES);
      int frame = 1000 + (int) seed;
      Raster p = passes(s, frame, RenderLook.USUAL);
      for (int i = 0; i < 2100; i++) {
        int x = r.nextInt(PICTURE.width());
        int y = r.nextInt(PICTURE.height());
        Hit h = cast(s, frame, x + 0.5, y + 0.5);
        if (h.clear < 1e-7) {
          continue; // on an edge both answers are right
        }
        compared++;
        assertThat(p.at(x, y, 8)).as("id at %d, %d", x, y).isEqualTo(h.id);
        if (h.id == 0) {
          assertThat(p.at(x, y, 4)).isEqualTo(FramePasses.FAR);
          continue;
        }
        covered++;
        assertThat((double) p.at(x, y, 4)).isCloseTo(h.depth, within(1e-5 * h.depth));
        Vec3 at = new Vec3(p.at(x, y, 5), p.at(x, y, 6), p.at(x, y, 7));
        assertThat(at.minus(h.at).length()).isLessThan(1e-4);
      }
    }
    assertThat(compared).isGreaterThan(10_000);
    assertThat(covered).isGreaterThan(2_000);
  }

  /** Coverage against rays through a finer grid of another kind. */
  @Test
  void alphaIsTheShareOfThePixelThatIsCovered() {
    RenderScene s = RenderScene.of(shot(3), GAUGES);
    Raster p = passes(s, 1002, RenderLook.USUAL);
    Random r = new Random(5);
    double sum = 0;
    int edges = 0;
    for (int i = 0; i < 1500; i++) {
      int x = r.nextInt(PICTURE.width());
      int y = r.nextInt(PICTURE.height());
      int hit = 0;
      for (int k = 0; k < 64; k++) {
        hit += cast(s, 1002, x + r.nextDouble(), y + r.nextDouble()).id > 0 ? 1 : 0;
      }
      double alpha = p.at(x, y, 3);
      assertThat(alpha).isCloseTo(hit / 64.0, within(0.35));
      if (hit > 0 && hit < 64) {
        edges++;
        sum += alpha - hit / 64.0;
      } else {
        assertThat(alpha).isCloseTo(hit / 64.0, within(0.2));
      }
    }
    assertThat(edges).isGreaterThan(40);
    assertThat(sum / edges).isCloseTo(0, within(0.02)); // neither grown nor shrunk
  }

  /** A card whose edge crosses the rows at a known place. */
  @Test
  void anEdgeLiesWhereItIs() {
    double[] xyz = {-9, -9, -10, 0.7315, -9, -10, 1.4, 9, -10, -9, 9, -10};
    Mesh card = Mesh.of("card", xyz, new int[] {4}, new int[] {0, 1, 2, 3});
    Shot s =
        shot(1)
            .withMeshes(List.of(card))
            .withCameras(
                List.of(
                    new ShotCamera(
                        "c",
                        PoseTrack.of(FRAMES, f -> Pose.IDENTITY),
                        OpticsTrack.constant(FRAMES, Optics.centred(24, 36, 20.25)),
                        Optional.empty())));
    Raster p = passes(RenderScene.of(s, Staging.NONE), 1001, RenderLook.USUAL);
    for (int y = 0; y < PICTURE.height(); y++) {
      double cover = 0;
      for (int x = 0; x < PICTURE.width(); x++) {
        cover += p.at(x, y, 3);
      }
      double high = (0.5 - (y + 0.5) / PICTURE.height()) * 20.25 / 24 * 10;
      double edge = 0.7315 + (high + 9) / 18 * (1.4 - 0.7315);
      double px = PICTURE.width() * (0.5 + 24 * edge / 10 / 36);
      assertThat(cover).as("row " + y).isCloseTo(px, within(0.15));
    }
  }

  @Test
  void holdoutsCutWhatIsBehindThem() {
    RenderScene s = RenderScene.of(shot(2), GAUGES);
    Raster whole = passes(s, 1001, RenderLook.USUAL);
    Raster cut = passes(s, 1001, new RenderLook(RenderLook.USUAL.light(), Set.of("m1", "m3")));
    int m1 = s.id("m1").orElseThrow();
    int m3 = s.id("m3").orElseThrow();
    int seen = 0;
    for (int y = 0; y < PICTURE.height(); y++) {
      for (int x = 0; x < PICTURE.width(); x++) {
        // Both together cover what was covered, and identity and depth are as they were.
        assertThat(cut.at(x, y, 3) + cut.at(x, y, 9)).isCloseTo(whole.at(x, y, 3), within(1e-6f));
        assertThat(cut.at(x, y, 8)).isEqualTo(whole.at(x, y, 8));
        if ((cut.at(x, y, 8) == m1 || cut.at(x, y, 8) == m3) && cut.at(x, y, 9) == 1) {
          seen++;
          assertThat(cut.at(x, y, 0)).isZero();
          assertThat(cut.at(x, y, 3)).isZero();
        }
      }
    }
    assertThat(seen).isGreaterThan(100);
  }

  /** A crate's shadow: dark beside its foot on the far side of the light, none on the near side. */
  @Test
  void theShadowLiesOnTheGroundAwayFromTheLight() {
    Staging crate =
        Staging.NONE.withGauges(
            List.of(new Gauge("c", Gauge.Kind.CRATE, Vec3.ZERO, 1, 0, Optional.empty())));
    Shot s =
        shot(1)
            .withMeshes(List.of())
            .withCameras(
                List.of(
                    new ShotCamera(
                        "top",
                        PoseTrack.of(
                            FRAMES,
                            f ->
                                new Pose(
                                    new Vec3(0, 10, 0),
                                    Rotation.about(new Vec3(1, 0, 0), -Math.PI / 2))),
                        OpticsTrack.constant(FRAMES, Optics.centred(36, 36, 20.25)),
                        Optional.empty())));
    RenderScene scene = RenderScene.of(s, crate);
    // The light at 45 degrees from +x: the shadow is a metre long towards −x.
    Raster p = passes(scene, 1001, new RenderLook(new Vec3(1, 1, 0), Set.of()));
    assertThat(shadowAt(p, -0.8, 0)).isEqualTo(1);
    assertThat(shadowAt(p, -1.3, 0)).isGreaterThan(0.9);
    // Soft at the end of the shadow, which is thrown from a metre up, over some 17 cm.
    assertThat(shadowAt(p, -1.5, 0)).isBetween(0.2, 0.8);
    assertThat(shadowAt(p, -1.75, 0)).isZero();
    assertThat(shadowAt(p, 0.7, 0)).isZero();
    assertThat(shadowAt(p, 0, 0.7)).isZero();
    // Hard where it begins: at the crate's side.
    assertThat(shadowAt(p, -0.7, 0.4)).isEqualTo(1);
    assertThat(shadowAt(p, -0.6, 0.53)).isLessThan(0.4);
    assertThat(shadowAt(p, -0.7, 0.75)).isZero();
    // Under the crate itself nothing of the ground is seen.
    assertThat(shadowAt(p, 0, 0)).isZero();
  }

  private static double shadowAt(Raster p, double x, double z) {
    int px = (int) (PICTURE.width() * (0.5 + x / 10));
    int py = (int) (PICTURE.height() / 2.0 + z / 10 * PICTURE.width());
    return p.at(px, py, 10);
  }
}
