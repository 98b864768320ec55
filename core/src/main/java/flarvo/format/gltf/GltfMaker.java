package flarvo.format.gltf;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.format.ByteSink;
import flarvo.format.FileNames;
import flarvo.format.FileParent;
import flarvo.format.FileScene;
import flarvo.format.NameChanges;
import flarvo.format.SceneTree;
import flarvo.format.ShotCentre;
import flarvo.format.Sourced;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * A scene as the JSON of a file and its one buffer: cameras with a linear key on every frame,
 * trackers as bare nodes in a group.
 */
final class GltfMaker {

  private static final int FLOATS = 5126;
  private static final double FALLBACK_NEAR = 0.01;

  private static final int UNSIGNED_INTS = 5125;
  private static final int ELEMENT_ARRAY = 34963;

  /** Half a thousandth of a frame moves a fast camera less than a hundredth of a pixel. */
  private static final double MOST_OFF_FRAME = 5e-4;

  private final FileScene scene;
  private final Progress progress;
  private final ObjectNode root = new ObjectMapper().createObjectNode();
  private final ByteSink buffer = new ByteSink();
  private final List<Note> notes = new ArrayList<>();
  private final NameChanges changes = new NameChanges();
  private final GltfMaterialMaker materials = new GltfMaterialMaker(root, notes);
  private final FileNames names = new FileNames(changes);
  private final Vec3 origin;
  private final Rate rate;
  private final int firstFrame; // the one whose time is first/rate, or 0 for negative ones
  private ArrayNode nodes;
  private ArrayNode accessors;
  private ArrayNode views;

  GltfMaker(FileScene asGiven, Progress progress) {
    // The node that everything hangs from is of 32-bit floats; what hangs there makes up for it.
    this.scene = asGiven.withParents(p -> new FileParent(p.name(), rounded(p.place())));
    this.progress = progress;
    this.rate = scene.rate().map(Sourced::value).orElseThrow();
    FrameRange range = scene.range().map(Sourced::value).orElseThrow();
    this.firstFrame = Math.min(0, range.first());
    this.origin = ShotCentre.of(scene, 1).orElse(Vec3.ZERO);
  }

  private static Similarity rounded(Similarity s) {
    Rotation r = s.rotation();
    Vec3 t = s.translation();
    return new Similarity(
        (float) s.scale(),
        Rotation.normalized((float) r.w(), (float) r.x(), (float) r.y(), (float) r.z()),
        new Vec3((float) t.x(), (float) t.y(), (float) t.z()));
  }

  List<Note> notes() {
    List<Note> all = new ArrayList<>(notes);
    all.addAll(changes.notes());
    return all;
  }

  byte[] buffer() {
    return buffer.toBytes();
  }

  /** The document, with a buffer that has no address yet. */
  ObjectNode make() {
    root.putObject("asset").put("version", "2.0").put("generator", "Flarvo");
    root.put("scene", 0);
    ArrayNode scenes = root.putArray("scenes");
    nodes = root.putArray("nodes");
    ObjectNode top = nodes.addObject().put("name", "shot");
    boolean far = !origin.equals(Vec3.ZERO);
    if (far) {
      if (scene.parents().isEmpty()) {
        vector(top.putArray("translation"), origin);
      }
      notes.add(
          Note.changed(
              scene.parents().isEmpty() ? "shot" : ShotCentre.NODE,
              String.format(
                  Locale.ROOT,
                  "the shot lies far from the origin, so everything is under this node at"
                      + " (%.0f, %.0f, %.0f)",
                  origin.x(),
                  origin.y(),
                  origin.z())));
    }
    if (firstFrame < 0) {
      notes.add(
          Note.changed(
              "frames", "times below 0 cannot be written; frame " + firstFrame + " is at 0 s"));
    }
    noteTimes();
    scenes.addObject().put("name", "shot").putArray("nodes").add(0);
    accessors = root.putArray("accessors");
    views = root.putArray("bufferViews");
    List<Integer> children = new ArrayList<>();
    contents(SceneTree.of(scene), origin, children);
    if (!children.isEmpty()) {
      ArrayNode list = top.putArray("children");
      children.forEach(list::add);
    }
    if (buffer.position() > 0) {
      root.putArray("buffers").addObject().put("byteLength", buffer.position());
    } else {
      root.remove(List.of("accessors", "bufferViews"));
    }
    return root;
  }

