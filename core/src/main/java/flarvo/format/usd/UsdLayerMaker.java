package flarvo.format.usd;

import flarvo.convention.Dialect;
import flarvo.convention.EulerTrack;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.NameChanges;
import flarvo.format.SceneTree;
import flarvo.format.Sourced;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntFunction;
import java.util.function.ToDoubleFunction;

/**
 * A scene as one layer. Everything lies under one root prim, so a file that was cut off cannot pass
 * for whole. Cameras carry translation and rotation in doubles, one sample a frame, with angles in
 * the dialect's order, unrolled; trackers are childless transforms in doubles under a group of
 * purpose {@code guide}, which does not render.
 */
final class UsdLayerMaker {

  private static final List<Object> TRANSLATE_ONLY = List.of("xformOp:translate");

  private static final String TEXTURE_COORDINATES = "st";

  private final FileScene scene;
  private final Dialect spoken;
  private final Progress progress;
  private final double tenthsPerMm;
  private final NameChanges changes = new NameChanges();
  private String firstCamera = ""; // its path

  UsdLayerMaker(FileScene scene, Dialect spoken, Progress progress) {
    this.scene = scene;
    this.spoken = spoken;
    this.progress = progress;
    this.tenthsPerMm = 1 / (100 * spoken.unit().metresPerUnit());
  }

  /** What had to be changed; known once the layer is made. */
  List<Note> notes() {
    return changes.notes();
  }

  UsdLayer make() {
    UsdLayer layer = new UsdLayer();
    header(layer.metadata);
    FileNames top = new FileNames(changes);
    UsdPrim root = def("Xform", "shot", "/");
    layer.roots.add(root);
    contents(SceneTree.of(scene), root, top);
    if (scene.picture().isPresent()) {
      PictureSize p = scene.picture().get().value();
      UsdPrim settings = def("RenderSettings", top.identifier("picture"), root.path);
      put(settings, "int2", "resolution", tuple(p.width(), p.height()));
      if (p.pixelAspect() != 1) {
        put(settings, "float", "pixelAspectRatio", p.pixelAspect());
      }
      if (!firstCamera.isEmpty()) {
        settings.metadata.put("rel:camera", firstCamera);
      }
      root.children.add(settings);
    }
    return layer;
  }

  private void header(Map<String, Object> m) {
    if (scene.plate().isPresent()) {
      Map<String, Object> data = new LinkedHashMap<>();
      data.put("plate", scene.plate().get().path());
      data.put("plateRole", scene.plate().get().role().word());
      m.put("customLayerData", data);
    }
    FrameRange range = scene.range().map(Sourced::value).orElseThrow();
    Rate rate = scene.rate().map(Sourced::value).orElseThrow();
    m.put("defaultPrim", "shot");
    m.put("endTimeCode", (double) range.last());
    m.put("framesPerSecond", rate.toDouble());
    m.put("metersPerUnit", spoken.unit().metresPerUnit());
    m.put("startTimeCode", (double) range.first());
    m.put("timeCodesPerSecond", rate.toDouble());
    m.put("upAxis", String.valueOf("XYZ".charAt(spoken.world().up().index())));
  }

  private UsdPrim camera(ShotCamera c, String name, String parent) {
    UsdPrim prim = def("Camera", name, parent);
    originalName(prim, c.name());
    put(prim, "token", "projection", "perspective");
    if (c.clip().isPresent()) {
      put(prim, "float2", "clippingRange", tuple(c.clip().get().near(), c.clip().get().far()));
    }
    lens(prim, "focalLength", c.optics(), this::focalOnRoundedBack);
    lens(prim, "horizontalAperture", c.optics(), Optics::filmWidthMm);
    lens(prim, "verticalAperture", c.optics(), Optics::filmHeightMm);
    lens(prim, "horizontalApertureOffset", c.optics(), o -> 0 - o.principalXMm());
    lens(prim, "verticalApertureOffset", c.optics(), o -> 0 - o.principalYMm());
    poses(prim, c.poses());
    return prim;
  }

  /**
   * Lens values are 32-bit floats, and only their ratio reaches the picture: the focal length goes
   * along with what rounding does to the film back's width.
   */
  private double focalOnRoundedBack(Optics o) {
    double width = o.filmWidthMm() * tenthsPerMm;
    return o.focalLengthMm() * (float) width / width;
  }

