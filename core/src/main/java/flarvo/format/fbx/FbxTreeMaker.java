package flarvo.format.fbx;

import flarvo.convention.Dialect;
import flarvo.convention.EulerTrack;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.NameChanges;
import flarvo.format.SceneTree;
import flarvo.format.ShotCentre;
import flarvo.format.Sourced;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.IntToDoubleFunction;

/**
 * A scene as records of version 7.5: cameras with a linear key on every frame, trackers as nulls in
 * a group. Curves hold 32-bit floats; where the shot lies so far out that they would be too coarse,
 * everything is put under one null near the middle, whose place is a double.
 */
final class FbxTreeMaker {

  private static final int LINEAR_KEYS = 4;

  private final FileScene scene;
  private final Dialect spoken;
  private final Progress progress;
  private final SceneTree.Branch tree;
  private final FbxTree out;
  private final FbxMeshMaker meshes;
  private final FbxMaterialMaker materials;
  private final Rate rate;
  private final FrameRange range;
  private final List<Object[]> connections = new ArrayList<>();
  private final List<Note> notes = new ArrayList<>();
  private final NameChanges changes = new NameChanges();
  private long lastId = 100_000;

  FbxTreeMaker(FileScene scene, Dialect spoken, Progress progress) {
    this.scene = scene;
    this.spoken = spoken;
    this.progress = progress;
    this.tree = SceneTree.of(scene);
    this.out = new FbxTree();
    this.meshes = new FbxMeshMaker(out, () -> ++lastId, this::connect);
    this.materials =
        new FbxMaterialMaker(out, () -> ++lastId, this::connect, this::connectTo, notes);
    this.rate = scene.rate().map(Sourced::value).orElseThrow();
    this.range = scene.range().map(Sourced::value).orElseThrow();
  }

  /** What had to be changed; known once the tree is made. */
  List<Note> notes() {
    List<Note> all = new ArrayList<>(notes);
    all.addAll(changes.notes());
    return all;
  }

  FbxNode make() {
    FbxHead head = new FbxHead(out, spoken, rate, range);
    head.write();
    definitions();
    objects();
    out.open("Connections");
    for (Object[] c : connections) {
      out.record("C", c);
    }
    out.close();
    head.takes();
    return out.root();
  }

  private void definitions() {
    int trackers = scene.trackers().stream().mapToInt(TrackerSet::size).sum();
    int cameras = scene.cameras().size();
    int moving = tree.countMoving();
    int models =
        cameras + trackers + tree.count() + (centre().isEmpty() ? 0 : 1) + (hasRoot() ? 1 : 0);
    out.open("Definitions");
    out.record("Version", 100);
    int meshes = scene.meshes().size();
    int textures = (int) scene.meshes().stream().filter(m -> m.texture().isPresent()).count();
    out.record("Count", 4 + 2 * models + 2 * meshes + 3 * textures + 10 * cameras + 8 * moving);
    type("GlobalSettings", 1);
    type("Model", models + meshes);
    type("NodeAttribute", models);
    if (meshes > 0) {
      type("Geometry", meshes);
    }
    if (textures > 0) {
      type("Material", textures);
      type("Texture", textures);
      type("Video", textures);
    }
    type("AnimationStack", 1);
    type("AnimationLayer", 1);
    type("AnimationCurveNode", 3 * cameras + 2 * moving);
    type("AnimationCurve", 7 * cameras + 6 * moving);
    out.close();
  }

  private boolean hasRoot() {
    return !scene.parents().isEmpty() || tree.needsRoot();
  }

  private void type(String name, int count) {
    out.open("ObjectType", name);
    out.record("Count", count);
    out.close();
  }

  private void objects() {
    out.open("Objects");
    long stack = stack();
    long layer = ++lastId;
    out.open("AnimationLayer", layer, new FbxName("AnimLayer", "base"), "");
    out.close();
    connect(layer, stack);
    Vec3 origin = centre().orElse(Vec3.ZERO);
    FileNames names = new FileNames(changes);
    // One node may have to stand for the file as a whole, so that nothing else is taken for it.
    long top = hasRoot() ? group(names.unique("shot"), Vec3.ZERO, 0) : 0;
    contents(tree, origin, scene.parents().isEmpty() ? shotCentre(top) : top, layer, names);
    out.close();
  }

