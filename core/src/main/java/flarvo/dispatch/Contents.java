package flarvo.dispatch;

import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/** What of a shot a delivery contains: one part at least. */
public record Contents(Set<Part> parts) {

  public static final Contents CAMERA = of(Part.CAMERA);
  public static final Contents TRACKERS = of(Part.TRACKERS);
  public static final Contents CAMERA_AND_TRACKERS = of(Part.CAMERA, Part.TRACKERS);
  public static final Contents WITH_GEOMETRY = of(Part.CAMERA, Part.TRACKERS, Part.GEOMETRY);

  public Contents {
    if (parts.isEmpty()) {
      throw new IllegalArgumentException("a delivery needs at least one part");
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

  /**
   * With a part or without it.
   *
   * @throws IllegalArgumentException when it was the only one
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
