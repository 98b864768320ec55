package flarvo.format.fbx;

import flarvo.convention.FilmFit;
import flarvo.format.FileCamera;
import flarvo.format.MatrixPose;
import flarvo.format.StatedRange;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.ShotCamera;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.TreeSet;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.joml.Vector4d;

/** A camera model and its attribute, evaluated frame by frame. */
final class FbxCameraReader {

  private static final double MM_PER_INCH = 25.4;

  /** Fallbacks of the format for a silent attribute. */
  private static final double FALLBACK_WIDTH_INCHES = 0.816;

  private static final double FALLBACK_HEIGHT_INCHES = 0.612;
  private static final double FALLBACK_FOCAL_MM = 34.89;

  /** How far from a whole frame a key may lie and still be on the grid, in frames. */
  private static final double GRID = 1e-4;

  /** By the number that the file stores. */
  private enum ApertureMode {
    BOTH,
    HORIZONTAL,
    VERTICAL,
    FOCAL_LENGTH;

    static ApertureMode of(double stored) {
      ApertureMode[] all = {BOTH, HORIZONTAL, VERTICAL, FOCAL_LENGTH};
      int i = (int) stored;
      return i >= 0 && i < all.length ? all[i] : FOCAL_LENGTH;
    }
  }

  private final String file;
  private final FbxClock clock;
  private final Rate rate;
  private final int mostFrames;
  private final List<Note> notes;

  FbxCameraReader(String file, FbxClock clock, int mostFrames, List<Note> notes) {
    this.file = file;
    this.clock = clock;
    this.rate = clock.rate();
    this.mostFrames = mostFrames;
    this.notes = notes;
  }

  FileCamera read(FbxObject model, FbxObject attribute, String name, FrameRange sceneRange) {
    TreeSet<Double> ticks = new TreeSet<>();
    attribute.collectKeys(ticks);
    for (FbxObject o = model; o != null; o = o.parent) {
      o.collectKeys(ticks);
    }
    for (FbxObject aim : model.links().values()) {
      for (FbxObject o = aim; o != null; o = o.parent) {
        o.collectKeys(ticks);
      }
    }
    clock.snap.goBy(
        ticks.stream().mapToDouble(t -> FbxTime.frameOf(t, rate)).toArray(),
        "Model " + model.name,
        notes);
    FrameRange keyed = ticks.isEmpty() ? null : frames(ticks);
    FrameRange frames = StatedRange.of(sceneRange, keyed, "Model " + model.name, notes);
    PoseTrack poses = PoseTrack.of(frames, f -> pose(model, attribute, f));
    OpticsTrack optics = OpticsTrack.of(frames, f -> optics(attribute, f));
    sayConflict(attribute, name);
    int offGrid = 0;
    for (double t : ticks) {
      double f = FbxTime.frameOf(t, rate);
      offGrid += Math.abs(f - Math.rint(f)) > GRID ? 1 : 0;
    }
    return new FileCamera(
            new ShotCamera(name, poses, optics, clip(attribute)),
            Math.max(1, ticks.size()),
            offGrid,
            attribute.has("FilmWidth"),
            attribute.has("FocalLength") || attribute.has("FieldOfView"))
        .withFit(fit(attribute));
  }

  /** By the number that the file stores; the format knows no other. */
  private static final FilmFit[] FITS = {
    FilmFit.STRETCH, // none: the back is not changed
    FilmFit.HEIGHT,
    FilmFit.WIDTH,
    FilmFit.FILL,
    FilmFit.OVERSCAN,
    FilmFit.STRETCH
  };

  /** Writers round the ratio. */
  private static final double SAME_ASPECT = 2e-3;

  private static Optional<FilmFit> fit(FbxObject attribute) {
    int stored = (int) attribute.number("GateFit", -1);
    return stored >= 0 && stored < FITS.length ? Optional.of(FITS[stored]) : Optional.empty();
  }

  private void sayConflict(FbxObject attribute, String name) {
    double stated = attribute.number("FilmAspectRatio", Double.NaN);
    double back =
        attribute.number("FilmWidth", Double.NaN) / attribute.number("FilmHeight", Double.NaN);
    if (Math.abs(stated / back - 1) > SAME_ASPECT) {
      notes.add(
          Note.conflicting(
              "camera " + name,
              String.format(
                  Locale.ROOT,
                  "FilmAspectRatio says %.4f, FilmWidth and FilmHeight %.4f; the latter count here",
                  stated,
                  back)));
    }
  }

  /** A solved camera is not orthographic. */
  static boolean isOrthographic(FbxObject attribute) {
    return attribute.number("CameraProjectionType", 0) == 1;
  }

