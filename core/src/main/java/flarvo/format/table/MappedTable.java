package flarvo.format.table;

import flarvo.format.FileCamera;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.Sourced;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.Timecode;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Reads a table as a mapping says. */
public final class MappedTable {

  private static final String PLACE = "the table's mapping";

  /** Height of the film back that stands in where only an angle is known; any does. */
  private static final double NOMINAL_HEIGHT_MM = 24;

  /** How far a time may lie from its frame, beside what its last digit leaves open. */
  private static final double OFF_FRAME = 0.05;

  private static final double MOST_OFF_FRAME = 0.4;

  private final TableCells cells;
  private final TableMapping mapping;
  private final ReadLimits limits;
  private final Progress progress;
  private final Map<ColumnRole, Integer> columns = new EnumMap<>(ColumnRole.class);
  private final FileScene.Builder out = new FileScene.Builder();
  private List<String> row = List.of();
  private int at;
  private int from; // first row that counts
  private int to; // behind the last
  private int blanks;

  private MappedTable(
      TableCells cells, TableMapping mapping, ReadLimits limits, Progress progress) {
    this.cells = cells;
    this.mapping = mapping;
    this.limits = limits;
    this.progress = progress;
    this.to = cells.rows();
    for (int i = 0; i < mapping.columns().size(); i++) {
      columns.put(mapping.columns().get(i).role(), i);
    }
  }

  /**
   * Reads a table under a mapping.
   *
   * @throws InputError with the line and the column
   */
  public static FileScene read(
      Path file, TableMapping mapping, ReadLimits limits, Progress progress) {
    return read(file.toString(), TextSource.read(file, limits), mapping, limits, progress);
  }

  /**
   * @param file its name, for errors
   */
  public static FileScene read(
      String file, String text, TableMapping mapping, ReadLimits limits, Progress progress) {
    String lacks = mapping.lacks();
    if (!lacks.isEmpty()) {
      throw new InputError(
          file, "columns", lacks, "Say at Receive which column is what, with 'Columns'");
    }
    TableCells cells = new TableCells(file, text, mapping.layout());
    if (cells.rows() == 0) {
      throw new InputError(file, "", "the table has no rows", "Check how many lines are skipped");
    }
    if (cells.blocks() != null) {
      cells.blocks().check();
    }
    MappedTable t = new MappedTable(cells, mapping, limits, progress);
    t.trim();
    TableComments said = new TableComments(text);
    t.out.picture = said.picture().map(p -> Sourced.said(p, "a comment")).orElse(null);
    t.out.rate = said.rate().map(r -> Sourced.said(r, "a comment")).orElse(null);
    return t.read();
  }

  private FileScene read() {
    out.unit = mapping.unit().map(u -> Sourced.said(u, PLACE)).orElse(null);
    out.up = mapping.up().map(u -> Sourced.said(u, PLACE)).orElse(null);
    switch (mapping.kind().orElseThrow()) {
      case CAMERA -> camera();
      case TRACKS -> tracks();
      case POINTS -> points();
      case TRACKS_AND_POINTS -> {
        tracks();
        points();
      }
    }
    notes();
    if (blanks > 0) {
      out.notes.add(
          Note.ignored("rows", blanks + (blanks == 1 ? " row" : " rows") + " with a blank cell"));
    }
    return out.build();
  }

  private void notes() {
    if (mapping.hasFrames() && mapping.frameRole() != ColumnRole.FRAME) {
      String shifted = mapping.frameShift() == 0 ? "" : " and shifted by " + mapping.frameShift();
      out.notes.add(
          Note.assumed(
              "frames",
              "from "
                  + mapping.frameRole().title()
                  + " at "
                  + rate().display()
                  + " fps, counted from 0"
                  + shifted));
    }
    if (cells.blocks() != null && !cells.blocks().empty().isEmpty()) {
      List<String> lines = cells.blocks().empty();
      out.notes.add(
          Note.ignored(
              "lines",
              lines.size()
                  + " without rows: "
                  + String.join(", ", lines.subList(0, Math.min(5, lines.size())))));
    }
  }

  /** Rows of words at the start and the end, such as units and totals, are no rows of the table. */
  private void trim() {
    while (from < to && cells.isWords(from)) {
      from++;
    }
    while (to > from && cells.isWords(to - 1)) {
      to--;
    }
    if (to - from < cells.rows()) {
      int words = cells.rows() - (to - from);
      out.notes.add(
          Note.ignored(
              "rows", words + (words == 1 ? " row" : " rows") + " of words at the start or end"));
    }
    if (from == to) {
      throw new InputError(cells.file(), "", "no row holds a number", "Check its separators");
    }
  }

