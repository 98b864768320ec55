package flarvo.note;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.proof.DriftReport;
import flarvo.proof.Proof;
import flarvo.proof.ProofReport;
import flarvo.report.InputError;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ProofPageTest {

  @TempDir private Path dir;

  private final Shot shot = TestShots.walk(24, 30, 3);

  /** A delivery whose camera is a frame late from the middle on, or is as it should be. */
  private ProofReport proof(boolean late) {
    Dialect to = Dialects.shipped().get("comp-yup");
    int middle = shot.frames().first() + 12;
    Shot sent =
        late
            ? shot.withCameras(
                List.of(
                    shot.camera()
                        .get()
                        .withPoses(
                            PoseTrack.of(
                                shot.frames(),
                                f -> shot.camera().get().poses().at(f < middle ? f : f - 1)))))
            : shot;
    Path file = dir.resolve("d.usda");
    Delivery d = new Delivery("d", to, Formats.byId("usd-text"), Contents.CAMERA_AND_TRACKERS, "d");
    Dispatcher.send(sent, d, file, Progress.NONE);
    return Proof.of(shot, file, to, 0.01, Progress.NONE);
  }

  @Test
  void bothFilesSayWhatTheProofSays() throws IOException {
    ProofReport p = proof(true);
    Path page = dir.resolve("report.html");
    List<Path> files = ProofPage.of("<d> & co", "the shot", p).write(page);
    assertThat(files).containsExactly(page, dir.resolve("report.json"));
    JsonNode o = new ObjectMapper().readTree(files.get(1).toFile());
    DriftReport d = p.drift().orElseThrow();
    assertThat(o.get("holds").asBoolean()).isFalse();
    assertThat(o.get("title").asText()).isEqualTo("<d> & co");
    assertThat(o.get("maxDriftPx").asDouble()).isEqualTo(d.maxPx());
    assertThat(o.get("worstFrame").asInt()).isEqualTo(d.worstFrame());
    assertThat(o.get("checks")).hasSize(p.checks().size());
    assertThat(o.get("driftPx")).hasSize(24);
    for (JsonNode f : o.get("driftPx")) {
      assertThat(f.get(1).asDouble()).isCloseTo(d.maxPx(f.get(0).asInt()), within(1e-12));
    }
    String html = Files.readString(page);
    assertThat(html)
        .contains("&lt;d&gt; &amp; co")
        .doesNotContain("<d>")
        .contains("Does not hold:")
        .contains("<svg class=\"drift\"")
        .doesNotContain("http");
    // The worst ten frames, the worst first.
    assertThat(html).contains("<td class=\"figure\">" + d.worstFrame() + "<td");
    assertThat(d.worstFrames(10).get(0)).isEqualTo(d.worstFrame());
    assertThat(d.worstFrames(10))
        .isSortedAccordingTo((a, b) -> Double.compare(d.maxPx(b), d.maxPx(a)));
    assertThat(d.worstTracker(d.worstFrame())).isEqualTo(d.worstTracker());
  }

  @Test
  void whatHoldsIsSaidToHold() throws IOException {
    Path page = dir.resolve("good.html");
    ProofPage.of("d", "shot", proof(false)).write(page);
    assertThat(Files.readString(page)).contains("class=\"holds\">Holds:");
    // It is replaced when it is made again.
    ProofPage.of("d", "shot", proof(true)).write(page);
    assertThat(Files.readString(page)).contains("class=\"bad\">Does not hold:");
  }

  @Test
  void withoutDriftThereIsNoFigure() throws IOException {
    Path page = dir.resolve("none.html");
    new ProofPage(
            "f",
            "s",
            Optional.empty(),
            List.of("Points and camera are in different units."),
            Optional.empty(),
            0.01,
            List.of(),
            List.of())
        .write(page);
    assertThat(Files.readString(page)).contains("different units").doesNotContain("<svg");
    assertThat(Files.readString(dir.resolve("none.json"))).contains("\"holds\" : null");
  }

  @Test
  void anotherExtensionIsRefused() {
    ProofPage p = ProofPage.of("d", "shot", proof(false));
    assertThatThrownBy(() -> p.write(dir.resolve("report.txt")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("report.txt");
  }
}
