package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.LensTrack;
import flarvo.lens.Normalisation;
import flarvo.lens.RadialPolynomial;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.PixelIntrinsics;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.SimilarityFit;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.Reprojection;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.IntFunction;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** A camera that bobs while it pans quickly past a wall and a floor whose brightness is known. */
@Tag("numeric")
class BlurredMovesTest {

  private static final PictureSize SIZE = PictureSize.of(512, 288);
  private static final Optics OPTICS = new Optics(17.5, 24, 13.5, 0, 0);
  private static final Lens BENT =
      new Lens(new RadialPolynomial(0.062, 0.014, 0, 0), Normalisation.HALF_WIDTH, 0.5, 0.5, 1);
  private static final FrameRange FRAMES = new FrameRange(1, 15);
  private static final FrameRange BLURRED = new FrameRange(6, 10);
  private static final double SHUTTER = 0.4;
  private static final int MOMENTS = 6;
  private static final double FLOOR = -1.5;
  private static final double WALL = -6;

  private static Pose pose(double frame) {
    double t = Math.max(0, Math.min(1, (frame - 5) / 6));
    double pan = -0.3 * t * t * (3 - 2 * t);
    return new Pose(
        new Vec3(0.05 * frame, 0.035 * Math.sin(2 * Math.PI * frame / 10), 0),
        Rotation.about(new Vec3(0, 1, 0), pan).after(Rotation.about(new Vec3(1, 0, 0), -0.15)));
  }

  /** Where a ray meets the floor or the wall. */
  private static Vec3 hit(Vec3 eye, Vec3 ray) {
    double wall = (WALL - eye.z()) / ray.z();
    double floor = ray.y() < 0 ? (FLOOR - eye.y()) / ray.y() : Double.POSITIVE_INFINITY;
    return eye.plus(ray.times(Math.min(wall, floor)));
  }

  /** Waves over a surface: direction, length and phase. */
  private static final double[][] WAVES = waves();

  private static double[][] waves() {
    Random r = new Random(3);
    double[][] out = new double[8][];
    for (int i = 0; i < out.length; i++) {
      double a = r.nextDouble() * 2 * Math.PI;
      double f = 6 * Math.pow(10, r.nextDouble());
      out[i] = new double[] {f * Math.cos(a), f * Math.sin(a), 6 * r.nextDouble()};
    }
    return out;
  }

  private static double brightness(Vec3 p) {
    double v = p.y() < FLOOR + 1e-9 ? p.z() : p.y() + 20;
    double s = 128;
    for (double[] w : WAVES) {
      s += 12 * Math.sin(w[0] * p.x() + w[1] * v + w[2]);
    }
    return s;
  }

  private static Vec3 ray(PixelIntrinsics k, double x, double y) {
    return new Vec3((x - k.cx()) / k.fx(), (k.cy() - y) / k.fy(), -1);
  }

  private static Luma picture(int frame, Optional<LensTrack> lens) {
    PixelIntrinsics k = PixelIntrinsics.of(OPTICS, SIZE);
    LensMapper mapper = lens.map(l -> l.at(frame).on(SIZE)).orElse(null);
    float[] out = new float[SIZE.width() * SIZE.height()];
    double[] p = new double[2];
    Random grain = new Random(frame);
    for (int y = 0, i = 0; y < SIZE.height(); y++) {
      for (int x = 0; x < SIZE.width(); x++, i++) {
        p[0] = x + 0.5;
        p[1] = y + 0.5;
        if (mapper != null) {
          assertThat(mapper.toUndistorted(x + 0.5, y + 0.5, p)).isTrue();
        }
        Vec3 ray = ray(k, p[0], p[1]);
        double sum = 0;
        for (int m = 0; m < MOMENTS; m++) {
          Pose at = pose(frame + ((m + 0.5) / MOMENTS - 0.5) * SHUTTER);
          sum += brightness(hit(at.position(), at.rotation().apply(ray)));
        }
        out[i] = (float) (sum / MOMENTS + 0.5 * grain.nextGaussian());
      }
    }
    return new Luma(SIZE.width(), SIZE.height(), out);
  }

