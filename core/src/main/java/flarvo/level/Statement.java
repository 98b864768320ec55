package flarvo.level;

import flarvo.convention.SignedAxis;
import flarvo.report.InputError;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** Something known of the place that was filmed, said of trackers. Lengths are metres. */
public sealed interface Statement {

  /** The trackers that it speaks of, in the order of its words. */
  List<String> trackers();

  /** The sentence as a person would say it. */
  String words();

  /**
   * One answer for each kind of statement. A kind that is added does not compile until every place
   * that tells them apart has an answer for it.
   */
  interface Visitor<T> {
    /** A tracker at a place. */
    T at(At s);

    /** The direction from one tracker to another. */
    T along(Along s);

    /** Trackers at one height. */
    T onGround(OnGround s);

    /** Trackers on one upright surface. */
    T onWall(OnWall s);

    /** How far apart two trackers are. */
    T distance(Distance s);

    /** Two trackers over each other. */
    T vertical(Vertical s);
  }

  /** The answer for the kind that this is. */
  <T> T accept(Visitor<T> visitor);

  /** Whether it is a direction or distance between two trackers, which must not coincide. */
  boolean isBetweenTwo();

  /**
   * Why it can say nothing, whatever the trackers are; empty where it can.
   *
   * @throws InputError with what is wrong and what to do
   */
  default void check() {
    if (trackers().isEmpty()) {
      throw InputError.words("'" + words() + "' names no tracker", "Select the trackers first");
    }
  }

  private static void two(Statement s, String from, String to) {
    if (from.equals(to)) {
      throw InputError.words(
          "'" + s.words() + "' uses " + from + " for both ends",
          "Choose another tracker for one of them");
    }
  }

  private static String list(List<String> names) {
    return names.size() <= 3
        ? String.join(", ", names)
        : names.get(0) + ", " + names.get(1) + " and " + (names.size() - 2) + " more";
  }

  private static List<String> sorted(Set<String> names) {
    List<String> out = new ArrayList<>(names);
    out.sort(Comparator.naturalOrder());
    return List.copyOf(out);
  }

  private static String metres(double m) {
    return String.format(Locale.ROOT, "%.3f m", m);
  }

  /** A tracker stands at a place; the origin, mostly. */
  record At(String tracker, Vec3 place) implements Statement {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.at(this);
    }

    @Override
    public boolean isBetweenTwo() {
      return false;
    }

    @Override
    public List<String> trackers() {
      return List.of(tracker);
    }

    @Override
    public String words() {
      return place.equals(Vec3.ZERO)
          ? tracker + " is the origin"
          : String.format(
              Locale.ROOT, "%s is at %.3f, %.3f, %.3f m", tracker, place.x(), place.y(), place.z());
    }
  }

  /** The way from one tracker to another runs along an axis. */
  record Along(String from, String to, SignedAxis axis) implements Statement {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.along(this);
    }

    @Override
    public boolean isBetweenTwo() {
      return true;
    }

    @Override
    public List<String> trackers() {
      return List.of(from, to);
    }

    @Override
    public String words() {
      return "from " + from + " to " + to + " is " + axis;
    }

    @Override
    public void check() {
      two(this, from, to);
    }
  }

  /** Trackers lie at one height: on the ground at 0, on a table top above it. */
  record OnGround(List<String> trackers, double height) implements Statement {
    public OnGround(Set<String> names, double height) {
      this(sorted(names), height);
    }

    public OnGround {
      trackers = List.copyOf(trackers);
    }

    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.onGround(this);
    }

    @Override
    public boolean isBetweenTwo() {
      return false;
    }

    @Override
    public String words() {
      return list(trackers)
          + (trackers.size() == 1 ? " is " : " are ")
          + (height == 0 ? "on the ground" : "at a height of " + metres(height));
    }
  }

  /** Trackers lie on one upright surface that looks along an axis; where it stands is open. */
  record OnWall(List<String> trackers, SignedAxis facing) implements Statement {
    public OnWall(Set<String> names, SignedAxis facing) {
      this(sorted(names), facing);
    }

    public OnWall {
      trackers = List.copyOf(trackers);
    }

    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.onWall(this);
    }

    @Override
    public boolean isBetweenTwo() {
      return false;
    }

    @Override
    public String words() {
      return list(trackers) + " are on a wall facing " + facing;
    }

    @Override
    public void check() {
      if (trackers.size() < 2) {
        throw InputError.words(
            "'" + words() + "' needs two trackers or more", "Select more of the wall's trackers");
      }
    }
  }

  /** How far apart two trackers are. */
  record Distance(String from, String to, double metres) implements Statement {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.distance(this);
    }

    @Override
    public boolean isBetweenTwo() {
      return true;
    }

    @Override
    public List<String> trackers() {
      return List.of(from, to);
    }

    @Override
    public String words() {
      return "from " + from + " to " + to + " is " + Statement.metres(metres);
    }

    @Override
    public void check() {
      two(this, from, to);
      if (!(metres > 0) || !Double.isFinite(metres)) {
        throw InputError.words(
            "'" + words() + "' gives no size", "Type a distance over zero, such as 0.6 m");
      }
    }
  }

  /** Two trackers lie over each other; which of them is the upper is open. */
  record Vertical(String one, String other) implements Statement {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.vertical(this);
    }

    @Override
    public boolean isBetweenTwo() {
      return true;
    }

    @Override
    public List<String> trackers() {
      return List.of(one, other);
    }

    @Override
    public String words() {
      return one + " and " + other + " are vertical";
    }

    @Override
    public void check() {
      two(this, one, other);
    }
  }
}