  /** From the first key of some models to the last; null where none has any. */
  FrameRange framesOf(List<FbxObject> models) {
    TreeSet<Double> ticks = new TreeSet<>();
    models.forEach(o -> o.collectKeys(ticks));
    return ticks.isEmpty() ? null : frames(ticks);
  }

  private FrameRange frames(TreeSet<Double> ticks) {
    double[] ends = {FbxTime.frameOf(ticks.first(), rate), FbxTime.frameOf(ticks.last(), rate)};
    ends = clock.snap.snapped(ends);
    double first = Math.ceil(ends[0] - GRID);
    double last = Math.max(first, Math.floor(ends[1] + GRID));
    if (Math.abs(first) > 1e8 || last - first + 1 > mostFrames) {
      throw new InputError(
          file, "", "the keys span " + (last - first + 1) + " frames", "Request a new copy");
    }
    return new FrameRange((int) first, (int) last);
  }

  private Pose pose(FbxObject model, FbxObject attribute, int frame) {
    double tick = clock.tickOf(frame);
    Matrix4d world = FbxTransform.world(model, tick);
    FbxObject aim = model.links().get("LookAtProperty");
    if (aim != null) {
      world = aimed(model, attribute, aim, world, tick);
    }
    return MatrixPose.rigid(world, 0, 1)
        .orElseThrow(
            () ->
                new InputError(
                    file,
                    "Model " + model.name + " at frame " + frame,
                    "the camera's transform is mirrored, collapsed or not finite",
                    "Ask for it without a negative or zero scale above the camera"));
  }

  /** A camera with a target looks at it, whatever its own rotation says. */
  private static Matrix4d aimed(
      FbxObject model, FbxObject attribute, FbxObject aim, Matrix4d world, double tick) {
    Vector3d eye = world.getTranslation(new Vector3d());
    Vector3d view = FbxTransform.world(aim, tick).getTranslation(new Vector3d()).sub(eye);
    FbxObject above = model.links().get("UpVectorProperty");
    Vector3d up =
        above == null
            ? new Vector3d(
                attribute.at("UpVector", 0, 0, tick),
                attribute.at("UpVector", 1, 1, tick),
                attribute.at("UpVector", 2, 0, tick))
            : FbxTransform.world(above, tick).getTranslation(new Vector3d()).sub(eye);
    Vector3d side = new Vector3d(view).cross(up);
    return new Matrix4d()
        .setColumn(0, new Vector4d(view, 0))
        .setColumn(1, new Vector4d(new Vector3d(side).cross(view), 0))
        .setColumn(2, new Vector4d(side, 0))
        .setTranslation(eye);
  }

  private Optics optics(FbxObject a, int frame) {
    double tick = clock.tickOf(frame);
    double width = a.at("FilmWidth", 0, FALLBACK_WIDTH_INCHES, tick) * MM_PER_INCH;
    double height =
        a.at("FilmHeight", 0, FALLBACK_HEIGHT_INCHES, tick)
            * MM_PER_INCH
            * a.at("FilmSqueezeRatio", 0, 1, tick);
    double right = a.at("FilmOffsetX", 0, 0, tick) * MM_PER_INCH;
    double up = a.at("FilmOffsetY", 0, 0, tick) * MM_PER_INCH;
    try {
      return new Optics(focalMm(a, tick, width, height), width, height, -right, -up);
    } catch (IllegalArgumentException e) {
      throw new InputError(file, "Camera " + a.name + " at frame " + frame, e.getMessage(), "", e);
    }
  }

  private double focalMm(FbxObject a, double tick, double width, double height) {
    ApertureMode mode = ApertureMode.of(a.number("ApertureMode", 3));
    String angle = mode == ApertureMode.BOTH ? "FieldOfViewX" : "FieldOfView";
    boolean byFocal = mode == ApertureMode.FOCAL_LENGTH || (!a.has(angle) && a.has("FocalLength"));
    if (byFocal || !a.has(angle)) {
      return a.at("FocalLength", 0, FALLBACK_FOCAL_MM, tick);
    }
    double half = Math.toRadians(a.at(angle, 0, 40, tick)) / 2;
    return (mode == ApertureMode.VERTICAL ? height : width) / 2 / Math.tan(half);
  }

  private static Optional<ClipRange> clip(FbxObject a) {
    double near = a.number("NearPlane", 0);
    double far = a.number("FarPlane", 0);
    return near > 0 && far > near && Double.isFinite(far)
        ? Optional.of(new ClipRange(near, far))
        : Optional.empty();
  }
}
