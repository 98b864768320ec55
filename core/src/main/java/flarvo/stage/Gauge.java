package flarvo.stage;

import flarvo.report.InputError;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * An object of a known size, to see by eye whether it sticks. It stands upright in the world.
 *
 * @param foot middle of its underside, in solve space
 * @param metres height of a post, side of a tile or a crate
 * @param turn about up, radians
 * @param tracker that it stands on and follows, where there is one
 */
public record Gauge(
    String name, Kind kind, Vec3 foot, double metres, double turn, Optional<String> tracker) {

  /** What gauges hang in where they are sent. */
  private static final String GROUP = "gauges";

  public enum Kind {
    POST("post", 1.0),
    TILE("tile", 0.6),
    CRATE("crate", 0.5);

    private final String word;
    private final double usual;

    Kind(String word, double usual) {
      this.word = word;
      this.usual = usual;
    }

    public String word() {
      return word;
    }

    /** Size in metres that it has at first. */
    public double usual() {
      return usual;
    }
  }

  public Gauge {
    if (!(metres > 0) || !Double.isFinite(metres)) {
      throw InputError.words(
          "a " + kind.word() + " cannot be " + metres + " m large", "Type a size over zero");
    }
  }

  /** The same with its base elsewhere. */
  public Gauge at(Vec3 foot) {
    return new Gauge(name, kind, foot, metres, turn, Optional.empty());
  }

  /** The same in another size, in metres. */
  public Gauge sized(double m) {
    return new Gauge(name, kind, foot, m, turn, tracker);
  }

  /** The same rotated about up, in radians. */
  public Gauge turned(double radians) {
    return new Gauge(name, kind, foot, metres, radians, tracker);
  }

  /** On its tracker, where that stands now; one that is gone leaves it where it was. */
  public Gauge following(Map<String, Vec3> places) {
    Vec3 now = tracker.map(places::get).orElse(null);
    return now == null ? this : new Gauge(name, kind, now, metres, turn, tracker);
  }

  /** The same in another solve's space. */
  Gauge moved(Similarity to) {
    return new Gauge(name, kind, to.apply(foot), metres, turn, tracker);
  }

  /** Its faces as a mesh in solve space. */
  public Mesh mesh(Similarity level) {
    Similarity back = level.inverse();
    Map<Vec3, Integer> numbers = new LinkedHashMap<>();
    List<List<Vec3>> faces = solid(level).faces();
    int[] sizes = faces.stream().mapToInt(List::size).toArray();
    int[] indices =
        faces.stream()
            .flatMap(List::stream)
            .mapToInt(p -> numbers.computeIfAbsent(p, k -> numbers.size()))
            .toArray();
    double[] xyz = new double[3 * numbers.size()];
    int i = 0;
    for (Vec3 p : numbers.keySet()) {
      Vec3 there = back.apply(p);
      xyz[i++] = there.x();
      xyz[i++] = there.y();
      xyz[i++] = there.z();
    }
    return Mesh.of(name, xyz, sizes, indices).inGroup(Optional.of(Group.still(GROUP)));
  }

  /** Its faces in the world. */
  public Solid solid(Similarity level) {
    Vec3 at = level.apply(foot);
    return switch (kind) {
      case POST -> Solid.post(at, turn, metres);
      case TILE -> Solid.tile(at, turn, metres);
      case CRATE -> Solid.crate(at, turn, metres);
    };
  }
}
