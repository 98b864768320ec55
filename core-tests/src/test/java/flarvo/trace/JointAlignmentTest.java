package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import boofcv.struct.image.GrayF32;
import flarvo.scene.Luma;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Features of pictures that grow, turn and shake in a known way, followed and then corrected. */
@Tag("numeric")
class JointAlignmentTest {

  private static final int W = 200;
  private static final int H = 160;
  private static final int FRAMES = 40;
  private static final double GRAIN = 6;
  private static final TraceOptions OPTIONS = TraceOptions.USUAL;

  /** Where a point of the first frame is on another; size and turn change from frame to frame. */
  private static double[] on(int frame, double x, double y, double growth) {
    double s = Math.pow(growth, frame);
    double turn = 0.006 * frame;
    double u = x - W / 2.0;
    double v = y - H / 2.0;
    return new double[] {
      W / 2.0 + 0.4 * frame + s * (Math.cos(turn) * u - Math.sin(turn) * v),
      H / 2.0 - 0.3 * frame + s * (Math.sin(turn) * u + Math.cos(turn) * v)
    };
  }

  private static Levels frame(int frame, double growth, int shift) {
    double s = Math.pow(growth, -frame);
    double turn = -0.006 * frame;
    Random r = new Random(frame);
    float[] out = new float[(W + shift) * H];
    for (int y = 0; y < H; y++) {
      for (int x = 0; x < W; x++) {
        double u = x - W / 2.0 - 0.4 * frame;
        double v = y - H / 2.0 + 0.3 * frame;
        double value =
            TracerTest.spots(
                W / 2.0 + s * (Math.cos(turn) * u - Math.sin(turn) * v),
                H / 2.0 + s * (Math.sin(turn) * u + Math.cos(turn) * v),
                3);
        out[y * (W + shift) + x + shift] = (float) (value + GRAIN * r.nextGaussian());
      }
    }
    return Levels.of(frame, new Luma(W + shift, H, out));
  }

  private static List<Levels> plate(double growth, int shift) {
    List<Levels> out = new ArrayList<>();
    for (int f = 0; f < FRAMES; f++) {
      out.add(frame(f, growth, shift));
    }
    return out;
  }

  /** Features of a grid that lasts, followed and not corrected. */
  private static List<Feature> followed(List<Levels> plate, int shift) {
    return followed(plate, shift, Integer.MAX_VALUE);
  }

  /** The same, corrected whenever so many frames have come together. */
  private static List<Feature> followed(List<Levels> plate, int shift, int most) {
    List<Feature> out = new ArrayList<>();
    Follower w = new Follower(OPTIONS);
    for (int j = 0; j < 5; j++) {
      for (int i = 0; i < 6; i++) {
        Feature f = new Feature(new Pattern(OPTIONS.radius()), shift + 50 + 20 * i, 40 + 20 * j);
        if (f.known.take(plate.get(0).whole(), f.x(), f.y())) {
          f.keep(0, plate.get(0).whole(), OPTIONS.radius());
          follow(w, f, plate, most);
          out.add(f);
        }
      }
    }
    return out;
  }

  private static void follow(Follower w, Feature f, List<Levels> plate, int most) {
    JointAlignment a = new JointAlignment(OPTIONS.radius());
    for (int k = 1; k < plate.size(); k++) {
      Levels to = plate.get(k);
      Follower.Step s = w.follow(f, plate.get(k - 1), to, f.x() + f.vx, f.y() + f.vy, k == 1);
      if (s == Follower.Step.LOST || f.ended) {
        f.end();
        return;
      }
      f.keep(to.frame(), to.whole(), OPTIONS.radius());
      if (f.sightings().size() >= most) {
        a.align(f);
      }
    }
  }

