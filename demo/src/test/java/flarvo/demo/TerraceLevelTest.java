package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialects;
import flarvo.convention.SignedAxis;
import flarvo.decision.ShotState;
import flarvo.level.FirstGuess;
import flarvo.level.LevelReading;
import flarvo.level.LevelScene;
import flarvo.level.Levelling;
import flarvo.level.Stated;
import flarvo.level.Statement;
import flarvo.plate.PlateImage;
import flarvo.plate.PlateReader;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.scene.Luma;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import flarvo.stage.Gauge;
import flarvo.stage.SolveOnSolve;
import flarvo.stage.Staging;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The terrace is levelled from nothing, and the truth tells how well. */
class TerraceLevelTest {

  private static final Path MERIDIAN = Path.of("meridian");
  private static ShotState came;
  private static WorldShot truth;

  @BeforeAll
  static void open() {
    ProjectFile p = ProjectFile.read(MERIDIAN.resolve("project.json"));
    came = new ProjectLoader(p, Dialects.shipped()).load(p.shots().get(0), Progress.NONE);
    truth = came.shot().levelled();
  }

  /** Corner of the flagstones that a tracker sits on, in stones from the sundial. */
  private static Optional<int[]> corner(Vec3 v) {
    double i = Math.rint(v.x() / TerraceTruth.FLAGSTONE_METRES);
    double k = Math.rint(v.z() / TerraceTruth.FLAGSTONE_METRES);
    boolean near =
        Math.abs(v.y()) < 0.004
            && Math.abs(v.x() - i * TerraceTruth.FLAGSTONE_METRES) < 0.006
            && Math.abs(v.z() - k * TerraceTruth.FLAGSTONE_METRES) < 0.006;
    return near ? Optional.of(new int[] {(int) i, (int) k}) : Optional.empty();
  }

  @Test
  void flagstonesReadTheirSizeAfterThreeStatements() {
    TrackerSet t = truth.trackers().get(0);
    List<String> names = new ArrayList<>();
    List<int[]> at = new ArrayList<>();
    for (int i = 0; i < t.size(); i++) {
      Optional<int[]> c = corner(t.position(i));
      if (c.isPresent()) {
        names.add(t.names().get(i));
        at.add(c.get());
      }
    }
    assertThat(names).hasSizeGreaterThan(30);
    // The longest row of stones that a tape could be laid along.
    int a = 0;
    int b = 0;
    for (int i = 0; i < at.size(); i++) {
      for (int k = 0; k < at.size(); k++) {
        boolean row = at.get(i)[1] == at.get(k)[1];
        if (row && at.get(k)[0] - at.get(i)[0] > at.get(b)[0] - at.get(a)[0]) {
          a = i;
          b = k;
        }
      }
    }
    int stones = at.get(b)[0] - at.get(a)[0];
    LevelReading is =
        Levelling.of(
            new LevelScene(came.shot()),
            List.of(
                new Stated(new Statement.OnGround(new LinkedHashSet<>(names), 0)),
                new Stated(new Statement.Along(names.get(a), names.get(b), SignedAxis.POSITIVE_X)),
                new Stated(
                    new Statement.Distance(
                        names.get(a), names.get(b), stones * TerraceTruth.FLAGSTONE_METRES))),
            Similarity.IDENTITY);
    assertThat(is.lines()).allMatch(l -> l.problem().isEmpty());
    assertThat(is.free()).containsExactly("position along X", "position along Z");
    WorldShot level = came.shot().withLevel(is.level()).levelled();
    double worst = 0;
    int pairs = 0;
    for (int i = 0; i < at.size(); i++) {
      for (int k = i + 1; k < at.size(); k++) {
        int d = Math.abs(at.get(i)[0] - at.get(k)[0]) + Math.abs(at.get(i)[1] - at.get(k)[1]);
        if (d == 1) {
          Vec3 p = place(level, names.get(i));
          Vec3 q = place(level, names.get(k));
          worst = Math.max(worst, Math.abs(p.minus(q).length() - TerraceTruth.FLAGSTONE_METRES));
          pairs++;
        }
      }
    }
    System.out.printf(
        Locale.ROOT,
        "terrace: %d flagstones read 0.600 m within %.4f m; up to %.3f°, size to %.2f %%%n",
        pairs,
        worst,
        Math.toDegrees(is.upError()),
        100 * is.scaleError());
    assertThat(pairs).isGreaterThan(20);
    assertThat(worst).isLessThanOrEqualTo(0.003);
  }

  private static Vec3 place(WorldShot s, String name) {
    return place(s.contents(), name);
  }

  private static Vec3 place(Shot s, String name) {
    TrackerSet t = s.trackers().get(0);
    return t.position(t.names().indexOf(name));
  }

