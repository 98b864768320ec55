package flarvo.format.gltf;

import de.javagl.jgltf.model.AccessorModel;
import de.javagl.jgltf.model.AnimationModel;
import de.javagl.jgltf.model.CameraModel;
import de.javagl.jgltf.model.CameraPerspectiveModel;
import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.MeshModel;
import de.javagl.jgltf.model.MeshPrimitiveModel;
import de.javagl.jgltf.model.NodeModel;
import flarvo.convention.Handedness;
import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.format.FileCamera;
import flarvo.format.FileGroups;
import flarvo.format.FileMesh;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.MatrixPose;
import flarvo.format.ReadLimits;
import flarvo.format.Sourced;
import flarvo.format.TrackerCollector;
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
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import org.joml.Matrix4d;
import org.joml.Quaterniond;

/** Evaluates a parsed file into a {@link FileScene}. */
final class GltfSceneReader {

  /** A camera is stated by an angle alone; any film back with that angle will do, in mm. */
  private static final double FILM_HEIGHT = 24;

  /** How far from a whole frame a key may lie and still be on the grid, in frames. */
  private static final double GRID = 2e-4;

  private static final Map<String, Integer> WIDTHS =
      Map.of("translation", 3, "rotation", 4, "scale", 3);

  private static final int TRIANGLES = 4;
  private static final int STRIP = 5;
  private static final int FAN = 6;

  /** Half of what lies between a whole rate and its NTSC fellow, and a little less. */
  private static final double MOST_OPEN = 4e-4;

  private final String file;
  private final ReadLimits limits;
  private final Progress progress;
  private final GltfModel model;
  private final FileScene.Builder out = new FileScene.Builder();
  private final IdentityHashMap<NodeModel, Map<String, GltfCurve>> curves = new IdentityHashMap<>();
  private final FileNames cameraNames = new FileNames();
  private final TrackerCollector trackers;
  private final List<Runnable> later = new ArrayList<>(); // what needs the frames of the cameras
  private FileGroups groups;

  GltfSceneReader(String file, GltfModel model, ReadLimits limits, Progress progress) {
    this.file = file;
    this.model = model;
    this.trackers = new TrackerCollector(file);
    this.limits = limits;
    this.progress = progress;
  }

  FileScene read(Optional<String> take) {
    out.up = Sourced.assumed(SignedAxis.POSITIVE_Y, "the format's rule");
    out.unit = Sourced.assumed(new LinearUnit(1), "the format's rule");
    out.handedness = Sourced.assumed(Handedness.RIGHT, "the format's rule");
    animation(take);
    out.rate = rate();
    List<NodeModel> top =
        model.getNodeModels().stream().filter(n -> n.getParent() == null).toList();
    GltfTreeNode root = null;
    for (NodeModel n : top) {
      root = visit(n, null, 1);
    }
    boolean holds = top.size() == 1 && !top.get(0).getChildren().isEmpty();
    FrameRange frames =
        FileGroups.frames(null, out.cameras, () -> framesOf(allKeys()), limits.mostFrames());
    groups = new FileGroups(file, frames, holds ? root : null, out.notes);
    later.forEach(Runnable::run);
    out.trackers.addAll(trackers.sets());
    if (!out.cameras.isEmpty()) {
      out.range = Sourced.said(out.cameras.get(0).camera().frames(), "the times of the keys");
    } else if (frames.count() > 1) {
      out.range = Sourced.said(frames, "the times of the keys");
    }
    return out.build();
  }

  /** In frames, of everything that moves. */
  private TreeSet<Double> allKeys() {
    TreeSet<Double> keys = new TreeSet<>();
    curves.values().forEach(m -> m.values().forEach(c -> collect(c, keys)));
    return keys;
  }

  private void collect(GltfCurve c, TreeSet<Double> keys) {
    for (double t : c.times) {
      keys.add(t * out.rate.value().toDouble());
    }
  }

