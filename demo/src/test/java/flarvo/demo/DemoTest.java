package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.decision.ShotState;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.plate.PlateImage;
import flarvo.plate.PlateReader;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.proof.Proof;
import flarvo.proof.ProofReport;
import flarvo.receive.IntakeOptions;
import flarvo.receive.Ledger;
import flarvo.receive.LedgerMaker;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.receive.ShotIntake;
import flarvo.scene.Optics;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.SimilarityFit;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import flarvo.vet.CullAndRefine;
import flarvo.vet.Reprojection;
import flarvo.vet.SolveKind;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The committed demo is what its truth says, and the terrace survives every crossing. */
class DemoTest {

  private static final Path MERIDIAN = Path.of("meridian");
  private static final List<ShotTruth> SHOTS =
      List.of(TerraceTruth.SHOT, DomeTruth.SHOT, CartTruth.SHOT, CartsTruth.SHOT);
  private static Shot terrace;

  @TempDir private Path dir;

  @BeforeAll
  static void open() {
    ProjectFile p = ProjectFile.read(MERIDIAN.resolve("project.json"));
    ShotState s = new ProjectLoader(p, Dialects.shipped()).load(p.shots().get(0), Progress.NONE);
    assertThat(s.deliveries()).hasSizeGreaterThanOrEqualTo(2);
    terrace = s.shot();
  }

  @Test
  void theSameSeedGivesTheSameBytes() throws IOException {
    DemoWriter.writeData(dir);
    try (Stream<Path> made = Files.walk(dir)) {
      List<Path> files = made.filter(Files::isRegularFile).toList();
      assertThat(files).hasSizeGreaterThanOrEqualTo(4);
      for (Path f : files) {
        Path committed = MERIDIAN.resolve(dir.relativize(f));
        assertThat(Files.mismatch(f, committed)).as(committed.toString()).isEqualTo(-1);
      }
    }
  }

  @Test
  void thePlatesAreRenderedFromTheTruth() {
    for (ShotTruth shot : SHOTS) {
      for (boolean undistorted : new boolean[] {false, true}) {
        if (undistorted && !shot.lens().bends()) {
          continue;
        }
        int frame = shot.frames().first() + 20;
        Path made = dir.resolve("p.jpg");
        DemoWriter.plate(made, shot, frame, undistorted);
        PlateImage a = PlateReader.read(made);
        PlateImage b =
            PlateReader.read(MERIDIAN.resolve(DemoWriter.plateName(shot, frame, undistorted)));
        // Encoders may differ between Java builds; the pictures may not.
        long sum = 0;
        for (int i = 0; i < a.argb().length; i++) {
          sum += Math.abs((a.argb()[i] >> 8 & 255) - (b.argb()[i] >> 8 & 255));
        }
        assertThat((double) sum / a.argb().length).as(shot.name()).isLessThan(0.5);
      }
    }
  }

  /** What came for each shot contradicts itself; the proposals alone lead back to the truth. */
  @Test
  void everyShotsIncomingFilesAreSettledByTheProposals() {
    for (ShotTruth truth : SHOTS) {
      Path folder = MERIDIAN.resolve(truth.name());
      ReceivedSet set =
          new ShotIntake()
              .add(folder.resolve("incoming"), IntakeOptions.NONE, Progress.NONE)
              .add(folder.resolve("plates"), IntakeOptions.NONE, Progress.NONE)
              .received(IntakeOptions.NONE);
      Ledger l = LedgerMaker.of(set, Rulings.NONE);
      assertThat(l.open()).as(truth.name()).hasSizeGreaterThanOrEqualTo(5);
      Shot shot = set.shot(truth.name(), l.proposals());
      assertThat(shot.rate()).isEqualTo(truth.rate());
      assertThat(shot.frames()).isEqualTo(truth.frames());
      Optics o = shot.camera().orElseThrow().optics().at(truth.frames().first());
      assertThat(o.focalLengthMm() / o.filmWidthMm())
          .isCloseTo(truth.optics().focalLengthMm() / truth.optics().filmWidthMm(), within(1e-4));
      assertThat(o.filmWidthMm()).isCloseTo(ShotTruth.FILM_WIDTH_MM, within(1e-6));
      assertThat(Reprojection.of(shot).orElseThrow().medianPx()).as(truth.name()).isLessThan(0.5);
      assertThat(LedgerMaker.of(set, l.proposals()).open()).as(truth.name()).isEmpty();
    }
  }

