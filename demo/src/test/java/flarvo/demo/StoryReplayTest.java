package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.convention.Dialects;
import flarvo.convention.SignedAxis;
import flarvo.decision.Anchor;
import flarvo.decision.BuildDecision;
import flarvo.decision.Decided;
import flarvo.decision.Decision;
import flarvo.decision.DecisionHistory;
import flarvo.decision.DecisionJson;
import flarvo.decision.LevelDecision;
import flarvo.decision.PointDecision;
import flarvo.decision.Replay;
import flarvo.decision.ShotState;
import flarvo.decision.VetDecision;
import flarvo.level.Statement;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.project.ProjectShot;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.StrictJson;
import flarvo.scene.FrameRange;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.vet.Culling;
import flarvo.vet.Reprojection;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The terrace from its rulings to its gauges, decided once, then on its own and another solve. */
class StoryReplayTest {

  private static final Path MERIDIAN = Path.of("meridian");
  private static DecisionHistory story;

  /** What somebody does with the terrace, one decision after the other. */
  private static List<Decision> decisions() {
    return List.of(
        new VetDecision.CullAndRefineTo(0.35, 8, AdjustOptions.USUAL),
        new VetDecision.Cull(new Culling.Over(1.5)),
        new VetDecision.SmoothPath(new FrameRange(1040, 1044), 2, 0.3),
        new PointDecision.MarkPoint("floor", 1040, 400, 380),
        new PointDecision.MarkPoint("floor", 1060, 380, 372),
        new LevelDecision.AddStatement(new Statement.At("t020", Vec3.ZERO)),
        new LevelDecision.AddStatement(new Statement.Along("t020", "t018", SignedAxis.POSITIVE_X)),
        new BuildDecision.PlaceGauge("crate1", Gauge.Kind.CRATE, new Anchor.Tracker("t020")),
        new BuildDecision.AddBox(
            "box1",
            "stand-ins",
            new Anchor.World(new Vec3(-1, 0, -1)),
            new Anchor.World(new Vec3(-0.5, 0, -0.4)),
            0.6),
        new BuildDecision.AddLocators("mark", "marks", 0.1, List.of("t002", "t003")));
  }

  @BeforeAll
  static void tell() {
    ProjectFile p = ProjectFile.read(MERIDIAN.resolve("project.json"));
    ProjectShot terrace = p.shots().get(0);
    story = new ProjectLoader(p, Dialects.shipped()).open(terrace, Progress.NONE);
    for (Decision d : decisions()) {
      story.add(Decided.of(story.present(), d, Progress.NONE));
    }
  }

  private static String bytes(DecisionHistory h) {
    return new DecisionJson(MERIDIAN, Dialects.shipped()).write(h.log()).toString();
  }

  private static double rmsPx(ShotState s) {
    return Reprojection.of(s.shot(), s.vetting().uncounted()).orElseThrow().rmsPx();
  }

  @Test
  void theSameFilesGiveTheSameBytes() {
    Replay r = Replay.same(story.base(), story.log(), Progress.NONE);
    assertThat(r.complete()).isTrue();
    assertThat(bytes(r.history())).isEqualTo(bytes(story));
    assertThat(r.history().present().shot()).isEqualTo(story.present().shot());
  }

  /** Opening takes what was worked out as it was stored, and comes to the same shot. */
  @Test
  void aStoredStoryOpensWithoutWorkingAnythingOut() throws Exception {
    DecisionJson json = new DecisionJson(MERIDIAN, Dialects.shipped());
    ObjectMapper mapper = new ObjectMapper();
    String text = mapper.writeValueAsString(json.write(story.log()));
    DecisionHistory back =
        DecisionHistory.restored(
            story.base(),
            json.read(StrictJson.of(mapper.readTree(text), "decisions")),
            Progress.NONE);
    assertThat(back.filesChanged()).isFalse();
    assertThat(back.log()).isEqualTo(story.log());
    assertThat(back.present()).isEqualTo(story.present());
    assertThat(back.present().staged()).isEqualTo(story.present().staged());
    assertThat(back.undo()).isNotEqualTo(story.present());
    assertThat(back.undoTitle()).contains("add box1");
  }

  /** The second solve has another origin and scale, and trackers of other names. */
  @Test
  void theStoryIsToldOnTheSecondSolve() {
    ReceivedSet second =
        ShotIntake.otherSolve(
            story.base().received().orElseThrow(),
            List.of(MERIDIAN.resolve("mer_010_terrace/second/mer_010_terrace_v2.usdc")),
            Progress.NONE);
    Replay r = Replay.onto(story.base(), story.log(), second, Progress.NONE);
    assertThat(r.aligned()).isPresent();
    assertThat(r.lines()).hasSize(story.log().entries().size());
    ShotState now = r.history().present();
    assertThat(rmsPx(now)).isLessThan(0.4);
    assertThat(rmsPx(now)).isCloseTo(rmsPx(story.present()), within(0.05));
    assertThat(r.complete()).as("%s", r.lines()).isTrue();
    // The shot stands where it stood: a step of the world is as long in both.
    Vec3 was = eye(story.present(), 1010).minus(eye(story.present(), 1090));
    Vec3 is = eye(now, 1010).minus(eye(now, 1090));
    assertThat(is.length()).isCloseTo(was.length(), within(0.02 * was.length()));
    assertThat(now.staging().standIns()).hasSize(1);
    assertThat(now.deliveries()).isEqualTo(story.present().deliveries());
  }

  private static Vec3 eye(ShotState s, int frame) {
    return s.level().apply(s.shot().camera().orElseThrow().poses().at(frame).position());
  }

  @Test
  void whatNamesTrackersThatAreGoneIsListedAndStays() {
    DecisionHistory h = new DecisionHistory(story.base());
    h.apply(new VetDecision.Weigh(Set.of("t001", "t002"), false));
    h.apply(new BuildDecision.PlaceGauge("post1", Gauge.Kind.POST, new Anchor.Tracker("t003")));
    ShotState fewer =
        ShotState.of(
            story
                .base()
                .whole()
                .withTrackers(
                    story.base().whole().trackers().stream()
                        .map(t -> t.without(Set.of("t001", "t003")))
                        .toList()));
    Replay r = Replay.same(fewer, h.log(), Progress.NONE);
    assertThat(r.complete()).isFalse();
    assertThat(r.lines()).extracting(Replay.Line::applied).containsExactly(true, false);
    assertThat(r.lines().get(0).why()).containsExactly("tracker t001 not found");
    assertThat(r.lines().get(1).why()).containsExactly("tracker t003 not found");
    assertThat(r.history().present().vetting().weightless()).containsExactly("t002");
    assertThat(r.history().log().entries()).hasSize(2);
  }
}
