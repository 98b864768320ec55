package flarvo.format;

import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/** A scene as the tree of nodes that a writer makes of it. */
public final class SceneTree {

  /** One node, with what hangs in it. */
  public static final class Branch {
    private final String name;
    private final Branch above;
    private final Optional<Group> group;
    private final List<Branch> branches = new ArrayList<>();
    private final List<FileCamera> cameras = new ArrayList<>();
    private boolean leads; // to the first camera
    private Optional<FileParent> parent = Optional.empty();
    private final List<TrackerSet> trackers = new ArrayList<>();
    private final List<Mesh> meshes = new ArrayList<>();

    private Branch(String name, Branch above, Optional<Group> group) {
      this.name = name;
      this.above = above;
      this.group = group;
      if (above != null) {
        above.branches.add(this);
      }
    }

    /** Empty for the root. */
    public String name() {
      return name;
    }

    /** The nodes right below. */
    public List<Branch> branches() {
      return List.copyOf(branches);
    }

    /** Whether there is any camera right here. */
    public boolean hasCameras() {
      return !cameras.isEmpty();
    }

    /**
     * Visits the nodes right below, in the order in which they are to be written: whoever takes the
     * first camera of a file gets the scene's first.
     *
     * @param camera takes each with its poses in this node's space
     */
    public void visit(Consumer<Branch> branch, Consumer<FileCamera> camera) {
      for (Branch b : branches) {
        if (b.leads) {
          branch.accept(b);
        }
      }
      for (FileCamera c : cameras) {
        camera.accept(c);
      }
      for (Branch b : branches) {
        if (!b.leads) {
          branch.accept(b);
        }
      }
    }

    /** Where the node stands that everything hangs from; empty for every other. */
    public Optional<FileParent> parent() {
      return parent;
    }

    /** Sets whose trackers are nodes right here. */
    public List<TrackerSet> trackers() {
      return List.copyOf(trackers);
    }

    /** Meshes right here. */
    public List<Mesh> meshes() {
      return List.copyOf(meshes);
    }

    /** Whether what hangs here is in a space that moves, and not in the scene's. */
    public boolean isInMotion() {
      return group.isPresent() && group.get().moves();
    }

    /** Whether the node itself has keys. */
    public boolean hasMotion() {
      return group.isPresent() && group.get().motion().isPresent();
    }

    /**
     * Whether all of a file would hang in one group that has no keys, which readers take for the
     * file itself: a node above it has to stand for the file then.
     */
    public boolean needsRoot() {
      boolean alone =
          branches.size() == 1 && cameras.isEmpty() && trackers.isEmpty() && meshes.isEmpty();
      return alone && branches.get(0).group.isPresent() && !branches.get(0).hasMotion();
    }

    /** Where a node with keys is in the one above, one pose a frame. */
    public PoseTrack local(FrameRange frames) {
      Group own = group.orElseThrow();
      if (!above.isInMotion()) {
        return PoseTrack.of(frames, own::at);
      }
      return PoseTrack.of(frames, f -> above.inside(own.at(f), f));
    }

    /** A pose at a frame, in the space of this node. */
    private Pose inside(Pose p, int frame) {
      if (!isInMotion()) {
        return p;
      }
      Pose outer = group.orElseThrow().at(frame);
      return new Pose(outer.toLocal(p.position()), outer.rotation().inverse().after(p.rotation()));
    }

    private void add(FileCamera c) {
      PoseTrack poses = c.camera().poses();
      cameras.add(
          isInMotion()
              ? c.withPoses(PoseTrack.of(poses.frames(), f -> inside(poses.at(f), f)))
              : c);
    }

    /** Nodes from here down, this one not counted, trackers and meshes neither. */
    public int count() {
      int n = branches.size();
      for (Branch b : branches) {
        n += b.count();
      }
      return n;
    }

    /** How many of them have keys. */
    public int countMoving() {
      int n = 0;
      for (Branch b : branches) {
        n += (b.hasMotion() ? 1 : 0) + b.countMoving();
      }
      return n;
    }
  }

  private final Branch root = new Branch("", null, Optional.empty());
  private final Map<Group, Branch> known = new LinkedHashMap<>();

  private SceneTree() {}

  /**
   * The root of a scene's tree, in the space of the parent that everything hangs from, where there
   * is one. A set of trackers is a node of its own, unless it bears the name of the moving group
   * that it hangs in, or is one cloud, which bears its own. Sets without a tracker are left out.
   */
  public static Branch of(FileScene all) {
    FileScene scene = all.inParent();
    SceneTree tree = new SceneTree();
    for (FileParent p : scene.parents()) {
      tree.branch(Optional.of(Group.still(p.name()))).parent = Optional.of(p);
    }
    for (FileCamera c : scene.cameras()) {
      tree.branch(c.group()).add(c);
    }
    if (!scene.cameras().isEmpty()) {
      for (Branch b = tree.branch(scene.cameras().get(0).group()); b != null; b = b.above) {
        b.leads = true;
      }
    }
    for (TrackerSet t : scene.trackers()) {
      if (t.size() > 0) {
        Branch in = tree.branch(t.group());
        boolean same = t.isCloud() || in.hasMotion() && in.name.equals(t.name());
        (same ? in : new Branch(t.name(), in, t.group().map(Group.still(t.name())::in)))
            .trackers.add(t);
      }
    }
    for (Mesh m : scene.meshes()) {
      tree.branch(m.group()).meshes.add(m);
    }
    return tree.root;
  }

  private Branch branch(Optional<Group> group) {
    if (group.isEmpty()) {
      return root;
    }
    Branch b = known.get(group.get());
    if (b == null) {
      b = new Branch(group.get().name(), branch(group.get().parent()), group);
      known.put(group.get(), b);
    }
    return b;
  }
}
