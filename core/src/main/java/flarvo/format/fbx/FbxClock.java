package flarvo.format.fbx;

import flarvo.format.KeySnap;
import flarvo.scene.Rate;

/** Ticks of frames at a rate; a file with many objects asks for the same frame again and again. */
final class FbxClock {

  private final Rate rate;
  private int frame;
  private double tick;

  /** Which keys frames are snapped to, where that is wanted. */
  final KeySnap snap;

  FbxClock(Rate rate, KeySnap snap) {
    this.rate = rate;
    this.snap = snap;
    this.tick = FbxTime.tickOf(0, rate);
  }

  Rate rate() {
    return rate;
  }

  double tickOf(int wanted) {
    double at = snap.at(wanted);
    if (at != wanted) {
      return FbxTime.tickOf(at, rate);
    }
    if (wanted != frame) {
      tick = FbxTime.tickOf(wanted, rate);
      frame = wanted;
    }
    return tick;
  }
}
