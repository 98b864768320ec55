package flarvo.format.gltf;

import de.javagl.jgltf.model.CameraModel;
import de.javagl.jgltf.model.CameraPerspectiveModel;
import de.javagl.jgltf.model.NodeModel;
import flarvo.convention.Handedness;
import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.format.FileCamera;
import flarvo.format.FileGroups;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.KeySnap;
import flarvo.format.MatrixPose;
import flarvo.format.ReadLimits;
import flarvo.format.Sourced;
import flarvo.format.TrackerCollector;
import flarvo.format.TreeNode;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.ShotCamera;
import flarvo.work.Progress;
import java.util.ArrayList;
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

  private final String file;
  private final ReadLimits limits;
  private final Progress progress;
  private final GltfContents contents;
  private final GltfTake take;
  private final GltfMeshReader meshes;
  private final FileScene.Builder out = new FileScene.Builder();
  private final FileNames cameraNames = new FileNames();
  private final TrackerCollector trackers;
  private final List<Runnable> later = new ArrayList<>(); // what needs the frames of the cameras
  private final List<TreeNode> cameraNodes = new ArrayList<>();
  private final KeySnap snap;
  private FileGroups groups;

  GltfSceneReader(String file, GltfContents contents, ReadLimits limits, Progress progress) {
    this.file = file;
    this.contents = contents;
    this.take = new GltfTake(file, contents, out.notes);
    this.meshes =
        new GltfMeshReader(
            file, contents.numbers(), new GltfTextures(out.notes), out.clouds, out.notes);
    this.trackers = new TrackerCollector(file, limits);
    this.limits = limits;
    this.snap = new KeySnap(limits.snapKeys());
    this.progress = progress;
  }

  FileScene read(Optional<String> wanted) {
    out.up = Sourced.assumed(SignedAxis.POSITIVE_Y, "the format's rule");
    out.unit = Sourced.assumed(new LinearUnit(1), "the format's rule");
    out.handedness = Sourced.assumed(Handedness.RIGHT, "the format's rule");
    GltfExtensions.note(contents.stated(), out.notes);
    take.choose(wanted, out.takes);
    out.rate = take.rate();
    List<String> outside = contents.outside();
    if (!outside.isEmpty()) {
      out.notes.add(Note.ignored("", "not in the scene that is shown: " + outside));
    }
    List<NodeModel> top = contents.top();
    GltfTreeNode root = null;
    for (NodeModel n : top) {
      root = visit(n, null, 1);
    }
    boolean holds = top.size() == 1 && !top.get(0).getChildren().isEmpty();
    FrameRange frames =
        FileGroups.frames(null, out.cameras, () -> framesOf(allKeys()), limits.mostFrames());
    groups = new FileGroups(file, frames, holds ? root : null, out.notes);
    snap.goByFirst();
    out.hang(groups, cameraNodes);
    later.forEach(Runnable::run);
    out.trackers.addAll(trackers.sets());
    out.parents.addAll(groups.parents());
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
    take.collectKeys(out.rate.value(), keys);
    return keys;
  }

  /** From the first key to the last; null without keys. */
  private FrameRange framesOf(TreeSet<Double> keys) {
    if (keys.isEmpty()) {
      return null;
    }
    double[] ends = snap.snapped(new double[] {keys.first(), keys.last()});
    double first = Math.ceil(ends[0]);
    double last = Math.max(first, Math.floor(ends[1]));
    if (Math.abs(first) > 1e8 || last - first >= limits.mostFrames()) {
      throw new InputError(file, "", "the keys reach over more frames than a shot has", "");
    }
    return new FrameRange((int) first, (int) last);
  }

  private GltfTreeNode visit(NodeModel n, GltfTreeNode above, int depth) {
    progress.step(0, 0);
    if (depth > 8 * limits.deepest()) {
      throw new InputError(file, "nodes", "they are nested too deep", "");
    }
    String name = n.getName() == null ? "node" : n.getName();
    GltfTreeNode node =
        new GltfTreeNode(
            n,
            name,
            above,
            !take.of(n).isEmpty(),
            contents.skinned().contains(n),
            (m, frame) -> world(m, seconds(frame)));
    CameraModel camera = n.getCameraModel();
    if (camera != null) {
      camera(n, name, camera, node);
    }
    n.getMeshModels()
        .forEach(m -> later.add(() -> meshes.read(node, m, groups, trackers, out.meshes)));
    boolean bare = camera == null && n.getMeshModels().isEmpty() && !node.isSkinned();
    boolean placed = n.getTranslation() != null || n.getMatrix() != null || !take.of(n).isEmpty();
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
    Map<String, GltfCurve> c = take.of(n);
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
    return snap.at(frame) * out.rate.value().den() / out.rate.value().num();
  }

  private void camera(NodeModel n, String name, CameraModel camera, TreeNode node) {
    CameraPerspectiveModel p = camera.getCameraPerspectiveModel();
    if (p == null || p.getYfov() == null) {
      out.notes.add(Note.ignored("camera " + name, "it is orthographic; a solved camera is not"));
      return;
    }
    TreeSet<Double> keys = new TreeSet<>();
    for (NodeModel a = n; a != null; a = a.getParent()) {
      take.of(a).values().forEach(c -> c.collectKeys(out.rate.value(), keys));
    }
    take.of(camera).values().forEach(c -> c.collectKeys(out.rate.value(), keys));
    snap.goBy(
        keys.stream().mapToDouble(Double::doubleValue).toArray(), "camera " + name, out.notes);
    FrameRange keyed = framesOf(keys);
    FrameRange frames = keyed == null ? new FrameRange(0, 0) : keyed;
    int off = 0;
    for (double k : keys) {
      off += k == Math.rint(k) ? 0 : 1;
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
            OpticsTrack.of(frames, f -> optics(name, camera, seconds(f))),
            clip);
    out.cameras.add(FileCamera.byVerticalAngle(shot, Math.max(1, keys.size()), off));
    cameraNodes.add(node);
    if (p.getAspectRatio() == null) {
      out.notes.add(
          Note.assumed("camera " + name, "it states no aspect; its vertical angle counts"));
    }
  }

  private Optics optics(String name, CameraModel camera, double seconds) {
    CameraPerspectiveModel p = camera.getCameraPerspectiveModel();
    Map<String, GltfCurve> moved = take.of(camera);
    double angle = moved.containsKey("yfov") ? moved.get("yfov").at(seconds)[0] : p.getYfov();
    double stated = p.getAspectRatio() == null ? 1 : p.getAspectRatio();
    double aspect =
        moved.containsKey("aspectRatio") ? moved.get("aspectRatio").at(seconds)[0] : stated;
    try {
      return Optics.centred(
          FILM_HEIGHT / 2 / Math.tan(angle / 2), FILM_HEIGHT * aspect, FILM_HEIGHT);
    } catch (IllegalArgumentException e) {
      throw new InputError(file, "camera " + name, e.getMessage(), "Request a new copy", e);
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
    trackers.add(in, n.name(), toGroup, 0, 0, 0, n::place);
  }
}
