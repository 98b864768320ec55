package flarvo.format.table;

import flarvo.convention.Dialect;
import flarvo.convention.EulerTrack;
import flarvo.convention.LensShift;
import flarvo.convention.SceneSetting;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.format.Settlement;
import flarvo.report.Note;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Camera table, with the trackers' positions in a second table beside it. */
public final class TableFormat implements SceneFormat {

  /** Lens shift in the dialect's own unit and sign; left out where it understands none. */
  static final String SHIFT_X = "shift_x";

  static final String SHIFT_Y = "shift_y";

  /** A column's name; prose has longer cells with blanks in them. */
  private static final Pattern HEADER_CELL = Pattern.compile("\\s*\"?[a-z_][\\w.()]*\"?\\s*");

  /** Columns by which a table is known without a mapping. */
  private static final List<List<String>> KNOWN =
      List.of(
          List.of("tracker", "frame", "x", "y"),
          List.of("tracker", "x", "y", "z"),
          List.of("frame", "tx", "ty", "tz", "rx", "ry", "rz"));

  private static final String COMPANION = ".trackers.csv";
  private static final List<String> COLUMNS =
      List.of(
          "frame",
          "tx",
          "ty",
          "tz",
          "rx",
          "ry",
          "rz",
          "focal_mm",
          "film_width_mm",
          "film_height_mm");

  @Override
  public String id() {
    return "table";
  }

  @Override
  public String title() {
    return "Table";
  }

  @Override
  public List<String> extensions() {
    return List.of(".csv");
  }

  /** Tables of ours have no other columns; one that has is read by a mapping. */
  private static final Set<String> WORDS =
      Stream.of(KNOWN.stream().flatMap(List::stream), COLUMNS.stream(), Stream.of(SHIFT_X, SHIFT_Y))
          .flatMap(w -> w)
          .collect(Collectors.toUnmodifiableSet());

  @Override
  public boolean recognises(byte[] head) {
    String text = new String(head, StandardCharsets.ISO_8859_1).toLowerCase(Locale.ROOT);
    return text.lines()
        .filter(l -> !l.startsWith("#") && !l.isBlank())
        .findFirst()
        .map(l -> List.of(l.strip().split("[" + TableFile.delimiterOf(l) + "]", -1)))
        .filter(h -> h.size() > 1 && h.stream().allMatch(c -> HEADER_CELL.matcher(c).matches()))
        .map(h -> h.stream().map(c -> c.strip().replace("\"", "")).toList())
        .map(h -> KNOWN.stream().anyMatch(h::containsAll) && WORDS.containsAll(h))
        .orElse(false);
  }

  @Override
  public Settlement nearestSupported(Dialect wanted) {
    return new Settlement(wanted, List.of());
  }

  @Override
  public Set<SceneSetting> states() {
    return Set.of();
  }

  @Override
  public List<String> cannotCarry() {
    return List.of(
        "axes, unit and rotation order (the recipient must know them)",
        MESHES,
        MOVING_GROUPS,
        PARENTS,
        MORE_CAMERAS,
        CLIP);
  }

  @Override
  public FileScene read(Path file, Dialect from, ReadLimits limits, Progress progress) {
    return new TableReader(from, limits, progress).read(file);
  }

  @Override
  public List<Note> write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
      throws IOException {
    if (scene.cameras().isEmpty()) {
      if (scene.trackerCount() == 0) {
        throw new IllegalArgumentException("a table needs a camera or trackers");
      }
      new Trackers().write(scene, spoken, out, progress); // they are all there is to write
      return List.of();
    }
    ShotCamera c = scene.cameras().get(0).camera();
    boolean shifts = spoken.film().shift() != LensShift.IGNORED;
    TableRows head = new TableRows();
    COLUMNS.forEach(head::cell);
    if (shifts) {
      head.cell(SHIFT_X).cell(SHIFT_Y);
    }
    out.write((comments(scene, spoken, c) + head.end()).getBytes(StandardCharsets.UTF_8));
    EulerTrack angles = EulerTrack.of(c.poses(), spoken.rotationOrder());
    TableRows.write(
        out,
        c.frames().count(),
        (rows, i) -> frame(rows, c, c.frames().first() + i, angles, spoken, shifts),
        progress);
    return List.of();
  }

  private static void frame(
      TableRows rows, ShotCamera c, int f, EulerTrack angles, Dialect spoken, boolean shifts) {
    Pose p = c.poses().at(f);
    Optics o = c.optics().at(f);
    rows.cell(f).cell(p.position().x()).cell(p.position().y()).cell(p.position().z());
    for (int axis = 0; axis < 3; axis++) {
      rows.cell(spoken.angles().fromRadians(angles.radians(f, axis)));
    }
    rows.cell(o.focalLengthMm()).cell(o.filmWidthMm()).cell(o.filmHeightMm());
    if (shifts) {
      double scale = shiftScale(spoken, o);
      rows.cell(o.principalXMm() / scale).cell(o.principalYMm() / scale);
    }
    rows.end();
  }

  /** Millimetres of principal point, right and up, in one of the dialect's numbers for a shift. */
  static double shiftScale(Dialect d, Optics o) {
    return d.film().shift().sign() * d.film().shiftUnit().millimetres(o);
  }

  private static String comments(FileScene scene, Dialect d, ShotCamera c) {
    return "# camera: "
        + c.name().replaceAll("\\p{Cntrl}", " ")
        + "\n# dialect: "
        + d.name()
        + "\n# rotation: "
        + d.rotationOrder()
        + ", "
        + d.angles().word()
        + "\n# shift: "
        + d.film().shift().word()
        + ", "
        + d.film().shiftUnit().word()
        + scene.rate().map(r -> "\n# rate: " + r.value()).orElse("")
        + scene.picture().map(p -> "\n# picture: " + p.value()).orElse("")
        + "\n# rows: "
        + c.frames().count()
        + "\n";
  }

  @Override
  public List<Companion> companions() {
    return List.of(new Trackers());
  }

  static Path companionOf(Path camera) {
    String name = camera.getFileName().toString();
    int dot = name.lastIndexOf('.');
    return camera.resolveSibling((dot < 0 ? name : name.substring(0, dot)) + COMPANION);
  }

  private record Trackers() implements Companion {
    @Override
    public String suffix() {
      return COMPANION;
    }

    @Override
    public void write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
        throws IOException {
      List<TrackerSet> still = scene.trackers().stream().filter(t -> !t.moves()).toList();
      TableRows head = new TableRows().cell("tracker").cell("x").cell("y").cell("z").end();
      int count = still.stream().mapToInt(TrackerSet::size).sum();
      out.write(("# rows: " + count + "\n" + head).getBytes(StandardCharsets.UTF_8));
      for (TrackerSet t : still) {
        TableRows.write(
            out,
            t.size(),
            (rows, i) -> rows.cell(t.names().get(i)).cell(t.x(i)).cell(t.y(i)).cell(t.z(i)).end(),
            progress);
      }
    }
  }
}
