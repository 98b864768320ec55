package flarvo.suspect;

import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;

/** A solve that is known to be right, as evidence: where its camera sees its points. */
public final class TrustedSolve {

  private TrustedSolve() {}

  /** The pixels of all points on all frames that lie in the picture; none without a camera. */
  public static Observations tracks(Shot trusted) {
    Observations.Builder b = new Observations.Builder();
    if (trusted.camera().isEmpty()) {
      return b.build();
    }
    Pinhole hole = new Pinhole(trusted.camera().get(), trusted.picture());
    double[] out = new double[3];
    for (TrackerSet t : trusted.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        for (int f = trusted.frames().first(); f <= trusted.frames().last(); f++) {
          hole.at(f);
          hole.project(t, i, out);
          boolean inside =
              out[2] > 0
                  && out[0] >= 0
                  && out[0] <= trusted.picture().width()
                  && out[1] >= 0
                  && out[1] <= trusted.picture().height();
          if (inside) {
            b.add(t.names().get(i), f, out[0], out[1]);
          }
        }
      }
    }
    return b.build();
  }
}
