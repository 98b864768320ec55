package flarvo.format.abc;

import flarvo.convention.Dialect;
import flarvo.convention.EulerTrack;
import flarvo.convention.RotationOrder;
import flarvo.format.ByteSink;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.NameChanges;
import flarvo.format.SceneTree;
import flarvo.format.Sourced;
import flarvo.report.Note;
import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.Optics;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.IntFunction;

/**
 * A scene as an archive: each camera under a transform of its own with one sample a frame in
 * doubles, trackers as childless transforms in a group.
 */
final class AbcMaker {

  private static final int FILE_VERSION = 0;
  private static final int LIBRARY_VERSION = 10800;

  /** Lens values of the format that nobody here knows: the format's own defaults. */
  private static final double F_STOP = 5.6;

  private static final double FOCUS = 5;
  private static final double SHUTTER_CLOSE = 1.0 / 48;
  private static final ClipRange CLIP = new ClipRange(0.1, 100_000);

  /** For what stands still, whose sample has no time. */
  private static final FrameRange STILL = new FrameRange(Integer.MIN_VALUE, Integer.MIN_VALUE);

  private static final int SCALE = 0;
  private static final int TRANSLATE = 1 << 4;
  private static final int ROTATE_X = 4 << 4;

  private final FileScene scene;
  private final Dialect spoken;
  private final Progress progress;
  private final OgawaSink out = new OgawaSink();
  private final AbcHeaders headers = new AbcHeaders();
  private final Rate rate;
  private final FrameRange range;
  private final NameChanges changes = new NameChanges();

  AbcMaker(FileScene scene, Dialect spoken, Progress progress) {
    this.scene = scene;
    this.spoken = spoken;
    this.progress = progress;
    this.rate = scene.rate().map(Sourced::value).orElseThrow();
    this.range = scene.range().map(Sourced::value).orElseThrow();
  }

  List<Note> notes() {
    return changes.notes();
  }

  ByteSink make() {
    FileNames names = new FileNames(changes);
    AbcHeaders.Objects top = headers.objects();
    List<Long> children = new ArrayList<>();
    SceneTree.Branch tree = SceneTree.of(scene);
    if (scene.parents().isEmpty() && !tree.needsRoot()) {
      contents(tree, top, children, names);
    } else {
      // One node stands for the file as a whole, so that nothing else is taken for it.
      AbcHeaders.Objects own = headers.objects();
      List<Long> inside = new ArrayList<>();
      contents(tree, own, inside, names);
      top.add("shot", "AbcGeom_Xform_v3", ".xform");
      children.add(object(still(), inside, own));
    }
    long root = object(out.group(out.data(new byte[0])), children, top);
    String about =
        "_ai_Application=Flarvo;_ai_AlembicVersion=Alembic 1.8.0;_ai_DCC_FPS=" + rate.toDouble();
    return out.finish(
        out.group(
            out.data(whole(FILE_VERSION)),
            out.data(whole(LIBRARY_VERSION)),
            root,
            out.data(about.getBytes(StandardCharsets.UTF_8)),
            out.data(samplings()),
            out.data(headers.shared())));
  }

  /** A slash would make a path of a name. */
  private static String legal(FileNames names, String wanted) {
    String s = wanted.replace('/', '_');
    return names.unique(wanted, s.isEmpty() ? "_" : s);
  }

  private long camera(ShotCamera c, String name) {
    AbcHeaders.Objects child = headers.objects();
    child.add(name + "Shape", "AbcGeom_Camera_v1", ".geom");
    long xform = xform(c.poses());
    AbcHeaders.Properties lens = headers.properties();
    AbcHeaders.Properties geom = headers.properties();
    long core =
        scalar(lens, ".core", AbcPod.FLOAT64, c.frames(), c.optics().isConstant(), f -> core(c, f));
    geom.compound(".geom", "AbcGeom_Camera_v1");
    long properties = out.group(out.group(core, out.data(lens.bytes())), out.data(geom.bytes()));
    long shape = object(properties, List.of(), headers.objects());
    return object(xform, List.of(shape), child);
  }

  /** A transform that stands where its parent does. */
  private long still() {
    return xform(new int[0], STILL, f -> new double[0]);
  }