  @Test
  void theFirstGuessFindsUpGroundAndTheFlagstones() {
    PlateSequence plates = came.shot().plate(PlateRole.UNDISTORTED).orElseThrow();
    FirstGuess g =
        FirstGuess.of(
            new LevelScene(came.shot()),
            Similarity.IDENTITY,
            f -> Optional.of(luma(PlateReader.read(plates, f))),
            Progress.NONE);
    Similarity known = came.shot().level();
    Vec3 up = g.level().rotation().after(known.rotation().inverse()).apply(new Vec3(0, 1, 0));
    double lean = Math.toDegrees(Math.atan2(Math.hypot(up.x(), up.z()), up.y()));
    Vec3 eye = came.shot().cameras().get(0).poses().at(1048).position();
    double height = g.level().apply(eye).y() * known.scale();
    double off = height / known.apply(eye).y() - 1;
    Vec3 x = g.level().rotation().after(known.rotation().inverse()).apply(new Vec3(1, 0, 0));
    double turn = Math.toDegrees(Math.atan2(x.z(), x.x()));
    double away = Math.abs(turn - 90 * Math.rint(turn / 90));
    System.out.printf(
        Locale.ROOT,
        "terrace, first guess: up off by %.3f°, height by %.2f %%, turn by %.2f°%n",
        lean,
        100 * off,
        away);
    assertThat(lean).isLessThan(1);
    assertThat(Math.abs(off)).isLessThan(0.02);
    assertThat(g.direction().fromPlates()).isTrue();
    assertThat(away).isLessThan(1);
  }

  private static Luma luma(PlateImage image) {
    float[] v = new float[image.argb().length];
    for (int i = 0; i < v.length; i++) {
      v[i] = image.argb()[i] >> 8 & 255;
    }
    return new Luma(image.width(), image.height(), v);
  }

  @Test
  void theSecondSolveStandsWhereTheFirstDid() {
    ReceivedSet set =
        new ShotIntake()
            .add(MERIDIAN.resolve("mer_010_terrace/second"), IntakeOptions.NONE, Progress.NONE)
            .received(IntakeOptions.NONE);
    Shot second = set.shot("mer_010_terrace", came.rulings());
    SolveOnSolve lay = SolveOnSolve.of(came.shot(), second);
    assertThat(lay.by()).isEqualTo(SolveOnSolve.By.NAME);
    List<Gauge> gauges = new ArrayList<>();
    for (int i = 0; i < truth.trackers().get(0).size() && gauges.size() < 12; i++) {
      String n = truth.trackers().get(0).names().get(i);
      if (corner(place(truth, n)).isPresent()) {
        gauges.add(
            new Gauge("g" + i, Gauge.Kind.CRATE, place(came.shot(), n), 0.4, 0, Optional.of(n)));
      }
    }
    // Set by hand now: where it stood counts, not where its tracker is in the second solve.
    List<Gauge> set1 = gauges.stream().map(g -> g.at(g.foot())).toList();
    ShotState staged = came.withStaging(Staging.NONE.withGauges(set1));
    ShotState after = staged.withSolve(set, lay.onto());
    Shot one = staged.shot();
    Shot two = after.shot();
    double sum = 0;
    int n = 0;
    double[] a = new double[3];
    double[] b = new double[3];
    Pinhole p = new Pinhole(one.levelled().cameras().get(0), one.picture());
    Pinhole q = new Pinhole(two.levelled().cameras().get(0), two.picture());
    for (int f = 1001; f <= 1096; f++) {
      p.at(f);
      q.at(f);
      for (int i = 0; i < set1.size(); i++) {
        List<List<Vec3>> was = set1.get(i).solid(one.level()).faces();
        List<List<Vec3>> is = after.staging().gauges().get(i).solid(two.level()).faces();
        for (int k = 0; k < was.get(0).size(); k++) {
          Vec3 v = was.get(0).get(k);
          Vec3 w = is.get(0).get(k);
          p.project(v.x(), v.y(), v.z(), a);
          q.project(w.x(), w.y(), w.z(), b);
          if (a[2] > 0.5 && a[0] > 0 && a[1] > 0 && a[0] < 960 && a[1] < 540) {
            sum += (a[0] - b[0]) * (a[0] - b[0]) + (a[1] - b[1]) * (a[1] - b[1]);
            n++;
          }
        }
      }
    }
    System.out.printf(
        Locale.ROOT,
        "terrace v2 on v1: gauges agree within %.3f px RMS; %s%n",
        Math.sqrt(sum / n),
        lay.words(one.level()));
    assertThat(n).isGreaterThan(500);
    assertThat(Math.sqrt(sum / n)).isLessThanOrEqualTo(0.5);
    assertThat(after.staging().gauges()).hasSameSizeAs(set1);
    assertThat(Set.copyOf(after.vetting().culled())).isEqualTo(came.vetting().culled());
  }
}
