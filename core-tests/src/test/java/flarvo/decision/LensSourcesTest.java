package flarvo.decision;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.lens.BrownConrady;
import flarvo.lens.Direction;
import flarvo.lens.Lens;
import flarvo.lens.LensChoice;
import flarvo.lens.LensMapper;
import flarvo.lens.LensModel;
import flarvo.lens.Normalisation;
import flarvo.lens.RadialPolynomial;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.plate.remap.Overscan;
import flarvo.plate.remap.PositionGrid;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.vet.RefinedSolve;
import flarvo.vet.ResidualDistortion;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A shot's lens from a distortion map, and from what refining found. */
@Tag("numeric")
class LensSourcesTest {

  private static final Shot SHOT = TestShots.walk(6, 12, 5);
  private static final PictureSize SIZE = SHOT.picture();

  @TempDir Path dir;

  private Path map(Lens lens, Direction does, Overscan overscan, boolean bottom) {
    PictureSize had = does == Direction.ORIGINAL_TO_UNDISTORTED ? SIZE : overscan.size();
    Path file = dir.resolve("map.exr");
    RasterWriter.write(
        PositionGrid.of(lens.on(SIZE), does, overscan)
            .map(had.width(), had.height(), bottom)
            .as(SampleKind.FLOAT),
        file);
    return file;
  }

  /** Either direction, either origin, with overscan where the map undistorts. */
  @ParameterizedTest
  @CsvSource({
    "ORIGINAL_TO_UNDISTORTED,true,0",
    "ORIGINAL_TO_UNDISTORTED,false,60",
    "UNDISTORTED_TO_ORIGINAL,true,0",
    "UNDISTORTED_TO_ORIGINAL,false,0"
  })
  void aMapGivesTheLensItWasMadeBy(Direction does, boolean bottom, int more) {
    Lens lens =
        new Lens(
            new RadialPolynomial(-0.06, 0.01, 0, 0),
            Normalisation.HALF_WIDTH,
            0.51,
            0.495,
            Double.NaN);
    Overscan wide = new Overscan(SIZE, SIZE.width() + more, SIZE.height() + more);
    ShotState s = ShotState.of(SHOT);
    Decided d =
        Decided.of(
            s,
            new PlateDecision.FitMap(map(lens, does, wide, bottom), does, LensModel.RADIAL),
            Progress.NONE);
    Outcome.MapLens o = (Outcome.MapLens) d.outcome().orElseThrow();
    assertThat(o.maxPx()).isLessThan(0.02);
    assertThat(o.cover()).isGreaterThan(0.8);
    Lens found = d.after().lens().track().orElseThrow().base();
    assertThat(found.distortion().coefficients()[0]).isCloseTo(-0.06, within(1e-4));
    assertThat(found.centreX()).isCloseTo(0.51, within(1e-4));
    assertThat(d.after().lensWork().choice())
        .isEqualTo(new LensChoice.Given(o.lens(), "fitted to map.exr"));
  }

  /**
   * What a redistorting map is applied to: larger plates that came in, the picture in their middle.
   */
  @Test
  void aMapForLargerPlatesThatCameIn() {
    Overscan wide = new Overscan(SIZE, SIZE.width() + 80, SIZE.height() + 40);
    Lens lens = Lens.centred(new RadialPolynomial(-0.06, 0.01, 0, 0));
    Path map = map(lens, Direction.UNDISTORTED_TO_ORIGINAL, wide, true);
    PlateSequence plates =
        new PlateSequence(
            dir, "p.", 4, ".exr", SHOT.frames(), List.of(), wide.size(), PlateRole.UNDISTORTED);
    Decided d =
        Decided.of(
            ShotState.of(SHOT.withPlates(List.of(plates))),
            new PlateDecision.FitMap(map, Direction.UNDISTORTED_TO_ORIGINAL, LensModel.RADIAL),
            Progress.NONE);
    assertThat(((Outcome.MapLens) d.outcome().orElseThrow()).maxPx()).isLessThan(0.02);
    Lens found = d.after().lens().track().orElseThrow().base();
    assertThat(found.centreX()).isCloseTo(0.5, within(1e-4));
  }

