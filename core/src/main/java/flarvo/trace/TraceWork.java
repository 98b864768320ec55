package flarvo.trace;

import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import flarvo.vet.RefinedSolve;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;

/**
 * What was made of a shot's plates: where nothing is followed, what was followed, and the solve
 * that it gave.
 *
 * @param inside whether only what the masks cover is followed
 * @param features empty where nothing was followed
 * @param solve camera and points in the place of those that came; empty where none was made
 */
public record TraceWork(
    List<MaskShape> masks,
    boolean inside,
    Optional<Features> features,
    Optional<RefinedSolve> solve) {

  public static final TraceWork NONE =
      new TraceWork(List.of(), false, Optional.empty(), Optional.empty());

  public TraceWork {
    masks = List.copyOf(masks);
    Objects.requireNonNull(features);
    Objects.requireNonNull(solve);
  }

  /**
   * Features that were followed.
   *
   * @param observations in pixels of the plates that they were followed in, by plate frame
   * @param plates whose pixels these are
   * @param notes on what was noticed in the plates, a sentence each
   */
  public record Features(Observations observations, PlateRole plates, List<String> notes) {
    public Features {
      notes = List.copyOf(notes);
    }
  }

  /** Where nothing is followed. */
  public Mask mask() {
    Mask m = MaskShape.all(masks);
    return inside && !masks.isEmpty() ? m.inverted() : m;
  }

  /** With a mask more; one of the same name is replaced. */
  public TraceWork with(MaskShape shape) {
    List<MaskShape> all = new ArrayList<>(without(shape.name()).masks);
    all.add(shape);
    return new TraceWork(all, inside, features, solve);
  }

  /** Without a mask. */
  public TraceWork without(String name) {
    return new TraceWork(
        masks.stream().filter(m -> !m.name().equals(name)).toList(), inside, features, solve);
  }

  /** With the other side of the masks. */
  public TraceWork withInside(boolean in) {
    return new TraceWork(masks, in, features, solve);
  }

  /** With what was followed. A solve of what was followed before stays. */
  public TraceWork withFeatures(Optional<Features> f) {
    return new TraceWork(masks, inside, f, solve);
  }

  /** With a solve. */
  public TraceWork withSolve(Optional<RefinedSolve> s) {
    return new TraceWork(masks, inside, features, s);
  }

  /** Whether the features depend on the lens of the original plates. */
  public boolean needsLens() {
    return features.filter(f -> f.plates() == PlateRole.ORIGINAL).isPresent();
  }
}
