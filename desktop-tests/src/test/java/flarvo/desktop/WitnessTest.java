package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.desktop.stop.proof.WitnessPart;
import flarvo.desktop.stop.proof.WitnessPreview;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.scene.FrameRange;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.stage.SunDirection;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import javafx.event.ActionEvent;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.image.Image;
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

  private float[] previewed;

  private void lightIsSetAndTakenFromAShadow(FxRobot robot) throws Exception {
    TextField azimuth = robot.lookup("#light-azimuth").query();
    TextField elevation = robot.lookup("#light-elevation").query();
    assertThat(azimuth.getText() + " " + elevation.getText()).isEqualTo("231.3° 57.4°");
    robot.interact(
        () -> {
          azimuth.setText("90");
          elevation.setText("40°");
          elevation.fireEvent(new ActionEvent());
        });
    await(() -> level().staging().light().isPresent());
    assertThat(session.undoTitle()).contains("set the light");
    robot.interact(
        () -> {
          elevation.setText("-3");
          elevation.fireEvent(new ActionEvent());
        });
    await(() -> session.message().get().contains("casts no shadow"));
    Button shadow = robot.lookup("#light-from-shadow").query();
    assertThat(shadow.isDisabled()).isTrue();
    String[] two = highAndLow();
    robot.interact(() -> session.selection().addAll(List.of(two)));
    assertThat(shadow.isDisabled()).isFalse();
    robot.interact(shadow::fire);
    await(() -> session.undoTitle().get().contains("from the shadow of " + two[0]));
    Vec3 ray = world(two[0]).minus(world(two[1])).normalized();
    SunDirection d = SunDirection.of(ray);
    assertThat(Double.parseDouble(azimuth.getText().replace("°", "")))
        .isCloseTo(d.azimuth(), within(0.051));
    assertThat(Double.parseDouble(elevation.getText().replace("°", "")))
        .isCloseTo(d.elevation(), within(0.051));
    robot.interact(session.selection()::clear);
  }

  private Vec3 world(String tracker) {
    return session.state().get().level().apply(session.state().get().place(tracker).orElseThrow());
  }

  /** The highest and the lowest of some trackers of the terrace. */
  private String[] highAndLow() {
    List<String> all =
        session.shot().get().trackers().stream()
            .flatMap(t -> t.names().stream())
            .sorted(Comparator.comparingDouble((String n) -> world(n).y()))
            .toList();
    return new String[] {all.get(all.size() - 1), all.get(0)};
  }

  private void previewIsWhatIsRendered(FxRobot robot) throws Exception {
    robot.interact(
        () -> {
          session.playhead().goTo(1040);
          robot.lookup("#witness-preview").<ToggleButton>query().setSelected(true);
        });
    WitnessPreview preview = robot.lookup("#witness").<WitnessPart>query().preview();
    await(() -> preview.image().isPresent());
    Image image = preview.image().orElseThrow();
    int w = (int) image.getWidth();
    int h = (int) image.getHeight();
    previewed = new float[3 * w * h];
    for (int i = 0; i < w * h; i++) {
      int argb = image.getPixelReader().getArgb(i % w, i / w);
      previewed[3 * i] = (argb >> 16 & 255) / 255f;
      previewed[3 * i + 1] = (argb >> 8 & 255) / 255f;
      previewed[3 * i + 2] = (argb & 255) / 255f;
    }
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
    lightIsSetAndTakenFromAShadow(robot);
    previewIsWhatIsRendered(robot);
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
    // The picture on disk is the one that was previewed.
    assertThat(RasterReader.read(out.resolve("mer_010_terrace_witness.1040.png")).values())
        .isEqualTo(previewed);
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
