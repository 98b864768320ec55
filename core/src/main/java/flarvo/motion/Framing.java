package flarvo.motion;

import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import java.util.List;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A part of the picture, at another resolution: a crop, a resize, or an anamorphic picture made
 * square. In canonical pixels, u right and v down from the top left corner:
 *
 * <pre>
 *   u' = (u − x) · out.width / width        v' = (v − y) · out.height / height
 * </pre>
 *
 * Film back and lens shift follow, so that points stay on what they show.
 *
 * @param x left edge of the part, in pixels; negative beyond the picture
 * @param y top edge
 * @param width of the part, in pixels
 * @param height of the part
 * @param outWidth of the picture that is made, in pixels
 * @param outHeight of the picture that is made
 */
public record Framing(
    double x, double y, double width, double height, int outWidth, int outHeight) {

  /** Pixels that a principal point may differ by. */
  private static final double STEADY = 1e-6;

  private static final double ROUNDING = 1e-13;

  private static final Pattern CROP =
      Pattern.compile("(-?[\\d.]+),(-?[\\d.]+),([\\d.]+)x([\\d.]+)");

  public Framing {
    if (!(width > 0) || !(height > 0) || outWidth < 1 || outHeight < 1) {
      throw new IllegalArgumentException("a part of a picture needs a width and a height");
    }
    if (!Double.isFinite(x) || !Double.isFinite(y) || !Double.isFinite(width * height)) {
      throw new IllegalArgumentException("a part of a picture needs a place");
    }
  }

  /**
   * A crop as it is typed: {@code 100,50,1600x900}.
   *
   * @throws InputError when it is none
   */
  public static Framing crop(String text) {
    Matcher m = CROP.matcher(text.strip());
    try {
      if (m.matches()) {
        double w = Double.parseDouble(m.group(3));
        double h = Double.parseDouble(m.group(4));
        return new Framing(
            Double.parseDouble(m.group(1)),
            Double.parseDouble(m.group(2)),
            w,
            h,
            (int) Math.round(w),
            (int) Math.round(h));
      }
    } catch (IllegalArgumentException e) {
      throw new InputError("", "", "crop " + text, "Give left, top and size: 100,50,1600x900", e);
    }
    throw InputError.words("crop " + text, "Give left, top and size: 100,50,1600x900");
  }

  /** The whole picture at another resolution. */
  public static Framing resize(PictureSize from, int width, int height) {
    return new Framing(0, 0, from.width(), from.height(), width, height);
  }

  /** The whole picture with square pixels: as high as it is, and as wide as it is shown. */
  public static Framing unsqueezed(PictureSize from) {
    return resize(from, (int) Math.round(from.width() * from.pixelAspect()), from.height());
  }

  /** Whether the lens of a camera is off the centre of the picture on any frame. */
  public static boolean isShifted(ShotCamera camera, PictureSize picture) {
    for (int f = camera.frames().first(); f <= camera.frames().last(); f++) {
      double[] at = principal(camera, picture, f);
      if (Math.abs(at[0] - picture.width() / 2.0) > STEADY
          || Math.abs(at[1] - picture.height() / 2.0) > STEADY) {
        return true;
      }
    }
    return false;
  }

  /**
   * The smallest picture of whole pixels that all of the old one is in and whose middle is the
   * principal point: the lens shift is baked into the film back.
   *
   * @throws InputError when the principal point moves from frame to frame
   */
  public static Framing centred(ShotCamera camera, PictureSize picture) {
    double[] at = principal(camera, picture, camera.frames().first());
    for (int f = camera.frames().first(); f <= camera.frames().last(); f++) {
      double[] now = principal(camera, picture, f);
      if (Math.abs(now[0] - at[0]) > STEADY || Math.abs(now[1] - at[1]) > STEADY) {
        throw InputError.words(
            "the lens shift changes, as on frame " + f,
            "Only one that stays can be baked into the film back");
      }
    }
    int width = (int) Math.ceil(2 * Math.max(at[0], picture.width() - at[0]) - STEADY);
    int height = (int) Math.ceil(2 * Math.max(at[1], picture.height() - at[1]) - STEADY);
    return new Framing(at[0] - width / 2.0, at[1] - height / 2.0, width, height, width, height);
  }

  /** Where the lens's axis meets the picture, in canonical pixels. */
  private static double[] principal(ShotCamera camera, PictureSize picture, int frame) {
    Optics o = camera.optics().at(frame);
    return new double[] {
      picture.width() * (0.5 + o.principalXMm() / o.filmWidthMm()),
      picture.height() * (0.5 - o.principalYMm() / o.filmHeightMm())
    };
  }

  /** The same part at another resolution. */
  public Framing at(int otherWidth, int otherHeight) {
    return new Framing(x, y, width, height, otherWidth, otherHeight);
  }

  /** Column of the new picture at a column of the old one. */
  public double u(double old) {
    return (old - x) * outWidth / width;
  }

  /** Row of the new picture at a row of the old one. */
  public double v(double old) {
    return (old - y) * outHeight / height;
  }

  /** This part of what another part makes: one framing for both. */
  public Framing after(Framing first) {
    double kx = first.width / first.outWidth;
    double ky = first.height / first.outHeight;
    return new Framing(
        first.x + x * kx, first.y + y * ky, width * kx, height * ky, outWidth, outHeight);
  }

  /** Size and pixel aspect of the picture that is made of one. */
  public PictureSize picture(PictureSize from) {
    double aspect = from.pixelAspect() * (width / outWidth) / (height / outHeight);
    double rounded = Math.rint(aspect * 1e9) / 1e9;
    return new PictureSize(
        outWidth, outHeight, Math.abs(aspect - rounded) < 1e-12 ? rounded : aspect);
  }

  /** The shot as this part of its picture shows it; without plates, which are not cut here. */
  public Shot of(Shot s) {
    PictureSize from = s.picture();
    Objects.requireNonNull(from);
    List<ShotCamera> cameras =
        s.cameras().stream().map(c -> c.withOptics(c.optics().map(o -> optics(o, from)))).toList();
    return new Shot(
        s.name(),
        picture(from),
        s.rate(),
        s.frames(),
        s.sourceFirstFrame(),
        cameras,
        s.trackers(),
        Observations.NONE,
        List.of(),
        s.meshes(),
        s.level());
  }

  /** What rounding leaves of a lens shift that was baked is none. */
  private static double difference(double a, double b) {
    double d = a - b;
    return Math.abs(d) < ROUNDING * Math.abs(a) ? 0 : d;
  }

  /** The back shrinks to the part; its centre moves, and the principal point stays where it was. */
  private Optics optics(Optics o, PictureSize from) {
    double perColumn = o.filmWidthMm() / from.width();
    double perRow = o.filmHeightMm() / from.height();
    double right = (x + width / 2 - from.width() / 2.0) * perColumn;
    double up = (from.height() / 2.0 - y - height / 2) * perRow;
    return o.withFilm(width * perColumn, height * perRow)
        .withPrincipal(difference(o.principalXMm(), right), difference(o.principalYMm(), up));
  }
}