  /** Times are 32-bit floats of seconds: far from 0 a key does not lie on its frame. */
  private void noteTimes() {
    FrameRange frames = scene.range().map(Sourced::value).orElseThrow();
    if (frames.count() == 1 && !scene.cameras().isEmpty()) {
      notes.add(
          Note.lost(
              "frames", "one key tells no rate, so its frame is what the recipient's makes it"));
    }
    int last = frames.last() - firstFrame;
    double off = Math.ulp((float) (last / rate.toDouble())) / 2 * rate.toDouble();
    if (off > MOST_OFF_FRAME) {
      notes.add(
          Note.changed(
              "frames",
              String.format(
                  Locale.ROOT,
                  "times are 32-bit numbers here, so a key near frame %d lies up to %.4f frames off;"
                      + " where that matters, shift the shot to start at a low frame",
                  last + firstFrame,
                  off)));
    }
  }

  private int camera(ShotCamera c, Vec3 from) {
    Optics o = c.optics().at(c.frames().first());
    boolean zooms = !c.optics().isConstant();
    if (zooms) {
      notes.add(Note.lost(c.name(), "a focal length that changes is held at the first frame"));
    }
    ArrayNode cameras = root.withArray("cameras");
    int index = cameras.size();
    ObjectNode perspective =
        cameras
            .addObject()
            .put("name", c.name())
            .put("type", "perspective")
            .putObject("perspective");
    perspective.put("aspectRatio", o.filmWidthMm() / o.filmHeightMm());
    perspective.put("yfov", 2 * Math.atan(o.filmHeightMm() / 2 / o.focalLengthMm()));
    c.clip().ifPresent(k -> perspective.put("zfar", k.far()));
    perspective.put("znear", c.clip().map(k -> k.near()).orElse(FALLBACK_NEAR));
    int node = nodes.size();
    ObjectNode n = nodes.addObject().put("name", names.unique(c.name())).put("camera", index);
    FrameRange frames = c.frames();
    Pose first = c.poses().at(frames.first());
    vector(n.putArray("translation"), first.position().minus(from));
    quaternion(n.putArray("rotation"), first.rotation());
    animate(c.poses(), from, node);
    return node;
  }

  private void animate(PoseTrack poses, Vec3 origin, int node) {
    FrameRange frames = poses.frames();
    int count = frames.count();
    double[] times = new double[count];
    double[] places = new double[3 * count];
    double[] turns = new double[4 * count];
    Rotation before = Rotation.IDENTITY;
    for (int i = 0; i < count; i++) {
      progress.step(i, count);
      int f = frames.first() + i;
      times[i] = (double) (f - firstFrame) * rate.den() / rate.num();
      Pose p = poses.at(f);
      Vec3 at = p.position().minus(origin);
      places[3 * i] = at.x();
      places[3 * i + 1] = at.y();
      places[3 * i + 2] = at.z();
      Rotation r = p.rotation();
      double dot =
          r.w() * before.w() + r.x() * before.x() + r.y() * before.y() + r.z() * before.z();
      double sign = i > 0 && dot < 0 ? -1 : 1; // the shorter way between keys
      before = Rotation.normalized(sign * r.w(), sign * r.x(), sign * r.y(), sign * r.z());
      turns[4 * i] = sign * r.x();
      turns[4 * i + 1] = sign * r.y();
      turns[4 * i + 2] = sign * r.z();
      turns[4 * i + 3] = sign * r.w();
    }
    int input = accessor("SCALAR", 1, times);
    ArrayNode all = root.withArray("animations");
    ObjectNode animation =
        all.isEmpty() ? all.addObject().put("name", "shot") : (ObjectNode) all.get(0);
    ArrayNode channels = animation.withArray("channels");
    ArrayNode samplers = animation.withArray("samplers");
    channel(channels, samplers, node, "translation", input, accessor("VEC3", 3, places));
    channel(channels, samplers, node, "rotation", input, accessor("VEC4", 4, turns));
  }

