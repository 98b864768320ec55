package flarvo.format.table;

import flarvo.convention.AngleUnit;
import flarvo.convention.BackPolicy;
import flarvo.convention.Dialect;
import flarvo.convention.FilmBack;
import flarvo.convention.RotationOrder;
import flarvo.format.FileCamera;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.Sourced;
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
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.IntStream;

/** Camera rows, tracker positions or 2D tracks, told apart by the header. */
final class TableReader {

  /** Rows that are worth a thread. */
  private static final int ROWS_A_PART = 50_000;

  private static final int MOST_PARTS = 8;

  private final Dialect from;
  private final ReadLimits limits;
  private final Progress progress;
  private final FileScene.Builder out = new FileScene.Builder();
  private RotationOrder order;
  private AngleUnit angles;

  TableReader(Dialect from, ReadLimits limits, Progress progress) {
    this.from = from;
    this.limits = limits;
    this.progress = progress;
  }

  FileScene read(Path path) {
    TableFile t = TableFile.read(path, limits);
    if (t.has("tracker", "frame", "x", "y")) {
      observations(t);
    } else if (t.has("tracker", "x", "y", "z")) {
      trackers(t);
    } else if (t.has("frame", "tx", "ty", "tz", "rx", "ry", "rz")) {
      camera(t);
      Path companion = TableFormat.companionOf(path);
      if (Files.exists(companion)) {
        trackers(TableFile.read(companion, limits));
        out.notes.add(Note.changed("trackers", "read from " + companion.getFileName()));
      }
    } else {
      throw new InputError(
          t.file(),
          "header",
          "no supported columns",
          "Known are: frame,tx,ty,tz,rx,ry,rz,focal_mm,film_width_mm,film_height_mm;"
              + " tracker,x,y,z; tracker,frame,x,y");
    }
    out.rate = stated(t, "rate", Rate::parse).orElse(null);
    out.picture = stated(t, "picture", PictureSize::parse).orElse(null);
    return out.build();
  }

  private <T> Optional<Sourced<T>> stated(TableFile t, String key, Function<String, T> parse) {
    Optional<String> text = t.comment(key);
    if (text.isEmpty()) {
      return Optional.empty();
    }
    try {
      return Optional.of(Sourced.said(parse.apply(text.get()), "comment '" + key + "'"));
    } catch (IllegalArgumentException e) {
      throw new InputError(t.file(), "comment '" + key + "'", e.getMessage(), "", e);
    }
  }

  private void observations(TableFile t) {
    int parts = t.isPlain() ? Math.min(MOST_PARTS, 1 + t.rows() / ROWS_A_PART) : 1;
    List<TrackRows> read =
        IntStream.range(0, parts)
            .parallel()
            .mapToObj(
                p ->
                    new TrackRows(t, p == 0 ? progress : Progress.NONE)
                        .read(
                            (int) ((long) t.rows() * p / parts),
                            (int) ((long) t.rows() * (p + 1) / parts)))
            .toList();
    Observations.Builder b = read.get(0).rows;
    read.stream().skip(1).forEach(r -> b.add(r.rows));
    int first = read.stream().mapToInt(r -> r.first).min().orElseThrow();
    int last = read.stream().mapToInt(r -> r.last).max().orElseThrow();
    try {
      out.observations = b.build();
      out.range = Sourced.assumed(new FrameRange(first, last), "the rows' frames");
    } catch (IllegalArgumentException e) {
      throw new InputError(t.file(), "", e.getMessage(), "Fix the table", e);
    }
  }

  /** Some of the rows of 2D tracks. */
  private static final class TrackRows {
    private final Observations.Builder rows = new Observations.Builder();
    private final TableFile t;
    private final Progress progress;
    private int first = Integer.MAX_VALUE;
    private int last = Integer.MIN_VALUE;

    TrackRows(TableFile t, Progress progress) {
      this.t = t;
      this.progress = progress;
    }

    TrackRows read(int from, int to) {
      return t.isPlain() ? readCells(from, to) : readRows(from, to);
    }

    private TrackRows readRows(int from, int to) {
      for (int i = from; i < to; i++) {
        progress.step(i - from, to - from);
        add(t.text(i, "tracker"), t.whole(i, "frame"), t.number(i, "x"), t.number(i, "y"));
      }
      return this;
    }

