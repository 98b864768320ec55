package flarvo.format.abc;

import flarvo.convention.Dialect;
import flarvo.convention.Handedness;
import flarvo.convention.SignedAxis;
import flarvo.format.FileGroups;
import flarvo.format.FileMesh;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.KeySnap;
import flarvo.format.ReadLimits;
import flarvo.format.Sourced;
import flarvo.format.TrackerCollector;
import flarvo.format.TreeNode;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.Rate;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Evaluates an archive into a {@link FileScene}. */
final class AbcSceneReader {

  private static final String RATE_KEY = "_ai_DCC_FPS";
  private static final String INSTANCE = ".instanceSource";

  private final String file;
  private final ReadLimits limits;
  private final Progress progress;
  private final AbcArchive archive;
  private final FileScene.Builder out = new FileScene.Builder();
  private final FileNames cameraNames = new FileNames();
  private final TrackerCollector trackers;
  private final List<Runnable> later = new ArrayList<>(); // what needs the frames of the cameras
  private final List<AbcProperty> moving = new ArrayList<>();
  private final List<TreeNode> cameraNodes = new ArrayList<>();
  private AbcClock clock;
  private FileGroups groups;
  private AbcNode top;
  private final Map<String, Integer> unknown = new TreeMap<>();
  private final Map<String, AbcArchive.AbcObject> byPath = new LinkedHashMap<>();
  private final Set<String> instancesAbove = new HashSet<>();
  private final Dialect from;
  private AbcCameraReader cameras;
  private int objects;

  AbcSceneReader(
      String file, AbcArchive archive, Dialect from, ReadLimits limits, Progress progress) {
    this.file = file;
    this.archive = archive;
    this.from = from;
    this.trackers = new TrackerCollector(file, limits);
    this.limits = limits;
    this.progress = progress;
  }

  FileScene read() {
    if (from.equals(Dialect.CANONICAL)) { // nobody said how the sender speaks
      out.up = Sourced.assumed(SignedAxis.POSITIVE_Y, "the format's convention");
    }
    out.handedness = Sourced.assumed(Handedness.RIGHT, "the format's convention");
    out.rate = rate();
    clock = new AbcClock(out.rate.value(), new KeySnap(limits.snapKeys()));
    cameras = new AbcCameraReader(file, clock, limits, out.notes);
    AbcArchive.AbcObject root = archive.object();
    for (AbcArchive.AbcObject o : root.children()) {
      visit(o, null, "", 1);
    }
    FrameRange frames =
        FileGroups.frames(null, out.cameras, () -> cameras.framesOf(moving), limits.mostFrames());
    groups = new FileGroups(file, frames, root.children().size() == 1 ? top : null, out.notes);
    clock.snap().goByFirst();
    out.hang(groups, cameraNodes);
    later.forEach(Runnable::run);
    out.trackers.addAll(trackers.sets());
    out.parents.addAll(groups.parents());
    unknown.forEach(
        (kind, n) -> out.notes.add(Note.ignored("", n + " × " + kind + " not understood")));
    if (!out.cameras.isEmpty()) {
      FrameRange r = out.cameras.get(0).camera().frames();
      out.range =
          r.count() > 1
              ? Sourced.said(r, "the times of the samples")
              : Sourced.assumed(r, "the times of the samples");
    } else if (frames.count() > 1) {
      out.range = Sourced.said(frames, "the times of the samples");
    }
    return out.build();
  }

  /** As the writer stated it, else from samples at even times. */
  private Sourced<Rate> rate() {
    String stated = archive.metadata.get(RATE_KEY);
    if (stated != null) {
      Optional<Rate> said = rateOf(number(stated));
      if (said.isPresent()) {
        return Sourced.said(said.get(), RATE_KEY);
      }
      out.notes.add(Note.ignored(RATE_KEY, "'" + stated + "' is not a rate"));
    }
    for (int i = 1; i < archive.samplings.size(); i++) {
      AbcSampling s = archive.samplings.get(i);
      double cycle = s.isUniform() ? s.cycleSeconds() : Double.NaN;
      if (cycle > 1e-4 && cycle < 1) {
        Optional<Rate> even = rateOf(rounded(1 / cycle));
        if (even.isPresent()) {
          return Sourced.said(even.get(), "the times of the samples");
        }
      }
    }
    return Sourced.assumed(Rate.FPS_24, "the format's fallback");
  }

  private static double number(String text) {
    try {
      return Double.parseDouble(text);
    } catch (NumberFormatException e) {
      return Double.NaN;
    }
  }

  private static Optional<Rate> rateOf(double perSecond) {
    try {
      return Optional.of(Rate.fromDouble(perSecond));
    } catch (IllegalArgumentException e) {
      return Optional.empty();
    }
  }

  /** Takes off what a rate lost by being stored as seconds. */
  private static double rounded(double rate) {
    return Math.rint(rate * 1e6) / 1e6;
  }

