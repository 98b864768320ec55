package flarvo.note;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FrameNumbering;
import flarvo.convention.RatePolicy;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Outgoing;
import flarvo.format.Formats;
import flarvo.proof.ProofReport;
import flarvo.report.InputError;
import flarvo.scene.PlateFacts;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.Timecode;
import flarvo.work.Progress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.Instant;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a hand-over note says, and that it says it alone. */
class HandoverNoteTest {

  private static final Instant NOON = Instant.parse("2026-11-26T12:00:00Z");

  @TempDir private Path dir;

  private final Shot shot = TestShots.walk(24, 20, 7).withRate(Rate.FPS_24);

  private Delivery delivery(String name, Dialect d, String format) {
    String ext = Formats.byId(format).extensions().get(0);
    return new Delivery(
        name, d, Formats.byId(format), Contents.CAMERA_AND_TRACKERS, name.length() + ext);
  }

  private Map<Delivery, Path> send(Delivery... all) {
    Map<Delivery, Path> sent = new LinkedHashMap<>();
    for (Delivery d : all) {
      Path file = dir.resolve(d.fileName());
      Dispatcher.send(shot, d, file, Progress.NONE);
      sent.put(d, file);
    }
    return sent;
  }

  private HandoverNote note(Shot of, String name, Map<Delivery, Path> sent) {
    return HandoverNote.of(
        "Show & <b>",
        name,
        Outgoing.of(of),
        sent,
        List.of(),
        ProofReport.USUAL_LIMIT_PX,
        NOON,
        Progress.NONE);
  }

  private static Dialect dialect(String name) {
    return Dialects.shipped().get(name);
  }

