package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.plate.PlateImage;
import flarvo.plate.PlateReader;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateRole;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.trace.HandFeature;
import flarvo.trace.HandFollow;
import flarvo.trace.Traced;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/** Features marked by hand on the terrace's undistorted plates, against where they really are. */
class HandFollowTest {

  private static final FrameRange FRAMES = TerraceTruth.FRAMES;
  private final Map<Integer, Optional<Luma>> plates = new HashMap<>();

  private Optional<Luma> plate(int frame) {
    return plates.computeIfAbsent(
        frame,
        f -> {
          PlateImage image =
              PlateReader.read(
                  Path.of("meridian").resolve(DemoWriter.plateName(TerraceTruth.SHOT, f, true)));
          float[] luma = new float[image.argb().length];
          for (int i = 0; i < luma.length; i++) {
            int c = image.argb()[i];
            luma[i] = 0.299f * (c >> 16 & 255) + 0.587f * (c >> 8 & 255) + 0.114f * (c & 255);
          }
          return Optional.of(new Luma(image.width(), image.height(), luma));
        });
  }

  private final double[] px = new double[3];

  private double[] seen(Vec3 p, int frame) {
    new Pinhole(TerraceTruth.camera(), TerraceTruth.PICTURE)
        .at(frame)
        .project(p.x(), p.y(), p.z(), px);
    return px.clone();
  }

  private static double rms(List<Double> squares) {
    return Math.sqrt(squares.stream().mapToDouble(d -> d).average().orElse(Double.NaN));
  }

  /**
   * A hand is off by a third of a pixel, and that is where the feature then is on the surface: what
   * counts is that it stays there. Corners of flagstones and stone, in the middle of the shot.
   */
  @Test
  void oneMarkIsEnoughWhereAFeatureStaysInSight() {
    TrackerSet truth = new TerraceTracks().make().truth();
    Random r = new Random(3);
    List<Double> errors = new ArrayList<>();
    int frames = 0;
    int marked = 0;
    for (int i = 0; i < truth.size() && marked < 20; i++) {
      Vec3 p = truth.position(i);
      double[] at = seen(p, 1048);
      boolean stone = p.y() == 0 && p.length() < 2.2 && p.length() > 0.5;
      if (!stone || at[0] < 60 || at[0] > 900 || at[1] < 60 || at[1] > 480) {
        continue;
      }
      HandFeature h =
          HandFeature.of("h" + i, PlateRole.UNDISTORTED, 9, FRAMES)
              .with(
                  1048,
                  new HandFeature.Mark(
                      at[0] + 0.3 * r.nextGaussian(), at[1] + 0.3 * r.nextGaussian()));
      Traced t = HandFollow.of(h, this::plate, Progress.NONE);
      Observations o = t.observations();
      marked++;
      frames += o.size();
      double dx = h.marks().get(1048).x() - at[0];
      double dy = h.marks().get(1048).y() - at[1];
      List<Double> squares = new ArrayList<>();
      for (int row = 0; row < o.size(); row++) {
        double[] there = seen(p, o.frame(row));
        squares.add(Math.pow(o.x(row) - there[0] - dx, 2) + Math.pow(o.y(row) - there[1] - dy, 2));
      }
      errors.add(rms(squares));
    }
    errors.sort(Double::compare);
    System.out.printf(
        "by hand: %d features, %.1f frames each, median %.3f px, worst %.3f px%n",
        marked,
        (double) frames / marked,
        errors.get(errors.size() / 2),
        errors.get(errors.size() - 1));
    assertThat(marked).isGreaterThanOrEqualTo(8);
    assertThat((double) frames / marked).isGreaterThan(60);
    assertThat(errors.get(errors.size() / 2)).isLessThan(0.25);
    // One of them lies beside the sundial's edge, and goes with it: that is for the hand to see.
    assertThat(errors.get((int) (0.9 * errors.size()))).isLessThan(1.2);
  }

