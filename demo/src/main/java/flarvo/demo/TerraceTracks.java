package flarvo.demo;

import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** Tracks of the terrace: what is built, and a dozen strays. */
final class TerraceTracks {

  private static final long SEED = 20_261_010L;
  private static final double POINT_NOISE = 0.0006;

  /** How far a glint wavers on the disc, in metres. */
  private static final double HAMMERED = 0.012;

  private final Random random = new Random(SEED);
  private final FeatureTracks tracks = new FeatureTracks(TerraceTruth.SHOT, random, POINT_NOISE);

  FeatureTracks.Tracks make() {
    for (Vec3 p : features()) {
      tracks.feature(p);
    }
    for (int i = 0; i < 4; i++) {
      bird(i);
      glint(i);
      crossing(i);
    }
    return tracks.made();
  }

  /** Corners of flagstones, of everything built, and points on wall and dome. */
  private List<Vec3> features() {
    List<Vec3> list = new ArrayList<>();
    double side = TerraceTruth.FLAGSTONE_METRES;
    for (int i = -6; i <= 6; i++) {
      for (int j = -6; j <= 4; j++) {
        if (random.nextDouble() < 0.62) {
          list.add(new Vec3(i * side, 0, j * side));
        }
      }
    }
    list.addAll(TerraceScene.tops());
    for (int i = 0; i < 26; i++) {
      list.add(new Vec3(-5 + 10 * random.nextDouble(), 0.1 + 0.65 * random.nextDouble(), -4.0));
    }
    for (int i = 0; i < 22; i++) {
      double a = Math.PI * random.nextDouble();
      double e = 1.2 * random.nextDouble();
      list.add(TerraceScene.onDome(a, e));
    }
    return list;
  }

  /** Flies across the sky. */
  private void bird(int i) {
    int first = TerraceTruth.FRAMES.first() + 8 + 21 * i;
    double x = 120 + 160 * i;
    double y = 60 + 18 * i;
    tracks.stray(
        first, 26, f -> new double[] {x + 5.3 * (f - first), y - 0.9 * (f - first)}, 9 + i);
  }

  /** A reflection in hammered brass: it goes with the eye, slowly, and wavers as it goes. */
  private void glint(int i) {
    int first = TerraceTruth.FRAMES.first() + 4 + 19 * i;
    tracks.stray(
        first,
        34,
        f -> {
          Vec3 eye = tracks.eye(f);
          double k = 0.045 + 0.01 * i;
          double waver = HAMMERED * StrictMath.sin(14 * StrictMath.atan2(eye.x(), eye.z()) + i);
          return tracks.pixel(
              new Vec3(eye.x() * k + waver, TerraceScene.DISC_Y, eye.z() * k - 0.03), f);
        },
        2.2);
  }

  /** Where two edges at different depths cross in the picture. */
  private void crossing(int i) {
    int first = TerraceTruth.FRAMES.first() + 2 + 15 * i;
    double near = i % 2 == 0 ? -0.26 : 0.26;
    tracks.stray(
        first,
        40,
        f -> {
          double x = tracks.pixel(new Vec3(near, 0.5, 0.2), f)[0];
          return new double[] {x, tracks.pixel(new Vec3(near, 0.90 - 0.2 * i, -3.92), f)[1]};
        },
        3.0 + 0.4 * i);
  }
}