  /** Another model does not fit, and the outcome says by how much. */
  @Test
  void aModelThatDoesNotFitIsSaid() {
    Lens lens = Lens.centred(new BrownConrady(-0.06, 0, 0.01, 0.01, 0, 0, 0, 0));
    Path map = map(lens, Direction.ORIGINAL_TO_UNDISTORTED, Overscan.none(SIZE), true);
    Decided d =
        Decided.of(
            ShotState.of(SHOT),
            new PlateDecision.FitMap(map, Direction.ORIGINAL_TO_UNDISTORTED, LensModel.DIVISION),
            Progress.NONE);
    assertThat(((Outcome.MapLens) d.outcome().orElseThrow()).maxPx()).isGreaterThan(0.5);
  }

  @Test
  void aMapOfAnotherSizeIsRefused() {
    Path map =
        map(
            Lens.centred(new RadialPolynomial(-0.06, 0, 0, 0)),
            Direction.ORIGINAL_TO_UNDISTORTED,
            new Overscan(SIZE, SIZE.width() + 8, SIZE.height()),
            true);
    assertThatThrownBy(
            () ->
                Decided.of(
                    ShotState.of(SHOT),
                    new PlateDecision.FitMap(
                        map, Direction.UNDISTORTED_TO_ORIGINAL, LensModel.RADIAL),
                    Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("the map is " + (SIZE.width() + 8));
    assertThatThrownBy(
            () ->
                Decided.of(
                    ShotState.of(SHOT),
                    new PlateDecision.FitMap(
                        dir.resolve("gone.exr"),
                        Direction.ORIGINAL_TO_UNDISTORTED,
                        LensModel.RADIAL),
                    Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("gone.exr");
  }

  /** The terms and the lens made of them straighten the same points, off the centre too. */
  @Test
  void refinedTermsAreALensOfTheFamily() {
    ShotCamera came = SHOT.cameras().get(0);
    Optics o = came.optics().at(came.frames().first());
    ShotCamera camera =
        came.withOptics(
            flarvo.scene.OpticsTrack.constant(
                came.frames(),
                new Optics(o.focalLengthMm(), o.filmWidthMm(), o.filmHeightMm(), 0.4, -0.3)));
    ResidualDistortion rest = new ResidualDistortion(-0.08, 0.03, -0.01);
    LensMapper lens = rest.lens(camera, SIZE).orElseThrow().on(SIZE);
    Observations.Builder grid = new Observations.Builder();
    for (int i = 0; i < 63; i++) {
      grid.add(
          "g" + i,
          came.frames().first(),
          SIZE.width() * (i % 9 + 0.3) / 9,
          SIZE.height() * ((i - i % 9) / 9.0 + 0.4) / 7);
    }
    Observations seen = grid.build();
    Observations straight = rest.straightened(seen, camera, SIZE);
    double[] p = new double[2];
    double moved = 0;
    for (int row = 0; row < seen.size(); row++) {
      assertThat(lens.toUndistorted(seen.x(row), seen.y(row), p)).isTrue();
      assertThat(p[0]).isCloseTo(straight.x(row), within(1e-6));
      assertThat(p[1]).isCloseTo(straight.y(row), within(1e-6));
      moved = Math.max(moved, Math.hypot(p[0] - seen.x(row), p[1] - seen.y(row)));
    }
    assertThat(moved).isGreaterThan(1);
    assertThat(ResidualDistortion.NONE.lens(camera, SIZE)).isEmpty();

    ShotState s = ShotState.of(SHOT);
    assertThatThrownBy(() -> Decided.of(s, new PlateDecision.UseRefinedLens(), Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no lens terms were refined");
    ShotState refined =
        s.withVetting(
            s.vetting().withSolve(new RefinedSolve(camera, Map.of(), rest, false, "refined")));
    Decided d = Decided.of(refined, new PlateDecision.UseRefinedLens(), Progress.NONE);
    assertThat(d.after().lens().track().orElseThrow().base())
        .isEqualTo(rest.lens(camera, SIZE).orElseThrow());
    assertThat(List.of(d.outcome())).isEqualTo(List.of(Optional.empty()));
  }
}