  /** A correction holds exactly where it was made, and what follows goes by it. */
  @Test
  void aCorrectionIsWhatTheRestGoesBy() {
    Vec3 p = new Vec3(0.6, 0, 0);
    HandFeature h = HandFeature.of("h", PlateRole.UNDISTORTED, 9, FRAMES);
    h = h.with(1020, mark(p, 1020));
    Observations one = HandFollow.of(h, this::plate, Progress.NONE).observations();
    // Marked on another corner of the stones: from there on that one is followed.
    Vec3 other = new Vec3(-1.2, 0, 0);
    HandFeature both = h.with(1060, mark(other, 1060));
    Traced t = HandFollow.of(both, this::plate, Progress.NONE);
    Observations o = t.observations();
    assertThat(apart(o, 1060, other)).isLessThan(1e-9);
    assertThat(apart(o, 1062, other)).isLessThan(1);
    assertThat(apart(o, 1020, p)).isLessThan(1e-9);
    assertThat(apart(o, 1022, p)).isLessThan(1);
    assertThat(t.notes().toString())
        .contains("between its marks on 1020 and 1060 the two ways are up to");
    assertThat(apart(one, 1010, p)).isEqualTo(apart(o, 1010, p));
  }

  private HandFeature.Mark mark(Vec3 p, int frame) {
    double[] at = seen(p, frame);
    return new HandFeature.Mark(at[0], at[1]);
  }

  private double apart(Observations o, int frame, Vec3 p) {
    int row = o.row(o.names().get(0), frame);
    assertThat(row).as("frame " + frame).isGreaterThanOrEqualTo(0);
    double[] at = seen(p, frame);
    return Math.hypot(o.x(row) - at[0], o.y(row) - at[1]);
  }

  /** Where frames are missing, or it is hidden for long, marks on both sides are one feature. */
  @Test
  void marksOnBothSidesOfAGapAreOneFeature() {
    Vec3 p = new Vec3(-1.2, 0, 0);
    HandFeature h = HandFeature.of("h", PlateRole.UNDISTORTED, 9, FRAMES).with(1022, mark(p, 1022));
    java.util.function.IntFunction<Optional<Luma>> hidden =
        f -> f > 1030 && f < 1060 ? Optional.empty() : plate(f);
    Observations lost = HandFollow.of(h, hidden, Progress.NONE).observations();
    assertThat(lost.frame(lost.size() - 1)).isLessThanOrEqualTo(1030);
    Observations joined =
        HandFollow.of(h.with(1062, mark(p, 1062)), hidden, Progress.NONE).observations();
    assertThat(joined.row("h", 1025)).isGreaterThanOrEqualTo(0);
    assertThat(joined.row("h", 1045)).isNegative(); // nobody saw it there
    assertThat(joined.row("h", 1075)).isGreaterThanOrEqualTo(0);
    assertThat(apart(joined, 1075, p)).isLessThan(1);
    assertThatThrownBy(
            () ->
                HandFollow.of(
                    HandFeature.of("h", PlateRole.UNDISTORTED, 9, FRAMES), hidden, Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("has no mark");
    // Nothing to follow: the mark stays, and it is said.
    Luma flat = new Luma(200, 100, new float[20_000]);
    Traced t =
        HandFollow.of(
            HandFeature.of("h", PlateRole.ORIGINAL, 9, new FrameRange(1, 9))
                .with(4, new HandFeature.Mark(50, 50)),
            f -> Optional.of(flat),
            Progress.NONE);
    assertThat(t.observations().size()).isEqualTo(1);
    assertThat(t.notes().toString()).contains("nothing to follow");
  }

  @Test
  void aFeatureIsKeptOnAPartOfTheFrames() {
    HandFeature h =
        HandFeature.of("h", PlateRole.ORIGINAL, 9, new FrameRange(1, 9))
            .with(4, new HandFeature.Mark(50, 50))
            .with(8, new HandFeature.Mark(51, 50));
    Observations.Builder b = new Observations.Builder();
    for (int f = 2; f <= 9; f++) {
      b.add("h", f, 50, 50);
    }
    HandFeature part = h.along(b.build()).only(new FrameRange(1, 5));
    assertThat(part.marks()).isEqualTo(new TreeMap<>(Map.of(4, new HandFeature.Mark(50, 50))));
    assertThat(part.path().size()).isEqualTo(4);
    assertThat(part.within()).isEqualTo(new FrameRange(1, 5));
    assertThat(part.with(7, new HandFeature.Mark(1, 1)).within()).isEqualTo(new FrameRange(1, 7));
    assertThatThrownBy(() -> h.only(new FrameRange(5, 6)))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
