package flarvo.format.usd;

import flarvo.convention.Handedness;
import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.format.FileMesh;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.PlateMention;
import flarvo.format.ReadLimits;
import flarvo.format.Sourced;
import flarvo.format.TrackerCollector;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Evaluates one layer into a {@link FileScene}. */
final class UsdSceneReader {

  private static final double FALLBACK_METRES_PER_UNIT = 0.01;

  private final String file;
  private final ReadLimits limits;
  private final Progress progress;
  private final UsdEvaluator evaluator;
  private final FileScene.Builder out = new FileScene.Builder();
  private final FileNames cameraNames = new FileNames();
  private final TrackerCollector trackers;
  private final Map<String, Integer> unknown = new TreeMap<>();
  private UsdTime time;
  private UsdCameraReader cameras;
  private double firstCode;
  private int objects;

  UsdSceneReader(String file, ReadLimits limits, Progress progress) {
    this.file = file;
    this.limits = limits;
    this.progress = progress;
    this.evaluator = new UsdEvaluator(file);
    this.trackers = new TrackerCollector(file);
  }

  /** Puts together what the layer points to, then evaluates. */
  FileScene read(UsdLibrary library) {
    UsdLayer first = library.first();
    return read(
        first.needsComposition()
            ? new UsdComposer(library, file, limits, progress, out.notes).compose(first)
            : first);
  }

  private FileScene read(UsdLayer layer) {
    time = new UsdTime(layer.metadata, file, limits);
    out.rate = time.rate;
    out.range = time.range;
    out.handedness = Sourced.assumed(Handedness.RIGHT, "the format's rule");
    out.up = up(layer.metadata.get("upAxis"));
    out.unit = unit(layer.metadata.get("metersPerUnit"));
    firstCode = time.range == null ? 0 : time.codeOf(time.range.value().first());
    cameras =
        new UsdCameraReader(file, time, evaluator, out.unit.value().metresPerUnit(), out.notes);
    plate(layer.metadata.get("customLayerData"));
    for (UsdPrim p : layer.roots) {
      visit(p, null, "");
    }
    out.trackers.addAll(trackers.sets());
    unknown.forEach(
        (type, n) -> out.notes.add(Note.ignored("", n + " × " + type + " not understood")));
    if (out.range == null && !out.cameras.isEmpty()) {
      out.range = Sourced.assumed(out.cameras.get(0).camera().frames(), "the camera's samples");
    }
    return out.build();
  }

  private void visit(UsdPrim prim, UsdNode parent, String group) {
    progress.step(0, 0);
    if (++objects > limits.mostObjects()) {
      throw new InputError(
          file, "<" + prim.path + ">", "there are over " + limits.mostObjects() + " prims", "");
    }
    if ("false".equals(String.valueOf(prim.metadata.get("active")))) {
      out.notes.add(Note.ignored(prim.path, "not active"));
      return;
    }
    notEvaluated(prim);
    UsdNode node = new UsdNode(prim, parent, new UsdXform(prim, evaluator, file));
    switch (prim.type) {
      case "Camera" -> camera(node);
      case "Points" -> points(node);
      case "Mesh" -> mesh(node);
      case "RenderSettings" -> resolution(prim);
      case "Xform" -> {
        if (prim.children.isEmpty() && node.hasOwnTransform()) {
          locator(node, group);
        }
      }
      case "Scope", "" -> {}
      default -> unknown.merge(prim.type, 1, Integer::sum);
    }
    for (UsdPrim child : prim.children) {
      visit(child, node, prim.name);
    }
  }

  private void notEvaluated(UsdPrim prim) {
    if (prim.metadata.containsKey("clips")) {
      out.notes.add(Note.ignored(prim.path, "value clips are not read"));
    }
    for (String key : prim.metadata.keySet()) {
      if (key.startsWith("spline:")) {
        out.notes.add(
            Note.ignored(prim.path, key.substring(7) + " is a spline; ask for it sampled"));
      }
    }
  }

  private void camera(UsdNode node) {
    String name = cameraNames.unique(givenName(node.prim));
    FrameRange layer = time.range == null ? null : time.range.value();
    out.cameras.add(cameras.read(node, name, layer));
  }

