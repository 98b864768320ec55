package flarvo.note;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialect;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.proof.Check;
import flarvo.proof.DriftReport;
import flarvo.report.Html;
import flarvo.scene.FrameRange;
import flarvo.scene.PlateSequence;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** A hand-over note as a page that stands alone: no network, and it prints without its viewer. */
final class NotePage {

  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMMM uuuu, HH:mm 'UTC'", Locale.ENGLISH)
          .withZone(ZoneOffset.UTC);

  private final HandoverNote note;
  private final StringBuilder out = new StringBuilder(1 << 16);

  private NotePage(HandoverNote note) {
    this.note = note;
  }

  static String of(HandoverNote note, Progress progress) {
    return new NotePage(note).page(progress);
  }

  private String page(Progress progress) {
    out.append("<!doctype html>\n<html lang=\"en\">\n<meta charset=\"utf-8\">\n");
    out.append(HandoverNote.MARK).append("\n<title>");
    text(note.name()).append(": hand-over note</title>\n<style>\n").append(resource("note.css"));
    out.append("</style>\n<header><p>");
    text(note.project()).append("<h1>");
    text(note.name()).append("</h1>\n<p class=\"").append(note.holds() ? "holds" : "bad");
    out.append("\">");
    text(note.sentence()).append("<p class=\"quiet\">");
    text(DAY.format(note.made())).append("</header>\n");
    Optional<ObjectNode> viewer = ViewerData.of(note.source(), progress);
    if (viewer.isPresent()) {
      viewer();
    }
    summary();
    for (int i = 0; i < note.entries().size(); i++) {
      entry(note.entries().get(i), i);
    }
    new NoteFrames(note).addTo(out);
    plates();
    note.lens().ifPresent(this::lens);
    checksums();
    // On paper nothing can be opened.
    out.append("<script>addEventListener('beforeprint', () => ");
    out.append(
        "document.querySelectorAll('details').forEach(d => { d.open = true; }));</script>\n");
    if (viewer.isPresent()) {
      // A page ends its scripts at the first such tag, wherever it stands.
      out.append("<script type=\"application/json\" id=\"viewer-data\">");
      out.append(viewer.get().toString().replace("<", "\\u003c")).append("</script>\n<script>");
      out.append(resource("viewer.js")).append("</script>\n");
    }
    return out.append("</html>\n").toString();
  }

  private void viewer() {
    WorldShot s = note.source();
    int step = ViewerData.step(s);
    out.append(
        "<section class=\"viewer\">\n<div id=\"viewer\"><img alt=\"\"><canvas></canvas></div>\n");
    out.append("<p class=\"controls\"><button id=\"viewer-play\" type=\"button\">Play</button>");
    out.append("<input id=\"viewer-frame\" type=\"range\" aria-label=\"Frame\" min=\"");
    out.append(s.frames().first()).append("\" max=\"").append(s.frames().last());
    out.append("\" step=\"")
        .append(Math.max(1, step))
        .append("\"><span id=\"viewer-said\"></span>");
    out.append(
        "<button id=\"viewer-turn\" type=\"button\">Turn the scene</button></p>\n<p class=\"quiet\">");
    text("The shot through its camera over small plates; the points are the trackers.");
    if (step > 1) {
      text(" Every " + (step == 2 ? "second" : step + "th") + " frame is in this page.");
    }
    if (ViewerData.leavesOutMeshes(s)) {
      text(" Geometry is left out for its size.");
    }
    out.append("\n</section>\n");
  }

  private void summary() {
    WorldShot s = note.source();
    FrameRange plate = s.frames();
    out.append(
        "<h2>Frames</h2>\n<table class=\"frames\"><tr><th><th>First<th>Last<th>Count<th>Rate");
    row("plate", plate.first(), plate.last(), plate.count(), s.rate().display());
    for (HandoverNote.Entry e : note.entries()) {
      FrameRange r = e.frames().recipientFrames();
      row(
          e.delivery().name(),
          r.first(),
          r.last(),
          r.count(),
          e.frames().recipientRate().display());
    }
    out.append("</table>\n");
  }

  private void row(String name, int first, int last, int count, String rate) {
    out.append("\n<tr><td>");
    text(name);
    for (Object v : new Object[] {first, last, count, rate}) {
      out.append("<td class=\"figure\">").append(v);
    }
  }

  private void entry(HandoverNote.Entry e, int at) {
    out.append("<section class=\"delivery\" id=\"d").append(at).append("\"><h2>");
    text(e.delivery().name()).append("</h2>\n<p class=\"file\">");
    text(e.files().get(0).name()).append(" <span class=\"quiet\">");
    text(e.delivery().format().title()).append("</span>\n<p class=\"");
    out.append(e.proof().holds() ? "holds" : "bad").append("\">");
    text(capital(e.proof().sentence())).append(".\n<div class=\"sides\"><div>");
    List<String> settings = e.settings();
    out.append("<h3>To set on import</h3>\n");
    if (settings.isEmpty()) {
      out.append("<p>Nothing: a plain import is right as it comes.\n");
    } else {
      out.append("<ol>");
      settings.forEach(
          w -> {
            out.append("<li>");
            text(w).append('.');
          });
      out.append("</ol>\n");
    }
    conventions(e.delivery().dialect());
    out.append("</div><div>");
    out.append(AxisFigure.of(e.delivery().dialect()));
    out.append("</div></div>\n");
    proof(e);
    out.append("</section>\n");
  }