  private long xform(Similarity s) {
    RotationOrder order = spoken.rotationOrder();
    EulerTrack angles = EulerTrack.of(s.rotation(), order);
    int[] ops = {TRANSLATE, rotate(order, 2), rotate(order, 1), rotate(order, 0), SCALE};
    Vec3 t = s.translation();
    double[] values = {
      t.x(),
      t.y(),
      t.z(),
      angles.degrees(0, axis(order, 2)),
      angles.degrees(0, axis(order, 1)),
      angles.degrees(0, axis(order, 0)),
      s.scale(),
      s.scale(),
      s.scale()
    };
    return xform(ops, STILL, f -> values);
  }

  private static int rotate(RotationOrder order, int i) {
    return ROTATE_X + (axis(order, i) << 4);
  }

  /** A transform with one sample a frame. */
  private long xform(PoseTrack poses) {
    RotationOrder order = spoken.rotationOrder();
    // What is listed last acts first.
    int[] ops = {TRANSLATE, rotate(order, 2), rotate(order, 1), rotate(order, 0)};
    EulerTrack angles = EulerTrack.of(poses, order);
    return xform(
        ops,
        poses.frames(),
        f -> {
          var p = poses.at(f).position();
          return new double[] {
            p.x(),
            p.y(),
            p.z(),
            angles.degrees(f, axis(order, 2)),
            angles.degrees(f, axis(order, 1)),
            angles.degrees(f, axis(order, 0))
          };
        });
  }

  private static int axis(RotationOrder order, int i) {
    return order.name().charAt(i) - 'X';
  }

  private static double[] core(ShotCamera c, int frame) {
    Optics o = c.optics().at(frame);
    ClipRange clip = c.clip().orElse(CLIP);
    return new double[] {
      o.focalLengthMm(),
      o.filmWidthMm() / 10,
      -o.principalXMm() / 10,
      o.filmHeightMm() / 10,
      -o.principalYMm() / 10,
      1, // squeeze
      0,
      0,
      0,
      0, // overscan
      F_STOP,
      FOCUS,
      0,
      SHUTTER_CLOSE,
      clip.near(),
      clip.far()
    };
  }

  /** What hangs in a node, under the headers of its children. */
  private void contents(
      SceneTree.Branch in, AbcHeaders.Objects child, List<Long> children, FileNames names) {
    in.visit(
        b -> branch(b, child, children, names),
        c -> {
          String name = legal(names, c.camera().name());
          child.add(name, "AbcGeom_Xform_v3", ".xform");
          children.add(camera(c.camera(), name));
        });
    for (TrackerSet t : in.trackers()) {
      if (t.isCloud()) {
        String name = legal(names, t.name());
        child.add(name, "AbcGeom_Xform_v3", ".xform");
        children.add(cloud(t, name));
        continue;
      }
      for (int i = 0; i < t.size(); i++) {
        progress.step(i, t.size());
        double[] at = {t.x(i), t.y(i), t.z(i)};
        child.add(legal(names, t.names().get(i)), "AbcGeom_Xform_v3", ".xform");
        children.add(
            object(xform(new int[] {TRANSLATE}, STILL, f -> at), List.of(), headers.objects()));
      }
    }
    for (Mesh m : in.meshes()) {
      String name = legal(names, m.name());
      child.add(name, "AbcGeom_Xform_v3", ".xform");
      children.add(mesh(m, name));
    }
  }

  private void branch(
      SceneTree.Branch b, AbcHeaders.Objects child, List<Long> children, FileNames names) {
    AbcHeaders.Objects own = headers.objects();
    List<Long> inside = new ArrayList<>();
    contents(b, own, inside, new FileNames(changes));
    child.add(legal(names, b.name()), "AbcGeom_Xform_v3", ".xform");
    long xform =
        b.parent()
            .map(p -> xform(p.place()))
            .orElseGet(() -> b.hasMotion() ? xform(b.local(range)) : still());
    children.add(object(xform, inside, own));
  }

