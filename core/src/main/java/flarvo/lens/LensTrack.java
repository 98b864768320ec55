package flarvo.lens;

import java.util.NavigableMap;
import java.util.Objects;
import java.util.TreeMap;

/**
 * A lens through the frames of a shot. Where it breathes it has keys of coefficients; between keys
 * they go linearly, before the first and after the last they stay.
 */
public final class LensTrack {

  private final Lens base;
  private final NavigableMap<Integer, Distortion> keys;

  /**
   * @param base the lens where there are no keys; its centre and normalisation count always
   * @param keys by plate frame, of the base's model
   */
  public LensTrack(Lens base, NavigableMap<Integer, Distortion> keys) {
    this.base = base;
    this.keys = new TreeMap<>(keys);
    for (Distortion d : keys.values()) {
      if (d.model() != base.distortion().model()) {
        throw new IllegalArgumentException("a lens has one model on all frames");
      }
    }
  }

  /** A lens that does not breathe. */
  public static LensTrack of(Lens lens) {
    return new LensTrack(lens, new TreeMap<>());
  }

  /** Whether it changes from frame to frame. */
  public boolean breathes() {
    return keys.size() > 1;
  }

  public Lens base() {
    return base;
  }

  /** Distortions by plate frame; a copy, empty where nothing changes. */
  public NavigableMap<Integer, Distortion> keys() {
    return new TreeMap<>(keys);
  }

  /** The lens at a frame; equal lenses where nothing changes. */
  public Lens at(int frame) {
    if (keys.isEmpty()) {
      return base;
    }
    var below = keys.floorEntry(frame);
    var above = keys.ceilingEntry(frame);
    if (below == null || above == null || below.getKey().equals(above.getKey())) {
      return base.with((below == null ? above : below).getValue());
    }
    double t = (frame - below.getKey()) / (double) (above.getKey() - below.getKey());
    double[] a = below.getValue().coefficients();
    double[] b = above.getValue().coefficients();
    for (int i = 0; i < a.length; i++) {
      a[i] += t * (b[i] - a[i]);
    }
    return base.with(base.distortion().model().make(a));
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof LensTrack t && base.equals(t.base) && keys.equals(t.keys);
  }

  @Override
  public int hashCode() {
    return Objects.hash(base, keys);
  }
}
