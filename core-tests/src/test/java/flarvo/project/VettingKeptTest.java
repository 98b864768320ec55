package flarvo.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.decision.AsItStood;
import flarvo.decision.Decided;
import flarvo.decision.DecisionHistory;
import flarvo.decision.LevelDecision;
import flarvo.decision.OlderProject;
import flarvo.decision.Outcome;
import flarvo.decision.ShotState;
import flarvo.receive.Rulings;
import flarvo.report.InputError;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.stage.Staging;
import flarvo.vet.ExtraPoint;
import flarvo.vet.MadeShots;
import flarvo.vet.Refinement;
import flarvo.vet.TrackerGroup;
import flarvo.vet.Vetting;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Decisions of Vet as edits, and in the project file. */
class VettingKeptTest {

  private static final Shot SHOT =
      MadeShots.made(MadeShots.Move.WALK, 1, 0.3, 0.05, 30, 40, 2).truth();

  private static Vetting vetting(int lensTerms) {
    return Vetting.NONE
        .culling(Set.of("p003", "p001"))
        .weighing(Set.of("p007"), false)
        .withExtra(
            new ExtraPoint(
                "floor",
                List.of(
                    new ExtraPoint.Mark(1003, 100.25, 200.5, false),
                    new ExtraPoint.Mark(1010, 130, 190, true))))
        .withGroup(
            new TrackerGroup("wall", TrackerGroup.Dot.KITE, 2, Set.of("p010", "p011", "p012")))
        .withSolve(
            Refinement.of(
                    SHOT,
                    Set.of(),
                    AdjustOptions.USUAL
                        .withFocal(AdjustOptions.Focal.PER_FRAME)
                        .withLensTerms(lensTerms)
                        .withRounds(5),
                    Progress.NONE)
                .solve());
  }

  private static ProjectFile file(Vetting v) {
    return new ProjectFile(
        Path.of("p.json"),
        "p",
        List.of(
            new ProjectShot(
                "s",
                List.of(),
                List.of(),
                Optional.empty(),
                OlderProject.log(Rulings.NONE, Similarity.IDENTITY, v, Staging.NONE, List.of()))));
  }

  /** Two lens terms are written as two numbers, as they were before there were three. */
  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3})
  void everyDecisionSurvivesTheFile(int lensTerms) {
    Vetting v = vetting(lensTerms);
    String json = file(v).toJson();
    Matcher terms = Pattern.compile("\"lensTerms\" : \\[([^]]*)]").matcher(json);
    assertThat(terms.find()).isEqualTo(lensTerms > 0);
    assertThat(lensTerms == 0 || terms.group(1).split(",").length == Math.max(2, lensTerms))
        .isTrue();
    ProjectShot shot = ProjectFile.parse(Path.of("p.json"), file(v).toJson()).shots().get(0);
    Vetting back =
        DecisionHistory.restored(ShotState.of(SHOT), shot.log(), Progress.NONE).present().vetting();
    assertThat(back.applied(SHOT)).isEqualTo(v.applied(SHOT));
    assertThat(back).isEqualTo(v);
    assertThat(file(Vetting.NONE).toJson()).doesNotContain("decisions");
  }

  @Test
  void brokenOnesAreOneError() {
    String good = file(vetting(2)).toJson();
    for (String bad :
        List.of(
            good.replaceFirst("\"lensTerms\" : \\[[^]]*]", "\"lensTerms\" : [ 0.1 ]"),
            good.replaceFirst("\"lensTerms\" : \\[[^]]*]", "\"lensTerms\" : [ 1, 2, 3, 4 ]"),
            good.replaceFirst("\"poses\" : \\[ [-0-9.eE]+, ", "\"poses\" : [ "),
            good.replaceFirst("\"poses\" : \\[ [-0-9.eE]+", "\"poses\" : [ \"x\""),
            good.replaceFirst("\"dot\" : \"kite\"", "\"dot\" : \"cloud\""),
            good.replaceFirst("\"tint\" : 2", "\"tint\" : 99"),
            good.replaceFirst("\"name\" : \"floor\"", "\"name\" : \"\""))) {
      assertThat(bad).isNotEqualTo(good);
      assertThatThrownBy(() -> ProjectFile.parse(Path.of("p.json"), bad))
          .isInstanceOf(InputError.class);
    }
  }

  @Test
  void aTrackerIsInOneGroupAndKeepsItsPlace() {
    Vetting v =
        vetting(1)
            .withGroup(new TrackerGroup("floor", TrackerGroup.Dot.BAR, 1, Set.of("p012", "p013")));
    Shot s = v.applied(SHOT);
    assertThat(s.trackers()).extracting(TrackerSet::name).contains("wall", "floor", "trackers");
    assertThat(v.group("wall").orElseThrow().members()).containsExactlyInAnyOrder("p010", "p011");
    Map<String, Vec3> before = places(vetting(1).withoutGroup("wall").applied(SHOT));
    assertThat(places(s)).isEqualTo(before);
    assertThat(v.withoutGroup("wall").withoutGroup("floor").applied(SHOT))
        .isEqualTo(vetting(1).withoutGroup("wall").applied(SHOT));
    // One that bears the name of a set which came takes its new members in.
    Shot joined =
        v.withGroup(new TrackerGroup("trackers", TrackerGroup.Dot.DISC, 3, Set.of("p012")))
            .applied(SHOT);
    assertThat(joined.trackers().get(0).names()).contains("p012", "p000");
    assertThat(places(joined)).isEqualTo(before);
  }

  private static Map<String, Vec3> places(Shot s) {
    Map<String, Vec3> out = new HashMap<>();
    for (TrackerSet t : s.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        assertThat(out.put(t.names().get(i), t.position(i))).isNull();
      }
    }
    return out;
  }

  @Test
  void levelAndVettingStandBesideEachOther() {
    Similarity level = new Similarity(2, Rotation.about(new Vec3(0, 1, 0), 1), new Vec3(1, 2, 3));
    DecisionHistory h = new DecisionHistory(ShotState.of(SHOT));
    h.apply(new LevelDecision.MoveLevel(level, "move"));
    AsItStood vet =
        new AsItStood(Rulings.NONE, vetting(1).withSolve(null), Staging.NONE, List.of());
    Outcome solve =
        new Outcome.Solve(Set.of(), vetting(1).solve().get(), OptionalDouble.empty(), "refined");
    h.add(Decided.of(h.present(), vet, Optional.of(solve)));
    assertThat(h.present().shot().level()).isEqualTo(level);
    assertThat(h.present().shot().trackerCount()).isEqualTo(39); // two out, one late
    assertThat(h.present().whole().trackerCount()).isEqualTo(40);
    h.undo();
    assertThat(h.present().shot()).isEqualTo(SHOT.withLevel(level));
    h.redo();
    assertThat(h.present().shot()).isEqualTo(vetting(1).applied(SHOT.withLevel(level)));
  }

  @Test
  void aRulingOnTheFirstFrameTakesTheRefinedSolveAlong() {
    ShotState s = ShotState.of(SHOT).withVetting(vetting(1));
    ShotState moved = s.withRulings(s.rulings().with(flarvo.receive.Fact.FIRST_FRAME, "11"));
    assertThat(moved.vetting().solve().orElseThrow().camera().frames().first()).isEqualTo(11);
    assertThat(moved.shot().cameras().get(0).poses().at(11))
        .isEqualTo(s.shot().cameras().get(0).poses().at(1001));
  }
}
