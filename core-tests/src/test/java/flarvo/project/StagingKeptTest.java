package flarvo.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.convention.SignedAxis;
import flarvo.decision.AsItStood;
import flarvo.decision.OlderProject;
import flarvo.level.Stated;
import flarvo.level.Statement;
import flarvo.receive.Rulings;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.GivenDepth;
import flarvo.stage.StagedShots;
import flarvo.stage.Staging;
import flarvo.vet.Vetting;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What was decided at Level, in the project file. */
class StagingKeptTest {

  private static Staging staging() {
    Shot s = StagedShots.shot();
    return StagedShots.staging(s)
        .withStatements(
            List.of(
                new Stated(new Statement.At("a", new Vec3(1, 2, 3))),
                new Stated(new Statement.Along("a", "b", SignedAxis.NEGATIVE_Z), false, 1),
                new Stated(new Statement.OnGround(Set.of("c", "a"), 0.75), true, 4),
                new Stated(new Statement.OnWall(Set.of("c", "d"), SignedAxis.POSITIVE_X)),
                new Stated(new Statement.Distance("a", "d", 0.6)),
                new Stated(new Statement.Vertical("e", "f"))))
        .withDepths(List.of(new GivenDepth("a", 3.25, "typed")));
  }

  private static ProjectFile file(Staging s) {
    return new ProjectFile(
        Path.of("p.json"),
        "p",
        List.of(
            new ProjectShot(
                "s",
                List.of(),
                List.of(),
                Optional.empty(),
                OlderProject.log(Rulings.NONE, Similarity.IDENTITY, Vetting.NONE, s, List.of()))));
  }

  @Test
  void everythingSurvivesTheFile() {
    Staging s = staging();
    ProjectShot shot = ProjectFile.parse(Path.of("p.json"), file(s).toJson()).shots().get(0);
    Staging back = ((AsItStood) shot.log().entries().get(0).decision()).staging();
    assertThat(back).isEqualTo(s);
    assertThat(file(Staging.NONE).toJson()).doesNotContain("decisions");
  }

  @Test
  void brokenOnesAreOneError() {
    String good = file(staging()).toJson();
    for (String[] change :
        new String[][] {
          {"\"says\" : \"wall\"", "\"says\" : \"roof\""},
          {"\"axis\" : \"-Z\"", "\"axis\" : \"-W\""},
          {"\"kind\" : \"post\"", "\"kind\" : \"ghost\""},
          {"\"metres\" : 1.2", "\"metres\" : -1.2"},
          {"\"distance\" : 3.25", "\"distance\" : 0"},
          {"\"weight\" : 4.0", "\"weight\" : 0"},
          {"\"faces\" : \\[ \\[ 0, 1", "\"faces\" : [ [ 0, 99"},
        }) {
      String bad = good.replaceFirst(change[0], change[1]);
      assertThat(bad).as(change[0]).isNotEqualTo(good);
      assertThatThrownBy(() -> ProjectFile.parse(Path.of("p.json"), bad))
          .as(change[1])
          .isInstanceOf(InputError.class)
          .hasMessageContaining("p.json");
    }
  }
}