  @Test
  void whatIsSaidIsOfTheFilesOnDisk() throws Exception {
    Dialect late =
        dialect("track-zup")
            .withFrames(
                new FrameNumbering(OptionalInt.of(0), Optional.empty(), RatePolicy.KEEP_FRAMES));
    HandoverNote note =
        note(
            shot,
            "sh010",
            send(
                delivery("Animation", dialect("anim-yup-cm"), "usd-text"),
                delivery("Layout", late, "fbx-binary"),
                delivery("Compositing table", dialect("comp-pixels"), "table")));
    List<Path> written = note.write(dir.resolve("sh010_note.html"), Progress.NONE);
    assertThat(written).allMatch(Files::exists);
    JsonNode n = new ObjectMapper().readTree(written.get(1).toFile());
    assertThat(n.get("holds").asBoolean()).isTrue();
    assertThat(n.get("sentence").asText()).startsWith("3 of 3 deliveries proven, at most 0.00");
    assertThat(n.get("made").asText()).isEqualTo("2026-11-26T12:00:00Z");
    JsonNode layout = n.get("deliveries").get(1);
    assertThat(layout.get("frames").get("first").asInt()).isZero();
    assertThat(layout.get("settings").get(0).asText())
        .isEqualTo("Lay the first picture of the plate on frame 0");
    assertThat(layout.get("settings").get(1).asText()).isEqualTo("Set the frame range to 0-23");
    assertThat(layout.get("onPlainImport").get(0).get("wrong").asBoolean()).isTrue();
    assertThat(n.get("deliveries").get(0).get("settings")).isEmpty();
    JsonNode table = n.get("deliveries").get(2).get("files");
    assertThat(table).as("a table and its trackers").hasSize(2);
    for (JsonNode d : n.get("deliveries")) {
      for (JsonNode f : d.get("files")) {
        byte[] bytes = Files.readAllBytes(dir.resolve(f.get("name").asText()));
        assertThat(f.get("bytes").asLong()).isEqualTo(bytes.length);
        assertThat(f.get("sha256").asText())
            .isEqualTo(
                HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes)));
      }
    }
    String html = Files.readString(written.get(0));
    assertThat(html)
        .contains("1 m here is 100 units there; imported at × 10 it would be 1000")
        .contains("<li>Lay the first picture of the plate on frame 0.")
        .contains("aria-label=\"right +X, up +Z, away +Y, right-handed\"")
        .contains("26 November 2026, 12:00 UTC");
  }

  @Test
  void thePageNeedsNothingFromOutside() {
    HandoverNote note =
        note(shot, "sh010", send(delivery("Animation", dialect("anim-yup-cm"), "usd-text")));
    String html = NotePage.of(note, Progress.NONE);
    Matcher m = Pattern.compile("(?:src|href)=\"?([^\"> ]*)").matcher(withoutScripts(html));
    while (m.find()) {
      assertThat(m.group(1)).startsWith("data:");
    }
    Matcher urls = Pattern.compile("https?://[\\w./-]*").matcher(html);
    while (urls.find()) {
      assertThat(urls.group())
          .as("a name of a namespace, not an address")
          .isEqualTo("http://www.w3.org/1999/xhtml");
    }
    assertThat(html).contains("@media print");
  }

  @Test
  void plateTimecodeIsThatOfTheirFirstAndLastFrame() throws Exception {
    PlateFacts facts =
        new PlateFacts(10, false, false, Optional.of(Rate.FPS_24), Optional.of("10:59:59:20"), "");
    PlateSequence plates =
        new PlateSequence(
            dir,
            "p.",
            4,
            ".exr",
            shot.frames(),
            List.of(),
            shot.picture(),
            PlateRole.ORIGINAL,
            facts);
    Map<Delivery, Path> sent = send(delivery("Animation", dialect("anim-yup-cm"), "usd-text"));
    HandoverNote note = note(shot.withPlates(List.of(plates)), "sh010", sent);
    JsonNode n = new ObjectMapper().readTree(NoteJson.text(note));
    String last = Timecode.later("10:59:59:20", shot.frames().count() - 1, Rate.FPS_24);
    assertThat(last).isEqualTo("11:00:00:19");
    assertThat(n.get("plates").get(0).get("timecode").get("last").asText()).isEqualTo(last);
    assertThat(NotePage.of(note, Progress.NONE)).contains("<th>Timecode", "10:59:59:20 – " + last);
  }

  @Test
  void theBundledViewerIsMadeOfItsSource() throws Exception {
    byte[] source = Files.readAllBytes(Path.of("../viewer/viewer.js"));
    String sum = HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(source));
    try (var in = HandoverNote.class.getResourceAsStream("viewer.js")) {
      assertThat(new String(in.readAllBytes(), StandardCharsets.UTF_8))
          .as("run viewer/build after a change of viewer.js")
          .endsWith("/* made of viewer.js " + sum + " */\n");
    }
  }

  private static String withoutScripts(String html) {
    return html.replaceAll("(?s)<script.*?</script>", "");
  }

  @Test
  void namesAreTextAndNeverMarkup() {
    String name = "a</script><script>alert(1)</script>&\"";
    Shot odd =
        shot.withTrackers(
            List.of(
                shot.trackers()
                    .get(0)
                    .withNames(
                        java.util.stream.IntStream.range(0, 20)
                            .mapToObj(i -> "t" + i + "</script><i>")
                            .toList())));
    Delivery d = delivery("To <i>", dialect("anim-yup-cm"), "scene-json");
    Path file = dir.resolve(d.fileName());
    Dispatcher.send(odd, d, file, Progress.NONE);
    HandoverNote note = note(odd, name, Map.of(d, file));
    assertThat(note.holds()).isTrue();
    String html = NotePage.of(note, Progress.NONE);
    assertThat(html)
        .doesNotContain("<i>")
        .doesNotContain("<b>")
        .doesNotContain("alert(1)</script>");
    assertThat(html.split("</script>", -1)).as("the page's own three scripts").hasSize(4);
    assertThat(html).contains("Show &amp; &lt;b&gt;");
  }

  @Test
  void aFileThatWasChangedSinceItWasSentIsSaidAndNotHidden() throws Exception {
    Delivery d = delivery("Animation", dialect("anim-yup-cm"), "usd-text");
    Map<Delivery, Path> sent = send(d);
    Path file = sent.get(d);
    String text = Files.readString(file, StandardCharsets.UTF_8);
    assertThat(text).contains("metersPerUnit = 0.01");
    Files.writeString(file, text.replace("metersPerUnit = 0.01", "metersPerUnit = 0.1"));
    HandoverNote note = note(shot, "sh010", sent);
    assertThat(note.holds()).isFalse();
    assertThat(note.sentence()).startsWith("0 of 1 delivery proven");
    assertThat(NotePage.of(note, Progress.NONE)).contains("class=\"bad\">Does not hold: unit");
  }

  @Test
  void anotherPageIsNeverReplacedAndAnEarlierNoteIs() throws Exception {
    HandoverNote note =
        note(shot, "sh010", send(delivery("Animation", dialect("anim-yup-cm"), "usd-text")));
    Path page = dir.resolve("page.html");
    Files.writeString(page, "<html>somebody else's</html>");
    assertThatThrownBy(() -> note.write(page, Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("is no hand-over note");
    assertThat(page).hasContent("<html>somebody else's</html>");
    Files.delete(page);
    note.write(page, Progress.NONE);
    byte[] first = Files.readAllBytes(page);
    note.write(page, Progress.NONE);
    assertThat(Files.readAllBytes(page)).as("the same note again").isEqualTo(first);
    assertThatThrownBy(() -> note.write(dir.resolve("note.txt"), Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("*.html");
  }

  @Test
  void trackersAloneHaveANoteWithoutAViewer() {
    Delivery d =
        delivery("Points", dialect("anim-yup-cm"), "usd-text").withContents(Contents.TRACKERS);
    Shot alone = shot.withCameras(List.of());
    Path file = dir.resolve(d.fileName());
    Dispatcher.send(alone, d, file, Progress.NONE);
    String html = NotePage.of(note(alone, "sh010", Map.of(d, file)), Progress.NONE);
    assertThat(html).doesNotContain("viewer-data").contains("Points");
  }
}
