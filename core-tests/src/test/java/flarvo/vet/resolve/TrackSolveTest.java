package flarvo.vet.resolve;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.SimilarityFit;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.InterpolatedFrames;
import flarvo.vet.MadeShots;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.Set;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

@Tag("numeric")
class TrackSolveTest {
  /** {@code -Dflarvo.solves=true} solves all 50 shots and 20 tripods, and not one in three. */
  private static final int STEP = Boolean.getBoolean("flarvo.solves") ? 1 : 3;

  private static final MadeShots.Move[] FREE = {
    MadeShots.Move.WALK,
    MadeShots.Move.TRUCK,
    MadeShots.Move.DOLLY,
    MadeShots.Move.CRANE,
    MadeShots.Move.ARC
  };

  private static TrackSolve.Outcome solve(Shot s, boolean focalKnown) {
    OptionalDouble focal =
        focalKnown
            ? OptionalDouble.of(s.cameras().get(0).optics().at(1001).focalLengthMm())
            : OptionalDouble.empty();
    return solve(s, FocalLength.of(focal), 0);
  }

  /** A strong barrel, whose inverse is a polynomial of the radius, needs the third term. */
  @Test
  void aThirdLensTermIsFoundWhereItPays() {
    Shot truth = MadeShots.made(MadeShots.Move.ARC, 1, 0.05, 0, 24, 100, 5).truth();
    double mm = truth.cameras().get(0).optics().at(1001).focalLengthMm();
    Shot bent = truth.withObservations(barrelled(truth));
    TrackSolve.Outcome o = solve(bent, FocalLength.UNKNOWN, 3);
    assertThat(o.cleaned().solve().rest().k3()).isNotZero();
    double found = o.shot().cameras().get(0).optics().at(1001).focalLengthMm();
    assertThat(found / mm).as("two terms are 0.0009 off").isCloseTo(1, within(0.0002));

    TrackSolve.Outcome none = solve(truth, FocalLength.of(OptionalDouble.of(mm)), 3);
    assertThat(none.cleaned().solve().rest().k3()).as("no lens at all").isZero();
  }

  private static TrackSolve.Outcome solve(Shot s, FocalLength focal, int lensTerms) {
    return TrackSolve.of(
        s.name(),
        s.observations(),
        s.picture(),
        Rate.FPS_24,
        new TrackSolve.Options(24, 13.5, focal, lensTerms, 0.5, 8),
        Progress.NONE);
  }