  /** The project's stored rulings and levels put each solve where the truth is. */
  @Test
  void everyShotOfTheProjectStandsInItsTruth() {
    ProjectFile p = ProjectFile.read(MERIDIAN.resolve("project.json"));
    assertThat(p.shots()).hasSameSizeAs(SHOTS);
    for (int i = 0; i < SHOTS.size(); i++) {
      ShotTruth truth = SHOTS.get(i);
      ShotState s = new ProjectLoader(p, Dialects.shipped()).load(p.shots().get(i), Progress.NONE);
      WorldShot level = s.shot().levelled();
      ShotCamera solved = truth.solvedCamera();
      for (int f : new int[] {truth.frames().first(), truth.frames().last()}) {
        Pose is = level.camera().orElseThrow().poses().at(f);
        Pose was = solved.poses().at(f);
        assertThat(is.position().minus(was.position()).length()).as(truth.name()).isLessThan(0.003);
        assertThat(is.rotation().angleTo(was.rotation())).as(truth.name()).isLessThan(1e-5);
      }
    }
  }

  @Test
  void theDemoIsSmallEnoughToClone() throws IOException {
    try (Stream<Path> all = Files.walk(MERIDIAN)) {
      long bytes =
          all.filter(f -> Files.isRegularFile(f) && !f.toString().contains("deliveries"))
              .mapToLong(f -> f.toFile().length())
              .sum();
      assertThat(bytes).isLessThan(25_000_000L);
    }
  }

  @Test
  void theLensUndoesItself() {
    for (int x = 0; x <= 960; x += 60) {
      for (int y = 0; y <= 540; y += 60) {
        double[] original = TerraceTruth.LENS.distort(x, y, 960, 540);
        double ox = original[0] - 480;
        double oy = original[1] - 270;
        double k = TerraceTruth.LENS.factor((ox * ox + oy * oy) / (480.0 * 480));
        assertThat(480 + ox * k).isCloseTo(x, within(1e-9));
        assertThat(270 + oy * k).isCloseTo(y, within(1e-9));
      }
    }
  }

  /** A dark joint between flagstones must lie where the true camera says, in both plates. */
  @Test
  void thePlatesShowTheFlagstonesWhereTheCameraPutsThem() {
    ShotCamera camera = TerraceTruth.camera();
    double[] px = new double[3];
    int found = 0;
    int looked = 0;
    for (int frame : new int[] {1001, 1048, 1096}) {
      PlateImage undistorted =
          PlateReader.read(
              MERIDIAN.resolve(
                  "mer_010_terrace/plates/undistorted/terrace_undist." + frame + ".jpg"));
      PlateImage original =
          PlateReader.read(
              MERIDIAN.resolve("mer_010_terrace/plates/original/terrace." + frame + ".jpg"));
      Pinhole p = new Pinhole(camera, TerraceTruth.PICTURE).at(frame);
      for (int i = -3; i <= 3; i++) {
        // The middle of a joint's side, in front of the sundial and clear of its shadow.
        Vec3 joint = new Vec3(i * 0.6, 0, i % 2 == 0 ? 0.9 : 0.3);
        p.project(joint.x(), joint.y(), joint.z(), px);
        if (px[0] < 30 || px[0] > 930 || px[1] < 30 || px[1] > 510) {
          continue;
        }
        double[] there = TerraceTruth.LENS.distort(px[0], px[1], 960, 540);
        looked += 2;
        found += darkest(undistorted, px[0], px[1]) <= 1.6 ? 1 : 0;
        found += darkest(original, there[0], there[1]) <= 1.6 ? 1 : 0;
      }
    }
    assertThat(looked).isGreaterThan(8);
    assertThat(found).isGreaterThanOrEqualTo((int) (0.8 * looked));
  }

  /** How far from a place, along its row, the darkest pixel lies. */
  private static double darkest(PlateImage image, double x, double y) {
    int row = (int) y;
    double best = 1e9;
    int at = 0;
    for (int i = (int) x - 7; i <= (int) x + 7; i++) {
      int green = image.argb()[row * image.width() + i] >> 8 & 255;
      if (green < best) {
        best = green;
        at = i;
      }
    }
    return Math.abs(at + 0.5 - x);
  }

  @Test
  void tracksCarryTheStatedNoiseGapsAndADozenStrays() {
    Reprojection r = Reprojection.of(terrace).orElseThrow();
    List<String> names = terrace.trackers().stream().flatMap(t -> t.names().stream()).toList();
    List<String> good = names.subList(0, names.size() - 12);
    double sum = 0;
    for (String n : good) {
      assertThat(r.trackerRmsPx(n)).as(n).isLessThan(1);
      sum += r.trackerRmsPx(n);
    }
    assertThat(sum / good.size()).isBetween(0.25, 0.7);
    assertThat(r.rmsPx()).as("the strays spoil the whole").isGreaterThan(1);
    long over =
        names.subList(good.size(), names.size()).stream()
            .filter(n -> r.trackerRmsPx(n) > 1)
            .count();
    assertThat(over).isGreaterThanOrEqualTo(6);
  }