    private TrackRows readCells(int from, int to) {
      int trackerAt = t.column("tracker");
      int frameAt = t.column("frame");
      int xAt = t.column("x");
      int yAt = t.column("y");
      int last = Math.max(Math.max(trackerAt, frameAt), Math.max(xAt, yAt));
      TableFile.Cells cells = t.cells();
      String tracker = "";
      byte[] bytes = new byte[0];
      int frame = 0;
      double x = 0;
      double y = 0;
      for (int i = from; i < to; i++) {
        progress.step(i - from, to - from);
        cells.toRow(i);
        for (int c = 0; c <= last; c++) {
          if (c == trackerAt) {
            String next = cells.text(tracker, bytes);
            bytes = next.equals(tracker) ? bytes : next.getBytes(StandardCharsets.UTF_8);
            tracker = next;
          } else if (c == frameAt) {
            frame = cells.whole("frame");
          } else if (c == xAt) {
            x = cells.number("x");
          } else if (c == yAt) {
            y = cells.number("y");
          } else {
            cells.skip("y");
          }
        }
        add(tracker, frame, x, y);
      }
      return this;
    }

    private void add(String name, int frame, double x, double y) {
      rows.add(name, frame, x, y);
      first = Math.min(first, frame);
      last = Math.max(last, frame);
    }
  }

  private void trackers(TableFile t) {
    FileNames unique = new FileNames();
    List<String> names = new ArrayList<>();
    double[] xyz = new double[3 * t.rows()];
    for (int i = 0; i < t.rows(); i++) {
      progress.step(i, t.rows());
      names.add(unique.unique(t.text(i, "tracker")));
      xyz[3 * i] = t.number(i, "x");
      xyz[3 * i + 1] = t.number(i, "y");
      xyz[3 * i + 2] = t.number(i, "z");
    }
    out.trackers.add(TrackerSet.of("trackers", names, xyz));
  }

  private void camera(TableFile t) {
    boolean film = t.has("film_width_mm", "film_height_mm");
    boolean focal = t.has("focal_mm");
    rotations(t);
    SparseCamera rows = new SparseCamera();
    for (int i = 0; i < t.rows(); i++) {
      progress.step(i, t.rows());
      int frame = t.whole(i, "frame");
      if (!rows.add(frame, rowPose(t, i), optics(t, i, film, focal))) {
        throw t.error(i, "frame", "frame " + frame + " is given twice");
      }
      if (rows.span() > limits.mostFrames()) {
        throw t.error(i, "frame", "the table spans " + rows.span() + " frames");
      }
    }
    out.cameras.add(
        new FileCamera(
            new ShotCamera(
                t.comment("camera").orElse("camera"),
                rows.poses(),
                rows.optics(),
                Optional.empty()),
            t.rows(),
            0,
            film,
            focal));
    out.range = Sourced.said(rows.frames(), "column frame");
    if (rows.given() < rows.span()) {
      out.notes.add(
          Note.assumed(
              "camera", rows.span() - rows.given() + " frames without a row are interpolated"));
    }
  }

  /** As the file states them, else as the sender's dialect has them. */
  private void rotations(TableFile t) {
    TableComments said = new TableComments(t.comments());
    order = said.order().orElse(from.rotationOrder());
    angles = said.angles().orElse(from.angles());
    if (order != from.rotationOrder() || angles != from.angles()) {
      out.notes.add(
          Note.changed(
              "rotation",
              "the file states "
                  + order
                  + ", "
                  + angles.word()
                  + "; that counts, not the dialect"));
    }
    if (said.order().isEmpty()) {
      out.notes.add(
          Note.assumed(
              "rotation",
              "not stated; read as " + order + ", " + angles.word() + " by the dialect"));
    }
  }

  private Pose rowPose(TableFile t, int row) {
    Rotation r =
        order.compose(
            angles.toRadians(t.number(row, "rx")),
            angles.toRadians(t.number(row, "ry")),
            angles.toRadians(t.number(row, "rz")));
    return new Pose(new Vec3(t.number(row, "tx"), t.number(row, "ty"), t.number(row, "tz")), r);
  }

  private Optics optics(TableFile t, int row, boolean film, boolean focal) {
    double width = film ? t.number(row, "film_width_mm") : from.film().assumed().widthMm();
    double height = film ? t.number(row, "film_height_mm") : from.film().assumed().heightMm();
    try {
      Optics o = Optics.centred(focal ? t.number(row, "focal_mm") : width, width, height);
      if (!t.has(TableFormat.SHIFT_X, TableFormat.SHIFT_Y)) {
        return o;
      }
      // Who knows only one back has shifts of that one, whatever the table states.
      FilmBack own = from.film().assumed();
      boolean always = from.film().policy() == BackPolicy.ALWAYS_ASSUMED;
      double scale =
          TableFormat.shiftScale(from, always ? o.withFilm(own.widthMm(), own.heightMm()) : o);
      return o.withPrincipal(
          t.number(row, TableFormat.SHIFT_X) * scale, t.number(row, TableFormat.SHIFT_Y) * scale);
    } catch (IllegalArgumentException e) {
      throw t.error(row, "focal_mm", e.getMessage());
    }
  }
}