  private void conventions(Dialect d) {
    out.append("<h3>Conventions</h3>\n<table>");
    pair("Dialect", d.name());
    pair("World", d.world().up() + " up, " + d.handedness().word() + "-handed");
    pair("Unit", d.pixels().isPresent() ? "pixels of the picture" : d.unit().toString());
    if (d.pixels().isEmpty()) {
      double units = 1 / d.unit().metresPerUnit();
      pair(
          "Scale",
          "1 m here is "
              + number(units)
              + (units == 1 ? " unit" : " units")
              + " there; imported at × 10 it would be "
              + number(10 * units));
    }
    pair("Camera", "looks along " + d.camera().view() + ", " + d.camera().up() + " up");
    pair("Angles", d.rotationOrder() + ", " + d.angles().word());
    pair("Film fit", d.film().fit().word());
    out.append("</table>\n");
  }

  private void proof(HandoverNote.Entry e) {
    out.append("<details><summary>Proof: ");
    e.proof()
        .drift()
        .filter(d -> d.compared() > 0)
        .ifPresentOrElse(this::drift, () -> text("no camera sees a point"));
    out.append("</summary><table>");
    for (Check c : e.proof().checks()) {
      out.append("\n<tr><td>").append(c.holds() ? "" : "<span class=\"bad\">");
      text(c.name()).append(c.holds() ? "" : "</span>").append("<td>");
      text(c.found());
      if (!c.holds()) {
        text(", not " + c.expected());
      }
    }
    out.append("</table></details>\n");
    if (!e.proof().losses().isEmpty()) {
      out.append("<details open><summary>Assumed, changed or lost</summary><ul>");
      e.proof()
          .losses()
          .forEach(
              n -> {
                out.append("<li>");
                text(n.kind().word() + ": " + n);
              });
      out.append("</ul></details>\n");
    }
  }

  private void drift(DriftReport d) {
    text(
        String.format(
            Locale.ROOT,
            "%.6f px at most, %.6f px RMS, over %d projections; worst at frame %d, tracker %s",
            d.maxPx(),
            d.rmsPx(),
            d.compared(),
            d.worstFrame(),
            d.worstTracker()));
  }

  private void plates() {
    if (note.shot().plates().isEmpty()) {
      return;
    }
    boolean timed = note.shot().plates().stream().anyMatch(p -> NoteJson.timecode(p).isPresent());
    out.append("<h2>Plates</h2>\n<table><tr><th>Role<th>Files<th>Frames<th>Size");
    out.append(timed ? "<th>Timecode" : "");
    for (PlateSequence p : note.shot().plates()) {
      out.append("\n<tr><td>");
      text(p.role().word()).append("<td>");
      text(p.pattern()).append("<td class=\"figure\">").append(p.frames());
      out.append("<td class=\"figure\">");
      text(p.size().toString());
      if (timed) {
        out.append("<td class=\"figure\">");
        text(NoteJson.timecode(p).map(t -> t.get(0) + " – " + t.get(1)).orElse("not stated"));
      }
    }
    out.append("</table>\n<p class=\"quiet\">The camera belongs over the undistorted plates.\n");
  }

  private void lens(LensTrack lens) {
    out.append("<h2>Lens</h2>\n<table>");
    for (Map.Entry<String, JsonNode> e : LensSheet.document(lens).properties()) {
      pair(e.getKey(), e.getValue().isValueNode() ? e.getValue().asText() : words(e.getValue()));
    }
    out.append("</table>\n");
  }

  private static String words(JsonNode n) {
    String s = n.toString();
    return s.length() > 400 ? s.substring(0, 400) + " …" : s;
  }

  private void checksums() {
    out.append("<h2>Files</h2>\n<table><tr><th>File<th>Bytes<th>SHA-256");
    for (HandoverNote.Entry e : note.entries()) {
      for (FileFacts f : e.files()) {
        out.append("\n<tr><td>");
        text(f.name()).append("<td class=\"figure\">").append(f.bytes());
        out.append("<td class=\"sum\">").append(f.sha256());
      }
    }
    out.append("</table>\n");
  }

  private void pair(String name, String value) {
    out.append("\n<tr><td>");
    text(name).append("<td>");
    text(value);
  }

  private static String number(double v) {
    return v == Math.rint(v) && Math.abs(v) < 1e9
        ? String.valueOf((long) v)
        : String.format(Locale.ROOT, "%.6g", v);
  }

  private static String capital(String s) {
    return s.isEmpty() ? s : s.substring(0, 1).toUpperCase(Locale.ROOT) + s.substring(1);
  }

  private StringBuilder text(String s) {
    return out.append(Html.escaped(s));
  }

  private static String resource(String name) {
    try (InputStream in = NotePage.class.getResourceAsStream(name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