  /** Where an original picture has what an undistorted one has: r (1 + 0.12 r² + 0.02 r⁴) there. */
  private static Observations barrelled(Shot s) {
    double half = s.picture().width() / 2.0;
    double middle = s.picture().height() / 2.0;
    Observations.Builder out = new Observations.Builder();
    Observations o = s.observations();
    for (String n : o.names()) {
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        double x = (o.x(row) - half) / half;
        double y = (o.y(row) - middle) / half;
        double to = Math.hypot(x, y);
        double r = to;
        for (int i = 0; i < 12; i++) {
          double rr = r * r;
          r -= (r * (1 + rr * (0.12 + rr * 0.02)) - to) / (1 + rr * (3 * 0.12 + rr * 5 * 0.02));
        }
        double k = to > 0 ? r / to : 1;
        out.add(n, o.frame(row), half + half * x * k, middle + half * y * k);
      }
    }
    return out.build();
  }

  /** Free moves of five kinds, three sizes, noise of 0.2 to 0.5 px, half without a focal length. */
  @Test
  void fiftyShotsFromTheirTracksAlone() {
    List<String> failed = new ArrayList<>();
    int strays = 0;
    int found = 0;
    int good = 0;
    int lost = 0;
    for (int i = 0; i < 50; i += STEP) {
      MadeShots.Move move = FREE[i % FREE.length];
      double amount = new double[] {1, 0.35, 1.8}[i / 5 % 3];
      double noise = 0.2 + 0.3 * (i % 7) / 6.0;
      MadeShots.Made m = MadeShots.made(move, amount, noise, 0.05, 48, 90, 300 + i);
      String what =
          String.format(Locale.ROOT, "%s ×%.2f, noise %.2f px, %d", move, amount, noise, i);
      try {
        TrackSolve.Outcome o = solve(m.truth(), i % 2 == 0);
        if (o.cleaned().afterPx() > 0.5 || o.kind().tripod()) {
          failed.add(what + ": " + o.cleaned().afterPx() + " px, " + o.kind());
        }
        Set<String> gone = o.cleaned().culled();
        assertThat(depth(o.shot())).as(what).isBetween(2.0, 50.0);
        strays += m.strays().size();
        found += (int) m.strays().stream().filter(gone::contains).count();
        good += m.truth().trackerCount() - m.strays().size();
        lost += (int) gone.stream().filter(n -> !m.strays().contains(n)).count();
      } catch (InputError e) {
        failed.add(what + ": " + e.getMessage());
      }
    }
    System.out.printf(
        Locale.ROOT,
        "%d shots from tracks alone: %d failed %s; %d of %d strays found, %d of %d good lost%n",
        (49 + STEP) / STEP,
        failed.size(),
        failed,
        found,
        strays,
        lost,
        good);
    assertThat(failed).hasSizeLessThanOrEqualTo(STEP == 1 ? 2 : 0);
    assertThat(found).isGreaterThanOrEqualTo((int) Math.ceil(0.95 * strays));
    assertThat(lost).isLessThanOrEqualTo((int) (0.02 * good));
  }

  /** Median distance of trackers from the middle camera. */
  private static double depth(Shot s) {
    Vec3 eye = s.cameras().get(0).poses().at(1024).position();
    TrackerSet t = s.trackers().get(0);
    return java.util.stream.IntStream.range(0, t.size())
        .mapToDouble(i -> t.position(i).minus(eye).length())
        .sorted()
        .skip(t.size() / 2)
        .findFirst()
        .orElseThrow();
  }

  @Test
  void tripodsAreKnownAndGetNoFalseDepths() {
    for (int i = 0; i < 20; i += STEP) {
      MadeShots.Made m =
          MadeShots.made(MadeShots.Move.TRIPOD, 1 + i % 3, 0.2 + 0.015 * i, 0.05, 60, 70, 700 + i);
      TrackSolve.Outcome o = solve(m.truth(), i % 2 == 0);
      assertThat(o.kind().tripod()).as("%s: %s", i, o.kind()).isTrue();
      assertThat(o.cleaned().afterPx()).isLessThan(0.5);
      Vec3 eye = o.shot().cameras().get(0).poses().at(1001).position();
      for (int f = 1001; f <= 1060; f++) {
        assertThat(o.shot().cameras().get(0).poses().at(f).position().minus(eye).length())
            .isLessThan(1e-9);
      }
      // All equally far: nobody claims to know better.
      TrackerSet t = o.shot().trackers().get(0);
      double far = t.position(0).minus(eye).length();
      for (int k = 1; k < t.size(); k++) {
        assertThat(t.position(k).minus(eye).length()).isCloseTo(far, within(1e-6 * far));
      }
    }
  }

  /** A lens bends what only turns, and a free move could take some of that up. */
  @Test
  void aTripodIsKnownBehindALensThatNobodyKnows() {
    assertThat(behindALens(MadeShots.Move.TRIPOD, 0.02)).isTrue();
    assertThat(behindALens(MadeShots.Move.TRIPOD, -0.05)).isTrue();
    assertThat(behindALens(MadeShots.Move.WALK, 0.08)).isFalse();
  }

  /** Whether it is taken for a tripod. */
  private static boolean behindALens(MadeShots.Move move, double k) {
    Shot s = MadeShots.made(move, 1, 0.1, 0.03, 60, 90, 811).truth();
    TrackSolve.Outcome o =
        TrackSolve.of(
            s.name(),
            bent(s, k),
            s.picture(),
            Rate.FPS_24,
            new TrackSolve.Options(24, 13.5, FocalLength.UNKNOWN, 2, 0.5, 8),
            Progress.NONE);
    assertThat(o.cleaned().afterPx()).isLessThan(0.15);
    return o.kind().tripod();
  }

  /** Tracks as a lens with one radial term shows them, which is taken for small. */
  private static Observations bent(Shot s, double k) {
    double w = s.picture().width() / 2.0;
    double h = s.picture().height() / 2.0;
    Observations o = s.observations();
    Observations.Builder b = new Observations.Builder();
    for (String n : o.names()) {
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        double x = (o.x(row) - w) / w;
        double y = (o.y(row) - h) / w;
        double f = 1 / (1 + k * (x * x + y * y));
        b.add(n, o.frame(row), w + f * x * w, h + f * y * w);
      }
    }
    return b.build();
  }

  private static final MadeShots.Move[] ZOOMED = {
    MadeShots.Move.WALK,
    MadeShots.Move.TRUCK,
    MadeShots.Move.CRANE,
    MadeShots.Move.ARC,
    MadeShots.Move.TRIPOD
  };

  /** In and out, free and on a tripod; nothing is known of the focal length. */
  @Test
  void aZoomIsFoundFrameByFrame() {
    List<String> failed = new ArrayList<>();
    double worst = 0;
    int shots = 0;
    for (int i = 0; i < 30; i += STEP == 1 ? 1 : 12) {
      MadeShots.Move move = ZOOMED[i % ZOOMED.length];
      double zoom = new double[] {1.6, 0.6, 2.5, 1}[i / 2 % 4];
      MadeShots.Made m = MadeShots.zoomed(move, 1.2, zoom, 0.2 + 0.01 * i, 0.05, 48, 120, 900 + i);
      String what = String.format(Locale.ROOT, "%s zoomed ×%.1f, %d", move, zoom, i);
      shots++;
      try {
        Shot s = m.truth();
        TrackSolve.Outcome o =
            TrackSolve.of(
                s.name(),
                s.observations(),
                s.picture(),
                Rate.FPS_24,
                new TrackSolve.Options(24, 13.5, FocalLength.ZOOM, 0, 0.5, 8),
                Progress.NONE);
        double off = 0;
        for (int f = 1001; f <= 1048; f++) {
          double is = o.shot().cameras().get(0).optics().at(f).focalLengthMm();
          double was = s.cameras().get(0).optics().at(f).focalLengthMm();
          off = Math.max(off, Math.abs(is / was - 1));
        }
        worst = Math.max(worst, off);
        boolean tripod = move == MadeShots.Move.TRIPOD;
        if (o.cleaned().afterPx() > 0.55 || o.kind().tripod() != tripod || off > 0.05) {
          failed.add(
              String.format(
                  Locale.ROOT,
                  "%s: %.2f px, %s, focal length off by %.3f",
                  what,
                  o.cleaned().afterPx(),
                  o.kind().word(),
                  off));
        }
        assertThat(o.how()).contains("found for each frame");
      } catch (InputError e) {
        failed.add(what + ": " + e.getMessage());
      }
    }
    System.out.printf(
        Locale.ROOT,
        "%d zooms from tracks alone: %d failed %s; focal length off by %.2f %% at most%n",
        shots,
        failed.size(),
        failed,
        100 * worst);
    assertThat(failed).hasSizeLessThanOrEqualTo(STEP == 1 ? 1 : 0);
  }

  @Test
  void aZoomIsNeitherGivenNorBent() {
    assertThatThrownBy(() -> new TrackSolve.Options(24, 13.5, FocalLength.ZOOM, 1, 0.5, 8))
        .hasMessageContaining("undistorted");
    assertThatThrownBy(() -> new FocalLength(OptionalDouble.of(30), true))
        .hasMessageContaining("zoom");
    assertThatThrownBy(() -> FocalLength.given(0)).hasMessageContaining("over 0");
  }

  @Test
  void everyTrackerOnOnePlaneIsSolvedOrExplained() {
    Shot s = MadeShots.made(MadeShots.Move.WALK, 1, 0.2, 0, 60, 60, 41).truth();
    Shot flat = reseen(s, p -> new Vec3(p.x(), p.y(), -6));
    try {
      TrackSolve.Outcome o = solve(flat, true);
      assertThat(o.cleaned().afterPx()).isLessThan(0.5);
    } catch (InputError e) {
      assertThat(e.getMessage()).contains("could not be solved");
    }
  }

  @Test
  void whatCannotBeSolvedSaysWhy() {
    Shot s = MadeShots.made(MadeShots.Move.WALK, 1, 0.2, 0, 40, 40, 43).truth();
    refused(Observations.NONE, "no 2D tracks");
    refused(only(s, (n, f) -> n < 4), "4 trackers");
    refused(only(s, (n, f) -> f == 1010), "one frame");
    refused(still(s), "nothing moves");
    Observations.Builder same = new Observations.Builder();
    for (int n = 0; n < 12; n++) {
      for (int f = 1001; f <= 1020; f++) {
        same.add("p" + n, f, 100 + 3.0 * f % 7 + f, 200);
      }
    }
    refused(same.build(), "");
  }

  /**
   * As behind a whip: on ten frames nothing is seen, and a few trackers go across. The camera
   * before and after is as good as without a gap, and in the gap it is said to be a guess.
   */
  @Test
  void framesWithoutTrackersAreInterpolatedAndNamed() {
    Shot s = MadeShots.made(MadeShots.Move.WALK, 1, 0.2, 0, 60, 90, 47).truth();
    // Three trackers on the last frame of the gap allow more than one place.
    Kept gap = (n, f) -> f < 1025 ? n < 50 : f == 1034 ? n < 3 : f > 1034 && (n < 14 || n >= 50);
    for (boolean known : new boolean[] {true, false}) {
      TrackSolve.Outcome o = solve(s.withObservations(only(s, gap)), known);
      assertThat(InterpolatedFrames.sentence(o.interpolated())).endsWith("seen: frames 1025–1034.");
      assertThat(o.cleaned().afterPx()).isLessThan(0.5);
      PoseTrack solved = o.shot().cameras().get(0).poses();
      PoseTrack truth = s.cameras().get(0).poses();
      List<Vec3> from = new ArrayList<>();
      List<Vec3> to = new ArrayList<>();
      for (int f = 1001; f <= 1060; f++) {
        if (f < 1025 || f > 1034) {
          from.add(solved.at(f).position());
          to.add(truth.at(f).position());
        }
      }
      Similarity fit = SimilarityFit.robust(from, to);
      double length = to.get(0).minus(to.get(to.size() - 1)).length();
      for (int k = 0; k < from.size(); k++) {
        assertThat(fit.apply(from.get(k)).minus(to.get(k)).length()).isLessThan(0.02 * length);
      }
      for (int f = 1025; f <= 1034; f++) {
        double off = fit.apply(solved.at(f).position()).minus(truth.at(f).position()).length();
        assertThat(off).isLessThan(0.1 * length);
      }
    }
  }

  /** The same for a tripod: it turns on evenly from where it was before the gap. */
  @Test
  void aTripodTurnsOnWhereNothingIsSeen() {
    Shot s = MadeShots.made(MadeShots.Move.TRIPOD, 1, 0.2, 0, 60, 90, 47).truth();
    Kept gap = (n, f) -> f < 1025 || f > 1034;
    TrackSolve.Outcome o = solve(s.withObservations(only(s, gap)), true);
    assertThat(o.kind().tripod()).isTrue();
    assertThat(InterpolatedFrames.sentence(o.interpolated())).endsWith("seen: frames 1025–1034.");
    PoseTrack solved = o.shot().cameras().get(0).poses();
    Rotation before = solved.at(1024).rotation();
    Rotation after = solved.at(1035).rotation();
    assertThat(before.angleTo(after)).isGreaterThan(0.01);
    for (int f = 1025; f <= 1034; f++) {
      Rotation even = before.slerp(after, (f - 1024) / 11.0);
      assertThat(solved.at(f).rotation().angleTo(even)).isLessThan(1e-5);
    }
  }

  /** Where a zoom on a tripod sees nothing, its focal length goes on evenly too. */
  @Test
  void aTripodZoomsOnWhereNothingIsSeen() {
    Shot s = MadeShots.zoomed(MadeShots.Move.TRIPOD, 1.2, 1.6, 0.2, 0, 48, 120, 912).truth();
    Kept gap = (n, f) -> f < 1020 || f > 1026;
    TrackSolve.Outcome o =
        TrackSolve.of(
            s.name(),
            only(s, gap),
            s.picture(),
            Rate.FPS_24,
            new TrackSolve.Options(24, 13.5, FocalLength.ZOOM, 0, 0.5, 8),
            Progress.NONE);
    assertThat(o.kind().tripod()).isTrue();
    assertThat(InterpolatedFrames.sentence(o.interpolated())).endsWith("seen: frames 1020–1026.");
    for (int f = 1001; f <= 1048; f++) {
      double is = o.shot().cameras().get(0).optics().at(f).focalLengthMm();
      double was = s.cameras().get(0).optics().at(f).focalLengthMm();
      assertThat(is / was).as("frame %d", f).isCloseTo(1, within(0.02));
    }
  }

  /** Two halves that nothing joins are no solve, however well each is. */
  @Test
  void halvesThatShareNoTrackersAreRefused() {
    Shot s = MadeShots.made(MadeShots.Move.WALK, 1, 0.2, 0, 60, 90, 47).truth();
    Kept apart = (n, f) -> f < 1025 ? n < 45 : f > 1034 && n >= 45;
    assertThatThrownBy(() -> solve(s.withObservations(only(s, apart)), true))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("held by too few trackers");
  }

  /** Either an explanation or a solve with finite numbers: never NaN. */
  private static void refused(Observations o, String why) {
    try {
      TrackSolve.Outcome out =
          TrackSolve.of(
              "s",
              o,
              flarvo.scene.PictureSize.of(1920, 1080),
              Rate.FPS_24,
              new TrackSolve.Options(24, 13.5, FocalLength.given(30), 0, 0.5, 8),
              Progress.NONE);
      assertThat(why).as("was solved: %s", out.how()).isEmpty();
      assertThat(out.cleaned().afterPx()).isFinite();
    } catch (InputError e) {
      assertThat(e.getMessage()).contains(why);
    }
  }

  private interface Kept {
    boolean test(int tracker, int frame);
  }

  private static Observations only(Shot s, Kept kept) {
    Observations o = s.observations();
    Observations.Builder b = new Observations.Builder();
    for (int n = 0; n < o.names().size(); n++) {
      String name = o.names().get(n);
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        if (kept.test(n, o.frame(row))) {
          b.add(name, o.frame(row), o.x(row), o.y(row));
        }
      }
    }
    return b.build();
  }

  private static Observations still(Shot s) {
    Observations o = s.observations();
    Observations.Builder b = new Observations.Builder();
    for (String name : o.names()) {
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        b.add(name, o.frame(row), o.x(o.firstRow(name)), o.y(o.firstRow(name)));
      }
    }
    return b.build();
  }

  /** The shot with its points elsewhere, seen anew without noise. */
  private static Shot reseen(Shot s, java.util.function.UnaryOperator<Vec3> change) {
    TrackerSet moved = s.trackers().get(0).map(change);
    Observations o = s.observations();
    Observations.Builder b = new Observations.Builder();
    Pinhole h = new Pinhole(s.cameras().get(0), s.picture());
    double[] px = new double[3];
    for (int i = 0; i < moved.size(); i++) {
      String name = moved.names().get(i);
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        h.at(o.frame(row)).project(moved.x(i), moved.y(i), moved.z(i), px);
        if (px[2] > 0.3) {
          b.add(name, o.frame(row), px[0], px[1]);
        }
      }
    }
    return s.withTrackers(List.of(moved)).withObservations(b.build());
  }
}
