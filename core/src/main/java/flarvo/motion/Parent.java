package flarvo.motion;

import flarvo.report.InputError;
import flarvo.scene.Pose;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;

/**
 * A node that stands still and from which everything hangs.
 *
 * @param place from its space to the levelled world in metres; its scale is the same along every
 *     axis, since a camera under any other would not keep its picture
 */
public record Parent(String name, Similarity place) {

  public Parent {
    if (name.isBlank()) {
      throw new IllegalArgumentException("a parent needs a name");
    }
    Objects.requireNonNull(place);
  }

  /** What {@link #parse} makes the same of, to a ten thousandth of a degree. */
  public String text() {
    Stand.At a = Stand.At.of(new Pose(place.translation(), place.rotation()));
    boolean turned = a.panDegrees() != 0 || a.tiltDegrees() != 0 || a.rollDegrees() != 0;
    boolean placed = turned || !place.translation().equals(Vec3.ZERO);
    String scaled =
        name + (place.scale() == 1 && !placed ? "" : "," + Stand.At.number(place.scale()));
    String[] six = a.text().split(",");
    return scaled
        + (placed ? "," + String.join(",", List.of(six).subList(0, 3)) : "")
        + (turned ? "," + String.join(",", List.of(six).subList(3, 6)) : "");
  }

  /**
   * A name, then its scale, its place in metres, and pan, tilt and roll in degrees, separated by
   * commas; what is left off at the end is 1 or 0.
   *
   * @throws InputError when it is something else
   */
  public static Parent parse(String text) {
    String[] p = text.strip().split("\\s*,\\s*", -1);
    if (p.length != 1 && p.length != 2 && p.length != 5 && p.length != 8) {
      throw InputError.words(
          "'" + text + "' is no parent: a parent has one scale, the same along every axis",
          "Give NAME, NAME,SCALE or NAME,SCALE,X,Y,Z,PAN,TILT,ROLL");
    }
    try {
      double[] v = Arrays.stream(p, 1, p.length).mapToDouble(Double::parseDouble).toArray();
      Vec3 at = v.length < 4 ? Vec3.ZERO : new Vec3(v[1], v[2], v[3]);
      Stand.At stand =
          v.length < 7 ? new Stand.At(at, 0, 0, 0) : new Stand.At(at, v[4], v[5], v[6]);
      Pose pose = stand.pose();
      return new Parent(
          p[0], new Similarity(v.length == 0 ? 1 : v[0], pose.rotation(), pose.position()));
    } catch (IllegalArgumentException e) {
      throw new InputError(
          "",
          "",
          "'" + text + "' is no parent: " + e.getMessage(),
          "Give NAME, NAME,SCALE or NAME,SCALE,X,Y,Z,PAN,TILT,ROLL",
          e);
    }
  }
}
