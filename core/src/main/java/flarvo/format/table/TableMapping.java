package flarvo.format.table;

import flarvo.convention.AngleUnit;
import flarvo.convention.FilmBack;
import flarvo.convention.LinearUnit;
import flarvo.convention.RotationOrder;
import flarvo.convention.SignedAxis;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * What a table means that does not say it itself: which column is what, and how its numbers count.
 *
 * @param frameShift added to every frame number
 * @param unit of positions; empty where the ledger shall settle it
 * @param up of positions and rotations; empty where the ledger shall settle it
 * @param picture where 2D numbers or a focal length cannot be read without its size
 * @param film of the camera, where no column holds it
 * @param rate where rows have times or timecode instead of frames
 */
public record TableMapping(
    String name,
    TableLayout layout,
    List<TableColumn> columns,
    PixelReading pixels,
    AngleUnit angles,
    RotationOrder order,
    FocalReading focal,
    int frameShift,
    Optional<LinearUnit> unit,
    Optional<SignedAxis> up,
    Optional<PictureSize> picture,
    Optional<FilmBack> film,
    Optional<Rate> rate) {

  /** What a table's columns make up. */
  public enum Kind {
    CAMERA("camera rows"),
    TRACKS("2D tracks"),
    POINTS("tracker positions"),
    TRACKS_AND_POINTS("2D tracks with positions");

    private final String word;

    Kind(String word) {
      this.word = word;
    }

    public String word() {
      return word;
    }
  }

  private static final List<ColumnRole> ANGLES =
      List.of(ColumnRole.TURN_X, ColumnRole.TURN_Y, ColumnRole.TURN_Z);

  private static final List<ColumnRole> QUATERNION =
      List.of(ColumnRole.QUAT_W, ColumnRole.QUAT_X, ColumnRole.QUAT_Y, ColumnRole.QUAT_Z);

  /** A rotation matrix row by row. */
  static final List<ColumnRole> MATRIX =
      List.of(
          ColumnRole.M00,
          ColumnRole.M01,
          ColumnRole.M02,
          ColumnRole.M10,
          ColumnRole.M11,
          ColumnRole.M12,
          ColumnRole.M20,
          ColumnRole.M21,
          ColumnRole.M22);

  public TableMapping {
    columns = List.copyOf(columns);
  }

  /** Usual conventions over a layout and its columns. */
  public static TableMapping of(TableLayout layout, List<TableColumn> columns) {
    return new TableMapping(
        "",
        layout,
        columns,
        PixelReading.CANONICAL,
        AngleUnit.DEGREES,
        RotationOrder.XYZ,
        FocalReading.MILLIMETRES,
        0,
        Optional.empty(),
        Optional.empty(),
        Optional.empty(),
        Optional.empty(),
        Optional.empty());
  }

  /** Whether some column has a role. */
  public boolean has(ColumnRole... roles) {
    for (ColumnRole r : roles) {
      if (columns.stream().noneMatch(c -> c.role() == r)) {
        return false;
      }
    }
    return true;
  }

  /** Whether some column holds a part of a rotation, or a lens: then the rows are a camera's. */
  public boolean isCamera() {
    return has(ColumnRole.FOCAL)
        || isQuaternion()
        || isMatrix()
        || ANGLES.stream().anyMatch(this::has);
  }

  /** Whether rotations are matrices. */
  public boolean isMatrix() {
    return MATRIX.stream().anyMatch(this::has);
  }

  /** Whether rows say which frame they are of. */
  public boolean hasFrames() {
    return has(frameRole());
  }

  /** What rows say of their frame: its number where they have it, else timecode, else a time. */
  public ColumnRole frameRole() {
    return has(ColumnRole.FRAME) || !has(ColumnRole.TIMECODE) && !has(ColumnRole.SECONDS)
        ? ColumnRole.FRAME
        : has(ColumnRole.TIMECODE) ? ColumnRole.TIMECODE : ColumnRole.SECONDS;
  }

  /** Whether rotations are quaternions, and not three angles. */
  public boolean isQuaternion() {
    return QUATERNION.stream().anyMatch(this::has);
  }

  /** Empty while the columns make up nothing whole; {@link #lacks} says what is missing. */
  public Optional<Kind> kind() {
    if (isCamera()) {
      return lacks().isEmpty() ? Optional.of(Kind.CAMERA) : Optional.empty();
    }
    if (!lacks().isEmpty()) {
      return Optional.empty();
    }
    boolean points = has(ColumnRole.X);
    return Optional.of(
        has(ColumnRole.PIXEL_X) ? points ? Kind.TRACKS_AND_POINTS : Kind.TRACKS : Kind.POINTS);
  }

  /** What is wanted for the columns to make up something, or twice there; empty when whole. */
  public String lacks() {
    List<ColumnRole> twice = new ArrayList<>();
    for (TableColumn c : columns) {
      boolean more = columns.stream().filter(o -> o.role() == c.role()).count() > 1;
      if (c.role() != ColumnRole.NONE && more) {
        twice.add(c.role());
      }
    }
    if (!twice.isEmpty()) {
      return "two columns hold the " + twice.get(0).title();
    }
    List<ColumnRole> wanted = new ArrayList<>();
    if (isCamera()) {
      wanted.addAll(List.of(frameRole(), ColumnRole.X, ColumnRole.Y, ColumnRole.Z));
      wanted.addAll(isQuaternion() ? QUATERNION : isMatrix() ? MATRIX : ANGLES);
      wanted.add(ColumnRole.FOCAL);
    } else {
      if (has(ColumnRole.PIXEL_X) || has(ColumnRole.PIXEL_Y)) {
        wanted.addAll(List.of(frameRole(), ColumnRole.PIXEL_X, ColumnRole.PIXEL_Y));
      }
      if (has(ColumnRole.X) || has(ColumnRole.Y) || has(ColumnRole.Z) || wanted.isEmpty()) {
        wanted.addAll(List.of(ColumnRole.X, ColumnRole.Y, ColumnRole.Z));
      }
    }
    for (ColumnRole r : wanted) {
      if (!has(r)) {
        return "no column holds the " + r.title();
      }
    }
    boolean timed = has(ColumnRole.SECONDS) || has(ColumnRole.TIMECODE);
    if (timed && frameRole() != ColumnRole.FRAME && rate.isEmpty()) {
      return "the rate is needed to turn " + frameRole().title() + " into frames";
    }
    if (has(ColumnRole.PIXEL_X) && pixels.needsPicture() && picture.isEmpty()) {
      return "the picture's size is needed to read 2D numbers so";
    }
    boolean byPicture = focal == FocalReading.PIXELS || focal == FocalReading.HORIZONTAL_ANGLE;
    if (has(ColumnRole.FOCAL) && byPicture && picture.isEmpty()) {
      return "the picture's size is needed to read the focal length so";
    }
    boolean back = has(ColumnRole.FILM_WIDTH, ColumnRole.FILM_HEIGHT) || film.isPresent();
    if (has(ColumnRole.FOCAL) && focal == FocalReading.MILLIMETRES && !back) {
      return "a focal length in mm needs the film back";
    }
    return "";
  }

  public TableMapping withName(String n) {
    return new TableMapping(
        n,
        layout,
        columns,
        pixels,
        angles,
        order,
        focal,
        frameShift,
        unit,
        up,
        picture,
        film,
        rate);
  }

  /** Cut otherwise, into these columns. */
  public TableMapping withLayout(TableLayout l, List<TableColumn> c) {
    return new TableMapping(
        name, l, c, pixels, angles, order, focal, frameShift, unit, up, picture, film, rate);
  }

  /** One column with another role. */
  public TableMapping withColumn(int index, TableColumn c) {
    List<TableColumn> list = new ArrayList<>(columns);
    list.set(index, c);
    return withLayout(layout, list);
  }

  public TableMapping withPixels(PixelReading p) {
    return new TableMapping(
        name, layout, columns, p, angles, order, focal, frameShift, unit, up, picture, film, rate);
  }

  /** Other angles: their order and unit. */
  public TableMapping withAngles(AngleUnit a, RotationOrder o) {
    return new TableMapping(
        name, layout, columns, pixels, a, o, focal, frameShift, unit, up, picture, film, rate);
  }

  public TableMapping withFocal(FocalReading f) {
    return new TableMapping(
        name, layout, columns, pixels, angles, order, f, frameShift, unit, up, picture, film, rate);
  }

  public TableMapping withFrameShift(int s) {
    return new TableMapping(
        name, layout, columns, pixels, angles, order, focal, s, unit, up, picture, film, rate);
  }

  /** Another unit and up axis; empty leaves them to the ledger. */
  public TableMapping withSpace(Optional<LinearUnit> u, Optional<SignedAxis> axis) {
    return new TableMapping(
        name,
        layout,
        columns,
        pixels,
        angles,
        order,
        focal,
        frameShift,
        u,
        axis,
        picture,
        film,
        rate);
  }

  public TableMapping withPicture(Optional<PictureSize> p) {
    return new TableMapping(
        name, layout, columns, pixels, angles, order, focal, frameShift, unit, up, p, film, rate);
  }

  public TableMapping withFilm(Optional<FilmBack> f) {
    return new TableMapping(
        name,
        layout,
        columns,
        pixels,
        angles,
        order,
        focal,
        frameShift,
        unit,
        up,
        picture,
        f,
        rate);
  }

  public TableMapping withRate(Optional<Rate> r) {
    return new TableMapping(
        name,
        layout,
        columns,
        pixels,
        angles,
        order,
        focal,
        frameShift,
        unit,
        up,
        picture,
        film,
        r);
  }
}