  /** From the first key to the last; null without keys. */
  private FrameRange framesOf(TreeSet<Double> keys) {
    if (keys.isEmpty()) {
      return null;
    }
    double first = Math.ceil(keys.first() - GRID);
    double last = Math.max(first, Math.floor(keys.last() + GRID));
    if (Math.abs(first) > 1e8 || last - first >= limits.mostFrames()) {
      throw new InputError(file, "", "the keys reach over more frames than a shot has", "");
    }
    return new FrameRange((int) first, (int) last);
  }

  private void animation(Optional<String> take) {
    List<AnimationModel> all = model.getAnimationModels();
    AnimationModel chosen = null;
    for (AnimationModel a : all) {
      String name = a.getName() == null ? "animation " + (out.takes.size() + 1) : a.getName();
      out.takes.add(name);
      boolean wanted = take.isEmpty() ? chosen == null : take.get().equals(name);
      chosen = wanted ? a : chosen;
    }
    if (take.isPresent() && chosen == null) {
      throw new InputError(
          file, "", "there is no take '" + take.get() + "'", "It has: " + out.takes);
    }
    if (all.size() > 1 && take.isEmpty()) {
      out.notes.add(
          Note.assumed(
              "", all.size() + " takes " + out.takes + "; the first is read unless you choose"));
    }
    if (chosen == null) {
      return;
    }
    for (AnimationModel.Channel c : chosen.getChannels()) {
      Integer width = c.getPath() == null ? null : WIDTHS.get(c.getPath());
      if (c.getNodeModel() != null && c.getSampler() != null && width != null) {
        curves
            .computeIfAbsent(c.getNodeModel(), n -> new HashMap<>())
            .put(c.getPath(), new GltfCurve(c, width, file));
      }
    }
  }

  /** The whole rate, or its NTSC fellow, within a share of a measured one; else null. */
  private static Rate usual(double measured, double open) {
    long whole = Math.round(measured);
    if (whole > 0 && Math.abs(measured / whole - 1) <= open) {
      return new Rate(whole, 1);
    }
    long above = (long) Math.ceil(measured);
    return Math.abs(measured * 1001 / (above * 1000.0) - 1) <= open
        ? new Rate(above * 1000, 1001)
        : null;
  }

  /** From even keys; a file says no rate of its own. */
  private Sourced<Rate> rate() {
    double[] longest = {};
    for (Map<String, GltfCurve> m : curves.values()) {
      for (GltfCurve c : m.values()) {
        longest = c.times.length > longest.length ? c.times : longest;
      }
    }
    int n = longest.length;
    if (n > 2) {
      double each = (longest[n - 1] - longest[0]) / (n - 1);
      boolean even = true;
      for (int i = 1; i < n; i++) {
        even &= Math.abs(longest[i] - longest[0] - i * each) < 0.05 * each;
      }
      if (even && each > 1e-3) {
        try {
          // What 32-bit times far from 0 leave open of a rate that is read off a few frames.
          double open = 2 * Math.ulp((float) longest[n - 1]) / (longest[n - 1] - longest[0]);
          Rate usual = usual(1 / each, Math.min(MOST_OPEN, open));
          Rate r = usual != null ? usual : Rate.fromDouble(Math.rint(1e4 / each) / 1e4);
          return Sourced.said(r, "the times of the keys");
        } catch (IllegalArgumentException e) {
          out.notes.add(Note.assumed("", "the keys are even, but at no rate"));
        }
      }
    }
    return Sourced.assumed(Rate.FPS_24, "the format's fallback");
  }