  @Test
  void theLevelPutsTheSolveWhereTheTruthIs() {
    WorldShot level = terrace.levelled();
    ShotCamera truth = TerraceTruth.camera();
    for (int f : new int[] {1001, 1050, 1096}) {
      assertThat(
              level
                  .cameras()
                  .get(0)
                  .poses()
                  .at(f)
                  .position()
                  .minus(truth.poses().at(f).position())
                  .length())
          .isLessThan(0.003);
    }
    TrackerSet t = level.trackers().get(0);
    long onGround = 0;
    for (int i = 0; i < t.size(); i++) {
      onGround += Math.abs(t.y(i)) < 0.004 ? 1 : 0;
    }
    assertThat(onGround).isGreaterThan(30);
  }

  private void holds(Shot shot, String format, double limit) {
    for (Dialect d : Dialects.shipped().all()) {
      Path file = dir.resolve(d.name() + Formats.byId(format).extensions().get(0));
      Dispatcher.send(
          shot,
          new Delivery(
              d.name(),
              d,
              Formats.byId(format),
              Contents.CAMERA_AND_TRACKERS,
              file.getFileName().toString()),
          file,
          Progress.NONE);
      ProofReport p = Proof.of(shot, file, d, limit, Progress.NONE);
      assertThat(p.drift().orElseThrow().maxPx())
          .as("%s to %s", format, d)
          .isLessThanOrEqualTo(limit);
      assertThat(p.checks()).as("%s to %s", format, d).allMatch(c -> c.holds(), "holds");
    }
  }

  @Test
  void terraceToEveryDialectThroughUsdText() {
    holds(terrace, "usd-text", 1e-4);
  }

  @Test
  void terraceToEveryDialectThroughFbxText() {
    holds(terrace, "fbx-text", 0.005);
  }

  @Test
  void terraceFiveKilometresAwayToEveryDialect() {
    Similarity away =
        new Similarity(1, Rotation.IDENTITY, new Vec3(3800, 250, -3200)).after(terrace.level());
    holds(terrace.withLevel(away), "usd-text", 1e-4);
    holds(terrace.withLevel(away), "fbx-text", 0.005);
  }

  /** Strays are the last dozen that the demo makes; the truth is known for the camera. */
  @Test
  void theTerraceIsCleanedAndRefinedToItsNoise() {
    double before = Reprojection.of(terrace).orElseThrow().rmsPx();
    CullAndRefine.Outcome o =
        CullAndRefine.of(terrace, Set.of(), 0.35, 8, AdjustOptions.USUAL, Progress.NONE);
    List<String> names = terrace.trackers().get(0).names();
    assertThat(before).isGreaterThan(1);
    assertThat(o.afterPx()).isLessThanOrEqualTo(0.35);
    assertThat(o.culled())
        .containsExactlyInAnyOrderElementsOf(names.subList(names.size() - 12, names.size()));
    ShotCamera made = o.solve().camera();
    ShotCamera truth = TerraceTruth.camera();
    List<Vec3> from = new ArrayList<>();
    List<Vec3> to = new ArrayList<>();
    for (int f = 1001; f <= 1096; f++) {
      from.add(made.poses().at(f).position());
      to.add(truth.poses().at(f).position());
    }
    Similarity lay = SimilarityFit.of(from, to, null);
    double metres = 0;
    double radians = 0;
    for (int f = 1001; f <= 1096; f++) {
      Pose p = lay.apply(made.poses().at(f));
      metres = Math.max(metres, p.position().minus(truth.poses().at(f).position()).length());
      radians = Math.max(radians, p.rotation().angleTo(truth.poses().at(f).rotation()));
    }
    System.out.printf(
        java.util.Locale.ROOT,
        "terrace: %s; farthest from the truth %.2f mm and %.4f° after a similarity%n",
        o.sentence(),
        1000 * metres,
        Math.toDegrees(radians));
    assertThat(metres).isLessThan(0.01);
    assertThat(radians).isLessThan(Math.toRadians(0.1));
  }

  @Test
  void theDomeIsATripodAndTheOthersAreNot() {
    ProjectFile p = ProjectFile.read(MERIDIAN.resolve("project.json"));
    for (int i = 0; i < 3; i++) {
      Shot s =
          new ProjectLoader(p, Dialects.shipped()).load(p.shots().get(i), Progress.NONE).shot();
      SolveKind kind = SolveKind.of(s, Set.of(), Progress.NONE).orElseThrow();
      assertThat(kind.tripod()).as(s.name() + ": " + kind.reason()).isEqualTo(i == 1);
    }
  }
}
