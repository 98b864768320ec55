package flarvo.desktop.session;

import flarvo.decision.ShotState;
import flarvo.scene.Shot;
import flarvo.vet.Reprojection;

/**
 * What is made of a shot for all to draw.
 *
 * @param errors null where nothing was observed
 */
record DerivedShot(Shot shot, Shot levelled, Reprojection errors) {

  /** A shot with more than this is worked out beside the window. */
  private static final int SMALL = 40_000;

  static DerivedShot of(ShotState state) {
    Shot shot = state.shot();
    return new DerivedShot(
        shot, shot.levelled(), Reprojection.of(shot, state.vetting().uncounted()).orElse(null));
  }

  static boolean isQuick(Shot shot) {
    return shot.observations().size() + shot.trackerCount() <= SMALL;
  }
}
