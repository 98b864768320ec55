package flarvo.format.usd;

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
import flarvo.scene.ShotCamera;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.joml.Matrix4d;

/** A Camera prim, evaluated frame by frame. */
final class UsdCameraReader {

  /** Fallbacks of the camera schema, in tenths of a scene unit. */
  static final double FALLBACK_FOCAL = 50;

  static final double FALLBACK_WIDTH = 20.955;
  static final double FALLBACK_HEIGHT = 15.2908;

  /** No camera's film back is outside this; then the numbers must have been millimetres. */
  private static final double NARROWEST_MM = 1;

  private static final double WIDEST_MM = 400;

  private static final double[] FALLBACKS = {FALLBACK_FOCAL, FALLBACK_WIDTH, FALLBACK_HEIGHT};

  private static final String[] LENS = {
    "focalLength",
    "horizontalAperture",
    "verticalAperture",
    "horizontalApertureOffset",
    "verticalApertureOffset"
  };

  private final String file;
  private final UsdTime time;
  private final UsdEvaluator evaluator;
  private final double metresPerUnit;
  private final List<Note> notes;

  UsdCameraReader(
      String file, UsdTime time, UsdEvaluator evaluator, double metresPerUnit, List<Note> notes) {
    this.file = file;
    this.time = time;
    this.evaluator = evaluator;
    this.metresPerUnit = metresPerUnit;
    this.notes = notes;
  }

  FileCamera read(UsdNode node, String name, FrameRange layerRange) {
    UsdPrim prim = node.prim;
    List<UsdAttribute> lens = new ArrayList<>();
    for (String n : LENS) {
      prim.attribute(n).ifPresent(lens::add);
    }
    assumed(prim);
    double[] codes = node.times(lens);
    time.goBy(codes, prim.path, notes);
    FrameRange frames = StatedRange.of(layerRange, time.framesOf(codes), prim.path, notes);
    boolean[] scaled = {false};
    PoseTrack poses = PoseTrack.of(frames, f -> pose(node, f, scaled));
    if (scaled[0]) {
      notes.add(Note.changed(prim.path, "the camera is under a scale, which was removed"));
    }
    double unit = filmUnitMm(prim, frames.first());
    OpticsTrack optics = OpticsTrack.of(frames, f -> optics(prim, f, unit));
    if (prim.attribute("projection")
        .flatMap(UsdAttribute::text)
        .orElse("")
        .equals("orthographic")) {
      throw new InputError(
          file, "<" + prim.path + ">", "this camera is orthographic", "A solved camera is not");
    }
    return new FileCamera(
        new ShotCamera(name, poses, optics, clip(prim, frames.first())),
        Math.max(1, codes.length),
        time.offGrid(codes),
        prim.attribute("horizontalAperture").isPresent(),
        prim.attribute("focalLength").isPresent());
  }

  /** Says which of the schema's values stand in for what the file does not state. */
  private void assumed(UsdPrim prim) {
    for (int i = 0; i < FALLBACKS.length; i++) {
      if (prim.attribute(LENS[i]).isEmpty()) {
        notes.add(
            Note.assumed(
                prim.path, LENS[i] + " is not stated; the schema's " + FALLBACKS[i] + " counts"));
      }
    }
  }

  private Pose pose(UsdNode node, int frame, boolean[] scaled) {
    Matrix4d m = node.world(time.codeOf(frame));
    double det = m.determinant3x3();
    scaled[0] |= Math.abs(det - 1) > 1e-6;
    Optional<Pose> pose = MatrixPose.balanced(m);
    return pose.orElseThrow(
        () ->
            new InputError(
                file,
                "<" + node.prim.path + "> at frame " + frame,
                det < 0 ? "the camera is mirrored" : "the camera's transform has collapsed",
                "Ask for it without a negative or zero scale above the camera"));
  }

  private Optics optics(UsdPrim prim, int frame, double mm) {
    double focal = number(prim, LENS[0], frame, FALLBACK_FOCAL) * mm;
    double width = number(prim, LENS[1], frame, FALLBACK_WIDTH) * mm;
    double height = number(prim, LENS[2], frame, FALLBACK_HEIGHT) * mm;
    double right = number(prim, LENS[3], frame, 0) * mm;
    double up = number(prim, LENS[4], frame, 0) * mm;
    try {
      return new Optics(focal, width, height, -right, -up);
    } catch (IllegalArgumentException e) {
      throw new InputError(
          file,
          "<" + prim.path + "> at frame " + frame,
          e.getMessage(),
          "Ask for the camera with its focal length and film back",
          e);
    }
  }

  /** Millimetres in one number of focal length or aperture. */
  private double filmUnitMm(UsdPrim prim, int frame) {
    double bySchema = 100 * metresPerUnit; // a tenth of a unit, in millimetres
    double width = number(prim, LENS[1], frame, FALLBACK_WIDTH);
    double schemaMm = width * bySchema;
    boolean sound = schemaMm >= NARROWEST_MM && schemaMm <= WIDEST_MM;
    if (sound || width < NARROWEST_MM || width > WIDEST_MM) {
      return bySchema;
    }
    notes.add(
        Note.assumed(
            prim.path,
            String.format(
                java.util.Locale.ROOT,
                "the film back is read as %.3f mm; in tenths of the scene's unit it would be %.4g"
                    + " mm wide",
                width,
                schemaMm)));
    return 1;
  }

  private Optional<ClipRange> clip(UsdPrim prim, int frame) {
    Optional<UsdAttribute> a = prim.attribute("clippingRange");
    if (a.isEmpty()) {
      return Optional.empty();
    }
    double[] c = evaluator.find(prim, a.get(), time.codeOf(frame), 2).orElse(new double[] {0, 0});
    return c[0] > 0 && c[1] > c[0] ? Optional.of(new ClipRange(c[0], c[1])) : Optional.empty();
  }

  private double number(UsdPrim prim, String name, int frame, double otherwise) {
    Optional<UsdAttribute> a = prim.attribute(name);
    return a.isEmpty() ? otherwise : evaluator.number(prim, a.get(), time.codeOf(frame), otherwise);
  }
}