  /** A null at the shot's centre where it lies far out; else the given node. */
  private long shotCentre(long in) {
    Vec3 centre = centre().orElse(null);
    if (centre == null) {
      return in;
    }
    notes.add(
        Note.changed(
            ShotCentre.NODE,
            String.format(
                Locale.ROOT,
                "the shot lies far from the origin, so everything is under this null at"
                    + " (%.3f, %.3f, %.3f)",
                centre.x(),
                centre.y(),
                centre.z())));
    return group(ShotCentre.NODE, centre, in);
  }

  /**
   * What hangs in a node.
   *
   * @param origin the node's own place, where that is no group that moves
   */
  private void contents(SceneTree.Branch in, Vec3 origin, long node, long layer, FileNames names) {
    in.visit(
        b -> branch(b, origin, node, layer, names),
        c -> camera(c.camera(), names.unique(c.camera().name()), origin, node, layer));
    for (TrackerSet t : in.trackers()) {
      double size = t.marker().orElse(locatorSize(t));
      for (int i = 0; i < t.size(); i++) {
        progress.step(i, t.size());
        nullModel(t.names().get(i), t.position(i).minus(origin), node, size);
      }
    }
    for (Mesh m : in.meshes()) {
      String name = names.unique(m.name());
      long model = meshes.write(m, name, origin, node);
      m.texture().ifPresent(t -> materials.write(t, name, model));
    }
  }

  private void branch(SceneTree.Branch b, Vec3 origin, long node, long layer, FileNames names) {
    String name = names.unique(b.name());
    if (b.parent().isPresent()) {
      long parent = placedNull(name, b.parent().get().place(), node);
      contents(b, origin, shotCentre(parent), layer, names);
    } else if (b.hasMotion()) {
      contents(b, Vec3.ZERO, movingNull(name, b.local(range), origin, node, layer), layer, names);
    } else {
      contents(b, origin, group(name, Vec3.ZERO, node), layer, names);
    }
  }

  private long stack() {
    long id = ++lastId;
    out.open("AnimationStack", id, new FbxName("AnimStack", FbxHead.STACK), "");
    out.open("Properties70");
    long start = FbxTime.tickOf(range.first(), rate);
    long stop = FbxTime.tickOf(range.last(), rate);
    out.property("LocalStart", "KTime", "Time", "", start);
    out.property("LocalStop", "KTime", "Time", "", stop);
    out.property("ReferenceStart", "KTime", "Time", "", start);
    out.property("ReferenceStop", "KTime", "Time", "", stop);
    out.close();
    out.close();
    return id;
  }

  private void camera(ShotCamera c, String name, Vec3 origin, long root, long layer) {
    long model = ++lastId;
    EulerTrack angles = EulerTrack.of(c.poses(), spoken.rotationOrder());
    out.open("Model", model, new FbxName("Model", name), "Camera");
    out.record("Version", 232);
    out.open("Properties70");
    transform(c.poses(), angles, origin);
    if (scene.plate().isPresent()) {
      out.property("plate", "KString", "", "U", scene.plate().get().path());
      out.property("plateRole", "KString", "", "U", scene.plate().get().role().word());
    }
    out.close();
    out.record("Shading", true);
    out.record("Culling", "CullingOff");
    out.close();
    connect(model, root);
    long attribute = cameraAttribute(c, name);
    connect(attribute, model);
    keys(layer, model, c.poses(), angles, origin);
    if (!c.optics().isConstant()) {
      focalCurve(layer, attribute, c);
    }
  }

  /** Properties of a model that moves, as it is on the first frame. */
  private void transform(PoseTrack poses, EulerTrack angles, Vec3 origin) {
    transform(poses, angles, origin, 1);
  }

  private void transform(PoseTrack poses, EulerTrack angles, Vec3 origin, double scale) {
    int first = poses.frames().first();
    Vec3 at = poses.at(first).position().minus(origin);
    out.property("RotationActive", "bool", "", "", 1);
    out.property("RotationOrder", "enum", "", "", FbxTransform.numberOf(spoken.rotationOrder()));
    out.property("InheritType", "enum", "", "", 1);
    out.property("Lcl Translation", "Lcl Translation", "", "A", at.x(), at.y(), at.z());
    out.property(
        "Lcl Rotation",
        "Lcl Rotation",
        "",
        "A",
        angles.degrees(first, 0),
        angles.degrees(first, 1),
        angles.degrees(first, 2));
    out.property("Lcl Scaling", "Lcl Scaling", "", "A", scale, scale, scale);
  }

