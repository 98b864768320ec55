package flarvo.format.fbx;

import flarvo.scene.Rate;

/** Ticks of frames at a rate; a file with many objects asks for the same frame again and again. */
final class FbxClock {

  private final Rate rate;
  private int frame;
  private double tick;

  FbxClock(Rate rate) {
    this.rate = rate;
    this.tick = FbxTime.tickOf(0, rate);
  }

  double tickOf(int wanted) {
    if (wanted != frame) {
      tick = FbxTime.tickOf(wanted, rate);
      frame = wanted;
    }
    return tick;
  }
}