  private void lens(UsdPrim prim, String name, OpticsTrack track, ToDoubleFunction<Optics> value) {
    FrameRange frames = track.frames();
    double first = value.applyAsDouble(track.at(frames.first())) * tenthsPerMm;
    boolean constant = true;
    for (int f = frames.first(); f <= frames.last() && constant; f++) {
      constant = value.applyAsDouble(track.at(f)) * tenthsPerMm == first;
    }
    if (constant) {
      put(prim, "float", name, first);
    } else {
      animate(prim, "float", name, frames, f -> value.applyAsDouble(track.at(f)) * tenthsPerMm);
    }
  }

  private void poses(UsdPrim prim, PoseTrack poses) {
    FrameRange frames = poses.frames();
    animate(
        prim,
        "double3",
        "xformOp:translate",
        frames,
        f -> {
          var p = poses.at(f).position();
          return tuple(p.x(), p.y(), p.z());
        });
    EulerTrack angles = EulerTrack.of(poses, spoken.rotationOrder());
    String op = "xformOp:rotate" + spoken.rotationOrder().name();
    animate(
        prim,
        "double3",
        op,
        frames,
        f -> tuple(angles.degrees(f, 0), angles.degrees(f, 1), angles.degrees(f, 2)));
    put(prim, "token[]", "xformOpOrder", List.of("xformOp:translate", op));
  }

  /** What hangs in a node; trackers are guides, which do not render, and meshes are none. */
  private void contents(SceneTree.Branch in, UsdPrim prim, FileNames names) {
    boolean guides = in.trackers().stream().anyMatch(t -> !t.isCloud());
    boolean all = guides && !in.hasCameras() && in.meshes().isEmpty() && in.branches().isEmpty();
    if (all) {
      put(prim, "token", "purpose", "guide");
    }
    in.visit(
        b -> branch(b, prim, names),
        c -> {
          UsdPrim p = camera(c.camera(), names.identifier(c.camera().name()), prim.path);
          firstCamera = firstCamera.isEmpty() ? p.path : firstCamera;
          prim.children.add(p);
        });
    for (TrackerSet t : in.trackers()) {
      if (t.isCloud()) {
        prim.children.add(cloud(t, names.identifier(t.name()), prim.path));
        continue;
      }
      if (t.marker().isPresent()) {
        put(prim, "double", "userProperties:locatorSize", t.marker().getAsDouble());
      }
      for (int i = 0; i < t.size(); i++) {
        progress.step(i, t.size());
        UsdPrim p = def("Xform", names.identifier(t.names().get(i)), prim.path);
        originalName(p, t.names().get(i));
        if (!all) {
          put(p, "token", "purpose", "guide");
        }
        put(p, "double3", "xformOp:translate", tuple(t.x(i), t.y(i), t.z(i)));
        put(p, "token[]", "xformOpOrder", TRANSLATE_ONLY);
        prim.children.add(p);
      }
    }
    for (Mesh m : in.meshes()) {
      UsdPrim p = mesh(m, names.identifier(m.name()), prim.path);
      prim.children.add(p);
      if (m.texture().isPresent()) {
        String name = names.identifier(m.name() + "_material");
        UsdPrim material =
            UsdMaterialMaker.make(m.texture().get(), name, prim.path, TEXTURE_COORDINATES);
        UsdMaterialMaker.bind(p, material);
        prim.children.add(material);
      }
    }
  }

  private void branch(SceneTree.Branch b, UsdPrim above, FileNames names) {
    boolean placed = b.hasMotion() || b.parent().isPresent();
    UsdPrim p = def(placed ? "Xform" : "Scope", names.identifier(b.name()), above.path);
    originalName(p, b.name());
    b.parent().ifPresent(f -> place(p, f.place()));
    if (b.hasMotion()) {
      poses(p, b.local(scene.range().map(Sourced::value).orElseThrow()));
    }
    above.children.add(p);
    contents(b, p, new FileNames(changes));
  }

  private void place(UsdPrim prim, Similarity s) {
    EulerTrack angles = EulerTrack.of(s.rotation(), spoken.rotationOrder());
    String op = "xformOp:rotate" + spoken.rotationOrder().name();
    Vec3 t = s.translation();
    put(prim, "double3", "xformOp:translate", tuple(t.x(), t.y(), t.z()));
    put(
        prim,
        "double3",
        op,
        tuple(angles.degrees(0, 0), angles.degrees(0, 1), angles.degrees(0, 2)));
    put(prim, "double3", "xformOp:scale", tuple(s.scale(), s.scale(), s.scale()));
    put(prim, "token[]", "xformOpOrder", List.of("xformOp:translate", op, "xformOp:scale"));
  }