  /** RMS distance of the places from where they should be, apart from which point they mark. */
  private static double off(List<Feature> features, double growth) {
    double squares = 0;
    int n = 0;
    for (Feature f : features) {
      double x0 = 0;
      double y0 = 0;
      double[] mean = new double[2];
      for (int round = 0; round < 3; round++) {
        x0 += round == 0 ? f.x(0) : mean[0];
        y0 += round == 0 ? f.y(0) : mean[1];
        mean[0] = 0;
        mean[1] = 0;
        for (int row = 0; row < f.rows(); row++) {
          double[] p = on(f.frame(row), x0, y0, growth);
          mean[0] += (f.x(row) - p[0]) / f.rows();
          mean[1] += (f.y(row) - p[1]) / f.rows();
        }
      }
      for (int row = 0; row < f.rows(); row++) {
        double[] p = on(f.frame(row), x0, y0, growth);
        squares += Math.pow(f.x(row) - p[0], 2) + Math.pow(f.y(row) - p[1], 2);
        n++;
      }
    }
    return Math.sqrt(squares / n);
  }

  private static void align(List<Feature> features) {
    JointAlignment a = new JointAlignment(OPTIONS.radius());
    features.forEach(a::align);
  }

  @Test
  void placesAreNearerToTheTruthThanTheyWereFollowed() {
    for (double growth : new double[] {1, 1.008, 0.993}) {
      List<Feature> all = followed(plate(growth, 0), 0);
      assertThat(all).hasSizeGreaterThan(20);
      double before = off(all, growth);
      align(all);
      assertThat(off(all, growth)).as("growth " + growth).isLessThan(0.85 * before);
    }
  }

  /** Parts of a long life share a few frames, so that none steps aside. */
  @Test
  void partsOfALongLifeAreAsGoodAsOne() {
    double growth = 1.008;
    List<Levels> plate = plate(growth, 0);
    List<Feature> whole = followed(plate, 0);
    double before = off(whole, growth);
    align(whole);
    List<Feature> parts = followed(plate, 0, 16);
    align(parts);
    assertThat(off(parts, growth)).isLessThan(0.5 * (before + off(whole, growth)));
  }

  /** What a frame shows that is not like the others does not pass for the feature. */
  @Test
  void aFrameThatShowsSomethingElseIsDropped() {
    List<Levels> plate = plate(1, 0);
    List<Feature> all = new ArrayList<>(followed(plate, 0));
    all.removeIf(f -> f.rows() < 20);
    assertThat(all).hasSizeGreaterThan(10);
    GrayF32 other = Levels.image(wallOfAnotherSeed());
    for (Feature f : all) {
      Sighting s = f.sightings().get(12);
      Feature there = new Feature(new Pattern(OPTIONS.radius()), s.warp[0], s.warp[1]);
      f.sightings().set(12, new Sighting(there, s.row(), s.frame(), other, OPTIONS.radius()));
    }
    align(all);
    for (Feature f : all) {
      for (int row = 0; row < f.rows(); row++) {
        assertThat(f.isDropped(row)).as("row " + row).isEqualTo(row == 12);
      }
    }
  }

  private static Luma wallOfAnotherSeed() {
    float[] out = new float[W * H];
    for (int y = 0; y < H; y++) {
      for (int x = 0; x < W; x++) {
        out[y * W + x] = (float) TracerTest.spots(x, y, 99);
      }
    }
    return new Luma(W, H, out);
  }

  /** Where in the picture a feature is changes nothing. */
  @Test
  void wholePixelsAsideEverythingIsTheSame() {
    List<Feature> here = followed(plate(1.008, 0), 0);
    List<Feature> aside = followed(plate(1.008, 7), 7);
    align(here);
    align(aside);
    assertThat(aside).hasSameSizeAs(here);
    for (int i = 0; i < here.size(); i++) {
      assertThat(aside.get(i).rows()).isEqualTo(here.get(i).rows());
      for (int row = 0; row < here.get(i).rows(); row++) {
        assertThat(aside.get(i).x(row) - 7).isCloseTo(here.get(i).x(row), within(0.01));
        assertThat(aside.get(i).y(row)).isCloseTo(here.get(i).y(row), within(0.01));
      }
    }
  }
}
