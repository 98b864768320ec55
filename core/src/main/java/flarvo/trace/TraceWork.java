package flarvo.trace;

import flarvo.lens.LensTrack;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
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
 * @param matte what of the keyed plates is masked beside the shapes
 * @param inside whether only what the masks cover is followed
 * @param features empty where nothing was followed
 * @param movers what moves against the rest, whose features the scene is not solved from
 * @param hand features that were marked by hand
 * @param planes what is flat and was followed as a whole
 * @param solve camera and points in the place of those that came; empty where none was made
 */
public record TraceWork(
    List<DrawnMask> masks,
    KeyedMatte matte,
    boolean inside,
    Optional<Features> features,
    List<Mover> movers,
    List<HandFeature> hand,
    List<PlaneFeature> planes,
    Optional<RefinedSolve> solve) {

  public static final TraceWork NONE =
      new TraceWork(
          List.of(),
          KeyedMatte.NONE,
          false,
          Optional.empty(),
          List.of(),
          List.of(),
          List.of(),
          Optional.empty());

  public TraceWork {
    masks = List.copyOf(masks);
    movers = List.copyOf(movers);
    hand = List.copyOf(hand);
    planes = List.copyOf(planes);
    Objects.requireNonNull(features);
    Objects.requireNonNull(solve);
  }

  /**
   * Features that were followed.
   *
   * @param observations by plate frame, in pixels of the shot's picture as the plates show it
   * @param plates that they were followed in
   * @param notes on what was noticed in the plates, a sentence each
   */
  public record Features(Observations observations, PlateRole plates, List<String> notes) {
    public Features {
      notes = List.copyOf(notes);
    }
  }

  /**
   * Where nothing is followed.
   *
   * @param received what {@link #matte} is of the shot's keyed plates
   * @param followed plates that are followed
   * @param lens of the original plates; without one they are taken for straight
   * @param picture of the shot, in whose pixels all masks are
   */
  public Mask mask(
      Mask received, PlateRole followed, Optional<LensTrack> lens, PictureSize picture) {
    Mask m = received;
    for (DrawnMask d : masks) {
      m = d.over(followed, lens, picture).or(m);
    }
    return inside && hasMasks() ? m.inverted() : m;
  }

  /** A mask by its name; empty where there is none. */
  public Optional<DrawnMask> mask(String name) {
    return masks.stream().filter(m -> m.name().equals(name)).findFirst();
  }

  /** Whether anything is masked, by drawn shapes or by a matte. */
  public boolean hasMasks() {
    return !masks.isEmpty() || matte.isUsed();
  }

  /** With another use of the keyed plates. */
  public TraceWork withMatte(KeyedMatte m) {
    return new TraceWork(masks, m, inside, features, movers, hand, planes, solve);
  }

  /** With a mask more; one of the same name is replaced. */
  public TraceWork with(DrawnMask mask) {
    List<DrawnMask> all = new ArrayList<>(without(mask.name()).masks);
    all.add(mask);
    return new TraceWork(all, matte, inside, features, movers, hand, planes, solve);
  }

  /** Without a mask. */
  public TraceWork without(String name) {
    return new TraceWork(
        masks.stream().filter(m -> !m.name().equals(name)).toList(),
        matte,
        inside,
        features,
        movers,
        hand,
        planes,
        solve);
  }

  /** With the other side of the masks. */
  public TraceWork withInside(boolean in) {
    return new TraceWork(masks, matte, in, features, movers, hand, planes, solve);
  }

  /** With what was followed, nothing of it left out. A solve of what was followed before stays. */
  public TraceWork withFeatures(Optional<Features> f) {
    return new TraceWork(masks, matte, inside, f, List.of(), hand, planes, solve);
  }

  /** With what moves against the rest. */
  public TraceWork withMovers(List<Mover> m) {
    return new TraceWork(masks, matte, inside, features, m, hand, planes, solve);
  }

  /** What moves by its name; empty where there is none. */
  public Optional<Mover> mover(String name) {
    return movers.stream().filter(m -> m.name().equals(name)).findFirst();
  }

  /** A feature that was marked by hand; empty where there is none of that name. */
  public Optional<HandFeature> hand(String name) {
    return hand.stream().filter(h -> h.name().equals(name)).findFirst();
  }

  /** With a feature marked by hand more; one of the same name is replaced. */
  public TraceWork with(HandFeature h) {
    List<HandFeature> all = new ArrayList<>();
    hand.forEach(x -> all.add(x.name().equals(h.name()) ? h : x));
    if (hand(h.name()).isEmpty()) {
      all.add(h);
    }
    return new TraceWork(masks, matte, inside, features, movers, all, planes, solve);
  }

  /** Without a feature that was marked by hand. */
  public TraceWork withoutHand(String name) {
    return new TraceWork(
        masks,
        matte,
        inside,
        features,
        movers,
        hand.stream().filter(h -> !h.name().equals(name)).toList(),
        planes,
        solve);
  }

  /** A plane by its name; empty where there is none. */
  public Optional<PlaneFeature> plane(String name) {
    return planes.stream().filter(q -> q.name().equals(name)).findFirst();
  }

  /** With a plane more; one of the same name is replaced. */
  public TraceWork with(PlaneFeature plane) {
    List<PlaneFeature> all = new ArrayList<>();
    planes.forEach(q -> all.add(q.name().equals(plane.name()) ? plane : q));
    if (plane(plane.name()).isEmpty()) {
      all.add(plane);
    }
    return new TraceWork(masks, matte, inside, features, movers, hand, all, solve);
  }

  /** Without a plane. */
  public TraceWork withoutPlane(String name) {
    List<PlaneFeature> all = planes.stream().filter(q -> !q.name().equals(name)).toList();
    return new TraceWork(masks, matte, inside, features, movers, hand, all, solve);
  }

  /** Whether anything was followed, by itself or by hand. */
  public boolean hasTracks() {
    return features.isPresent() || !hand.isEmpty() || !planes.isEmpty();
  }

  /** Whether another work has the same tracks and the same solve. */
  public boolean isSameShot(TraceWork o) {
    return features.equals(o.features)
        && movers.equals(o.movers)
        && hand.equals(o.hand)
        && planes.equals(o.planes)
        && solve.equals(o.solve);
  }

  /** With a solve. */
  public TraceWork withSolve(Optional<RefinedSolve> s) {
    return new TraceWork(masks, matte, inside, features, movers, hand, planes, s);
  }

  /** Whether the features depend on the lens of the original plates. */
  public boolean needsLens() {
    return features.filter(f -> f.plates() == PlateRole.ORIGINAL).isPresent()
        || hand.stream().anyMatch(h -> h.plates() == PlateRole.ORIGINAL)
        || planes.stream().anyMatch(h -> h.plates() == PlateRole.ORIGINAL);
  }
}