  private void visit(AbcArchive.AbcObject o, AbcNode parent, String group, int depth) {
    progress.step(0, 0);
    if (++objects > limits.mostObjects() || depth > 8 * limits.deepest()) {
      throw new InputError(file, "<" + o.path + ">", "there are too many objects, or too deep", "");
    }
    byPath.putIfAbsent(o.path, o);
    AbcCompound properties = o.properties();
    Optional<AbcProperty> source = properties.property(INSTANCE);
    if (source.isPresent()) {
      instance(o, source.get(), parent, group, depth);
      return;
    }
    if (properties.property("visible").map(p -> p.numbers(0)).orElse(new double[] {1})[0] == 0) {
      out.notes.add(Note.changed(o.path, "hidden in the file; read all the same"));
    }
    List<AbcArchive.AbcObject> children = o.children();
    AbcNode node = parent;
    switch (kind(o)) {
      case "Xform" -> {
        Optional<AbcCompound> xform = properties.compound(".xform");
        AbcXform x =
            xform.map(c -> new AbcXform(c, o.path, file)).orElse(AbcXform.none(o.path, file));
        AbcNode own = new AbcNode(x, parent, o.name, o.path, clock);
        node = own;
        if (x.moving() != null) {
          moving.add(x.moving());
        }
        top = parent == null && !children.isEmpty() ? own : top;
        if (children.isEmpty() && (xform.isPresent() || parent != null)) {
          later.add(() -> place(own));
        }
      }
      case "Camera" -> {
        AbcCompound geom = geom(o, properties);
        String name = o.name.endsWith("Shape") && parent != null ? group : o.name;
        out.cameras.add(cameras.read(parent, geom, cameraNames.unique(name), o.path));
        cameraNodes.add(parent); // the transform is the camera's own
      }
      case "Points" -> {
        AbcCompound geom = geom(o, properties);
        geom.property("P").filter(p -> !p.isConstant()).ifPresent(moving::add);
        later.add(() -> points(o, geom, parent));
      }
      case "PolyMesh", "SubD" -> later.add(() -> mesh(o, geom(o, properties), parent));
      case "" -> {}
      default -> unknown.merge(kind(o), 1, Integer::sum);
    }
    for (AbcArchive.AbcObject child : children) {
      visit(child, node, o.name, depth + 1);
    }
  }

  /** {@code AbcGeom_Camera_v1} to {@code Camera}. */
  private static String kind(AbcArchive.AbcObject o) {
    String s = o.schema();
    return s.startsWith("AbcGeom_") ? s.substring(8).replaceAll("_v\\d+$", "") : s;
  }

  private AbcCompound geom(AbcArchive.AbcObject o, AbcCompound properties) {
    return properties
        .compound(".geom")
        .orElseThrow(
            () -> new InputError(file, "<" + o.path + ">", "the object has no contents", ""));
  }

  private void instance(
      AbcArchive.AbcObject o, AbcProperty source, AbcNode parent, String group, int depth) {
    List<String> paths = source.texts(0);
    AbcArchive.AbcObject original = paths.isEmpty() ? null : find(paths.get(0));
    if (original == null || !instancesAbove.add(original.path)) {
      throw new InputError(
          file,
          "<" + o.path + ">",
          original == null
              ? "it repeats '" + paths + "', which is not there"
              : "it repeats itself without end",
          "Request a new copy");
    }
    visit(original, parent, group, depth + 1);
    instancesAbove.remove(original.path);
  }

  private AbcArchive.AbcObject find(String path) {
    AbcArchive.AbcObject known = byPath.get(path);
    if (known != null) {
      return known;
    }
    AbcArchive.AbcObject o = archive.object();
    for (String part : path.split("/")) {
      if (!part.isEmpty()) {
        AbcArchive.AbcObject next = null;
        for (AbcArchive.AbcObject c : o.children()) {
          next = c.name.equals(part) ? c : next;
        }
        if (next == null) {
          return null;
        }
        o = next;
      }
    }
    return o;
  }

  /** A childless transform marks a place: that is how trackers travel as locators. */
  private void place(AbcNode node) {
    FileGroups.Placement in = groups.ofTracker(node);
    trackers.add(in, node.name(), in.of(start(node)), 0, 0, 0, node::place);
  }

  private Matrix4d start(AbcNode node) {
    return node == null ? new Matrix4d() : node.world(groups.frames().first());
  }