  private GltfTreeNode visit(NodeModel n, GltfTreeNode above, int depth) {
    progress.step(0, 0);
    if (depth > 8 * limits.deepest()) {
      throw new InputError(file, "nodes", "they are nested too deep", "");
    }
    String name = n.getName() == null ? "node" : n.getName();
    GltfTreeNode node =
        new GltfTreeNode(
            n, name, above, curves.containsKey(n), (m, frame) -> world(m, seconds(frame)));
    CameraModel camera = n.getCameraModel();
    if (camera != null) {
      camera(n, name, camera);
    }
    n.getMeshModels().forEach(m -> later.add(() -> mesh(node, m)));
    boolean bare = camera == null && n.getMeshModels().isEmpty() && n.getSkinModel() == null;
    boolean placed = n.getTranslation() != null || n.getMatrix() != null || curves.containsKey(n);
    if (bare && n.getChildren().isEmpty() && placed) {
      later.add(() -> place(node));
    }
    for (NodeModel c : n.getChildren()) {
      visit(c, node, depth + 1);
    }
    return node;
  }

  /** Local to world for column vectors. */
  private Matrix4d world(NodeModel n, double seconds) {
    Matrix4d own = local(n, seconds);
    return n.getParent() == null ? own : world(n.getParent(), seconds).mul(own);
  }

  private Matrix4d local(NodeModel n, double seconds) {
    Map<String, GltfCurve> c = curves.getOrDefault(n, Map.of());
    float[] m = n.getMatrix();
    if (m != null && c.isEmpty()) {
      return new Matrix4d(
          m[0], m[1], m[2], m[3], m[4], m[5], m[6], m[7], m[8], m[9], m[10], m[11], m[12], m[13],
          m[14], m[15]);
    }
    double[] t = value(c.get("translation"), n.getTranslation(), seconds, 0, 0, 0);
    double[] r = value(c.get("rotation"), n.getRotation(), seconds, 0, 0, 0, 1);
    double[] s = value(c.get("scale"), n.getScale(), seconds, 1, 1, 1);
    Quaterniond q = new Quaterniond(r[0], r[1], r[2], r[3]).normalize();
    return new Matrix4d().translation(t[0], t[1], t[2]).rotate(q).scale(s[0], s[1], s[2]);
  }

  private static double[] value(
      GltfCurve curve, float[] fixed, double seconds, double... otherwise) {
    if (curve != null) {
      return curve.at(seconds);
    }
    if (fixed == null) {
      return otherwise;
    }
    double[] out = new double[otherwise.length];
    for (int i = 0; i < out.length; i++) {
      out[i] = fixed[i];
    }
    return out;
  }

  private double seconds(int frame) {
    return (double) frame * out.rate.value().den() / out.rate.value().num();
  }

  private void camera(NodeModel n, String name, CameraModel camera) {
    CameraPerspectiveModel p = camera.getCameraPerspectiveModel();
    if (p == null || p.getYfov() == null) {
      out.notes.add(Note.ignored("camera " + name, "it is orthographic; a solved camera is not"));
      return;
    }
    TreeSet<Double> keys = new TreeSet<>();
    for (NodeModel a = n; a != null; a = a.getParent()) {
      curves.getOrDefault(a, Map.of()).values().forEach(c -> collect(c, keys));
    }
    FrameRange keyed = framesOf(keys);
    FrameRange frames = keyed == null ? new FrameRange(0, 0) : keyed;
    double aspect = p.getAspectRatio() == null ? 1 : p.getAspectRatio();
    int off = 0;
    for (double k : keys) {
      off += Math.abs(k - Math.rint(k)) > GRID * Math.max(1, Math.abs(k) * 1e-3) ? 1 : 0;
    }
    Optics optics;
    try {
      optics =
          Optics.centred(
              FILM_HEIGHT / 2 / Math.tan(p.getYfov() / 2), FILM_HEIGHT * aspect, FILM_HEIGHT);
    } catch (IllegalArgumentException e) {
      throw new InputError(file, "camera " + name, e.getMessage(), "Request a new copy", e);
    }
    double near = p.getZnear() == null ? 0 : p.getZnear();
    double far = p.getZfar() == null ? 0 : p.getZfar();
    Optional<ClipRange> clip =
        near > 0 && far > near && Double.isFinite(far)
            ? Optional.of(new ClipRange(near, far))
            : Optional.empty();
    ShotCamera shot =
        new ShotCamera(
            cameraNames.unique(name),
            PoseTrack.of(frames, f -> pose(n, f)),
            OpticsTrack.constant(frames, optics),
            clip);
    out.cameras.add(FileCamera.byVerticalAngle(shot, Math.max(1, keys.size()), off));
    if (p.getAspectRatio() == null) {
      out.notes.add(
          Note.assumed("camera " + name, "it states no aspect; its vertical angle counts"));
    }
  }