  private static IntFunction<Optional<Luma>> plates(Optional<LensTrack> lens) {
    Map<Integer, Optional<Luma>> known = new ConcurrentHashMap<>();
    return f -> known.computeIfAbsent(f, g -> Optional.of(picture(g, lens)));
  }

  private static final IntFunction<Optional<Luma>> STRAIGHT = plates(Optional.empty());

  /**
   * As a solve has it: points that were followed outside the blur, and a camera that is known there
   * and goes straight on in the blur, its rotation measured to a tenth of a degree.
   */
  private static Shot solved() {
    PixelIntrinsics k = PixelIntrinsics.of(OPTICS, SIZE);
    Random r = new Random(5);
    List<String> names = new ArrayList<>();
    List<Vec3> points = new ArrayList<>();
    Observations.Builder seen = new Observations.Builder();
    for (int from : new int[] {5, 11}) {
      Pose clear = pose(from);
      for (int i = 0; i < 140; i++) {
        Vec3 p =
            hit(
                clear.position(),
                clear
                    .rotation()
                    .apply(ray(k, 20 + 472 * r.nextDouble(), 16 + 256 * r.nextDouble())));
        String name = "p" + names.size();
        names.add(name);
        points.add(p);
        for (int f = from == 5 ? 1 : 11; f <= (from == 5 ? 5 : 15); f++) {
          Vec3 c = pose(f).rotation().inverse().apply(p.minus(pose(f).position()));
          seen.add(
              name,
              f,
              k.cx() - k.fx() * c.x() / c.z() + 0.05 * r.nextGaussian(),
              k.cy() + k.fy() * c.y() / c.z() + 0.05 * r.nextGaussian());
        }
      }
    }
    double[] xyz = new double[3 * points.size()];
    for (int i = 0; i < points.size(); i++) {
      xyz[3 * i] = points.get(i).x();
      xyz[3 * i + 1] = points.get(i).y();
      xyz[3 * i + 2] = points.get(i).z();
    }
    ShotCamera camera =
        new ShotCamera(
            "cam",
            PoseTrack.of(FRAMES, BlurredMovesTest::interpolated),
            OpticsTrack.constant(FRAMES, OPTICS),
            Optional.empty());
    return new Shot(
        "pan",
        SIZE,
        Rate.FPS_24,
        FRAMES,
        1,
        List.of(camera),
        List.of(TrackerSet.of("features", names, xyz)),
        seen.build(),
        List.of(),
        Similarity.IDENTITY);
  }

  private static Pose interpolated(int f) {
    if (!BLURRED.contains(f)) {
      return pose(f);
    }
    Vec3 a = pose(BLURRED.first() - 1).position();
    Vec3 b = pose(BLURRED.last() + 1).position();
    double s = (f - BLURRED.first() + 1.0) / (BLURRED.count() + 1);
    Rotation off = Rotation.about(new Vec3(1, 0.5, 0).normalized(), Math.toRadians(0.1));
    return new Pose(a.plus(b.minus(a).times(s)), off.after(pose(f).rotation()));
  }