  private void points(AbcArchive.AbcObject o, AbcCompound geom, AbcNode parent) {
    double[] xyz = geom.numbers("P").orElse(new double[0]);
    FileGroups.Placement in = groups.ofContents(nodeOf(o, parent));
    Matrix4d m = in.of(start(parent));
    Optional<double[][]> moving = moving(geom, xyz.length);
    if (moving.isEmpty()) {
      out.clouds.add(in.name());
    }
    if (moving.isEmpty()) {
      deforms(o, geom, "its points move one by one; they are read at their first sample");
    }
    double[] ids = geom.numbers(".pointIds").orElse(new double[0]);
    List<String> names = names(geom, xyz.length / 3);
    for (int i = 0; i + 2 < xyz.length; i += 3) {
      String id =
          ids.length == xyz.length / 3 ? Long.toString((long) ids[i / 3]) : "" + (i / 3 + 1);
      String name = names.isEmpty() ? o.name + "_" + id : names.get(i / 3);
      if (moving.isEmpty()) {
        trackers.add(in, name, m, xyz[i], xyz[i + 1], xyz[i + 2], () -> "<" + o.path + ">");
      } else {
        movingPoint(o, parent, moving.get(), i, name);
      }
    }
  }

  /** Places on every frame, where they change and their number does not. */
  private Optional<double[][]> moving(AbcCompound geom, int numbers) {
    Optional<AbcProperty> p = geom.property("P").filter(v -> !v.isConstant());
    if (p.isEmpty() || !groups.canFollow(numbers / 3)) {
      return Optional.empty();
    }
    FrameRange frames = groups.frames();
    double[][] at = new double[frames.count()][];
    for (int k = 0; k < at.length; k++) {
      at[k] = p.get().at(clock.secondsOf(frames.first() + k));
      if (at[k].length != numbers) {
        return Optional.empty();
      }
    }
    return Optional.of(at);
  }

  /** A group of its own, for each goes its own way. */
  private void movingPoint(
      AbcArchive.AbcObject o, AbcNode parent, double[][] at, int i, String name) {
    FrameRange frames = groups.frames();
    FileGroups.Placement in =
        groups.ofMovingPoint(
            shape(o, parent),
            name,
            f -> {
              double[] p = at[f - frames.first()];
              Vector3d v = new Vector3d(p[i], p[i + 1], p[i + 2]);
              return parent == null ? v : parent.world(f).transformPosition(v);
            });
    trackers.add(in, name, new Matrix4d(), 0, 0, 0, () -> "<" + o.path + ">");
  }

  /** A shape is no transform of its own: it stands at its parent. */
  private AbcNode shape(AbcArchive.AbcObject o, AbcNode parent) {
    return new AbcNode(AbcXform.none(o.path, file), parent, o.name, o.path, clock);
  }

  private void deforms(AbcArchive.AbcObject o, AbcCompound geom, String text) {
    if (geom.property("P").map(p -> !p.isConstant()).orElse(false)) {
      out.notes.add(Note.lost(o.path, text));
    }
  }

  /** Names that somebody gave the points, one each; empty where there are none. */
  private static List<String> names(AbcCompound geom, int points) {
    for (String n : List.of("name", "names")) {
      List<String> found =
          geom.compound(".arbGeomParams").flatMap(c -> c.texts(n)).orElse(List.of());
      if (found.size() == points && Set.copyOf(found).size() == points) {
        return found;
      }
    }
    return List.of();
  }

  /** A shape alone in a transform of its name is one thing with it. */
  private AbcNode nodeOf(AbcArchive.AbcObject o, AbcNode parent) {
    boolean one = parent != null && o.name.equals(parent.name() + "Shape");
    return one ? parent : shape(o, parent);
  }

  private void mesh(AbcArchive.AbcObject o, AbcCompound geom, AbcNode parent) {
    Optional<double[]> points = geom.numbers("P");
    if (points.isEmpty()) {
      return;
    }
    deforms(o, geom, "the mesh deforms; it is read at its first sample");
    int[] sizes = whole(geom, ".faceCounts");
    int[] indices = whole(geom, ".faceIndices");
    AbcNode node = nodeOf(o, parent);
    FileGroups.Placement in = groups.ofContents(node);
    Mesh m =
        FileMesh.of(
            node.name(),
            points.get(),
            in.of(start(parent)),
            sizes,
            indices,
            perCorner(o, geom, "N", 3, indices),
            perCorner(o, geom, "uv", 2, indices),
            file,
            "<" + o.path + ">");
    // Faces are wound clockwise in this format.
    out.meshes.add(m.map(v -> v, v -> v, true).inGroup(in.group()));
  }

  private Optional<double[]> perCorner(
      AbcArchive.AbcObject o, AbcCompound geom, String name, int each, int[] corners) {
    Optional<double[]> values = geom.numbers(name).filter(v -> v.length > 0);
    Optional<double[]> found = values.flatMap(v -> FileMesh.perCorner(v, each, null, corners));
    if (values.isPresent() && found.isEmpty()) {
      out.notes.add(Note.lost(o.path, name + " has one value neither a corner nor a point"));
    }
    return found;
  }

  private static int[] whole(AbcCompound geom, String name) {
    return FileMesh.integers(geom.numbers(name).orElse(new double[0]));
  }
}