  private void turnTo(int index) {
    progress.step(index, cells.rows());
    at = index;
    row = cells.row(index);
  }

  /** Whether a number of this row was left blank; such rows are counted and passed over. */
  private boolean isBlank() {
    for (Map.Entry<ColumnRole, Integer> c : columns.entrySet()) {
      int i = c.getValue();
      if (c.getKey().isNeeded() && i < row.size() && row.get(i).isEmpty()) {
        // A tracker that is not seen on a frame has no columns there.
        blanks += mapping.layout().shape() == TableShape.COLUMNS ? 0 : 1;
        return true;
      }
    }
    return false;
  }

  private boolean has(ColumnRole role) {
    return columns.containsKey(role);
  }

  private String text(ColumnRole role) {
    int c = columns.get(role);
    if (c >= row.size()) {
      throw cells.error(at, c, "the row has " + row.size() + " cells");
    }
    return row.get(c);
  }

  private double number(ColumnRole role) {
    String t = text(role);
    double v = TableCells.number(t, mapping.layout().decimalComma());
    if (!Double.isFinite(v)) {
      throw cells.error(at, columns.get(role), "'" + t + "' is not a number");
    }
    return mapping.columns().get(columns.get(role)).negated() ? -v : v;
  }

  private int frame() {
    ColumnRole role = mapping.frameRole();
    if (role == ColumnRole.TIMECODE) {
      try {
        return Timecode.frames(text(role), rate()) + mapping.frameShift();
      } catch (IllegalArgumentException e) {
        throw cells.error(at, columns.get(role), e.getMessage());
      }
    }
    double v = number(role);
    if (role == ColumnRole.SECONDS) {
      double frame = v * rate().toDouble();
      double off = OFF_FRAME + rounding(text(role)) * rate().toDouble();
      if (!(Math.abs(frame - Math.rint(frame)) <= Math.min(off, MOST_OFF_FRAME))
          || Math.abs(frame) > 1e8) {
        String said = String.format(Locale.ROOT, "%s s is frame %.2f", v, frame);
        throw cells.error(at, columns.get(role), said + " at " + rate().display() + " fps");
      }
      return (int) Math.rint(frame) + mapping.frameShift();
    }
    if (v != Math.rint(v) || Math.abs(v) > 1e8) {
      throw cells.error(at, columns.get(ColumnRole.FRAME), "'" + v + "' is not an integer frame");
    }
    return (int) v + mapping.frameShift();
  }

  /** Half of what one in the last digit of a number is. */
  private static double rounding(String number) {
    int point = Math.max(number.lastIndexOf('.'), number.lastIndexOf(','));
    int digits = 0;
    for (int i = point + 1; point >= 0 && i < number.length(); i++) {
      digits += Character.isDigit(number.charAt(i)) ? 1 : 0;
    }
    return Math.pow(10, -digits) / 2;
  }

  private Rate rate() {
    return mapping.rate().orElseThrow(); // lacks() asks for it
  }

  private PictureSize picture() {
    return mapping.picture().orElse(PictureSize.of(1, 1)); // not looked at where it is not needed
  }

  private void tracks() {
    Observations.Builder b = new Observations.Builder();
    int first = Integer.MAX_VALUE;
    int last = Integer.MIN_VALUE;
    String name = "track";
    try {
      for (int i = from; i < to; i++) {
        turnTo(i);
        if (isBlank()) {
          continue;
        }
        String next = has(ColumnRole.TRACKER) ? text(ColumnRole.TRACKER) : "track";
        name = next.equals(name) ? name : next; // one text for a run of rows
        int frame = frame();
        double x = mapping.pixels().x(number(ColumnRole.PIXEL_X), picture());
        double y = mapping.pixels().y(number(ColumnRole.PIXEL_Y), picture());
        b.add(name, frame, x, y);
        first = Math.min(first, frame);
        last = Math.max(last, frame);
      }
      if (first > last) {
        throw new InputError(
            cells.file(), "", "no row holds a track", "Check the table's columns and separators");
      }
      out.observations = b.build();
      out.range = Sourced.assumed(new FrameRange(first, last), "the rows' frames");
    } catch (IllegalArgumentException e) {
      throw new InputError(cells.file(), "", e.getMessage(), "Fix the table or its mapping", e);
    }
  }