  /** A childless transform marks a place: that is how trackers travel as locators. */
  private void locator(UsdNode node, String group) {
    if (!node.isStill()) {
      out.notes.add(Note.changed(node.prim.path, "moves; read at its first frame"));
    }
    Matrix4d m = node.world(firstCode, file);
    trackers.add(
        group, givenName(node.prim), m.m30(), m.m31(), m.m32(), "<" + node.prim.path + ">");
  }

  private void points(UsdNode node) {
    UsdPrim prim = node.prim;
    UsdAttribute a = prim.attribute("points").orElse(null);
    if (a == null) {
      return;
    }
    int count = a.any().orElse(null) instanceof UsdArray array ? array.count() : 0;
    double[] p = evaluator.numbers(prim, a, firstCode, 3 * count);
    List<?> given =
        prim.attribute("userProperties:names")
            .flatMap(UsdAttribute::any)
            .filter(List.class::isInstance)
            .map(v -> (List<?>) v)
            .filter(l -> l.size() == count)
            .orElse(List.of());
    Matrix4d m = node.world(firstCode, file);
    Vector3d v = new Vector3d();
    for (int i = 0; i < count; i++) {
      m.transformPosition(p[3 * i], p[3 * i + 1], p[3 * i + 2], v);
      String name = given.isEmpty() ? prim.name + "_" + (i + 1) : String.valueOf(given.get(i));
      trackers.add(prim.name, name, v.x, v.y, v.z, "<" + prim.path + ">");
    }
  }

  private void mesh(UsdNode node) {
    UsdPrim prim = node.prim;
    Optional<UsdAttribute> points = prim.attribute("points");
    if (points.isEmpty()) {
      return;
    }
    int count = points.get().any().orElse(null) instanceof UsdArray a ? a.count() : 0;
    double[] xyz = evaluator.numbers(prim, points.get(), firstCode, 3 * count);
    int[] sizes = whole(prim, "faceVertexCounts");
    int[] indices = whole(prim, "faceVertexIndices");
    out.meshes.add(
        FileMesh.of(
            givenName(prim),
            xyz,
            node.world(firstCode, file),
            sizes,
            indices,
            file,
            "<" + prim.path + ">"));
  }

  private static int[] whole(UsdPrim prim, String name) {
    return prim.attribute(name).flatMap(UsdAttribute::any).orElse(null) instanceof UsdArray a
        ? FileMesh.whole(a.numbers())
        : new int[0];
  }

  private static String givenName(UsdPrim prim) {
    return prim.attribute("userProperties:name").flatMap(UsdAttribute::text).orElse(prim.name);
  }

  private void resolution(UsdPrim prim) {
    UsdAttribute a = prim.attribute("resolution").orElse(null);
    if (a == null) {
      return;
    }
    double[] r = evaluator.numbers(prim, a, firstCode, 2);
    UsdAttribute aspect = prim.attribute("pixelAspectRatio").orElse(null);
    double pixel = aspect == null ? 1 : evaluator.number(prim, aspect, firstCode);
    try {
      out.picture =
          Sourced.said(
              new PictureSize((int) r[0], (int) r[1], pixel), "<" + prim.path + ".resolution>");
    } catch (IllegalArgumentException e) {
      throw new InputError(file, "<" + prim.path + ".resolution>", e.getMessage(), "", e);
    }
  }

  private void plate(Object data) {
    if (data instanceof Map<?, ?> m && m.get("plate") instanceof String path) {
      PlateRole role =
          "undistorted".equals(m.get("plateRole")) ? PlateRole.UNDISTORTED : PlateRole.ORIGINAL;
      out.plate = new PlateMention(path, role);
    }
  }

  private Sourced<SignedAxis> up(Object said) {
    if (said == null) {
      return Sourced.assumed(SignedAxis.POSITIVE_Y, "the schema's fallback");
    }
    if (said.equals("Y") || said.equals("Z")) {
      return Sourced.said(SignedAxis.parse((String) said), "upAxis");
    }
    throw new InputError(file, "upAxis", "'" + said + "' is not an up axis; Y or Z are", "");
  }

  private Sourced<LinearUnit> unit(Object said) {
    if (said == null) {
      return Sourced.assumed(new LinearUnit(FALLBACK_METRES_PER_UNIT), "the schema's fallback");
    }
    double metres = said instanceof Double d ? d : Double.NaN;
    try {
      return Sourced.said(new LinearUnit(metres), "metersPerUnit");
    } catch (IllegalArgumentException e) {
      throw new InputError(file, "metersPerUnit", e.getMessage(), "Request a new copy", e);
    }
  }
}