  private void keys(long layer, long model, PoseTrack poses, EulerTrack angles, Vec3 origin) {
    curves(
        layer,
        model,
        "T",
        "Lcl Translation",
        poses.frames(),
        f -> poses.at(f).position().x() - origin.x(),
        f -> poses.at(f).position().y() - origin.y(),
        f -> poses.at(f).position().z() - origin.z());
    curves(
        layer,
        model,
        "R",
        "Lcl Rotation",
        poses.frames(),
        f -> angles.degrees(f, 0),
        f -> angles.degrees(f, 1),
        f -> angles.degrees(f, 2));
  }

  private long cameraAttribute(ShotCamera c, String name) {
    long id = ++lastId;
    Optics o = c.optics().at(c.frames().first());
    for (int f = c.frames().first(); f <= c.frames().last(); f++) {
      Optics other = c.optics().at(f);
      if (other.filmWidthMm() != o.filmWidthMm()
          || other.filmHeightMm() != o.filmHeightMm()
          || other.principalXMm() != o.principalXMm()
          || other.principalYMm() != o.principalYMm()) {
        notes.add(
            Note.lost(name, "a film back or lens shift that changes is held at the first frame"));
        break;
      }
    }
    out.open("NodeAttribute", id, new FbxName("NodeAttribute", name), "Camera");
    out.open("Properties70");
    if (scene.picture().isPresent()) {
      PictureSize p = scene.picture().get().value();
      out.property("AspectRatioMode", "enum", "", "", 2);
      out.property("AspectWidth", "double", "Number", "", (double) p.width());
      out.property("AspectHeight", "double", "Number", "", (double) p.height());
      out.property("PixelAspectRatio", "double", "Number", "", p.pixelAspect());
    }
    out.property("FilmWidth", "double", "Number", "", o.filmWidthMm() / 25.4);
    out.property("FilmHeight", "double", "Number", "", o.filmHeightMm() / 25.4);
    out.property("FilmAspectRatio", "double", "Number", "", o.filmWidthMm() / o.filmHeightMm());
    out.property("FilmOffsetX", "Number", "", "A", -o.principalXMm() / 25.4);
    out.property("FilmOffsetY", "Number", "", "A", -o.principalYMm() / 25.4);
    out.property("ApertureMode", "enum", "", "", 3);
    out.property("GateFit", "enum", "", "", 2);
    out.property(
        "FieldOfView",
        "FieldOfView",
        "",
        "A",
        Math.toDegrees(2 * Math.atan(o.filmWidthMm() / 2 / o.focalLengthMm())));
    out.property("FocalLength", "Number", "", "A", o.focalLengthMm());
    if (c.clip().isPresent()) {
      out.property("NearPlane", "double", "Number", "", c.clip().get().near());
      out.property("FarPlane", "double", "Number", "", c.clip().get().far());
    }
    out.close();
    out.record("TypeFlags", "Camera");
    out.record("GeometryVersion", 124);
    out.record("Position", 0.0, 0.0, 0.0);
    out.record("Up", 0.0, 1.0, 0.0);
    out.record("LookAt", 1.0, 0.0, 0.0);
    out.close();
    return id;
  }

  private void curves(
      long layer,
      long model,
      String shortName,
      String property,
      FrameRange frames,
      IntToDoubleFunction... components) {
    long node = ++lastId;
    out.open("AnimationCurveNode", node, new FbxName("AnimCurveNode", shortName), "");
    out.open("Properties70");
    String[] channels = {"d|X", "d|Y", "d|Z"};
    for (int i = 0; i < 3; i++) {
      out.property(channels[i], "Number", "", "A", components[i].applyAsDouble(frames.first()));
    }
    out.close();
    out.close();
    connect(node, layer);
    connections.add(new Object[] {"OP", node, model, property});
    for (int i = 0; i < 3; i++) {
      curve(node, channels[i], frames, components[i]);
    }
  }

