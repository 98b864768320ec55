package flarvo.format.abc;

import flarvo.convention.Dialect;
import flarvo.convention.Handedness;
import flarvo.convention.SignedAxis;
import flarvo.format.FileMesh;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.Sourced;
import flarvo.format.TrackerCollector;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import flarvo.work.Progress;
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
    this.trackers = new TrackerCollector(file);
    this.limits = limits;
    this.progress = progress;
  }

  FileScene read() {
    if (from.equals(Dialect.CANONICAL)) { // nobody said how the sender speaks
      out.up = Sourced.assumed(SignedAxis.POSITIVE_Y, "the format's convention");
    }
    out.handedness = Sourced.assumed(Handedness.RIGHT, "the format's convention");
    out.rate = rate();
    cameras = new AbcCameraReader(file, out.rate.value(), limits, out.notes);
    AbcArchive.AbcObject root = archive.object();
    for (AbcArchive.AbcObject o : root.children()) {
      visit(o, null, "", 1);
    }
    out.trackers.addAll(trackers.sets());
    unknown.forEach(
        (kind, n) -> out.notes.add(Note.ignored("", n + " × " + kind + " not understood")));
    if (!out.cameras.isEmpty()) {
      FrameRange r = out.cameras.get(0).camera().frames();
      out.range =
          r.count() > 1
              ? Sourced.said(r, "the times of the samples")
              : Sourced.assumed(r, "the times of the samples");
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
        if (xform.isPresent()) {
          node = new AbcNode(new AbcXform(xform.get(), o.path, file), parent);
        }
        if (children.isEmpty()) {
          place(o, node, group);
        }
      }
      case "Camera" -> {
        AbcCompound geom = geom(o, properties);
        String name = o.name.endsWith("Shape") && parent != null ? group : o.name;
        out.cameras.add(cameras.read(parent, geom, cameraNames.unique(name), o.path));
      }
      case "Points" -> points(o, geom(o, properties), parent);
      case "PolyMesh", "SubD" -> mesh(o, geom(o, properties), parent);
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
  private void place(AbcArchive.AbcObject o, AbcNode node, String group) {
    if (node == null) {
      return;
    }
    if (!node.moving().isEmpty()) {
      out.notes.add(Note.changed(o.path, "moves; read at its first sample"));
    }
    Matrix4d m = node.world(start(node));
    trackers.add(group, o.name, m.m30(), m.m31(), m.m32(), "<" + o.path + ">");
  }

  private static double start(AbcNode node) {
    return node == null || node.moving().isEmpty() ? 0 : node.moving().get(0).sampling.time(0);
  }

  private void points(AbcArchive.AbcObject o, AbcCompound geom, AbcNode parent) {
    double[] xyz = geom.numbers("P").orElse(new double[0]);
    Matrix4d m = parent == null ? new Matrix4d() : parent.world(start(parent));
    Vector3d v = new Vector3d();
    double[] ids = geom.numbers(".pointIds").orElse(new double[0]);
    List<String> names = names(geom, xyz.length / 3);
    for (int i = 0; i + 2 < xyz.length; i += 3) {
      m.transformPosition(xyz[i], xyz[i + 1], xyz[i + 2], v);
      String id =
          ids.length == xyz.length / 3 ? Long.toString((long) ids[i / 3]) : "" + (i / 3 + 1);
      String name = names.isEmpty() ? o.name + "_" + id : names.get(i / 3);
      trackers.add(o.name, name, v.x, v.y, v.z, "<" + o.path + ">");
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

  private void mesh(AbcArchive.AbcObject o, AbcCompound geom, AbcNode parent) {
    Optional<double[]> points = geom.numbers("P");
    if (points.isEmpty()) {
      return;
    }
    int[] sizes = whole(geom, ".faceCounts");
    int[] indices = whole(geom, ".faceIndices");
    reverse(sizes, indices);
    Matrix4d m = parent == null ? new Matrix4d() : parent.world(start(parent));
    out.meshes.add(FileMesh.of(o.name, points.get(), m, sizes, indices, file, "<" + o.path + ">"));
  }

  /** Faces are wound clockwise in this format. */
  private static void reverse(int[] sizes, int[] indices) {
    int at = 0;
    for (int n : sizes) {
      if (n < 0 || at + n > indices.length) {
        return; // refused where the mesh is made
      }
      for (int i = 0; i < n / 2; i++) {
        int t = indices[at + i];
        indices[at + i] = indices[at + n - 1 - i];
        indices[at + n - 1 - i] = t;
      }
      at += n;
    }
  }

  private static int[] whole(AbcCompound geom, String name) {
    return FileMesh.whole(geom.numbers(name).orElse(new double[0]));
  }
}
