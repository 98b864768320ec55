package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.decision.DecisionHistory;
import flarvo.decision.Outcome;
import flarvo.decision.Replay;
import flarvo.decision.ShotState;
import flarvo.decision.TraceDecision;
import flarvo.plate.PlateFinder;
import flarvo.plate.PlateLuma;
import flarvo.plate.Raster;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Luma;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Vec3;
import flarvo.trace.AutoSolve;
import flarvo.trace.Mask;
import flarvo.trace.TraceOptions;
import flarvo.vet.resolve.FocalLength;
import flarvo.vet.resolve.TrackSolve;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.IntFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.junit.jupiter.api.io.TempDir;

/** Features and solves of plates alone, beside the truth. */
class TraceTest {

  /** What a feature that marks a point of the scene stays within. */
  private static final double STRAY_PX = 1;

  /** Samples of a pixel, across and down. */
  private static final int FINE = 4;

  /**
   * Plates to solve, measured.
   *
   * @param truthPx RMS distance of the better 90 % of kept features from where they should be
   * @param strays share of the kept features that mark no point
   * @param offPath largest distance of the camera over the length of its path
   * @param offDegrees largest angle between solved and true camera
   */
  record Measured(
      AutoSolve.Outcome o, double truthPx, double strays, double offPath, double offDegrees) {
    double rmsPx() {
      return o.solve().cleaned().afterPx();
    }

    double focalMm() {
      return o.shot().cameras().get(0).optics().at(o.shot().frames().first()).focalLengthMm();
    }
  }

  static Measured solve(
      ShotTruth shot, IntFunction<Optional<Luma>> plates, boolean undistorted, Mask mask) {
    return solve(shot, plates, undistorted, mask, FocalLength.UNKNOWN);
  }

  private static Measured solve(
      ShotTruth shot,
      IntFunction<Optional<Luma>> plates,
      boolean undistorted,
      Mask mask,
      FocalLength focal) {
    AutoSolve.Outcome o =
        AutoSolve.of(
            new AutoSolve.Plate(
                shot.name(),
                shot.frames(),
                plates,
                ShotTruth.PICTURE,
                shot.rate(),
                Optional.empty()),
            TraceOptions.USUAL,
            mask,
            true,
            new TrackSolve.Options(
                ShotTruth.FILM_WIDTH_MM,
                ShotTruth.FILM_HEIGHT_MM,
                focal,
                undistorted || !shot.lens().bends() ? 0 : 3,
                0.5,
                8),
            s -> {},
            Progress.NONE);
    Set<String> culled = new TreeSet<>(o.solve().cleaned().culled());
    o.movers().forEach(m -> culled.addAll(m.features()));
    double[] e =
        new FollowedTruth(shot, undistorted)
            .errors(o.traced().observations()).entrySet().stream()
                .filter(x -> !culled.contains(x.getKey()))
                .mapToDouble(Map.Entry::getValue)
                .sorted()
                .toArray();
    int most = (int) (0.9 * e.length);
    double squares = Arrays.stream(e, 0, most).map(x -> x * x).sum();
    double strays = Arrays.stream(e).filter(x -> x > STRAY_PX).count() / (double) e.length;
    PathError path =
        PathError.of(o.shot().cameras().get(0).poses()::at, shot::poseAt, shot.frames());
    Measured m =
        new Measured(o, Math.sqrt(squares / most), strays, path.ofLength(), path.degrees());
    System.out.printf(
        Locale.ROOT,
        "%s%s: %s, %.3f px RMS, %d of %d kept over %.0f frames, %.3f px from the truth, %.1f %%"
            + " strays, focal length %.2f mm (%.2f), path off by %.3f %%, %.3f°%n",
        shot.name(),
        undistorted ? ", undistorted" : "",
        o.solve().kind().word(),
        m.rmsPx(),
        e.length,
        o.traced().observations().names().size(),
        o.traced().meanLife(),
        m.truthPx(),
        100 * strays,
        m.focalMm(),
        shot.optics().focalLengthMm(),
        100 * m.offPath(),
        m.offDegrees());
    return m;
  }

  private static IntFunction<Optional<Luma>> demo(ShotTruth shot, String folder) {
    PlateSequence p = PlateFinder.find(Path.of("meridian", shot.name(), folder)).get(0);
    return f -> PlateLuma.of(p, f);
  }

  /** Lens and focal length are unknown, and both are found. */
  @Test
  void theTerraceFromItsOriginalPlatesAlone() {
    Measured m =
        solve(TerraceTruth.SHOT, demo(TerraceTruth.SHOT, "plates/original"), false, Mask.NONE);
    assertThat(m.o().solve().kind().tripod()).isFalse();
    assertThat(m.rmsPx()).isLessThan(0.3);
    assertThat(m.strays()).isLessThanOrEqualTo(0.02);
    assertThat(m.offPath()).isLessThan(0.002);
    assertThat(m.focalMm()).isBetween(17.3, 17.7);
    assertThat(m.o().lens()).isPresent();
    assertThat(m.o().doubts()).isEmpty();
    assertThat(m.o().movers()).isEmpty();
    assertLevelled(m.o());
  }

  /** Up is up, whatever else nobody knows; the ground is where most features lie. */
  private static void assertLevelled(AutoSolve.Outcome o) {
    Pose level = o.shot().levelled().contents().cameras().get(0).poses().at(1040);
    Pose truth = TerraceTruth.SHOT.poseAt(1040);
    Vec3 up = new Vec3(0, 1, 0);
    double lean = level.rotation().inverse().apply(up).dot(truth.rotation().inverse().apply(up));
    assertThat(Math.toDegrees(Math.acos(Math.min(1, lean)))).isLessThan(0.5);
  }

