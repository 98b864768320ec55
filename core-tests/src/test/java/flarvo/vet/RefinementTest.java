package flarvo.vet;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.SimilarityFit;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

@Tag("numeric")
class RefinementTest {

  private static final MadeShots.Made WALK =
      MadeShots.made(MadeShots.Move.WALK, 1, 0.3, 0, 60, 80, 5);

  private static double rms(Shot s) {
    return Reprojection.of(s).orElseThrow().rmsPx();
  }

  @Test
  void aShakenSolveComesBackToTheNoiseAndToTheTruth() {
    Shot start = MadeShots.shaken(WALK.truth(), 0.01, 0.002, 1);
    assertThat(rms(start)).isGreaterThan(3);
    Refinement.Outcome o = Refinement.of(start, Set.of(), AdjustOptions.USUAL, Progress.NONE);
    Shot now = o.solve().applied(start);
    assertThat(o.afterPx()).isEqualTo(rms(now)).isCloseTo(0.28, within(0.03));
    assertThat(offPath(now, WALK.truth())).isLessThan(0.005); // of a path two metres long
  }

  @Test
  void refiningDoesNotMoveTheLevel() {
    Shot start = MadeShots.shaken(WALK.truth(), 0.004, 0.001, 2);
    Shot now =
        Refinement.of(start, Set.of(), AdjustOptions.USUAL, Progress.NONE).solve().applied(start);
    List<Vec3> from = new ArrayList<>();
    List<Vec3> to = new ArrayList<>();
    TrackerSet a = start.trackers().get(0);
    TrackerSet b = now.trackers().get(0);
    for (int i = 0; i < a.size(); i++) {
      from.add(a.position(i));
      to.add(b.position(i));
    }
    Similarity moved = SimilarityFit.robust(from, to);
    assertThat(moved.scale()).isCloseTo(1, within(0.003));
    assertThat(moved.rotation().angleTo(flarvo.scene.Rotation.IDENTITY)).isLessThan(0.002);
    assertThat(moved.translation().length()).isLessThan(0.01);
  }

  @Test
  void aSolveThatFitsAlreadyStaysWhereItIs() {
    Shot once =
        Refinement.of(WALK.truth(), Set.of(), AdjustOptions.USUAL, Progress.NONE)
            .solve()
            .applied(WALK.truth());
    Shot twice =
        Refinement.of(once, Set.of(), AdjustOptions.USUAL, Progress.NONE).solve().applied(once);
    for (int f = 1001; f <= 1060; f++) {
      assertThat(
              twice
                  .cameras()
                  .get(0)
                  .poses()
                  .at(f)
                  .position()
                  .minus(once.cameras().get(0).poses().at(f).position())
                  .length())
          .isLessThan(1e-4);
    }
    assertThat(rms(twice)).isLessThanOrEqualTo(rms(once) * (1 + 1e-6));
  }