  private static void channel(
      ArrayNode channels, ArrayNode samplers, int node, String path, int input, int output) {
    ObjectNode channel = channels.addObject().put("sampler", samplers.size());
    channel.putObject("target").put("node", node).put("path", path);
    samplers.addObject().put("input", input).put("interpolation", "LINEAR").put("output", output);
  }

  private int accessor(String type, int width, double[] values) {
    int at = buffer.position();
    for (double v : values) {
      buffer.f32((float) v);
    }
    views
        .addObject()
        .put("buffer", 0)
        .put("byteOffset", at)
        .put("byteLength", buffer.position() - at);
    ObjectNode a =
        accessors
            .addObject()
            .put("bufferView", views.size() - 1)
            .put("componentType", FLOATS)
            .put("count", values.length / width)
            .put("type", type);
    if (width == 1) { // what times need
      a.putArray("min").add((float) values[0]);
      a.putArray("max").add((float) values[values.length - 1]);
    }
    return accessors.size() - 1;
  }

  /** Points with their names beside them, where other readers do not look. */
  private int cloud(TrackerSet t, Vec3 from) {
    double[] xyz = new double[3 * t.size()];
    for (int i = 0; i < t.size(); i++) {
      xyz[3 * i] = t.x(i) - from.x();
      xyz[3 * i + 1] = t.y(i) - from.y();
      xyz[3 * i + 2] = t.z(i) - from.z();
    }
    int positions = bounded(xyz);
    ArrayNode meshes = root.withArray("meshes");
    int number = meshes.size();
    String name = names.unique(t.name());
    ObjectNode mesh = meshes.addObject().put("name", name);
    ArrayNode own = mesh.putObject("extras").putArray(GltfMeshReader.NAMES);
    t.names().forEach(own::add);
    mesh.putArray("primitives")
        .addObject()
        .put("mode", GltfMeshReader.POINTS)
        .putObject("attributes")
        .put("POSITION", positions);
    int node = nodes.size();
    nodes.addObject().put("name", name).put("mesh", number);
    return node;
  }

  /** Positions, with the least and the largest of each axis, as the format wants. */
  private int bounded(double[] xyz) {
    int positions = accessor("VEC3", 3, xyz);
    float[] lo = {Float.MAX_VALUE, Float.MAX_VALUE, Float.MAX_VALUE};
    float[] hi = {-Float.MAX_VALUE, -Float.MAX_VALUE, -Float.MAX_VALUE};
    for (int i = 0; i < xyz.length; i++) {
      lo[i % 3] = Math.min(lo[i % 3], (float) xyz[i]);
      hi[i % 3] = Math.max(hi[i % 3], (float) xyz[i]);
    }
    ObjectNode a = (ObjectNode) accessors.get(positions);
    ArrayNode min = a.putArray("min");
    ArrayNode max = a.putArray("max");
    for (int k = 0; k < 3; k++) {
      min.add(lo[k]);
      max.add(hi[k]);
    }
    return positions;
  }

