package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.convention.Dialects;
import flarvo.decision.Decided;
import flarvo.decision.Decision;
import flarvo.decision.DecisionHistory;
import flarvo.decision.DecisionJson;
import flarvo.decision.LevelDecision;
import flarvo.decision.PlateDecision;
import flarvo.decision.Replay;
import flarvo.decision.ShotState;
import flarvo.decision.TraceDecision;
import flarvo.decision.VetDecision;
import flarvo.plate.PlateFinder;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Similarity;
import flarvo.trace.DrawnMask;
import flarvo.trace.KeyedMatte;
import flarvo.trace.MaskShape;
import flarvo.vet.Culling;
import flarvo.vet.Reprojection;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.OptionalDouble;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is decided on Trace is undone, stored and replayed like everything else. */
class TraceDecisionTest {

  private static final int FRAMES = 24;
  private static final TraceDecision.Follow FOLLOW =
      new TraceDecision.Follow(PlateRole.ORIGINAL, 150, 9, 0.08);
  private static final TraceDecision.SolvePlates SOLVE =
      new TraceDecision.SolvePlates(23.76, 13.365, OptionalDouble.empty(), 2, 0.5);

  @TempDir Path dir;
  private DecisionHistory history;

  @BeforeEach
  void openPlatesAlone() throws Exception {
    PlateSequence p = PlateFinder.find(Path.of("meridian/mer_010_terrace/plates/original")).get(0);
    Path folder = Files.createDirectories(dir.resolve("original"));
    for (int f = p.frames().first(); f < p.frames().first() + FRAMES; f++) {
      Files.copy(p.file(f), folder.resolve(p.file(f).getFileName()));
    }
    history =
        new DecisionHistory(
            ShotState.of(
                "plates",
                ShotIntake.of(List.of(folder), Progress.NONE).received(IntakeOptions.NONE)));
  }

  private ShotState decide(Decision d) {
    history.add(Decided.of(history.present(), d, Progress.NONE));
    return history.present();
  }

  private static double rmsPx(ShotState s) {
    return Reprojection.of(s.shot()).orElseThrow().rmsPx();
  }

  @Test
  void platesAloneAreFollowedSolvedVettedAndStored() throws Exception {
    assertThat(history.present().shot().camera()).isEmpty();
    assertThat(history.present().shot().frames().count()).isEqualTo(FRAMES);
    assertThatThrownBy(() -> decide(SOLVE)).isInstanceOf(InputError.class);

    ShotState followed = decide(FOLLOW);
    assertThat(followed.shot().observations().names()).hasSizeGreaterThan(80);
    ShotState solved = decide(SOLVE);
    assertThat(rmsPx(solved)).isLessThan(0.3);
    assertThat(solved.lens().source()).isEqualTo("found in the plates");
    assertThat(solved.vetting().culled()).isNotEmpty();
    // Vet goes on from there as with any solve.
    ShotState culled = decide(new VetDecision.Cull(new Culling.KeepBest(0.9)));
    assertThat(culled.shot().trackerCount()).isLessThan(solved.shot().trackerCount());
    assertThat(decide(new LevelDecision.ApplyGuess()).level()).isNotEqualTo(Similarity.IDENTITY);

    DecisionJson json = new DecisionJson(dir, Dialects.shipped());
    ObjectMapper mapper = new ObjectMapper();
    String text = mapper.writeValueAsString(json.write(history.log()));
    // Opening reads what was worked out: it follows nothing, not even where the plates are gone.
    try (var all = Files.list(dir.resolve("original"))) {
      for (Path p : all.toList()) {
        Files.delete(p);
      }
    }
    DecisionHistory back =
        DecisionHistory.restored(
            history.base(),
            json.read(StrictJson.of(mapper.readTree(text), "decisions")),
            Progress.NONE);
    assertThat(back.present()).isEqualTo(history.present());
    assertThat(back.present().shot()).isEqualTo(history.present().shot());

    history.undo();
    history.undo();
    assertThat(history.present().shot()).isEqualTo(solved.shot());
    history.undo();
    assertThat(history.present().shot().camera()).isEmpty();
    assertThat(history.present().lens().track()).isEmpty();
  }

