package flarvo.format.usd;

import flarvo.convention.Handedness;
import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.format.FileGroups;
import flarvo.format.FileMesh;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.PlateMention;
import flarvo.format.ReadLimits;
import flarvo.format.Sourced;
import flarvo.format.TrackerCollector;
import flarvo.format.TreeNode;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
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
  private final List<Runnable> later = new ArrayList<>(); // what needs the frames of the cameras
  private final TreeSet<Double> codes = new TreeSet<>(); // of every sample that moves a node
  private final List<TreeNode> cameraNodes = new ArrayList<>();
  private FileGroups groups;
  private final Map<String, Integer> unknown = new TreeMap<>();
  private final Map<String, Integer> shapes = new TreeMap<>();
  private UsdTime time;
  private UsdCameraReader cameras;
  private UsdTextures textures;
  private double firstCode;
  private int objects;

  UsdSceneReader(String file, ReadLimits limits, Progress progress) {
    this.file = file;
    this.limits = limits;
    this.progress = progress;
    this.evaluator = new UsdEvaluator(file);
    this.trackers = new TrackerCollector(file, limits);
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
    textures = new UsdTextures(layer, time, out.notes);
    out.rate = time.rate;
    out.range = time.range;
    out.handedness = Sourced.assumed(Handedness.RIGHT, "the format's rule");
    out.up = up(layer.metadata.get("upAxis"));
    out.unit = unit(layer.metadata.get("metersPerUnit"));
    firstCode = time.range == null ? 0 : time.codeOf(time.range.value().first());
    cameras =
        new UsdCameraReader(file, time, evaluator, out.unit.value().metresPerUnit(), out.notes);
    plate(layer.metadata.get("customLayerData"));
    UsdNode root = null;
    for (UsdPrim p : layer.roots) {
      UsdNode n = visit(p, null);
      root = layer.roots.size() == 1 && !p.children.isEmpty() ? n : null;
    }
    FrameRange stated = time.range == null ? null : time.range.value();
    FrameRange frames =
        FileGroups.frames(
            stated,
            out.cameras,
            () -> time.framesOf(codes.stream().mapToDouble(Double::doubleValue).toArray()),
            limits.mostFrames());
    int reference = stated == null ? frames.first() : stated.first();
    groups = new FileGroups(file, frames, reference, root, out.notes);
    time.snap.goByFirst();
    out.hang(groups, cameraNodes);
    later.forEach(Runnable::run);
    textures.say();
    out.trackers.addAll(trackers.sets());
    out.locatorSizes.putAll(trackers.sizes());
    out.parents.addAll(groups.parents());
    shapes.forEach(
        (type, n) ->
            out.notes.add(
                Note.lost(
                    "", n + " × " + type + " read as locators at their centres, without a size")));
    unknown.forEach(
        (type, n) -> out.notes.add(Note.ignored("", n + " × " + type + " not understood")));
    if (out.range == null && !out.cameras.isEmpty()) {
      out.range = Sourced.assumed(out.cameras.get(0).camera().frames(), "the camera's samples");
    }
    return out.build();
  }

  /** Returns the prim's node; null for one that is not active. */
  private UsdNode visit(UsdPrim prim, UsdNode parent) {
    progress.step(0, 0);
    if (++objects > limits.mostObjects()) {
      throw new InputError(
          file, "<" + prim.path + ">", "there are over " + limits.mostObjects() + " prims", "");
    }
    if ("false".equals(String.valueOf(prim.metadata.get("active")))) {
      out.notes.add(Note.ignored(prim.path, "not active"));
      return null;
    }
    notEvaluated(prim);
    if (!UsdTypes.mayMove(prim.type) && prim.attributes.containsKey("xformOpOrder")) {
      String type = prim.type.isEmpty() ? "a prim without a type" : "a " + prim.type;
      out.notes.add(
          Note.ignored(prim.path, type + " has no transform; what it states does not count"));
    }
    UsdNode node = new UsdNode(prim, parent, new UsdXform(prim, evaluator, file), time, file);
    node.ownTimes(codes);
    switch (prim.type) {
      case "Camera" -> camera(node);
      case "Points" -> laterPoints(node, "points");
      case "PointInstancer" -> {
        laterPoints(node, "positions");
        return node; // what is below it are prototypes, which stand nowhere by themselves
      }
      case "Mesh" -> later.add(() -> mesh(node));
      case "RenderSettings" -> resolution(prim);
      case "Xform" -> {
        if (prim.children.isEmpty() && node.hasOwnTransform()) {
          later.add(() -> locator(node));
        }
      }
      // Materials are read from the meshes that they are on.
      case "Scope", "", "Material", "NodeGraph", "Shader" -> {}
      case "Sphere",
          "Cube",
          "Cone",
          "Cylinder",
          "Capsule",
          "Plane",
          "Cone_1",
          "Cylinder_1",
          "Capsule_1" -> {
        shapes.merge(prim.type, 1, Integer::sum);
        later.add(() -> locator(node));
      }
      default -> unknown.merge(prim.type, 1, Integer::sum);
    }
    for (UsdPrim child : prim.children) {
      visit(child, node);
    }
    return node;
  }

  private void notEvaluated(UsdPrim prim) {
    for (String key : prim.metadata.keySet()) {
      if (key.startsWith("spline:")) {
        out.notes.add(
            Note.ignored(prim.path, key.substring(7) + " is a spline; ask for it sampled"));
      }
    }
  }

  private void camera(UsdNode node) {
    String name = cameraNames.unique(node.name());
    FrameRange layer = time.range == null ? null : time.range.value();
    out.cameras.add(cameras.read(node, name, layer));
    cameraNodes.add(node);
  }

  /** A childless transform marks a place: that is how trackers travel as locators. */
  private void locator(UsdNode node) {
    FileGroups.Placement in = groups.ofTracker(node);
    Matrix4d toGroup = in.of(node.world(groups.reference()));
    trackers.add(in, node.name(), toGroup, 0, 0, 0, node::place);
    if (node.parent != null) {
      node.parent
          .prim
          .attribute("userProperties:locatorSize")
          .flatMap(UsdAttribute::any)
          .filter(Number.class::isInstance)
          .ifPresent(
              size ->
                  trackers.size(
                      in, ((Number) size).doubleValue(), node.parent.world(groups.reference())));
    }
  }

  private void laterPoints(UsdNode node, String attribute) {
    node.prim
        .attribute(attribute)
        .ifPresent(
            a -> {
              java.util.Arrays.stream(a.times()).forEach(codes::add);
              later.add(() -> points(node, a));
            });
  }

  /** Places of points or of a point instancer's instances, in the space of their prim. */
  private void points(UsdNode node, UsdAttribute a) {
    UsdPrim prim = node.prim;
    int count = a.any().orElse(null) instanceof UsdArray array ? array.count() : 0;
    double[] p = evaluator.numbers(prim, a, firstCode, 3 * count);
    if (prim.type.equals("PointInstancer")) {
      instanced(prim, count);
    }
    List<?> given =
        prim.attribute("userProperties:names")
            .flatMap(UsdAttribute::any)
            .filter(List.class::isInstance)
            .map(v -> (List<?>) v)
            .filter(l -> l.size() == count)
            .orElse(List.of());
    if ((a.isAnimated() || groups.changesShape(node)) && groups.canFollow(count)) {
      movingPoints(node, a, count, given);
      return;
    }
    if (a.isAnimated()) {
      out.notes.add(
          Note.lost(
              prim.path, count + " points move one by one; they are read at the first frame"));
    }
    FileGroups.Placement in = groups.ofContents(node);
    out.clouds.add(in.name());
    Matrix4d world = node.world(groups.reference());
    prim.attribute("widths")
        .filter(w -> w.any().orElse(null) instanceof UsdArray one && one.count() == 1)
        .ifPresent(w -> trackers.size(in, evaluator.numbers(prim, w, firstCode, 1)[0], world));
    Matrix4d toGroup = in.of(world);
    for (int i = 0; i < count; i++) {
      String name = given.isEmpty() ? prim.name + "_" + (i + 1) : String.valueOf(given.get(i));
      trackers.add(in, name, toGroup, p[3 * i], p[3 * i + 1], p[3 * i + 2], node::place);
    }
  }

  private void instanced(UsdPrim prim, int count) {
    out.notes.add(
        Note.lost(
            prim.path, count + " instances are read as points; what stands at them is left out"));
    for (String hides : List.of("invisibleIds", "velocities", "accelerations")) {
      if (prim.attribute(hides).isPresent()) {
        out.notes.add(Note.ignored(prim.path, hides + " of instances do not count"));
      }
    }
    if (prim.metadata.containsKey("inactiveIds")) {
      out.notes.add(Note.ignored(prim.path, "inactiveIds of instances do not count"));
    }
    if (movesBelow(prim)) {
      out.notes.add(
          Note.ignored(prim.path, "transforms of its prototypes do not count; places are its own"));
    }
  }

  private static boolean movesBelow(UsdPrim prim) {
    return prim.children.stream()
        .anyMatch(c -> c.attributes.containsKey("xformOpOrder") || movesBelow(c));
  }

  /** Each is a group of its own, for each goes its own way. */
  private void movingPoints(UsdNode node, UsdAttribute a, int count, List<?> given) {
    FrameRange frames = groups.frames();
    double[][] at = new double[frames.count()][];
    for (int k = 0; k < at.length; k++) {
      int f = frames.first() + k;
      double[] p = evaluator.numbers(node.prim, a, time.codeOf(f), 3 * count);
      Matrix4d m = node.world(f);
      Vector3d v = new Vector3d();
      for (int i = 0; i < p.length; i += 3) {
        m.transformPosition(p[i], p[i + 1], p[i + 2], v);
        p[i] = v.x;
        p[i + 1] = v.y;
        p[i + 2] = v.z;
      }
      at[k] = p;
    }
    for (int i = 0; i < count; i++) {
      int c = 3 * i;
      String name = given.isEmpty() ? node.prim.name + "_" + (i + 1) : String.valueOf(given.get(i));
      FileGroups.Placement in =
          groups.ofMovingPoint(
              node,
              name,
              f -> {
                double[] p = at[f - frames.first()];
                return new Vector3d(p[c], p[c + 1], p[c + 2]);
              });
      trackers.add(in, name, new Matrix4d(), 0, 0, 0, node::place);
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
    if (points.get().isAnimated()) {
      out.notes.add(
          Note.lost(prim.path, "the mesh deforms; it is read as it is at the first frame"));
    } else if (prim.attribute("primvars:skel:jointIndices").isPresent()
        || prim.attribute("skel:blendShapes").isPresent()) {
      out.notes.add(Note.lost(prim.path, FileMesh.DEFORMED));
    }
    int[] corners = integers(prim, "faceVertexIndices");
    FileGroups.Placement in = groups.ofContents(node);
    out.meshes.add(
        FileMesh.of(
                node.name(),
                xyz,
                in.of(node.world(groups.reference())),
                integers(prim, "faceVertexCounts"),
                corners,
                perCorner(prim, List.of("primvars:normals", "normals"), 3, corners),
                perCorner(
                    prim, List.of("primvars:st", "primvars:UVMap", "primvars:uv"), 2, corners),
                file,
                node.place())
            .withTexture(textures.of(node))
            .inGroup(in.group()));
  }

  /** The first of some attributes that the mesh has, as values a corner. */
  private Optional<double[]> perCorner(UsdPrim prim, List<String> names, int each, int[] corners) {
    for (String n : names) {
      Optional<UsdAttribute> a = prim.attribute(n);
      if (a.isEmpty() || !(a.get().any().orElse(null) instanceof UsdArray array)) {
        continue;
      }
      double[] values = evaluator.numbers(prim, a.get(), firstCode, each * array.count());
      int[] own =
          prim.attribute(n + ":indices").isPresent() ? integers(prim, n + ":indices") : null;
      String how = String.valueOf(prim.metadata.get(UsdPrim.INTERPOLATION + n));
      Optional<double[]> found =
          switch (how) {
            case "vertex", "varying" -> FileMesh.perPoint(values, each, own, corners);
            case "uniform", "constant" -> Optional.empty();
            default -> FileMesh.perCorner(values, each, own, corners);
          };
      if (found.isEmpty() && array.count() > 0) {
        out.notes.add(Note.lost(prim.path, n + " has one value neither a corner nor a point"));
      }
      return found;
    }
    return Optional.empty();
  }

  private static int[] integers(UsdPrim prim, String name) {
    return prim.attribute(name).flatMap(UsdAttribute::any).orElse(null) instanceof UsdArray a
        ? FileMesh.integers(a.numbers())
        : new int[0];
  }

  private void resolution(UsdPrim prim) {
    UsdAttribute a = prim.attribute("resolution").orElse(null);
    if (a == null) {
      return;
    }
    double[] r = evaluator.numbers(prim, a, firstCode, 2);
    UsdAttribute aspect = prim.attribute("pixelAspectRatio").orElse(null);
    double pixel = aspect == null ? 1 : evaluator.number(prim, aspect, firstCode, 1);
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
      out.plate = new PlateMention(path, PlateRole.stated(String.valueOf(m.get("plateRole"))));
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
