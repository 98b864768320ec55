package flarvo.note;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.proof.Check;
import flarvo.proof.DriftReport;
import flarvo.proof.ProofJson;
import flarvo.proof.ProofReport;
import flarvo.report.Html;
import flarvo.report.InputError;
import flarvo.work.AtomicFile;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * The report of one proof, or of a file that somebody sent: a page that stands alone, and JSON
 * beside it.
 *
 * @param title what was measured
 * @param against what it was measured with
 * @param holds empty where that is for the reader to judge
 * @param said in sentences, the verdict first
 * @param drift a frame
 * @param losses what the file does not carry, or carries otherwise
 */
public record ProofPage(
    String title,
    String against,
    Optional<Boolean> holds,
    List<String> said,
    Optional<DriftReport> drift,
    double limitPx,
    List<Check> checks,
    List<String> losses) {

  private static final int WORST = 10;
  private static final ObjectMapper MAPPER =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  public ProofPage {
    said = List.copyOf(said);
    checks = List.copyOf(checks);
    losses = List.copyOf(losses);
    drift = drift.filter(d -> d.compared() > 0);
  }

  /** Of a proof. */
  public static ProofPage of(String title, String against, ProofReport p) {
    String said = p.sentence();
    return new ProofPage(
        title,
        against,
        Optional.of(p.holds()),
        List.of(said.substring(0, 1).toUpperCase(Locale.ROOT) + said.substring(1) + "."),
        p.drift(),
        p.limitPx(),
        p.checks(),
        p.losses().stream().map(n -> n.kind().word() + ": " + n).toList());
  }

  /**
   * Writes the page, and its JSON beside it.
   *
   * @param page is replaced where it exists
   * @return both files
   * @throws InputError when it is not called {@code .html}, or the disk refuses
   */
  public List<Path> write(Path page) {
    Path json = beside(page);
    byte[] html = html().getBytes(StandardCharsets.UTF_8);
    byte[] data = json().getBytes(StandardCharsets.UTF_8);
    AtomicFile.write(
        List.of(
            new AtomicFile.Target(page, out -> out.write(html)),
            new AtomicFile.Target(json, out -> out.write(data))));
    return List.of(page, json);
  }

  /** The JSON that goes with a page. */
  public static Path beside(Path page) {
    String n = page.getFileName().toString();
    if (!n.endsWith(".html")) {
      throw new InputError(page.toString(), "", "a report is an HTML page", "Call it *.html");
    }
    return page.resolveSibling(n.substring(0, n.length() - 5) + ".json");
  }

  private String json() {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    o.put("proofReport", 1).put("title", title).put("against", against);
    o.put("holds", holds.orElse(null));
    ArrayNode sentences = o.putArray("said");
    said.forEach(sentences::add);
    ProofJson.drift(o, drift);
    o.put("limitPx", limitPx);
    ArrayNode frames = o.putArray("driftPx");
    drift.ifPresent(d -> each(d, (f, px) -> frame(frames, f, px)));
    ProofJson.checks(o.putArray("checks"), checks);
    ArrayNode lost = o.putArray("losses");
    losses.forEach(lost::add);
    try {
      return MAPPER.writeValueAsString(o) + "\n";
    } catch (JsonProcessingException e) {
      throw new IllegalStateException(e);
    }
  }

  private interface Each {
    void of(int frame, double px);
  }

  private static void each(DriftReport d, Each to) {
    for (int f = d.frames().first(); f <= d.frames().last(); f++) {
      to.of(f, d.maxPx(f));
    }
  }

  private static void frame(ArrayNode to, int frame, double px) {
    ArrayNode one = to.addArray().add(frame);
    if (Double.isFinite(px)) {
      one.add(px);
    } else {
      one.addNull();
    }
  }

  private String html() {
    StringBuilder out = new StringBuilder(1 << 14);
    out.append("<!doctype html>\n<html lang=\"en\">\n<meta charset=\"utf-8\">\n<title>");
    out.append(Html.escaped(title)).append(": proof</title>\n<style>\n").append(style());
    out.append("</style>\n<header><p>Proof<h1>").append(Html.escaped(title)).append("</h1>\n");
    out.append("<p class=\"quiet\">against ").append(Html.escaped(against)).append("</header>\n");
    String verdict = holds.map(h -> h ? "holds" : "bad").orElse("");
    for (String s : said) {
      out.append("<p class=\"").append(verdict).append("\">").append(Html.escaped(s)).append('\n');
      verdict = "";
    }
    drift.ifPresent(d -> drift(out, d));
    if (!checks.isEmpty()) {
      out.append("<h2>Checks</h2>\n<table><tr><th><th>Check<th>Found<th>Expected");
      for (Check c : checks) {
        out.append("\n<tr><td class=\"").append(c.holds() ? "holds\">✓" : "bad\">×");
        out.append("<td>").append(Html.escaped(c.name())).append("<td>");
        out.append(Html.escaped(c.found())).append("<td>").append(Html.escaped(c.expected()));
      }
      out.append("</table>\n");
    }
    if (!losses.isEmpty()) {
      out.append("<h2>Lost or changed</h2>\n<ul>");
      losses.forEach(l -> out.append("\n<li>").append(Html.escaped(l)));
      out.append("</ul>\n");
    }
    return out.append("</html>\n").toString();
  }

  private void drift(StringBuilder out, DriftReport d) {
    out.append("<h2>Drift</h2>\n<p>").append(px(d.maxPx())).append(" at most, ");
    out.append(px(d.rmsPx())).append(" RMS; ").append(d.compared());
    out.append(" projections compared; limit ");
    out.append(BigDecimal.valueOf(limitPx).stripTrailingZeros().toPlainString()).append(" px.\n");
    new DriftFigure(d, limitPx).addTo(out);
    out.append("<table><tr><th>Frame<th>Largest<th>RMS<th>Tracker");
    for (int f : d.worstFrames(WORST)) {
      out.append("\n<tr><td class=\"figure\">").append(f).append("<td class=\"figure\">");
      out.append(px(d.maxPx(f))).append("<td class=\"figure\">").append(px(d.rmsPx(f)));
      out.append("<td>").append(Html.escaped(d.worstTracker(f)));
    }
    out.append("</table>\n");
  }

  private static String px(double v) {
    return Double.isInfinite(v)
        ? "behind the camera"
        : String.format(Locale.ROOT, v >= 1 ? "%.3f px" : "%.6f px", v);
  }

  private static String style() {
    try (InputStream in = ProofPage.class.getResourceAsStream("note.css")) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
