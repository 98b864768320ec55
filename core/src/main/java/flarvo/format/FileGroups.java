package flarvo.format;

import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntFunction;
import java.util.function.Supplier;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * The groups of a file: which nodes things hang in, and how those move. A motion is rigid; scale
 * and shear that stay as they are over the shot are in what hangs in the group instead.
 */
public final class FileGroups {

  /** Matrices closer than this, as a share of their largest number, are the same. */
  private static final double SAME = 1e-10;

  private final String file;
  private final FrameRange frames;
  private final int reference;
  private final List<Note> notes;
  private final TreeNode root;
  private final IdentityHashMap<TreeNode, Optional<Group>> groups = new IdentityHashMap<>();
  private final IdentityHashMap<TreeNode, Optional<PoseTrack>> motions = new IdentityHashMap<>();
  private final IdentityHashMap<TreeNode, Placement> sets = new IdentityHashMap<>();
  private final IdentityHashMap<TreeNode, Boolean> reshaped = new IdentityHashMap<>();
  private final Set<String> said = new HashSet<>();

  /** What a node's contents hang in, and the name of the set that its trackers make. */
  public static final class Placement {
    private final String name;
    private final Optional<Group> group;
    private final Matrix4d toGroup; // of the world at the reference frame

    private Placement(String name, Optional<Group> group, int frame) {
      this.name = name;
      this.group = group;
      this.toGroup =
          group.isPresent() && group.get().moves()
              ? matrix(group.get().at(frame)).invertAffine()
              : new Matrix4d();
    }

    public String name() {
      return name;
    }

    public Optional<Group> group() {
      return group;
    }

    /** From the node's own space to the group's, given where it is at the reference frame. */
    public Matrix4d of(Matrix4d worldAtReference) {
      return new Matrix4d(toGroup).mul(worldAtReference);
    }
  }

  /**
   * @param frames file frames on which motions are evaluated
   * @param root the node that stands for the file as a whole and is no group; null for none
   * @param notes takes what had to be left out
   */
  public FileGroups(String file, FrameRange frames, TreeNode root, List<Note> notes) {
    this(file, frames, frames.first(), root, notes);
  }

  /**
   * @param reference the frame whose scale and shear count where they change, such as the first
   *     that the file states
   */
  public FileGroups(
      String file, FrameRange frames, int reference, TreeNode root, List<Note> notes) {
    this.file = file;
    this.frames = frames;
    this.reference = frames.clamp(reference);
    this.notes = notes;
    this.root = root != null && motion(root).isEmpty() ? root : null;
  }

  /**
   * The frames on which motions are to be evaluated: the file's range and that of every camera.
   *
   * @param stated by the file; null where it states none
   * @param keyed by whatever moves, where there is neither range nor camera; null for nothing
   */
  public static FrameRange frames(
      FrameRange stated, List<FileCamera> cameras, Supplier<FrameRange> keyed, int most) {
    FrameRange all = null;
    for (FileCamera c : cameras) {
      FrameRange own = c.camera().frames();
      all = all == null ? own : all.covering(own);
    }
    if (stated != null && all != null) {
      long first = Math.min(stated.first(), all.first());
      long last = Math.max(stated.last(), all.last());
      all = last - first < most ? stated.covering(all) : all;
    }
    FrameRange out = all != null ? all : stated != null ? stated : keyed.get();
    return out == null ? new FrameRange(0, 0) : out;
  }

  /** The frame at which the places of what hangs in groups are taken. */
  public int reference() {
    return reference;
  }

  /** File frames on which motions are evaluated. */
  public FrameRange frames() {
    return frames;
  }

  /**
   * Where a tracker belongs that is a node of its own. Under a node whose scale changes each goes
   * its own way, which no rigid group carries: then it is a group of its own too.
   */
  public Placement ofTracker(TreeNode leaf) {
    if (motion(leaf).isPresent()) {
      return new Placement(leaf.name(), Optional.of(group(leaf, motion(leaf))), reference);
    }
    if (leaf.parent() == null) {
      return new Placement("", Optional.empty(), reference);
    }
    if (changesShape(leaf.parent())) {
      PoseTrack way = wayOf(leaf, f -> leaf.world(f).getTranslation(new Vector3d()));
      return new Placement(leaf.name(), Optional.of(group(leaf, Optional.of(way))), reference);
    }
    return placement(leaf.parent());
  }

  /** Where points belong that are a node's contents. */
  public Placement ofContents(TreeNode node) {
    if (changesShape(node) && said.add(node.place())) {
      notes.add(
          Note.lost(
              node.place(),
              "its scale changes over the shot; what hangs in it keeps the size of frame "
                  + reference));
    }
    return placement(node);
  }

  /** Whether scale or shear of the nearest node that moves change over the shot. */
  public boolean changesShape(TreeNode node) {
    for (TreeNode n = node; n != null; n = n.parent()) {
      if (motion(n).isPresent()) {
        return reshaped.containsKey(n);
      }
    }
    return false;
  }

  private Placement placement(TreeNode node) {
    Placement known = sets.get(node);
    if (known == null) {
      Optional<Group> in = motion(node).isPresent() ? groupOf(node) : groupOf(node.parent());
      known = new Placement(node.name(), in, reference);
      sets.put(node, known);
    }
    return known;
  }

  /** Poses of points that move one by one, of all of them together; more are not followed. */
  private static final long MOST_POSES = 4_000_000;

