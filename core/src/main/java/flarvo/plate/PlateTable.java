package flarvo.plate;

import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Sequences of one shot side by side: what they are, and what does not go together. */
public final class PlateTable {

  /** A sequence and what is to be said of it. */
  public record Row(PlateSequence plates, String relation, List<String> notes) {
    public Row {
      notes = List.copyOf(notes);
    }

    /** With more to be said. */
    public Row noting(List<String> more) {
      List<String> all = new ArrayList<>(notes);
      all.addAll(more);
      return new Row(plates, relation, all);
    }
  }

  /** Frames that are named one by one; more are counted. */
  private static final int MOST_NAMED = 5;

  private PlateTable() {}

  /** Rows in the order given, each measured against the original, or the first without one. */
  public static List<Row> of(List<PlateSequence> all) {
    Optional<PlateSequence> first =
        all.stream()
            .filter(p -> p.role() == PlateRole.ORIGINAL)
            .findFirst()
            .or(() -> all.stream().findFirst());
    List<Row> rows = new ArrayList<>();
    for (PlateSequence p : all) {
      PlateSequence lead = first.orElseThrow();
      List<String> notes = new ArrayList<>();
      missing(p, notes);
      if (!p.equals(lead)) {
        frames(p, lead, notes);
      }
      rows.add(new Row(p, p.equals(lead) ? "" : relation(p.size(), lead.size()), notes));
    }
    return rows;
  }

  private static void missing(PlateSequence p, List<String> notes) {
    int n = p.missing().size();
    if (n == 0) {
      return;
    }
    notes.add(
        n <= MOST_NAMED
            ? "missing " + String.join(", ", p.missing().stream().map(String::valueOf).toList())
            : n + " frames missing, the first " + p.missing().get(0));
  }

  /** A range that is only moved is another fault than one that is short. */
  private static void frames(PlateSequence p, PlateSequence lead, List<String> notes) {
    FrameRange a = p.frames();
    FrameRange b = lead.frames();
    int start = a.first() - b.first();
    int end = a.last() - b.last();
    if (start == end && start != 0) {
      notes.add("numbered " + count(Math.abs(start)) + (start > 0 ? " later" : " earlier"));
      return;
    }
    if (start != 0) {
      notes.add("starts " + count(Math.abs(start)) + (start > 0 ? " late" : " early"));
    }
    if (end != 0) {
      notes.add("ends " + count(Math.abs(end)) + (end > 0 ? " late" : " early"));
    }
  }

  private static String count(int frames) {
    return frames == 1 ? "1 frame" : frames + " frames";
  }

  private static String relation(PictureSize a, PictureSize b) {
    if (a.width() == b.width() && a.height() == b.height()) {
      return "same size";
    }
    double x = a.width() / (double) b.width();
    double y = a.height() / (double) b.height();
    boolean alike = Math.abs(x - y) < 0.5 / Math.min(b.width(), b.height());
    if (alike && x < 1 && Math.abs(1 / x - Math.rint(1 / x)) < 0.01) {
      return "1/" + Math.round(1 / x) + " size";
    }
    return alike
        ? String.format(Locale.ROOT, "%.3f × the size", x)
        : String.format(Locale.ROOT, "%.3f × %.3f of the size", x, y);
  }
}