  @Test
  void weightlessTrackersDoNotPullButStandWhereTheyAreSeen() {
    Observations o = WALK.truth().observations();
    Observations.Builder bent = new Observations.Builder();
    for (String n : o.names()) {
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        bent.add(n, o.frame(row), o.x(row) + (n.equals("p003") ? 60 : 0), o.y(row));
      }
    }
    Shot s = WALK.truth().withObservations(bent.build());
    Refinement.Outcome free = Refinement.of(s, Set.of(), AdjustOptions.USUAL, Progress.NONE);
    Refinement.Outcome held = Refinement.of(s, Set.of("p003"), AdjustOptions.USUAL, Progress.NONE);
    assertThat(held.afterPx()).isLessThan(0.31).isLessThan(free.afterPx());
    Shot now = held.solve().applied(s);
    // Its own 60 px shift is a place of its own: triangulated anew, it fits.
    assertThat(Reprojection.of(now).orElseThrow().trackerRmsPx("p003")).isLessThan(6);
  }

  @Test
  void lensTermsStraightenTheTracks() {
    ResidualDistortion bent = new ResidualDistortion(-0.2, 0, 0);
    Shot truth = WALK.truth();
    ShotCamera c = truth.cameras().get(0);
    // straightened by the opposite bends the tracks, nearly
    Observations o =
        new ResidualDistortion(0.2, 0, 0).straightened(truth.observations(), c, truth.picture());
    Shot s = truth.withObservations(o);
    Refinement.Outcome plain = Refinement.of(s, Set.of(), AdjustOptions.USUAL, Progress.NONE);
    Refinement.Outcome lens =
        Refinement.of(s, Set.of(), AdjustOptions.USUAL.withLensTerms(2), Progress.NONE);
    assertThat(lens.afterPx()).isLessThan(0.31).isLessThan(0.9 * plain.afterPx());
    assertThat(lens.solve().rest().k1()).isCloseTo(bent.k1(), within(0.04));

    // A fit that goes on from the lens that was found starts with the error that was reached.
    Shot now = lens.solve().applied(s).withObservations(o);
    AdjustOptions unmoved = AdjustOptions.USUAL.withLensTerms(2).withRounds(0);
    Refinement.Outcome anew = Refinement.of(now, Set.of(), unmoved, Progress.NONE);
    Refinement.Outcome warm =
        Refinement.from(lens.solve().rest(), now, Set.of(), unmoved, Progress.NONE);
    assertThat(warm.afterPx()).isCloseTo(lens.afterPx(), within(1e-3));
    assertThat(anew.afterPx()).isGreaterThan(2 * warm.afterPx());
  }

  @Test
  void aWrongFocalLengthIsFoundAndAHeldOneKeepsItsDigits() {
    Shot truth = WALK.truth();
    ShotCamera c = truth.cameras().get(0);
    double mm = c.optics().at(1001).focalLengthMm();
    Shot wrong =
        truth.withCameras(
            List.of(
                c.withOptics(
                    OpticsTrack.constant(c.frames(), Optics.centred(mm * 1.06, 24, 13.5)))));
    Refinement.Outcome o =
        Refinement.of(
            wrong,
            Set.of(),
            AdjustOptions.USUAL.withFocal(AdjustOptions.Focal.CONSTANT).withRounds(200),
            Progress.NONE);
    assertThat(o.solve().camera().optics().at(1001).focalLengthMm())
        .isCloseTo(mm, within(0.01 * mm));
    assertThat(
            Refinement.of(wrong, Set.of(), AdjustOptions.USUAL, Progress.NONE)
                .solve()
                .camera()
                .optics())
        .isEqualTo(wrong.cameras().get(0).optics());
  }

  @Test
  void tooLittleIsExplained() {
    Shot few =
        WALK.truth()
            .withTrackers(
                List.of(
                    WALK.truth()
                        .trackers()
                        .get(0)
                        .without(
                            Set.copyOf(WALK.truth().trackers().get(0).names().subList(4, 80)))));
    assertThatThrownBy(() -> Refinement.of(few, Set.of(), AdjustOptions.USUAL, Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("4 trackers");
    assertThatThrownBy(
            () ->
                Refinement.of(
                    WALK.truth().withObservations(Observations.NONE),
                    Set.of(),
                    AdjustOptions.USUAL,
                    Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("nothing to refine with");
  }

  @Test
  void degeneratePointsGiveNumbersAndNoNaN() {
    Shot truth = WALK.truth();
    TrackerSet t = truth.trackers().get(0);
    for (TrackerSet odd :
        List.of(
            t.map(p -> new Vec3(p.x(), p.y(), -6)), // one plane
            t.map(p -> new Vec3(0, 1.6, -6)), // one place
            t.map(p -> new Vec3(p.x(), 1.6, -6)))) { // one line
      Shot s = truth.withTrackers(List.of(odd));
      Refinement.Outcome o =
          Refinement.of(s, Set.of(), AdjustOptions.USUAL.withRounds(10), Progress.NONE);
      assertThat(o.afterPx()).isFinite().isLessThanOrEqualTo(o.beforePx() * (1 + 1e-9));
    }
  }

  @Test
  void strayTrackersAreFoundAndTheRestRefined() {
    int found = 0;
    int strays = 0;
    int lost = 0;
    int good = 0;
    for (int seed = 0; seed < 6; seed++) {
      MadeShots.Made m = MadeShots.made(MadeShots.Move.ARC, 1, 0.3, 0.1, 60, 90, 900 + seed);
      Shot start = MadeShots.shaken(m.truth(), 0.003, 0.001, seed);
      CullAndRefine.Outcome o =
          CullAndRefine.of(start, Set.of(), 0.35, 8, AdjustOptions.USUAL, Progress.NONE);
      assertThat(o.reached()).as(o.sentence()).isTrue();
      assertThat(o.afterPx()).isLessThanOrEqualTo(0.35);
      assertThat(o.rounds()).isNotEmpty();
      strays += m.strays().size();
      good += m.truth().trackerCount() - m.strays().size();
      found += (int) m.strays().stream().filter(o.culled()::contains).count();
      lost += (int) o.culled().stream().filter(n -> !m.strays().contains(n)).count();
    }
    assertThat(found).isGreaterThanOrEqualTo((int) Math.ceil(0.95 * strays));
    assertThat(lost).isLessThanOrEqualTo((int) (0.02 * good));
  }

  /** Four trackers in ten slip steadily, by less than what would be culled. */
  @Test
  void weightedByTheirErrorsTheTrackersThatSlipPullLess() {
    double plain = 0;
    double weighted = 0;
    for (int seed = 0; seed < 6; seed++) {
      Shot truth = MadeShots.made(MadeShots.Move.WALK, 1, 0.05, 0, 60, 80, 40 + seed).truth();
      Shot s = truth.withObservations(slipping(truth.observations(), 0.4, 0.5, seed));
      Refinement.Outcome a = Refinement.of(s, Set.of(), AdjustOptions.USUAL, Progress.NONE);
      Refinement.Outcome b =
          Refinement.weighted(
              ResidualDistortion.NONE, s, Set.of(), AdjustOptions.USUAL, Progress.NONE);
      // Squares alone reach the least error, and that is not the truth.
      assertThat(b.afterPx()).isBetween(a.afterPx(), 1.2 * a.afterPx());
      assertThat(b.solve().how()).contains("each weighted by its error");
      plain += offPath(a.solve().applied(s), truth);
      weighted += offPath(b.solve().applied(s), truth);
    }
    assertThat(weighted).isLessThan(0.6 * plain);
  }

  /** Some trackers wander off in a direction of their own, up to so many pixels from the middle. */
  private static Observations slipping(Observations o, double share, double px, long seed) {
    Random r = new Random(seed);
    Observations.Builder b = new Observations.Builder();
    for (String n : o.names()) {
      boolean slips = r.nextDouble() < share;
      double angle = 2 * Math.PI * r.nextDouble();
      int first = o.firstRow(n);
      int end = o.endRow(n);
      for (int row = first; row < end; row++) {
        double t = slips ? px * (2.0 * (row - first) / Math.max(1, end - first - 1) - 1) : 0;
        b.add(n, o.frame(row), o.x(row) + t * Math.cos(angle), o.y(row) + t * Math.sin(angle));
      }
    }
    return b.build();
  }

  /** Largest distance from the true path, laid on it, in metres. */
  private static double offPath(Shot now, Shot truth) {
    List<Vec3> made = new ArrayList<>();
    List<Vec3> want = new ArrayList<>();
    for (int f = 1001; f <= 1060; f++) {
      made.add(now.cameras().get(0).poses().at(f).position());
      want.add(truth.cameras().get(0).poses().at(f).position());
    }
    Similarity lay = SimilarityFit.of(made, want, null);
    return IntStream.range(0, made.size())
        .mapToDouble(i -> lay.apply(made.get(i)).minus(want.get(i)).length())
        .max()
        .orElseThrow();
  }

  @Test
  void aTargetThatNoiseForbidsIsSaidAndGoodTrackersStay() {
    CullAndRefine.Outcome o =
        CullAndRefine.of(WALK.truth(), Set.of(), 0.05, 8, AdjustOptions.USUAL, Progress.NONE);
    assertThat(o.reached()).isFalse();
    assertThat(o.sentence()).contains("not reached");
    assertThat(o.culled().size()).isLessThanOrEqualTo(2);
  }
}