  @Test
  void theSamePlatesGiveTheSameSolveAgain() {
    decide(FOLLOW);
    decide(SOLVE);
    Replay r = Replay.same(history.base(), history.log(), Progress.NONE);
    assertThat(r.complete()).isTrue();
    assertThat(r.history().present().shot()).isEqualTo(history.present().shot());
  }

  /** Features are in pixels of the original: another lens puts them elsewhere. */
  @Test
  void featuresGoWithTheLensOfThePlates() {
    Observations straight = decide(FOLLOW).shot().observations();
    decide(SOLVE);
    Observations bent = history.present().shot().observations();
    assertThat(bent).isNotEqualTo(straight);
    assertThat(bent.names()).isEqualTo(straight.names());
    ShotState none = decide(new PlateDecision.UseNoLens());
    assertThat(none.shot().observations()).isEqualTo(straight);
    assertThat(rmsPx(none)).isGreaterThan(1);
  }

  @Test
  void masksKeepFeaturesOutAndAreForgottenWithNothing() {
    MaskShape left = MaskShape.still("left", 0, 0, 480, 0, 480, 540, 0, 540);
    decide(new TraceDecision.DrawMask(PlateRole.ORIGINAL, left));
    Observations o = decide(FOLLOW).shot().observations();
    for (int row = 0; row < o.size(); row++) {
      assertThat(o.x(row)).isGreaterThan(479.9);
    }
    decide(new TraceDecision.MaskSide(true));
    Observations in = decide(FOLLOW).shot().observations();
    for (int row = 0; row < in.size(); row++) {
      assertThat(in.x(row)).isLessThan(480.1);
    }
    assertThat(decide(new TraceDecision.Forget()).shot().observations().isEmpty()).isTrue();
    assertThat(history.present().trace().masks())
        .extracting(DrawnMask::shape)
        .containsExactly(left);
    assertThat(decide(new TraceDecision.RemoveMask("left")).trace().masks()).isEmpty();
    assertThatThrownBy(() -> decide(new TraceDecision.RemoveMask("left")))
        .hasMessageContaining("there is no mask left");
  }

  /** Keyed plates that cover the left half, of a quarter of the size. */
  @Test
  void keyedPlatesAreAMaskEitherWayRound() throws Exception {
    assertThatThrownBy(() -> decide(new TraceDecision.UseMatte(KeyedMatte.ALPHA)))
        .hasMessageContaining("no keyed plates");
    PlateSequence p = history.present().shot().plates().get(0);
    Path folder = Files.createDirectories(dir.resolve("keyed"));
    Raster r = Raster.empty(240, 135, List.of("R", "G", "B", "A"), SampleKind.BYTE);
    for (int i = 0; i < 240 * 135; i++) {
      boolean left = i % 240 < 120;
      r.values()[4 * i] = left ? 1 : 0;
      r.values()[4 * i + 1] = left ? 1 : 0;
      r.values()[4 * i + 2] = left ? 1 : 0;
      r.values()[4 * i + 3] = left ? 1 : 0;
    }
    for (int f = p.frames().first(); f < p.frames().first() + FRAMES; f++) {
      RasterWriter.write(r, folder.resolve("keyed." + f + ".png"));
    }
    history =
        new DecisionHistory(
            ShotState.of(
                "plates",
                ShotIntake.of(List.of(dir.resolve("original"), folder), Progress.NONE)
                    .received(IntakeOptions.NONE)));
    ShotState s = decide(new TraceDecision.UseMatte(KeyedMatte.ALPHA));
    assertThat(s.shot().plates()).extracting(PlateSequence::role).contains(PlateRole.KEYED);
    assertThat(least(decide(FOLLOW).shot().observations())).isGreaterThan(479);
    decide(new TraceDecision.MaskSide(true));
    assertThat(most(decide(FOLLOW).shot().observations())).isLessThan(481);
    decide(new TraceDecision.UseMatte(KeyedMatte.WHITE));
    assertThat(most(decide(FOLLOW).shot().observations())).isLessThan(481);
    // Without a mask there is no inside.
    decide(new TraceDecision.UseMatte(KeyedMatte.NONE));
    Observations all = decide(FOLLOW).shot().observations();
    assertThat(least(all)).isLessThan(400);
    assertThat(most(all)).isGreaterThan(560);
  }