  /** Largest distance and angle in the blur, the clear frames laid on the truth. */
  private static double[] off(Shot s) {
    PoseTrack poses = s.cameras().get(0).poses();
    List<Vec3> axes = new ArrayList<>();
    List<Vec3> trueAxes = new ArrayList<>();
    Vec3 middle = Vec3.ZERO;
    Vec3 trueMiddle = Vec3.ZERO;
    int n = FRAMES.count() - BLURRED.count();
    for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
      if (!BLURRED.contains(f)) {
        for (Vec3 a : List.of(new Vec3(1, 0, 0), new Vec3(0, 1, 0), new Vec3(0, 0, 1))) {
          axes.add(poses.at(f).rotation().apply(a));
          trueAxes.add(pose(f).rotation().apply(a));
        }
        middle = middle.plus(poses.at(f).position().times(1.0 / n));
        trueMiddle = trueMiddle.plus(pose(f).position().times(1.0 / n));
      }
    }
    Rotation turn = SimilarityFit.turnOf(axes, trueAxes);
    double[] worst = new double[2];
    for (int f = BLURRED.first(); f <= BLURRED.last(); f++) {
      Pose p = poses.at(f);
      Vec3 at = turn.apply(p.position().minus(middle)).plus(trueMiddle);
      worst[0] = Math.max(worst[0], at.minus(pose(f).position()).length());
      double angle = turn.after(p.rotation()).angleTo(pose(f).rotation());
      worst[1] = Math.max(worst[1], Math.toDegrees(angle));
    }
    return worst;
  }

  private static BlurredMoves.Outcome of(
      Shot s, Optional<LensTrack> lens, IntFunction<Optional<Luma>> plates) {
    return BlurredMoves.of(
        s, false, List.of(BLURRED), AdjustOptions.Focal.FIXED, lens, plates, Progress.NONE);
  }

  @Test
  void theCameraIsMeasuredWhereItWasInterpolated() {
    Shot s = solved();
    assertThat(off(s)[0]).as("interpolated").isGreaterThan(0.03);
    assertThat(off(s)[1]).isGreaterThan(0.09);
    BlurredMoves.Outcome o = of(s, Optional.empty(), STRAIGHT);
    assertThat(o.sentence()).contains("frames 6–10").contains("half of them within 0.");
    double shutter = Double.parseDouble(o.sentence().replaceAll(".*open for ([0-9.]+) .*", "$1"));
    assertThat(shutter).isCloseTo(SHUTTER, within(0.06));
    assertThat(off(o.shot())[0]).isLessThan(0.006);
    assertThat(off(o.shot())[1]).isLessThan(0.05);
    assertThat(Reprojection.of(o.shot(), Set.of()).orElseThrow().rmsPx())
        .as("what was followed fits as before")
        .isLessThan(0.08);
    assertThat(o.shot().trackers().get(0).names()).isEqualTo(s.trackers().get(0).names());
    assertThat(o.shot().observations()).isEqualTo(s.observations());
  }

  @Test
  void aLensBendsThePicturesAndIsKnown() {
    Optional<LensTrack> lens = Optional.of(LensTrack.of(BENT));
    BlurredMoves.Outcome o = of(solved(), lens, plates(lens));
    assertThat(off(o.shot())[0]).isLessThan(0.006);
    assertThat(off(o.shot())[1]).isLessThan(0.05);
  }

  @Test
  void whatThePicturesDoNotShowStaysAsItWas() {
    Shot s = solved();
    Random r = new Random(1);
    float[] noise = new float[SIZE.width() * SIZE.height()];
    for (int i = 0; i < noise.length; i++) {
      noise[i] = 128 + 40 * (float) r.nextGaussian();
    }
    Luma strange = new Luma(SIZE.width(), SIZE.height(), noise);
    Luma black = new Luma(SIZE.width(), SIZE.height(), new float[noise.length]);
    Luma small = new Luma(64, 36, new float[64 * 36]);
    for (Optional<Luma> bad :
        List.of(
            Optional.of(strange), Optional.of(black), Optional.of(small), Optional.<Luma>empty())) {
      BlurredMoves.Outcome o = of(s, Optional.empty(), f -> f == 8 ? bad : STRAIGHT.apply(f));
      assertThat(o.shot()).isSameAs(s);
      assertThat(o.sentence()).isEmpty();
      // What stands behind the blur may be found where nothing of what stands before it is.
      Shot half = of(s, Optional.empty(), f -> f == 5 ? bad : STRAIGHT.apply(f)).shot();
      assertThat(off(half)[0]).isLessThanOrEqualTo(off(s)[0]);
    }
  }

  @Test
  void aTripodAndTheEndsOfAShotAreLeftAsTheyAre() {
    Shot s = solved();
    for (boolean tripod : new boolean[] {true, false}) {
      BlurredMoves.Outcome o =
          BlurredMoves.of(
              s,
              tripod,
              List.of(tripod ? BLURRED : new FrameRange(2, 5), new FrameRange(12, 15)),
              AdjustOptions.Focal.FIXED,
              Optional.empty(),
              STRAIGHT,
              Progress.NONE);
      assertThat(o.shot()).isSameAs(s);
    }
  }
}