  /** Points are 32-bit floats about the first one, numbered, with their names as a parameter. */
  private long cloud(TrackerSet t, String name) {
    AbcHeaders.Objects child = headers.objects();
    child.add(name + "Shape", "AbcGeom_Points_v1", ".geom");
    ByteSink points = new ByteSink(12 * t.size());
    ByteSink numbers = new ByteSink(8 * t.size());
    ByteSink own = new ByteSink();
    double[] bounds = new double[6];
    for (int i = 0; i < t.size(); i++) {
      double[] v = {t.x(i) - t.x(0), t.y(i) - t.y(0), t.z(i) - t.z(0)};
      for (int k = 0; k < 3; k++) {
        points.f32((float) v[k]);
        bounds[k] = Math.min(bounds[k], v[k]);
        bounds[3 + k] = Math.max(bounds[3 + k], v[k]);
      }
      numbers.i64(i + 1);
      own.bytes(t.names().get(i).getBytes(StandardCharsets.UTF_8));
      own.u8(0);
    }
    AbcHeaders.Properties parameters = headers.properties();
    parameters.array("name", AbcPod.STRING, 1);
    ByteSink count = new ByteSink(8);
    count.i64(t.size());
    long texts = out.group(out.sample(AbcPod.STRING, 1, own.toBytes()), out.data(count.toBytes()));
    AbcHeaders.Properties inner = headers.properties();
    List<Long> parts = new ArrayList<>();
    parts.add(scalar(inner, ".selfBnds", AbcPod.FLOAT64, STILL, true, f -> bounds));
    parts.add(array(inner, "P", AbcPod.FLOAT32, 3, points.toBytes()));
    parts.add(array(inner, ".pointIds", AbcPod.UINT64, 1, numbers.toBytes()));
    inner.compound(".arbGeomParams");
    parts.add(out.group(texts, out.data(parameters.bytes())));
    parts.add(out.data(inner.bytes()));
    AbcHeaders.Properties outer = headers.properties();
    outer.compound(".geom", "AbcGeom_Points_v1");
    long properties = out.group(group(parts), out.data(outer.bytes()));
    long shape = object(properties, List.of(), headers.objects());
    double[] at = {t.x(0), t.y(0), t.z(0)};
    return object(xform(new int[] {TRANSLATE}, STILL, f -> at), List.of(shape), child);
  }

  /** Points are 32-bit floats about the first one; faces are wound clockwise in this format. */
  private long mesh(Mesh m, String name) {
    AbcHeaders.Objects child = headers.objects();
    child.add(name + "Shape", "AbcGeom_PolyMesh_v1", ".geom");
    ByteSink points = new ByteSink(12 * m.points());
    double[] lo = {0, 0, 0};
    double[] hi = {0, 0, 0};
    for (int i = 0; i < m.points(); i++) {
      double[] v = {m.x(i) - m.x(0), m.y(i) - m.y(0), m.z(i) - m.z(0)};
      for (int k = 0; k < 3; k++) {
        points.f32((float) v[k]);
        lo[k] = Math.min(lo[k], v[k]);
        hi[k] = Math.max(hi[k], v[k]);
      }
    }
    ByteSink sizes = new ByteSink(4 * m.faces());
    for (int f = 0; f < m.faces(); f++) {
      sizes.i32(m.corners(f));
    }
    Mesh clockwise = m.map(v -> v, d -> d, true);
    ByteSink corners = new ByteSink();
    for (int i : clockwise.faceIndices()) {
      corners.i32(i);
    }
    AbcHeaders.Properties own = headers.properties();
    AbcHeaders.Properties outer = headers.properties();
    double[] bounds = {lo[0], lo[1], lo[2], hi[0], hi[1], hi[2]};
    List<Long> parts = new ArrayList<>();
    parts.add(scalar(own, ".selfBnds", AbcPod.FLOAT64, STILL, true, f -> bounds));
    parts.add(array(own, "P", AbcPod.FLOAT32, 3, points.toBytes()));
    parts.add(array(own, ".faceIndices", AbcPod.INT32, 1, corners.toBytes()));
    parts.add(array(own, ".faceCounts", AbcPod.INT32, 1, sizes.toBytes()));
    perCorner(own, "N", 3, "normal", clockwise.normals()).ifPresent(parts::add);
    perCorner(own, "uv", 2, "vector", clockwise.uvs()).ifPresent(parts::add);
    parts.add(out.data(own.bytes()));
    outer.compound(".geom", "AbcGeom_PolyMesh_v1");
    long properties = out.group(group(parts), out.data(outer.bytes()));
    long shape = object(properties, List.of(), headers.objects());
    double[] at = {m.x(0), m.y(0), m.z(0)};
    return object(xform(new int[] {TRANSLATE}, STILL, f -> at), List.of(shape), child);
  }

