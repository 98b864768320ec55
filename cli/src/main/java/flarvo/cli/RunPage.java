package flarvo.cli;

import flarvo.recipe.Recipe;
import flarvo.recipe.ShotResult;
import flarvo.report.Html;
import java.util.List;
import java.util.Locale;

/** The report of a run as a page that stands alone: no script, no network, prints well. */
final class RunPage {

  private static final String STYLE =
      """
      body { font: 15px/1.45 system-ui, sans-serif; margin: 2rem auto; max-width: 70rem; }
      table { border-collapse: collapse; width: 100%; }
      th, td { text-align: left; vertical-align: top; padding: .35rem .8rem .35rem 0; }
      tr.shot td { border-top: 1px solid #999; font-weight: 600; }
      td.figure { text-align: right; font-variant-numeric: tabular-nums; }
      .bad { color: #a3200d; }
      .quiet { color: #666; font-weight: 400; }
      @media print { body { margin: 0; } tr { break-inside: avoid; } }
      """;

  private RunPage() {}

  static String of(Recipe recipe, List<ShotResult> all) {
    StringBuilder s = new StringBuilder(1 << 12);
    s.append("<!doctype html>\n<html lang=\"en\">\n<meta charset=\"utf-8\">\n<title>");
    s.append(Html.escaped(recipe.project())).append(": hand-over of ").append(all.size());
    s.append(all.size() == 1 ? " shot" : " shots").append("</title>\n<style>\n");
    s.append(STYLE)
        .append("</style>\n<h1>")
        .append(Html.escaped(recipe.project()))
        .append("</h1>\n<p>");
    s.append(Html.escaped(ReportOption.summary(all)));
    s.append(String.format(Locale.ROOT, ". A delivery holds within %s px.", recipe.limitPx()));
    s.append("</p>\n");
    trouble(s, all);
    s.append("<table>\n<tr><th>Shot, recipient<th>State<th>File<th>Proof\n");
    for (int i = 0; i < all.size(); i++) {
      shot(s, all.get(i), i);
    }
    return s.append("</table>\n</html>\n").toString();
  }

  /** What somebody has to look at comes first, whatever number of shots holds. */
  private static void trouble(StringBuilder s, List<ShotResult> all) {
    if (all.stream().allMatch(r -> r.state() == ShotResult.State.HOLDS)) {
      return;
    }
    s.append("<h2>Needs attention</h2>\n<ul>\n");
    for (int i = 0; i < all.size(); i++) {
      ShotResult r = all.get(i);
      if (r.state() != ShotResult.State.HOLDS) {
        s.append("<li><a href=\"#s").append(i).append("\">").append(Html.escaped(r.shot()));
        s.append("</a>: <span class=\"bad\">").append(r.state().word()).append("</span>. ");
        s.append(Html.escaped(r.said())).append('\n');
      }
    }
    s.append("</ul>\n<h2>All shots</h2>\n");
  }

  private static void shot(StringBuilder s, ShotResult r, int at) {
    boolean holds = r.state() == ShotResult.State.HOLDS;
    s.append("<tr class=\"shot\" id=\"s")
        .append(at)
        .append("\"><td>")
        .append(Html.escaped(r.shot()));
    s.append(holds ? "<td>" : "<td class=\"bad\">").append(r.state().word());
    s.append("<td colspan=\"2\" class=\"quiet\">").append(Html.escaped(r.said())).append('\n');
    for (ShotResult.Sent d : r.deliveries()) {
      s.append("<tr><td>").append(Html.escaped(d.recipient()));
      s.append(d.holds() ? "<td>holds" : "<td class=\"bad\">does not hold");
      s.append(d.fresh() ? " <span class=\"quiet\">(from an earlier run)</span>" : "");
      s.append("<td>").append(Html.escaped(d.file())).append("<td>").append(Html.escaped(d.said()));
      s.append('\n');
    }
    if (!r.losses().isEmpty()) {
      s.append("<tr><td><td colspan=\"3\"><details><summary>");
      s.append(r.losses().size()).append(" assumed, changed or lost</summary><ul>");
      r.losses().forEach(l -> s.append("<li>").append(Html.escaped(l)));
      s.append("</ul></details>\n");
    }
  }
}
