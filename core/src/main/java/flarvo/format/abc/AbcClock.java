package flarvo.format.abc;

import flarvo.format.KeySnap;
import flarvo.scene.Rate;

/**
 * When a frame's values are.
 *
 * @param snap which samples frames are snapped to, where that is wanted
 */
record AbcClock(Rate rate, KeySnap snap) {

  double secondsOf(int frame) {
    return snap.at(frame) * rate.den() / rate.num();
  }
}