  /** One place a tracker; where it is given at every frame, as beside 2D tracks, the first. */
  private void points() {
    boolean named = has(ColumnRole.TRACKER);
    boolean repeats = named && (mapping.hasFrames() || has(ColumnRole.PIXEL_X));
    FileNames unique = new FileNames();
    Map<String, double[]> places = new LinkedHashMap<>();
    int moved = 0;
    for (int i = from; i < to; i++) {
      turnTo(i);
      if (isBlank()) {
        continue;
      }
      double[] p = {number(ColumnRole.X), number(ColumnRole.Y), number(ColumnRole.Z)};
      String name = named ? text(ColumnRole.TRACKER) : String.format(Locale.ROOT, "p%04d", i + 1);
      if (repeats) {
        double[] before = places.putIfAbsent(name, p);
        moved += before != null && !java.util.Arrays.equals(before, p) ? 1 : 0;
      } else {
        places.put(unique.unique(name), p);
      }
    }
    if (moved > 0) {
      out.notes.add(
          Note.ignored("trackers", moved + " rows move a tracker; its first place is read"));
    }
    double[] xyz = new double[3 * places.size()];
    int n = 0;
    for (double[] p : places.values()) {
      System.arraycopy(p, 0, xyz, 3 * n++, 3);
    }
    out.trackers.add(TrackerSet.of("trackers", new ArrayList<>(places.keySet()), xyz));
  }

  private void camera() {
    SparseCamera rows = new SparseCamera();
    for (int i = from; i < to; i++) {
      turnTo(i);
      if (isBlank()) {
        continue;
      }
      int frame = frame();
      Pose pose =
          new Pose(
              new Vec3(number(ColumnRole.X), number(ColumnRole.Y), number(ColumnRole.Z)),
              rotation());
      if (!rows.add(frame, pose, optics())) {
        throw cells.error(
            at, columns.get(mapping.frameRole()), "frame " + frame + " is given twice");
      }
    }
    if (rows.span() > limits.mostFrames()) {
      throw new InputError(
          cells.file(), "", "the table spans " + rows.span() + " frames", "Check its frames");
    }
    ShotCamera camera = new ShotCamera("camera", rows.poses(), rows.optics(), Optional.empty());
    out.cameras.add(
        mapping.focal() == FocalReading.MILLIMETRES
            ? new FileCamera(camera, rows.given(), 0, true, true)
            : FileCamera.byVerticalAngle(camera, rows.given(), 0));
    out.range = Sourced.said(rows.frames(), "the frames of its rows");
    if (rows.given() < rows.span()) {
      out.notes.add(
          Note.assumed(
              "camera", rows.span() - rows.given() + " frames without a row are interpolated"));
    }
  }

  private Rotation rotation() {
    if (mapping.isMatrix() && !mapping.isQuaternion()) {
      double[] m = TableMapping.MATRIX.stream().mapToDouble(this::number).toArray();
      return MatrixColumns.rotation(m)
          .orElseThrow(
              () -> cells.error(at, columns.get(ColumnRole.M00), "the matrix is no rotation"));
    }
    if (!mapping.isQuaternion()) {
      return mapping
          .order()
          .compose(
              mapping.angles().toRadians(number(ColumnRole.TURN_X)),
              mapping.angles().toRadians(number(ColumnRole.TURN_Y)),
              mapping.angles().toRadians(number(ColumnRole.TURN_Z)));
    }
    try {
      return Rotation.normalized(
          number(ColumnRole.QUAT_W),
          number(ColumnRole.QUAT_X),
          number(ColumnRole.QUAT_Y),
          number(ColumnRole.QUAT_Z));
    } catch (IllegalArgumentException e) {
      throw cells.error(at, columns.get(ColumnRole.QUAT_W), e.getMessage());
    }
  }

  private Optics optics() {
    double v = number(ColumnRole.FOCAL);
    try {
      if (mapping.focal() == FocalReading.MILLIMETRES) {
        boolean stated = has(ColumnRole.FILM_WIDTH) && has(ColumnRole.FILM_HEIGHT);
        return stated
            ? Optics.centred(v, number(ColumnRole.FILM_WIDTH), number(ColumnRole.FILM_HEIGHT))
            : Optics.centred(
                v, mapping.film().orElseThrow().widthMm(), mapping.film().orElseThrow().heightMm());
      }
      double aspect = mapping.picture().map(PictureSize::aspect).orElse(1.0);
      double halves =
          switch (mapping.focal()) {
            case VERTICAL_ANGLE -> 1 / Math.tan(mapping.angles().toRadians(v) / 2);
            case HORIZONTAL_ANGLE -> aspect / Math.tan(mapping.angles().toRadians(v) / 2);
            default -> 2 * v / picture().height();
          };
      return Optics.centred(
          halves * NOMINAL_HEIGHT_MM / 2, NOMINAL_HEIGHT_MM * aspect, NOMINAL_HEIGHT_MM);
    } catch (IllegalArgumentException e) {
      throw cells.error(at, columns.get(ColumnRole.FOCAL), e.getMessage());
    }
  }
}