  private Pose pose(NodeModel n, int frame) {
    return MatrixPose.rigid(world(n, seconds(frame)), 2, 1)
        .orElseThrow(
            () ->
                new InputError(
                    file,
                    "camera " + n.getName() + " at frame " + frame,
                    "the camera's transform is mirrored, collapsed or not finite",
                    "Ask for it without a negative or zero scale above the camera"));
  }

  private void place(GltfTreeNode n) {
    FileGroups.Placement in = groups.ofTracker(n);
    Matrix4d toGroup = in.of(n.world(groups.frames().first()));
    trackers.add(in, n.name(), toGroup, 0, 0, 0, n.place());
  }

  private void mesh(GltfTreeNode n, MeshModel mesh) {
    String name = mesh.getName() == null ? n.name() : mesh.getName();
    for (MeshPrimitiveModel p : mesh.getMeshPrimitiveModels()) {
      AccessorModel at = p.getAttributes().get("POSITION");
      if (at == null) {
        continue;
      }
      double[] xyz = GltfNumbers.of(at, file);
      int[] corners =
          p.getIndices() == null
              ? java.util.stream.IntStream.range(0, xyz.length / 3).toArray()
              : FileMesh.integers(GltfNumbers.of(p.getIndices(), file));
      int[] triangles = triangles(p.getMode(), corners);
      int[] sizes = new int[triangles.length / 3];
      java.util.Arrays.fill(sizes, 3);
      FileGroups.Placement in = groups.ofContents(n);
      out.meshes.add(
          FileMesh.of(
                  name,
                  xyz,
                  in.of(n.world(groups.frames().first())),
                  sizes,
                  triangles,
                  perCorner(p, "NORMAL", 3, triangles),
                  perCorner(p, "TEXCOORD_0", 2, triangles).map(GltfSceneReader::upwards),
                  file,
                  "mesh " + name)
              .inGroup(in.group()));
    }
  }

  private Optional<double[]> perCorner(
      MeshPrimitiveModel p, String attribute, int each, int[] corners) {
    AccessorModel a = p.getAttributes().get(attribute);
    if (a == null) {
      return Optional.empty();
    }
    return FileMesh.perCorner(GltfNumbers.of(a, file), each, corners, corners);
  }

  /** v runs down in this format. */
  private static double[] upwards(double[] uvs) {
    for (int i = 1; i < uvs.length; i += 2) {
      uvs[i] = 1 - uvs[i];
    }
    return uvs;
  }

  /** Points and lines have no faces; strips and fans are taken apart. */
  private static int[] triangles(int mode, int[] c) {
    if (mode == TRIANGLES) {
      return java.util.Arrays.copyOf(c, c.length / 3 * 3);
    }
    if ((mode != STRIP && mode != FAN) || c.length < 3) {
      return new int[0];
    }
    int[] out = new int[3 * (c.length - 2)];
    for (int i = 0; i + 2 < c.length; i++) {
      boolean odd = mode == STRIP && i % 2 == 1;
      out[3 * i] = mode == FAN ? c[0] : c[i];
      out[3 * i + 1] = odd ? c[i + 2] : c[i + 1];
      out[3 * i + 2] = odd ? c[i + 1] : c[i + 2];
    }
    return out;
  }
}