  /**
   * Faces with more than three corners are cut into fans of triangles. A point has one normal and
   * one pair of texture coordinates in this format, so each corner that differs is a point.
   */
  private int mesh(Mesh m, Vec3 origin) {
    GltfCorners corners = new GltfCorners(m);
    double[] xyz = new double[3 * corners.count()];
    for (int i = 0; i < corners.count(); i++) {
      int point = corners.point(i);
      xyz[3 * i] = m.x(point) - origin.x();
      xyz[3 * i + 1] = m.y(point) - origin.y();
      xyz[3 * i + 2] = m.z(point) - origin.z();
    }
    int positions = bounded(xyz);
    int normals = m.normals().length == 0 ? -1 : accessor("VEC3", 3, corners.normals());
    int uvs = m.uvs().length == 0 ? -1 : accessor("VEC2", 2, corners.uvsDown());
    int at = buffer.position();
    int count = 0;
    int first = 0;
    for (int f = 0; f < m.faces(); f++) {
      for (int i = 1; i + 1 < m.corners(f); i++) {
        buffer.i32(corners.of(first));
        buffer.i32(corners.of(first + i));
        buffer.i32(corners.of(first + i + 1));
        count += 3;
      }
      first += m.corners(f);
    }
    views
        .addObject()
        .put("buffer", 0)
        .put("byteOffset", at)
        .put("byteLength", buffer.position() - at)
        .put("target", ELEMENT_ARRAY);
    accessors
        .addObject()
        .put("bufferView", views.size() - 1)
        .put("componentType", UNSIGNED_INTS)
        .put("count", count)
        .put("type", "SCALAR");
    ArrayNode meshes = root.withArray("meshes");
    int number = meshes.size();
    String name = names.unique(m.name());
    ObjectNode primitive = meshes.addObject().put("name", name).putArray("primitives").addObject();
    ObjectNode attributes = primitive.putObject("attributes").put("POSITION", positions);
    if (normals >= 0) {
      attributes.put("NORMAL", normals);
    }
    if (uvs >= 0) {
      attributes.put("TEXCOORD_0", uvs);
    }
    primitive.put("indices", accessors.size() - 1);
    int firstOfShot = scene.range().map(Sourced::value).orElseThrow().first();
    m.texture().stream()
        .flatMapToInt(t -> materials.write(t, name, firstOfShot).stream())
        .forEach(i -> primitive.put("material", i));
    int node = nodes.size();
    nodes.addObject().put("name", name).put("mesh", number);
    return node;
  }

  /**
   * What hangs in a node, as numbers of nodes.
   *
   * @param from the node's own place, where that is no group that moves
   */
  private void contents(SceneTree.Branch in, Vec3 from, List<Integer> children) {
    in.visit(b -> branch(b, from, children), c -> children.add(camera(c.camera(), from)));
    for (TrackerSet t : in.trackers()) {
      if (t.isCloud()) {
        children.add(cloud(t, from));
        continue;
      }
      for (int i = 0; i < t.size(); i++) {
        progress.step(i, t.size());
        children.add(nodes.size());
        ObjectNode n = nodes.addObject().put("name", t.names().get(i));
        vector(n.putArray("translation"), t.position(i).minus(from));
      }
    }
    in.meshes().forEach(m -> children.add(mesh(m, from)));
  }

  private void branch(SceneTree.Branch b, Vec3 from, List<Integer> children) {
    int number = nodes.size();
    ObjectNode n = nodes.addObject().put("name", names.unique(b.name()));
    b.parent().ifPresent(p -> place(n, p.place()));
    if (b.hasMotion()) {
      PoseTrack poses = b.local(scene.range().map(Sourced::value).orElseThrow());
      Pose first = poses.at(poses.frames().first());
      vector(n.putArray("translation"), first.position().minus(from));
      quaternion(n.putArray("rotation"), first.rotation());
      animate(poses, from, number);
    }
    List<Integer> inside = new ArrayList<>();
    ObjectNode holds = n;
    if (b.parent().isPresent() && !origin.equals(Vec3.ZERO)) {
      n.putArray("children").add(nodes.size());
      holds = nodes.addObject().put("name", names.unique(ShotCentre.NODE));
      vector(holds.putArray("translation"), origin);
    }
    contents(b, b.hasMotion() ? Vec3.ZERO : from, inside);
    if (!inside.isEmpty()) {
      ArrayNode list = holds.putArray("children");
      inside.forEach(list::add);
    }
    children.add(number);
  }

  private static void place(ObjectNode n, Similarity s) {
    vector(n.putArray("translation"), s.translation());
    quaternion(n.putArray("rotation"), s.rotation());
    vector(n.putArray("scale"), new Vec3(s.scale(), s.scale(), s.scale()));
  }

  /** What every reader makes of it is a 32-bit float, so that is what is written. */
  private static void vector(ArrayNode a, Vec3 v) {
    a.add((float) v.x()).add((float) v.y()).add((float) v.z());
  }

  private static void quaternion(ArrayNode a, Rotation r) {
    a.add((float) r.x()).add((float) r.y()).add((float) r.z()).add((float) r.w());
  }
}