  private void focalCurve(long layer, long attribute, ShotCamera c) {
    long node = ++lastId;
    double first = c.optics().at(c.frames().first()).focalLengthMm();
    out.open("AnimationCurveNode", node, new FbxName("AnimCurveNode", "FocalLength"), "");
    out.open("Properties70");
    out.property("d|FocalLength", "Number", "", "A", first);
    out.close();
    out.close();
    connect(node, layer);
    connections.add(new Object[] {"OP", node, attribute, "FocalLength"});
    curve(node, "d|FocalLength", c.frames(), f -> c.optics().at(f).focalLengthMm());
  }

  private void curve(long node, String channel, FrameRange frames, IntToDoubleFunction value) {
    long id = ++lastId;
    int n = frames.count();
    long[] times = new long[n];
    double[] values = new double[n];
    for (int i = 0; i < n; i++) {
      progress.step(i, n);
      times[i] = FbxTime.tickOf(frames.first() + i, rate);
      values[i] = value.applyAsDouble(frames.first() + i);
    }
    out.open("AnimationCurve", id, new FbxName("AnimCurve", ""), "");
    out.record("Default", values[0]);
    out.record("KeyVer", 4008);
    out.array("KeyTime", times);
    out.floats("KeyValueFloat", values);
    out.array("KeyAttrFlags", LINEAR_KEYS);
    out.floats("KeyAttrDataFloat", new double[] {0, 0, 0, 0});
    out.array("KeyAttrRefCount", n);
    out.close();
    connections.add(new Object[] {"OP", id, node, channel});
  }

  private long group(String name, Vec3 at, long parent) {
    return nullModel(name, at, parent, 1);
  }

  private long nullAttribute(String name, double size) {
    long attribute = ++lastId;
    out.open("NodeAttribute", attribute, new FbxName("NodeAttribute", name), "Null");
    out.open("Properties70");
    out.property("Size", "double", "Number", "", size);
    out.close();
    out.record("TypeFlags", "Null");
    out.close();
    return attribute;
  }

  private long movingNull(String name, PoseTrack poses, Vec3 origin, long parent, long layer) {
    long attribute = nullAttribute(name, 1);
    long model = ++lastId;
    EulerTrack angles = EulerTrack.of(poses, spoken.rotationOrder());
    out.open("Model", model, new FbxName("Model", name), "Null");
    out.record("Version", 232);
    out.open("Properties70");
    transform(poses, angles, origin);
    out.close();
    out.close();
    connect(attribute, model);
    connect(model, parent);
    keys(layer, model, poses, angles, origin);
    return model;
  }

  private long placedNull(String name, Similarity s, long parent) {
    long attribute = nullAttribute(name, 1);
    long model = ++lastId;
    out.open("Model", model, new FbxName("Model", name), "Null");
    out.record("Version", 232);
    out.open("Properties70");
    PoseTrack still =
        PoseTrack.of(new FrameRange(0, 0), f -> new Pose(s.translation(), s.rotation()));
    transform(still, EulerTrack.of(still, spoken.rotationOrder()), Vec3.ZERO, s.scale());
    out.close();
    out.close();
    connect(attribute, model);
    connect(model, parent);
    return model;
  }

  private long nullModel(String name, Vec3 at, long parent, double size) {
    long attribute = nullAttribute(name, size);
    long model = ++lastId;
    out.open("Model", model, new FbxName("Model", name), "Null");
    out.record("Version", 232);
    out.open("Properties70");
    out.property("InheritType", "enum", "", "", 1);
    out.property("Lcl Translation", "Lcl Translation", "", "A", at.x(), at.y(), at.z());
    out.close();
    out.close();
    connect(attribute, model);
    connect(model, parent);
    return model;
  }

  private void connectTo(long child, long parent, String property) {
    connections.add(new Object[] {"OP", child, parent, property});
  }

  private void connect(long child, long parent) {
    connections.add(new Object[] {"OO", child, parent});
  }

  /** A hundredth of how far the points reach, so that locators are seen and do not cover. */
  private static double locatorSize(TrackerSet t) {
    double reach = 0;
    Vec3 middle = t.centre();
    for (int i = 0; i < t.size(); i++) {
      reach = Math.max(reach, t.position(i).minus(middle).length());
    }
    return reach > 0 ? reach / 100 : 1;
  }

  private Optional<Vec3> centre() {
    return ShotCentre.of(scene, spoken.unit().metresPerUnit());
  }
}
