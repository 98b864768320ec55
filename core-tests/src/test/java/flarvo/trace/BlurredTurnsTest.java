package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.LensTrack;
import flarvo.lens.Normalisation;
import flarvo.lens.RadialPolynomial;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.PixelIntrinsics;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.IntFunction;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** A whip pan among things far away, whose brightness in each direction is known. */
@Tag("numeric")
class BlurredTurnsTest {

  private static final PictureSize SIZE = PictureSize.of(256, 144);
  private static final Optics OPTICS = new Optics(17.5, 24, 13.5, 0, 0);
  private static final Lens BENT =
      new Lens(new RadialPolynomial(0.062, 0.014, 0, 0), Normalisation.HALF_WIDTH, 0.5, 0.5, 1);
  private static final FrameRange FRAMES = new FrameRange(1, 14);
  private static final FrameRange BLURRED = new FrameRange(4, 11);
  private static final double SHUTTER = 0.4;
  private static final int MOMENTS = 6;

  /** Waves over all directions, from wide ones to some of a few pixels. */
  private static final List<Vec3> WAVES = waves();

  private static List<Vec3> waves() {
    Random r = new Random(11);
    List<Vec3> out = new ArrayList<>();
    for (int i = 0; i < 16; i++) {
      Vec3 wave = new Vec3(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()).normalized();
      out.add(wave.times(4 * Math.pow(25, r.nextDouble())));
    }
    return out;
  }

  private static double brightness(Vec3 d) {
    double s = 128;
    for (Vec3 w : WAVES) {
      s += 40 / Math.sqrt(w.length()) * Math.sin(w.dot(d) + w.x());
    }
    return s;
  }

