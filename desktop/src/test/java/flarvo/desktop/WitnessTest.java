package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.desktop.stop.proof.WitnessPart;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.scene.FrameRange;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.CheckBox;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** Witness pictures and passes from the window, with gauges that were set in Level. */
class WitnessTest extends WindowHarness {

  private void gauge(Gauge.Kind kind, String tracker) throws Exception {
    Vec3 at = session.state().get().place(tracker).orElseThrow();
    onWindow(
        () -> {
          build().dropping().set(kind);
          build().drop(Optional.of(tracker), at);
        });
    await(
        () ->
            level().staging().gauges().stream()
                .anyMatch(g -> g.tracker().equals(Optional.of(tracker))));
  }

  @Test
  void whatWasBuiltIsRenderedOverThePlates(FxRobot robot) throws Exception {
    onWindow(() -> session.stop().set("level"));
    for (String t : List.of("t018", "t040")) {
      gauge(t.equals("t018") ? Gauge.Kind.CRATE : Gauge.Kind.POST, t);
    }
    onWindow(
        () -> {
          session.stop().set("proof");
          session.playhead().inOut().set(new FrameRange(1038, 1043));
        });
    WitnessPart part = robot.lookup("#witness").query();
    robot.interact(
        () -> {
          robot.lookup("#render-passes").<CheckBox>query().setSelected(true);
          robot.lookup("#render-mail").<CheckBox>query().setSelected(true);
          part.render(dir);
        });
    await(() -> session.message().get().startsWith("Rendered 6 frames"));
    Path out = dir.resolve("mer_010_terrace_witness");
    Raster passes = RasterReader.read(out.resolve("mer_010_terrace_passes.1040.exr"));
    int id = passes.channel("id.I");
    boolean[] seen = new boolean[3];
    for (int y = 0; y < passes.height(); y++) {
      for (int x = 0; x < passes.width(); x++) {
        seen[(int) passes.at(x, y, id)] = true;
      }
    }
    assertThat(seen).containsOnly(true);
    assertThat(out.resolve("mer_010_terrace_witness.1043.png")).exists();
    assertThat(out.resolve("mer_010_terrace_witness.1044.png")).doesNotExist();
    assertThat(Files.size(out.resolve("mer_010_terrace.mp4"))).isGreaterThan(10_000);
    assertThat(Files.size(out.resolve("mer_010_terrace.gif"))).isGreaterThan(10_000);
    // Pictures of before are kept.
    robot.interact(
        () -> {
          robot.lookup("#render-passes").<CheckBox>query().setSelected(false);
          robot.lookup("#render-mail").<CheckBox>query().setSelected(false);
          robot.lookup("#render-movie").<CheckBox>query().setSelected(false);
          part.render(dir);
        });
    await(() -> session.message().get().endsWith("mer_010_terrace_witness_2"));
  }
}
