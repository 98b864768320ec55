package flarvo.note;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.fasterxml.jackson.databind.JsonNode;
import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Outgoing;
import flarvo.format.Formats;
import flarvo.proof.ProofReport;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.awt.image.BufferedImage;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * The page in a Chromium without a window. Needs one installed: {@code ./flarvo peers} installs it
 * on Debian.
 */
class NoteInBrowserTest {

  @TempDir private Path dir;

  @BeforeAll
  static void chromium() {
    assumeTrue(Browser.installed().isPresent(), "no Chromium is installed");
  }

  private Path page(Shot shot) {
    Delivery d =
        new Delivery(
            "Animation",
            Dialects.shipped().get("anim-yup-cm"),
            Formats.byId("usd-text"),
            Contents.CAMERA_AND_TRACKERS,
            "a.usda");
    Path file = dir.resolve("a.usda");
    Dispatcher.send(shot, d, file, Progress.NONE);
    return HandoverNote.of(
            "Show",
            "sh010",
            Outgoing.of(shot),
            Map.of(d, file),
            List.of(),
            ProofReport.USUAL_LIMIT_PX,
            Instant.EPOCH,
            Progress.NONE)
        .write(dir.resolve("note.html"), Progress.NONE)
        .get(0);
  }

  /** A plate whose every frame has another grey. */
  private Shot withPlates(Shot shot) throws Exception {
    int n = 0;
    for (int f = shot.frames().first(); f <= shot.frames().last(); f++, n++) {
      BufferedImage i = new BufferedImage(192, 108, BufferedImage.TYPE_INT_RGB);
      for (int y = 0; y < 108; y++) {
        for (int x = 0; x < 192; x++) {
          i.setRGB(x, y, 0x010101 * (40 + 5 * n));
        }
      }
      ImageIO.write(i, "png", dir.resolve("p." + f + ".png").toFile());
    }
    return shot.withPlates(
        List.of(
            new PlateSequence(
                dir,
                "p.",
                4,
                ".png",
                shot.frames(),
                List.of(),
                shot.picture(),
                PlateRole.UNDISTORTED)));
  }

  /** Every tracker of every frame on the pixel where our own camera sees it. */
  private static void comparePixels(Browser b, Shot shot) throws Exception {
    Pinhole eye = new Pinhole(shot.camera().orElseThrow(), shot.picture());
    double[] p = new double[3];
    int compared = 0;
    for (int f = shot.frames().first(); f <= shot.frames().last(); f += 5) {
      JsonNode seen = b.evaluate("flarvoViewer.pixels(" + f + ")");
      eye.at(f);
      for (TrackerSet t : shot.trackers()) {
        for (int i = 0; i < t.size(); i++) {
          eye.project(t, i, p);
          JsonNode q = seen.get(t.names().get(i));
          if (p[2] > 0 && p[0] >= 0 && p[0] <= 1920 && p[1] >= 0 && p[1] <= 1080) {
            assertThat(q.get(0).asDouble()).isCloseTo(p[0], within(0.01));
            assertThat(q.get(1).asDouble()).isCloseTo(p[1], within(0.01));
            compared++;
          }
        }
      }
    }
    assertThat(compared).isGreaterThan(40);
  }

  @Test
  void theViewerOpensScrubsAndSeesWhatTheCameraSees() throws Exception {
    Shot shot = withPlates(TestShots.walk(24, 30, 7));
    Path page = page(shot);
    try (Browser b = new Browser(Browser.installed().orElseThrow(), dir.resolve("profile"))) {
      b.open(page);
      b.await("typeof flarvoViewer !== 'undefined'");
      comparePixels(b, shot);
      b.evaluate("flarvoViewer.show(1001)");
      String first = b.evaluate("document.querySelector('#viewer img').src").asText();
      b.evaluate(
          "s = document.getElementById('viewer-frame'); s.value = 1010;"
              + " s.dispatchEvent(new Event('input')); 0");
      assertThat(b.evaluate("flarvoViewer.frame").asInt()).isEqualTo(1010);
      assertThat(b.evaluate("document.getElementById('viewer-said').textContent").asText())
          .isEqualTo("frame 1010");
      assertThat(b.evaluate("document.querySelector('#viewer img').src").asText())
          .startsWith("data:image/jpeg")
          .isNotEqualTo(first);
      b.evaluate("document.getElementById('viewer-play').click()");
      b.await("flarvoViewer.frame > 1012");
      b.evaluate("document.getElementById('viewer-play').click()");
      assertThat(b.evaluate("document.querySelectorAll('details:not([open])').length").asInt())
          .isPositive();
      b.evaluate("window.dispatchEvent(new Event('beforeprint'))");
      assertThat(b.evaluate("document.querySelectorAll('details:not([open])').length").asInt())
          .as("printed, everything is open")
          .isZero();
      b.evaluate("document.getElementById('viewer-turn').click()");
      assertThat(b.evaluate("flarvoViewer.turning && flarvoViewer.controls.enabled").asBoolean())
          .isTrue();
      assertThat(b.evaluate("document.querySelector('#viewer img').hidden").asBoolean()).isTrue();
      assertThat(b.errors()).isEmpty();
      assertThat(b.requests()).as("the page alone").hasSize(1);
    }
  }

  @Test
  void fiveKilometresFromTheOriginItIsAsSharp() throws Exception {
    Shot shot = TestShots.moved(TestShots.walk(24, 30, 7), new Vec3(4000, 12, -3000));
    Path page = page(shot);
    try (Browser b = new Browser(Browser.installed().orElseThrow(), dir.resolve("profile"))) {
      b.open(page);
      b.await("typeof flarvoViewer !== 'undefined'");
      comparePixels(b, shot);
      assertThat(b.errors()).isEmpty();
    }
  }

  @Test
  void aZoomWithALensShiftIsSeenAsItIs() throws Exception {
    Shot shot = TestShots.zoom(24, 30, 7);
    Path page = page(shot);
    try (Browser b = new Browser(Browser.installed().orElseThrow(), dir.resolve("profile"))) {
      b.open(page);
      b.await("typeof flarvoViewer !== 'undefined'");
      comparePixels(b, shot);
      // What is drawn, not only what is worked out: a tracker's colour on its pixel.
      String drawn =
          """
          (() => {
            const v = flarvoViewer, c = v.renderer.domElement, gl = v.renderer.getContext();
            const p = v.pixels(5);
            let hit = 0, seen = 0;
            for (const q of Object.values(p)) {
              if (!q || q[0] < 5 || q[1] < 5 || q[0] > 1915 || q[1] > 1075) continue;
              v.draw();
              const one = new Uint8Array(4);
              gl.readPixels(Math.floor(q[0] / 1920 * c.width),
                Math.floor((1 - q[1] / 1080) * c.height), 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, one);
              seen++;
              hit += one[3] > 128 ? 1 : 0;
            }
            return [seen, hit];
          })()
          """;
      JsonNode n = b.evaluate(drawn);
      assertThat(n.get(0).asInt()).isGreaterThan(3);
      assertThat(n.get(1).asInt()).isEqualTo(n.get(0).asInt());
      assertThat(b.errors()).isEmpty();
    }
  }
}
