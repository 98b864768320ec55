package flarvo.recipient;

import flarvo.convention.Dialect;
import flarvo.convention.RatePolicy;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;

/**
 * How a scene is set, as meant or as a recipient has it.
 *
 * @param first scene frame that shows the plate's first picture
 * @param range that the scene plays, and that it saves
 * @param policy whether pictures lie one a frame, or by their time
 * @param reading world, unit, camera axes and film
 * @param picture that its cameras render; the plate lies across its width
 */
record Values(
    Rate rate,
    int first,
    FrameRange range,
    RatePolicy policy,
    Dialect reading,
    PictureSize picture) {

  Values withRate(Rate r) {
    return new Values(r, first, range, policy, reading, picture);
  }

  Values withFirst(int f) {
    return new Values(rate, f, range, policy, reading, picture);
  }

  Values withPolicy(RatePolicy p) {
    return new Values(rate, first, range, p, reading, picture);
  }

  Values withReading(Dialect d) {
    return new Values(rate, first, range, policy, d, picture);
  }

  /** With one setting of another. */
  Values with(Setting s, Values o) {
    Dialect d = reading;
    Dialect e = o.reading;
    return switch (s) {
      case RATE -> withRate(o.rate);
      case FRAME_POLICY -> withPolicy(o.policy);
      case FIRST_FRAME -> withFirst(o.first);
      case RANGE -> new Values(rate, first, o.range, policy, reading, picture);
      case UNIT -> withReading(d.withUnitOf(e));
      case AXES -> withReading(d.withWorld(e.world()));
      case CAMERA_AXES -> withReading(d.withCamera(e.camera()));
      case FILM_BACK -> withReading(d.withFilm(d.film().withBackOf(e.film())));
      case FIT -> withReading(d.withFilm(d.film().withFit(e.film().fit())));
      case SHIFT -> withReading(d.withFilm(d.film().withShift(e.film().shift())));
      case PICTURE -> new Values(rate, first, range, policy, reading, o.picture);
    };
  }

  /** Whether one setting is the same. */
  boolean agrees(Setting s, Values o) {
    return with(s, o).equals(this);
  }
}
