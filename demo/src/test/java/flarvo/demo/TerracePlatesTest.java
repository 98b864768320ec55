package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Outgoing;
import flarvo.format.Formats;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.lens.RadialPolynomial;
import flarvo.plate.PlateFinder;
import flarvo.plate.match.PlateCheck;
import flarvo.plate.match.PlateCheck.Verdict;
import flarvo.proof.Handover;
import flarvo.proof.ProofReport;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.receive.ShotIntake;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Whether the terrace's plates belong to its camera, measured; and every way in which not. */
class TerracePlatesTest {

  private static final Path FOLDER = Path.of("meridian/mer_010_terrace");
  private static final PlateSequence ORIGINAL = find("plates/original");
  private static final PlateSequence UNDISTORTED = find("plates/undistorted");
  private static final LensTrack LENS =
      LensSheet.read(FOLDER.resolve("incoming/mer_010_terrace_lens.json")).track();

  @TempDir Path dir;

  private static PlateSequence find(String folder) {
    return PlateFinder.find(FOLDER.resolve(folder)).get(0);
  }

  private static Shot shot(PlateSequence... plates) {
    ReceivedSet set =
        ShotIntake.of(
                List.of(
                    FOLDER.resolve("solve/mer_010_terrace_solve.usda"),
                    FOLDER.resolve("incoming/mer_010_terrace_tracks.csv"),
                    FOLDER.resolve("plates/original")),
                Progress.NONE)
            .received(IntakeOptions.NONE);
    return set.shot("terrace", Rulings.NONE).withPlates(List.of(plates));
  }

  private static List<PlateCheck> check(Optional<LensTrack> lens, PlateSequence... plates) {
    return PlateCheck.of(shot(plates), lens, Progress.NONE);
  }

  @Test
  void bothPlatesBelongInTheirRoles() {
    List<PlateCheck> all = check(Optional.of(LENS), ORIGINAL, UNDISTORTED);
    assertThat(all).extracting(PlateCheck::verdict).containsOnly(Verdict.BELONGS);
    PlateCheck original = all.get(0);
    assertThat(original.fit().px()).isLessThan(1);
    assertThat(original.straight().px()).isGreaterThan(2);
    assertThat(original.words()).contains("px through the lens");
    PlateCheck undistorted = all.get(1);
    assertThat(undistorted.fit().px()).isLessThan(1);
    assertThat(undistorted.bent().orElseThrow().px()).isGreaterThan(2);
    assertThat(undistorted.registration().orElseThrow().px()).isLessThan(0.5);
    assertThat(undistorted.words()).startsWith("Trackers fit these plates to 0.");
  }

  @Test
  void rolesThatAreSwappedAreNamed() {
    List<PlateCheck> all =
        check(
            Optional.of(LENS),
            ORIGINAL.withRole(PlateRole.UNDISTORTED),
            UNDISTORTED.withRole(PlateRole.ORIGINAL));
    assertThat(all).extracting(PlateCheck::verdict).containsOnly(Verdict.DOES_NOT_BELONG);
    assertThat(all.get(0).words()).contains("they are original, not undistorted");
    assertThat(all.get(1).words()).contains("they are undistorted, not original");
  }

  /** Nobody sent a lens: the original is known to be wrong by its fit alone. */
  @Test
  void withoutALensTheOriginalDoesNotFit() {
    PlateCheck c = check(Optional.empty(), ORIGINAL).get(0);
    assertThat(c.verdict()).isEqualTo(Verdict.DOES_NOT_BELONG);
    assertThat(c.words()).contains("px only");
    assertThat(check(Optional.empty(), UNDISTORTED).get(0).verdict()).isEqualTo(Verdict.BELONGS);
  }

  @Test
  void platesMadeWithAnotherLensAreNamed() {
    double[] k = LENS.base().distortion().coefficients();
    LensTrack other =
        LensTrack.of(LENS.base().with(new RadialPolynomial(k[0] * 1.4, k[1] * 1.4, 0, 0)));
    PlateCheck c = check(Optional.of(other), ORIGINAL, UNDISTORTED).get(1);
    assertThat(c.verdict()).isEqualTo(Verdict.DOES_NOT_BELONG);
    assertThat(c.words()).contains("made with another lens");
  }

  @Test
  void aFrameTooMuchIsNamed() throws Exception {
    for (int f = UNDISTORTED.frames().first(); f <= UNDISTORTED.frames().last(); f++) {
      Files.copy(UNDISTORTED.file(f), dir.resolve("late_undist." + (f + 1) + ".jpg"));
    }
    PlateSequence late = PlateFinder.find(dir).get(0);
    PlateCheck c = check(Optional.of(LENS), ORIGINAL, late).get(1);
    assertThat(c.verdict()).isEqualTo(Verdict.DOES_NOT_BELONG);
    assertThat(c.words()).isEqualTo("These plates are numbered one frame too high.");
  }

  private ProofReport sent(PlateRole behind, PlateSequence... plates) {
    Shot s = shot(plates);
    Delivery d =
        new Delivery(
                "d",
                Dialects.shipped().get("comp-yup"),
                Formats.byId("usd-text"),
                Contents.CAMERA,
                "d.usda")
            .withPlate(behind);
    return Handover.send(
            Outgoing.of(s),
            d,
            dir.resolve("d.usda"),
            ProofReport.USUAL_LIMIT_PX,
            PlateCheck.of(s, Optional.of(LENS), Progress.NONE),
            Progress.NONE)
        .proof();
  }

  /** The file is right to a millionth of a pixel, and the picture that goes with it is not. */
  @Test
  void aHandoverWithTheWrongPlatesDoesNotHold() {
    assertThat(sent(PlateRole.UNDISTORTED, ORIGINAL, UNDISTORTED).holds()).isTrue();
    ProofReport r =
        sent(
            PlateRole.UNDISTORTED,
            ORIGINAL.withRole(PlateRole.UNDISTORTED),
            UNDISTORTED.withRole(PlateRole.ORIGINAL));
    assertThat(r.holds()).isFalse();
    assertThat(r.sentence()).contains("plateFit").contains("they are original, not undistorted");
    // The recipient's camera knows nothing of the lens, so the original behind it is wrong too.
    assertThat(sent(PlateRole.ORIGINAL, ORIGINAL, UNDISTORTED).sentence())
        .contains("they are original, not undistorted");
  }
}