  /** Points are 32-bit floats, so they lie about the first one, whose place is in doubles. */
  private static UsdPrim cloud(TrackerSet t, String name, String parent) {
    UsdPrim prim = def("Points", name, parent);
    originalName(prim, t.name());
    put(prim, "token", "purpose", "guide");
    double[] xyz = new double[3 * t.size()];
    for (int i = 0; i < t.size(); i++) {
      xyz[3 * i] = t.x(i) - t.x(0);
      xyz[3 * i + 1] = t.y(i) - t.y(0);
      xyz[3 * i + 2] = t.z(i) - t.z(0);
    }
    put(prim, "point3f[]", "points", new UsdArray(t.size(), xyz));
    if (t.marker().isPresent()) {
      put(prim, "float[]", "widths", new UsdArray(1, new double[] {t.marker().getAsDouble()}));
      prim.metadata.put(UsdPrim.INTERPOLATION + "widths", "constant");
    }
    put(prim, "string[]", "userProperties:names", t.names());
    put(prim, "double3", "xformOp:translate", tuple(t.x(0), t.y(0), t.z(0)));
    put(prim, "token[]", "xformOpOrder", TRANSLATE_ONLY);
    return prim;
  }

  /** Points are 32-bit floats, so they lie about the first one, whose place is in doubles. */
  private static UsdPrim mesh(Mesh m, String name, String parent) {
    UsdPrim prim = def("Mesh", name, parent);
    originalName(prim, m.name());
    double[] xyz = new double[3 * m.points()];
    for (int i = 0; i < m.points(); i++) {
      xyz[3 * i] = m.x(i) - m.x(0);
      xyz[3 * i + 1] = m.y(i) - m.y(0);
      xyz[3 * i + 2] = m.z(i) - m.z(0);
    }
    double[] sizes = new double[m.faces()];
    for (int i = 0; i < sizes.length; i++) {
      sizes[i] = m.corners(i);
    }
    int[] index = m.faceIndices();
    put(prim, "point3f[]", "points", new UsdArray(m.points(), xyz));
    put(prim, "int[]", "faceVertexCounts", new UsdArray(sizes.length, sizes));
    put(
        prim,
        "int[]",
        "faceVertexIndices",
        new UsdArray(index.length, java.util.Arrays.stream(index).asDoubleStream().toArray()));
    put(prim, "token", "subdivisionScheme", "none");
    perCorner(prim, "normal3f[]", "normals", m.normals(), 3);
    perCorner(prim, "texCoord2f[]", "primvars:" + TEXTURE_COORDINATES, m.uvs(), 2);
    put(prim, "double3", "xformOp:translate", tuple(m.x(0), m.y(0), m.z(0)));
    put(prim, "token[]", "xformOpOrder", TRANSLATE_ONLY);
    return prim;
  }

  private static void perCorner(UsdPrim prim, String type, String name, double[] values, int each) {
    if (values.length > 0) {
      UsdArray array = new UsdArray(values.length / each, values);
      put(prim, type, name, array);
      prim.metadata.put(UsdPrim.INTERPOLATION + name, "faceVarying");
    }
  }

  private void animate(
      UsdPrim prim, String type, String name, FrameRange frames, IntFunction<Object> value) {
    double[] times = new double[frames.count()];
    List<Object> samples = new ArrayList<>(times.length);
    for (int i = 0; i < times.length; i++) {
      progress.step(i, times.length);
      times[i] = frames.first() + i;
      samples.add(value.apply(frames.first() + i));
    }
    prim.attributes.put(name, new UsdAttribute(name, type, null, times, samples));
  }

  private static void originalName(UsdPrim prim, String original) {
    if (!original.equals(prim.name)) {
      put(prim, "string", "userProperties:name", original);
    }
  }

  private static UsdPrim def(String type, String name, String parent) {
    return new UsdPrim(UsdPrim.Specifier.DEF, type, name, parent);
  }

  private static void put(UsdPrim prim, String type, String name, Object value) {
    prim.attributes.put(name, UsdAttribute.fixed(name, type, value));
  }

  private static UsdArray tuple(double... v) {
    return new UsdArray(1, v);
  }
}
