package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.convention.Dialects;
import flarvo.decision.Decided;
import flarvo.decision.DecisionHistory;
import flarvo.decision.DecisionJson;
import flarvo.decision.Outcome;
import flarvo.decision.ReturnDecision;
import flarvo.decision.ShotState;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.report.InputError;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import flarvo.vet.Reprojection;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A returned file with a mix-up takes the solve's place, with the mix-up undone. */
class UseMendedTest {

  private static final Path MERIDIAN = Path.of("meridian");
  private static ShotState terrace;

  @BeforeAll
  static void open() {
    ProjectFile p = ProjectFile.read(MERIDIAN.resolve("project.json"));
    terrace =
        new ProjectLoader(p, Dialects.shipped()).open(p.shots().get(0), Progress.NONE).present();
  }

  private static ReturnDecision.UseMended use(String name) {
    return new ReturnDecision.UseMended(List.of(MERIDIAN.resolve("returns/" + name)));
  }

  private static double rms(ShotState s) {
    return Reprojection.of(s.shot(), s.vetting().uncounted()).orElseThrow().rmsPx();
  }

  /** The terrace's own camera, sent back with one or two mix-ups, is that camera again. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "terrace_anim_v03.fbx",
        "terrace_anim_v04.fbx",
        "terrace_layout_v02.usda",
        "terrace_comp_v04.usdc",
        "terrace_roto_v01.usdc",
        "terrace_previs_v02.abc"
      })
  void theSolveIsTheReturnedOneMended(String name) {
    Decided d = Decided.of(terrace, use(name), Progress.NONE);
    DecisionHistory h = new DecisionHistory(terrace);
    h.add(d);
    ShotState after = h.present();
    assertThat(after.vetting().solve()).isPresent();
    // Strays are in both. A shift of two frames leaves two without a camera, which is held there.
    assertThat(rms(after)).isLessThan(rms(terrace) + 0.1);
    Outcome.Solve o = (Outcome.Solve) d.outcome().orElseThrow();
    assertThat(o.rmsPx().orElseThrow()).isEqualTo(rms(after));
    ShotCamera was = terrace.shot().camera().orElseThrow();
    ShotCamera is = after.shot().camera().orElseThrow();
    for (int f = was.frames().first() + 3; f <= was.frames().last() - 3; f++) {
      Vec3 a = was.poses().at(f).position();
      assertThat(is.poses().at(f).position().minus(a).length()).as("frame " + f).isLessThan(0.01);
    }
    assertThat(use(name).title(d.outcome()))
        .isEqualTo(String.format(Locale.ROOT, "use %s, mended, to %.3f px", name, rms(after)));
  }

  @Test
  void itIsUndoneAndComesBackFromAProject() {
    DecisionHistory h = new DecisionHistory(terrace);
    h.add(Decided.of(terrace, use("terrace_anim_v03.fbx"), Progress.NONE));
    ShotState after = h.present();
    DecisionJson json = new DecisionJson(MERIDIAN, Dialects.shipped());
    String text = json.write(h.log()).toString();
    assertThat(text).contains("\"use-mended\"").contains("returns/terrace_anim_v03.fbx");
    h.undo();
    assertThat(h.present()).isEqualTo(terrace);
    h.redo();
    assertThat(h.present()).isEqualTo(after);
  }

  @Test
  void whatHasNoCauseOrCannotBeMendedIsRefused() {
    assertThatThrownBy(() -> Decided.of(terrace, use("terrace_edit_v01.usdc"), Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("nothing in the file tells");
    Path sound = MERIDIAN.resolve("mer_010_terrace/incoming/none.usda");
    assertThatThrownBy(
            () -> Decided.of(terrace, new ReturnDecision.UseMended(List.of(sound)), Progress.NONE))
        .isInstanceOf(InputError.class);
    assertThatThrownBy(() -> new ReturnDecision.UseMended(List.of()))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
