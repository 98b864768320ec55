package flarvo.scene;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * A named node that trackers, meshes and other groups hang in. What hangs in a group that moves is
 * in the group's space; what hangs in one that stands still is in the space of the shot.
 *
 * @param motion group to shot, whatever groups are above; empty for a group that moves with the
 *     group above, or not at all
 */
public record Group(String name, Optional<Group> parent, Optional<PoseTrack> motion) {

  public Group {
    Objects.requireNonNull(name);
    Objects.requireNonNull(parent);
    Objects.requireNonNull(motion);
  }

  /** One that stands still, in no other. */
  public static Group still(String name) {
    return new Group(name, Optional.empty(), Optional.empty());
  }

  /** One that moves, in no other. */
  public static Group moving(String name, PoseTrack motion) {
    return new Group(name, Optional.empty(), Optional.of(motion));
  }

  /** The same inside another group. Its poses stay as they are. */
  public Group in(Group above) {
    return new Group(name, Optional.of(above), motion);
  }

  /** Whether it moves, by itself or with a group above. */
  public boolean moves() {
    return poses().isPresent();
  }

  /** Group to shot on every frame: its own motion, else that of the nearest group above. */
  public Optional<PoseTrack> poses() {
    Group g = this;
    while (g.motion.isEmpty() && g.parent.isPresent()) {
      g = g.parent.get();
    }
    return g.motion;
  }

  /** Group to shot; before its first frame and after its last it stands still. */
  public Pose at(int frame) {
    return poses().map(p -> p.at(p.frames().clamp(frame))).orElse(Pose.IDENTITY);
  }

  /** From the outermost group to this one. */
  public List<Group> path() {
    Deque<Group> all = new ArrayDeque<>();
    for (Group g = this; g != null; g = g.parent.orElse(null)) {
      all.addFirst(g);
    }
    return List.copyOf(all);
  }

  /** The same tree with every motion replaced, such as on other frames or in another space. */
  public Group map(UnaryOperator<PoseTrack> change) {
    Group out = null;
    for (Group g : path()) {
      out = new Group(g.name, Optional.ofNullable(out), g.motion.map(change));
    }
    return out;
  }

  /**
   * The same tree in another space, for what lies in a group: its places are to be scaled by the
   * same scale.
   */
  public Group under(Similarity s) {
    return map(p -> p.map(s::apply));
  }
}