  /** One row, whose length the reader knows from its bytes. */
  private long array(
      AbcHeaders.Properties headers, String name, AbcPod pod, int extent, byte[] bytes) {
    headers.array(name, pod, extent);
    return out.group(out.sample(pod, extent, bytes), out.data(new byte[0]));
  }

  private Optional<Long> perCorner(
      AbcHeaders.Properties headers, String name, int extent, String kind, double[] values) {
    if (values.length == 0) {
      return Optional.empty();
    }
    headers.perCorner(name, extent, kind);
    ByteSink b = new ByteSink(4 * values.length);
    for (double d : values) {
      b.f32((float) d);
    }
    return Optional.of(
        out.group(out.sample(AbcPod.FLOAT32, extent, b.toBytes()), out.data(new byte[0])));
  }

  /** The properties of a transform; without operations it stands at its parent. */
  private long xform(int[] ops, FrameRange frames, IntFunction<double[]> values) {
    AbcHeaders.Properties own = headers.properties();
    AbcHeaders.Properties outer = headers.properties();
    List<Long> children = new ArrayList<>();
    children.add(constant(own, ".inherits", AbcPod.BOOLEAN, 1));
    if (ops.length > 0) {
      children.add(constant(own, ".ops", AbcPod.UINT8, ops));
      children.add(scalar(own, ".vals", AbcPod.FLOAT64, frames, frames.count() == 1, values));
      children.add(constant(own, "isNotConstantIdentity", AbcPod.BOOLEAN, 1));
    }
    children.add(out.data(own.bytes()));
    outer.compound(".xform", "AbcGeom_Xform_v3");
    return out.group(group(children), out.data(outer.bytes()));
  }

  private long constant(AbcHeaders.Properties headers, String name, AbcPod pod, int... bytes) {
    byte[] b = new byte[bytes.length];
    for (int i = 0; i < b.length; i++) {
      b[i] = (byte) bytes[i];
    }
    headers.scalar(name, pod, b.length, 1, 0);
    return out.group(out.sample(pod, b.length, b));
  }

  private long scalar(
      AbcHeaders.Properties headers,
      String name,
      AbcPod pod,
      FrameRange frames,
      boolean constant,
      IntFunction<double[]> values) {
    int n = constant ? 1 : frames.count();
    long[] samples = new long[n];
    int extent = 0;
    for (int i = 0; i < n; i++) {
      progress.step(i, n);
      double[] v = values.apply(frames.first() + i);
      extent = v.length;
      ByteSink b = new ByteSink(8 * extent);
      for (double d : v) {
        b.f64(d);
      }
      samples[i] = out.sample(pod, extent, b.toBytes());
    }
    headers.scalar(name, pod, extent, n, frames.equals(STILL) ? 0 : 1);
    return out.group(samples);
  }

  private long object(long properties, List<Long> children, AbcHeaders.Objects childHeaders) {
    List<Long> all = new ArrayList<>();
    all.add(properties);
    all.addAll(children);
    all.add(out.data(childHeaders.bytes()));
    return group(all);
  }

  private long group(List<Long> children) {
    return out.group(children.stream().mapToLong(Long::longValue).toArray());
  }

  /** Number 0 is everybody's; number 1 has one sample a frame. */
  private byte[] samplings() {
    ByteSink b = new ByteSink(64);
    b.i32(1);
    b.f64(1);
    b.i32(1);
    b.f64(0);
    b.i32(range.count());
    b.f64((double) rate.den() / rate.num());
    b.i32(1);
    b.f64((double) range.first() * rate.den() / rate.num());
    return b.toBytes();
  }

  private static byte[] whole(int v) {
    ByteSink b = new ByteSink(4);
    b.i32(v);
    return b.toBytes();
  }
}