  /** Proxies of a third of the size: what is followed, marked and masked is where it is. */
  @Test
  void whatIsFollowedInSmallerPlatesIsInPixelsOfThePicture() throws Exception {
    PlateSequence p = history.present().shot().plates().get(0);
    Path folder = Files.createDirectories(dir.resolve("proxy"));
    for (int f = p.frames().first(); f <= p.frames().last(); f++) {
      RasterWriter.write(
          third(RasterReader.read(p.file(f))), folder.resolve("small." + f + ".png"));
    }
    history =
        new DecisionHistory(
            ShotState.of(
                "plates",
                ShotIntake.of(List.of(dir.resolve("original"), folder), Progress.NONE)
                    .received(IntakeOptions.NONE)));
    assertThat(history.present().shot().picture()).isEqualTo(p.size());
    decide(
        new TraceDecision.DrawMask(
            PlateRole.ORIGINAL, MaskShape.still("left", 0, 0, 480, 0, 480, 540, 0, 540)));
    Observations o =
        decide(new TraceDecision.Follow(PlateRole.PROXY, 60, 7, 0.2)).shot().observations();
    assertThat(least(o)).isGreaterThan(479.9);
    assertThat(most(o)).isGreaterThan(700);
    // Each feature marked in the original where it was found in the proxies goes the same way.
    String name = o.names().get(0);
    int row = o.firstRow(name);
    int first = o.frame(row);
    int last = o.frame(o.endRow(name) - 1);
    decide(new TraceDecision.MarkFeature("o", PlateRole.ORIGINAL, 12, first, o.x(row), o.y(row)));
    Observations both =
        decide(new TraceDecision.MarkFeature("s", PlateRole.PROXY, 7, first, o.x(row), o.y(row)))
            .shot()
            .observations();
    int a = both.row("o", last);
    int b = both.row("s", last);
    assertThat(Math.hypot(both.x(a) - o.x(row), both.y(a) - o.y(row))).as("moved").isGreaterThan(3);
    assertThat(Math.hypot(both.x(a) - both.x(b), both.y(a) - both.y(b))).isLessThan(1.2);
    int c = o.row(name, last);
    assertThat(Math.hypot(both.x(a) - o.x(c), both.y(a) - o.y(c))).isLessThan(1.2);
  }

  private static Raster third(Raster r) {
    Raster out = Raster.empty(r.width() / 3, r.height() / 3, r.channels(), r.kind());
    int n = r.channels().size();
    for (int y = 0; y < out.height(); y++) {
      for (int x = 0; x < out.width(); x++) {
        for (int c = 0; c < n; c++) {
          float sum = 0;
          for (int k = 0; k < 9; k++) {
            sum += r.at(3 * x + k % 3, 3 * y + k / 3, c);
          }
          out.values()[(y * out.width() + x) * n + c] = sum / 9;
        }
      }
    }
    return out;
  }

  private static double least(Observations o) {
    return IntStream.range(0, o.size()).mapToDouble(o::x).min().orElseThrow();
  }

  private static double most(Observations o) {
    return IntStream.range(0, o.size()).mapToDouble(o::x).max().orElseThrow();
  }

  @Test
  void whatIsNotThereIsSaid() {
    assertThatThrownBy(() -> decide(new TraceDecision.Follow(PlateRole.UNDISTORTED, 150, 9, 0.08)))
        .hasMessageContaining("the shot has no undistorted plates");
    assertThatThrownBy(() -> new TraceDecision.Follow(PlateRole.ORIGINAL, 0, 9, 0.08))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new TraceDecision.SolvePlates(0, 1, OptionalDouble.empty(), 2, 0.5))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