  /** Whether so many points that move one by one can be followed. */
  public boolean canFollow(int points) {
    return (long) points * frames.count() <= MOST_POSES;
  }

  /**
   * Where a point of a node belongs that moves by itself: a group of its own, in the node.
   *
   * @param worldAt where the point is at a file frame, in the file's world
   * @throws InputError when it is nowhere at some frame
   */
  public Placement ofMovingPoint(TreeNode node, String name, IntFunction<Vector3d> worldAt) {
    Group own = new Group(name, groupOf(node), Optional.of(wayOf(node, worldAt)));
    return new Placement(name, Optional.of(own), reference);
  }

  private PoseTrack wayOf(TreeNode node, IntFunction<Vector3d> worldAt) {
    return PoseTrack.of(
        frames,
        f -> {
          Vector3d v = worldAt.apply(f);
          if (!v.isFinite()) {
            throw new InputError(
                file, node.place() + " at frame " + f, "the position is not finite", "");
          }
          return new Pose(new Vec3(v.x, v.y, v.z), Rotation.IDENTITY);
        });
  }

  /** What a node hangs in; empty at the top. */
  public Optional<Group> above(TreeNode node) {
    return node == null ? Optional.empty() : groupOf(node.parent());
  }

  /**
   * Groups that stand still elsewhere than the file's world does. What is scaled differently along
   * its axes is none: what hangs there is where it is, but in no space that is alike.
   */
  public List<FileParent> parents() {
    List<FileParent> out = new ArrayList<>();
    groups.forEach(
        (node, g) -> {
          if (g.isPresent() && !g.get().moves()) {
            Matrix4d m = node.world(reference);
            double scale = Math.cbrt(m.determinant3x3());
            Optional<Pose> p = scale > 0 ? MatrixPose.balanced(m) : Optional.empty();
            if (p.isPresent()
                && !same(m, new Matrix4d())
                && same(m, matrix(p.get()).scale(scale))) {
              out.add(
                  new FileParent(
                      g.get().name(),
                      new Similarity(scale, p.get().rotation(), p.get().position())));
            }
          }
        });
    out.sort(Comparator.comparing(FileParent::name));
    return out;
  }

  /** The group that a node is; empty for the root and above. */
  private Optional<Group> groupOf(TreeNode node) {
    if (node == null || isRoot(node)) {
      return Optional.empty();
    }
    Optional<Group> known = groups.get(node);
    if (known == null) {
      known = Optional.of(group(node, motion(node)));
      groups.put(node, known);
    }
    return known;
  }

  @SuppressWarnings("ReferenceEquality") // a node is a place in the file
  private boolean isRoot(TreeNode node) {
    return node == root;
  }

  private Group group(TreeNode node, Optional<PoseTrack> motion) {
    return new Group(node.name(), groupOf(node.parent()), motion);
  }

  private Optional<PoseTrack> motion(TreeNode node) {
    if (!node.movesItself()) {
      return Optional.empty();
    }
    Optional<PoseTrack> known = motions.get(node);
    if (known == null) {
      known = evaluated(node);
      motions.put(node, known);
    }
    return known;
  }

  private Optional<PoseTrack> evaluated(TreeNode node) {
    Matrix4d[] world = new Matrix4d[frames.count()];
    boolean moves = false;
    for (int i = 0; i < world.length; i++) {
      world[i] = node.world(frames.first() + i);
      moves |= !same(world[i], world[0]);
    }
    if (!moves) {
      return Optional.empty();
    }
    List<Pose> poses = new ArrayList<>(world.length);
    Matrix4d shape = null; // scale, shear and mirror: what is left of the first frame's matrix
    boolean changes = false;
    for (int i = 0; i < world.length; i++) {
      Pose p = rigid(world[i], node, frames.first() + i);
      poses.add(p);
      // Without the place, which the pose has: far out, its rounding would pass for a shape.
      Matrix4d upright = MatrixPose.of(p.rotation()).invertAffine();
      Matrix4d left = upright.mul(new Matrix4d(world[i]).setTranslation(0, 0, 0));
      shape = shape == null ? left : shape;
      changes |= !same(left, shape);
    }
    if (changes) {
      reshaped.put(node, true);
    }
    return Optional.of(PoseTrack.of(frames, f -> poses.get(f - frames.first())));
  }

  private Pose rigid(Matrix4d m, TreeNode node, int frame) {
    Matrix4d proper =
        m.determinant3x3() < 0 ? new Matrix4d(m).scale(1, 1, -1) : m; // a mirror stays in the shape
    return MatrixPose.rigid(proper, 0, 1)
        .orElseThrow(
            () ->
                new InputError(
                    file,
                    node.place() + " at frame " + frame,
                    "the transform has collapsed or is not finite",
                    "Ask for it without a scale of zero"));
  }

  private static Matrix4d matrix(Pose p) {
    return MatrixPose.of(p.rotation())
        .setTranslation(p.position().x(), p.position().y(), p.position().z());
  }

  private static boolean same(Matrix4d a, Matrix4d b) {
    double[] x = a.get(new double[16]);
    double[] y = b.get(new double[16]);
    double most = 1;
    for (double d : y) {
      most = Math.max(most, Math.abs(d));
    }
    for (int i = 0; i < 16; i++) {
      if (!(Math.abs(x[i] - y[i]) <= SAME * most)) {
        return false;
      }
    }
    return true;
  }
}
