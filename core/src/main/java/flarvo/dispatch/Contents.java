package flarvo.dispatch;

import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/** What of a shot a delivery contains: at least one part of its file, and what lies beside it. */
public record Contents(Set<Part> parts) {

  public static final Contents CAMERA = of(Part.CAMERA);
  public static final Contents TRACKERS = of(Part.TRACKERS);
  public static final Contents CAMERA_AND_TRACKERS = of(Part.CAMERA, Part.TRACKERS);
  public static final Contents WITH_GEOMETRY = of(Part.CAMERA, Part.TRACKERS, Part.GEOMETRY);

  public Contents {
    if (parts.stream().allMatch(Part::isSidecar)) {
      throw new IllegalArgumentException(
          "a delivery needs at least one part in its file: camera, trackers or geometry");
    }
    parts = Collections.unmodifiableSet(EnumSet.copyOf(parts)); // in the order of the parts
  }

  /** Of these parts. */
  public static Contents of(Part... parts) {
    return new Contents(EnumSet.copyOf(List.of(parts)));
  }

  /** Whether a part is in it. */
  public boolean has(Part p) {
    return parts.contains(p);
  }

  /** Whether another lens makes another delivery. */
  public boolean hasLens() {
    return has(Part.LENS) || has(Part.MAPS);
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
    return new Contents(all);
  }
}
