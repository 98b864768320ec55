package flarvo.dispatch;

import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeSet;

/**
 * What of a shot a delivery contains: at least one part of its file, and what lies beside it.
 *
 * @param cardMetres how far from the camera the picture card stands where it is nearest; empty for
 *     a distance behind everything
 * @param leftOut names of tracker groups and of meshes that do not go along
 * @param clouds names of tracker groups that go as one cloud of points, and not as locators
 * @param locatorMetres how large locators are drawn that have no size of their own; empty for a
 *     size that suits the scene
 */
public record Contents(
    Set<Part> parts,
    OptionalDouble cardMetres,
    Set<String> leftOut,
    Set<String> clouds,
    OptionalDouble locatorMetres) {

  public static final Contents CAMERA = of(Part.CAMERA);
  public static final Contents TRACKERS = of(Part.TRACKERS);
  public static final Contents CAMERA_AND_TRACKERS = of(Part.CAMERA, Part.TRACKERS);
  public static final Contents WITH_GEOMETRY = of(Part.CAMERA, Part.TRACKERS, Part.GEOMETRY);

  /** Metres. */
  private static final double LARGEST = 1e6;

  /** What is said where no part of its file is left. */
  public static final String NOTHING_LEFT =
      "a delivery needs at least one part in its file, such as the camera or trackers";

  public Contents {
    if (parts.stream().allMatch(Part::isSidecar)) {
      throw new IllegalArgumentException(NOTHING_LEFT);
    }
    if (cardMetres.isPresent()
        && !(cardMetres.getAsDouble() > 0 && cardMetres.getAsDouble() < PictureCard.FARTHEST)) {
      throw new IllegalArgumentException("a picture card stands over 0 m from the camera");
    }
    if (locatorMetres.isPresent()
        && !(locatorMetres.getAsDouble() > 0 && locatorMetres.getAsDouble() < LARGEST)) {
      throw new IllegalArgumentException("a locator is larger than 0 m");
    }
    parts = Collections.unmodifiableSet(EnumSet.copyOf(parts)); // in the order of the parts
    leftOut = Collections.unmodifiableSet(new TreeSet<>(leftOut));
    clouds = Collections.unmodifiableSet(new TreeSet<>(clouds));
  }

  /** Everything of these parts. */
  public Contents(Set<Part> parts) {
    this(parts, OptionalDouble.empty(), Set.of(), Set.of(), OptionalDouble.empty());
  }

  /** Of these parts. */
  public static Contents of(Part... parts) {
    return new Contents(EnumSet.copyOf(List.of(parts)));
  }

  /** Whether a part is in it. */
  public boolean has(Part p) {
    return parts.contains(p);
  }

  /** Whether meshes of the shot are in it. */
  public boolean hasMeshes() {
    return has(Part.GEOMETRY) || has(Part.GAUGES);
  }

  /** Whether another lens makes another delivery. */
  public boolean hasLens() {
    return has(Part.LENS) || has(Part.MAPS) || has(Part.TRACKS);
  }

  /** Whether nothing would be left for the file without a part. */
  public boolean needs(Part p) {
    return parts.stream().allMatch(o -> o == p || o.isSidecar());
  }

  /**
   * With a part or without it.
   *
   * @throws IllegalArgumentException when nothing would be left for its file
   */
  public Contents with(Part p, boolean in) {
    Set<Part> all = EnumSet.noneOf(Part.class);
    all.addAll(parts);
    if (in) {
      all.add(p);
    } else {
      all.remove(p);
    }
    return new Contents(all, cardMetres, leftOut, clouds, locatorMetres);
  }

  /**
   * With the picture card elsewhere; empty for a distance behind everything.
   *
   * @throws IllegalArgumentException when it is none
   */
  public Contents withCard(OptionalDouble metres) {
    return new Contents(parts, metres, leftOut, clouds, locatorMetres);
  }

  /** Without tracker groups and meshes of these names. */
  public Contents leavingOut(Set<String> names) {
    return new Contents(parts, cardMetres, names, clouds, locatorMetres);
  }

  /** With tracker groups of these names as one cloud of points each, the others as locators. */
  public Contents withClouds(Set<String> names) {
    return new Contents(parts, cardMetres, leftOut, names, locatorMetres);
  }

  /**
   * With locators of another size; empty for one that suits the scene.
   *
   * @throws IllegalArgumentException when it is none
   */
  public Contents withLocators(OptionalDouble metres) {
    return new Contents(parts, cardMetres, leftOut, clouds, metres);
  }
}