  @Test
  void theDomesTripodIsTold() {
    Measured m = solve(DomeTruth.SHOT, demo(DomeTruth.SHOT, "plates/original"), false, Mask.NONE);
    assertThat(m.o().solve().kind().tripod()).isTrue();
    assertThat(m.rmsPx()).isLessThan(0.3);
    assertThat(m.strays()).isLessThanOrEqualTo(0.02);
    assertThat(m.focalMm()).isBetween(23.0, 25.0);
    assertThat(m.o().movers()).isEmpty();
  }

  /** Behind the cart nothing moves, and the camera is not called solved. */
  @Test
  void aCameraThatStandsStillIsNotSolved() {
    IntFunction<Optional<Luma>> plates = demo(CartTruth.SHOT, "plates/original");
    assertThatThrownBy(() -> solve(CartTruth.SHOT, plates, false, Mask.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("the camera stands still");
  }

  /** Focal lengths of every frame from plates alone. */
  @Test
  @EnabledIfSystemProperty(named = "flarvo.traces", matches = "true")
  void renderedZoomsAreSolved() {
    for (RenderedShot r : RenderedShot.zooms()) {
      Map<Integer, Luma> plates = r.plates(FINE);
      Measured m =
          solve(r, f -> Optional.ofNullable(plates.get(f)), false, Mask.NONE, FocalLength.ZOOM);
      double worst = 0;
      for (int f = r.frames().first(); f <= r.frames().last(); f++) {
        double mm = m.o().shot().cameras().get(0).optics().at(f).focalLengthMm();
        worst = Math.max(worst, Math.abs(mm / r.opticsAt(f).focalLengthMm() - 1));
      }
      System.out.printf(Locale.ROOT, "%s: focal length off by %.2f %%%n", r.name(), 100 * worst);
      assertThat(m.o().solve().kind().tripod()).isEqualTo(r.name().endsWith("tripod"));
      assertThat(m.rmsPx()).isLessThan(0.3);
      assertThat(worst).as(r.name()).isLessThan(0.01);
    }
  }

  /** As the window does it, from files. */
  @Test
  @EnabledIfSystemProperty(named = "flarvo.traces", matches = "true")
  void theWhipIsMeasuredWhenItIsDecidedToSolve(@TempDir Path dir) throws Exception {
    RenderedShot r =
        RenderedShot.all().stream().filter(s -> s.name().equals("whip")).findFirst().orElseThrow();
    for (Map.Entry<Integer, Luma> plate : r.plates(FINE).entrySet()) {
      Luma l = plate.getValue();
      Raster out = Raster.empty(l.width(), l.height(), List.of("Y"), SampleKind.SHORT);
      for (int i = 0; i < l.luma().length; i++) {
        out.values()[i] = l.luma()[i] / 255;
      }
      RasterWriter.write(out, dir.resolve("whip." + (1000 + plate.getKey()) + ".png"));
    }
    DecisionHistory history =
        new DecisionHistory(
            ShotState.of(
                "whip", ShotIntake.of(List.of(dir), Progress.NONE).received(IntakeOptions.NONE)));
    history.apply(new TraceDecision.Follow(PlateRole.ORIGINAL, 300, 9, 0.08));
    history.apply(
        new TraceDecision.SolvePlates(
            ShotTruth.FILM_WIDTH_MM, ShotTruth.FILM_HEIGHT_MM, OptionalDouble.empty(), 0, 0.5));
    Outcome.Solve solved = (Outcome.Solve) history.log().entries().get(1).outcome().orElseThrow();
    System.out.println(solved.words());
    assertThat(solved.words()).contains("by features found in the blur");
    PoseTrack poses = history.present().shot().cameras().get(0).poses();
    PathError e = PathError.of(f -> poses.at(1000 + f), r::poseAt, r.frames());
    System.out.printf(Locale.ROOT, "%.3f %%, %.3f°%n", 100 * e.ofLength(), e.degrees());
    assertThat(e.ofLength()).isLessThan(0.002);
    assertThat(e.degrees()).isLessThan(0.05);
    Replay again = Replay.same(history.base(), history.log(), Progress.NONE);
    assertThat(again.history().present().shot()).isEqualTo(history.present().shot());
  }

  /** {@code -Dflarvo.traces=true} renders and solves ten shots, which takes some minutes. */
  @Test
  @EnabledIfSystemProperty(named = "flarvo.traces", matches = "true")
  void renderedShotsAreSolved() {
    int exact = 0;
    List<String> bad = new ArrayList<>();
    for (RenderedShot r : RenderedShot.all()) {
      Map<Integer, Luma> plates = r.plates(FINE);
      try {
        Measured m = solve(r, f -> Optional.ofNullable(plates.get(f)), false, Mask.NONE);
        boolean fine =
            m.rmsPx() <= 0.5
                && m.strays() <= 0.02
                && m.truthPx() <= 0.15
                && m.offPath() <= 0.002
                && m.o().solve().kind().tripod() == r.name().equals("tripod");
        exact += fine && m.offDegrees() <= 0.05 ? 1 : 0;
        if (!fine) {
          bad.add(r.name());
          // A false solve is never presented as a good one.
          assertThat(m.strays() < 0.1 || !m.o().doubts().isEmpty()).as(r.name()).isTrue();
        }
      } catch (InputError e) {
        System.out.println(r.name() + ": " + e.getMessage());
        bad.add(r.name() + ": " + e.getMessage());
      }
    }
    assertThat(bad).isEmpty();
    assertThat(exact).as("cameras within 0.05°").isEqualTo(RenderedShot.all().size());
  }
}
