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

/** A scene as the tree of nodes that a writer makes of it. */
public final class SceneTree {

  /** One node, with what hangs in it. */
  public static final class Branch {
    private final String name;
    private final Branch above;
    private final Optional<Group> group;
    private final List<Branch> branches = new ArrayList<>();
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

    /** Where a node with keys is in the one above, one pose a frame. */
    public PoseTrack local(FrameRange frames) {
      Group own = group.orElseThrow();
      if (!above.isInMotion()) {
        return PoseTrack.of(frames, own::at);
      }
      return PoseTrack.of(
          frames,
          f -> {
            Pose outer = above.group.orElseThrow().at(f);
            Pose inner = own.at(f);
            return new Pose(
                outer.toLocal(inner.position()),
                outer.rotation().inverse().after(inner.rotation()));
          });
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
   * The root of a scene's tree. A set of trackers is a node of its own, unless it bears the name of
   * the moving group that it hangs in. Sets without a tracker are left out.
   */
  public static Branch of(FileScene scene) {
    SceneTree tree = new SceneTree();
    for (TrackerSet t : scene.trackers()) {
      if (t.size() > 0) {
        Branch in = tree.branch(t.group());
        boolean same = in.hasMotion() && in.name.equals(t.name());
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
