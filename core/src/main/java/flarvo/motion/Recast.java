package flarvo.motion;

import flarvo.scene.FrameRange;
import flarvo.scene.Shot;
import java.util.Objects;
import java.util.Optional;

/**
 * How a delivery has a shot's motion, film and time, in this order: another time, what is held, on
 * which length a zoom lies, which part of the picture, what everything hangs from.
 */
public record Recast(
    Optional<Retime> retime,
    Optional<Held> held,
    ZoomOn zoom,
    Optional<Framing> framing,
    Parents parents) {

  /** As the shot has it. */
  public static final Recast NONE =
      new Recast(
          Optional.empty(), Optional.empty(), ZoomOn.AS_SHOT, Optional.empty(), Parents.NONE);

  public Recast {
    Objects.requireNonNull(retime);
    Objects.requireNonNull(held);
    Objects.requireNonNull(zoom);
    Objects.requireNonNull(framing);
    Objects.requireNonNull(parents);
  }

  /** Whether the shot stays as it is. */
  public boolean isNone() {
    return equals(NONE);
  }

  /** Whether its picture is another: plates do not fit it then. */
  public boolean changesPicture() {
    return retime.isPresent() || framing.isPresent();
  }

  /** With another time. */
  public Recast withRetime(Optional<Retime> r) {
    return new Recast(r, held, zoom, framing, parents);
  }

  /** With something else held. */
  public Recast withHeld(Optional<Held> h) {
    return new Recast(retime, h, zoom, framing, parents);
  }

  /** With the zoom on another length. */
  public Recast withZoom(ZoomOn z) {
    return new Recast(retime, held, z, framing, parents);
  }

  /** With another part of the picture. */
  public Recast withFraming(Optional<Framing> f) {
    return new Recast(retime, held, zoom, f, parents);
  }

  /** With other parents. */
  public Recast withParents(Parents p) {
    return new Recast(retime, held, zoom, framing, p);
  }

  /** The frames that are made of a shot's. */
  public FrameRange frames(FrameRange of) {
    return retime.map(Retime::frames).orElse(of);
  }

  /**
   * The shot as the delivery has it.
   *
   * @throws flarvo.report.InputError when what is to be held, or to carry the camera, is not there
   */
  public Shot of(Shot shot) {
    Shot s = retime.map(r -> r.of(shot)).orElse(shot);
    Shot t = held.isPresent() ? held.get().of(s) : s;
    Shot z = zoom.of(t);
    return parents.of(framing.map(f -> f.of(z)).orElse(z));
  }
}