  /** Still, then 30° with a tilt and a roll, then still. */
  private static Rotation turn(double frame) {
    double t = Math.max(0, Math.min(1, (frame - 3) / 9));
    double s = t * t * (3 - 2 * t);
    return Rotation.about(new Vec3(0, 1, 0), -0.52 * s)
        .after(Rotation.about(new Vec3(1, 0, 0), 0.1 * s * s))
        .after(Rotation.about(new Vec3(0, 0, 1), 0.08 * Math.sin(3 * s)));
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
        Vec3 ray = new Vec3((p[0] - k.cx()) / k.fx(), (k.cy() - p[1]) / k.fy(), -1).normalized();
        double sum = 0;
        for (int m = 0; m < MOMENTS; m++) {
          double at = frame + ((m + 0.5) / MOMENTS - 0.5) * SHUTTER;
          sum += brightness(turn(at).apply(ray));
        }
        out[i] = (float) (sum / MOMENTS + 0.5 * grain.nextGaussian());
      }
    }
    return new Luma(SIZE.width(), SIZE.height(), out);
  }

  /** As a solve has it: known outside the blur, evenly turned in it. */
  private static ShotCamera camera(Rotation end) {
    Rotation from = turn(BLURRED.first() - 1);
    double steps = BLURRED.count() + 1;
    return new ShotCamera(
        "cam",
        PoseTrack.of(
            FRAMES,
            f ->
                new Pose(
                    new Vec3(0.1 * f, 0, 0),
                    f < BLURRED.first()
                        ? turn(f)
                        : f > BLURRED.last()
                            ? turn(f).after(end)
                            : from.slerp(
                                turn(BLURRED.last() + 1).after(end),
                                (f - BLURRED.first() + 1) / steps))),
        OpticsTrack.of(FRAMES, f -> OPTICS),
        Optional.empty());
  }

  private static double off(ShotCamera c) {
    return off(c, FRAMES);
  }

  private static double off(ShotCamera c, FrameRange frames) {
    double worst = 0;
    for (int f = frames.first(); f <= frames.last(); f++) {
      worst = Math.max(worst, turn(f).angleTo(c.poses().at(f).rotation()));
    }
    return Math.toDegrees(worst);
  }

  private static final IntFunction<Optional<Luma>> STRAIGHT = plates(Optional.empty());

  private static IntFunction<Optional<Luma>> plates(Optional<LensTrack> lens) {
    Map<Integer, Optional<Luma>> known = new HashMap<>();
    return f -> known.computeIfAbsent(f, g -> Optional.of(picture(g, lens)));
  }

  private static BlurredTurns.Outcome of(
      ShotCamera c, Optional<LensTrack> lens, IntFunction<Optional<Luma>> plates) {
    return BlurredTurns.of(c, List.of(BLURRED), 1, lens, plates, Progress.NONE);
  }

  @Test
  void aWhipIsMeasuredWhereNothingCanBeFollowed() {
    ShotCamera c = camera(Rotation.IDENTITY);
    assertThat(off(c)).as("interpolated").isGreaterThan(2);
    BlurredTurns.Outcome o = of(c, Optional.empty(), STRAIGHT);
    assertThat(o.measured()).containsOnlyKeys(BLURRED);
    assertThat(o.measured().get(BLURRED)).isLessThan(0.1);
    assertThat(off(o.camera())).isLessThan(0.03);
    assertThat(o.camera().poses().at(7).position()).isEqualTo(c.poses().at(7).position());
    assertThat(o.camera().poses().at(3)).isEqualTo(c.poses().at(3));
    assertThat(o.sentence()).contains("frames 4–11 (drift 0.0");
  }

  @Test
  void aLensBendsThePicturesAndIsKnown() {
    Optional<LensTrack> lens = Optional.of(LensTrack.of(BENT));
    IntFunction<Optional<Luma>> bent = plates(lens);
    ShotCamera c = camera(Rotation.IDENTITY);
    assertThat(off(of(c, lens, bent).camera())).isLessThan(0.03);
  }

  /** Bars and a burnt-in number do not turn with the camera: better no turn than a wrong one. */
  @Test
  void burntInPicturesAreNotBelieved() {
    IntFunction<Optional<Luma>> burnt =
        f -> {
          Luma l = STRAIGHT.apply(f).orElseThrow();
          float[] out = l.luma().clone();
          for (int y = 0; y < l.height(); y++) {
            for (int x = 0; x < l.width(); x++) {
              boolean bar = y < 14 || y >= l.height() - 14;
              boolean text = x > 200 && x < 240 && y > 105 && y < 120 && x / 3 % 2 == 0;
              out[y * l.width() + x] = bar ? 0 : text ? 255 : out[y * l.width() + x];
            }
          }
          return Optional.of(new Luma(l.width(), l.height(), out));
        };
    BlurredTurns.Outcome o = of(camera(Rotation.IDENTITY), Optional.empty(), burnt);
    assertThat(o.measured()).isEmpty();
    assertThat(o.camera()).isEqualTo(camera(Rotation.IDENTITY));
  }

  /** What the steps are off by in all is spread over them, and said. */
  @Test
  void anErrorOfTheKnownEndIsSpread() {
    Rotation end = Rotation.about(new Vec3(0, 1, 0), Math.toRadians(1));
    BlurredTurns.Outcome o = of(camera(end), Optional.empty(), STRAIGHT);
    assertThat(o.measured().get(BLURRED)).isBetween(0.9, 1.1);
    assertThat(off(o.camera(), BLURRED)).isBetween(0.8, 0.95);
    assertThat(off(o.camera(), new FrameRange(1, 7))).isBetween(0.35, 0.5);
  }

  @Test
  void whatThePicturesDoNotShowStaysAsItWas() {
    ShotCamera c = camera(Rotation.IDENTITY);
    IntFunction<Optional<Luma>> good = STRAIGHT;
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
      BlurredTurns.Outcome o = of(c, Optional.empty(), f -> f == 7 ? bad : good.apply(f));
      assertThat(o.measured()).isEmpty();
      assertThat(o.camera()).isEqualTo(c);
      assertThat(o.sentence()).isEmpty();
    }
    Rotation wrong = Rotation.about(new Vec3(0, 1, 0), Math.toRadians(9));
    assertThat(of(camera(wrong), Optional.empty(), good).measured()).as("no such turn").isEmpty();
    BlurredTurns.Outcome open =
        BlurredTurns.of(
            c, List.of(new FrameRange(4, 14)), 1, Optional.empty(), good, Progress.NONE);
    assertThat(open.measured()).as("the end is not known").isEmpty();
  }
}
