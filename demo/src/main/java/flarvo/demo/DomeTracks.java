package flarvo.demo;

import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.Random;

/**
 * Tracks of the pan: seams of the dome and what stands before it. A camera that only turns sees no
 * depth, so the solve puts every tracker equally far away, on its ray.
 */
final class DomeTracks {

  /** How far a solve without depth puts its trackers, in its own metres. */
  static final double SPHERE_METRES = 10;

  private static final long SEED = 20_261_020L;

  private DomeTracks() {}

  static FeatureTracks.Tracks make() {
    FeatureTracks tracks = new FeatureTracks(DomeTruth.SHOT, new Random(SEED), 0);
    for (int seam = 1; seam < 12; seam++) {
      for (int ring = 0; ring <= 6; ring++) {
        tracks.feature(TerraceScene.onDome(seam * Math.PI / 12, ring / 5.0));
      }
      for (int band = 1; band <= 3; band++) {
        double a = seam * Math.PI / 12;
        tracks.feature(
            new Vec3(
                TerraceScene.DOME_X + TerraceScene.DOME_RADIUS * StrictMath.cos(a),
                band / 1.6,
                TerraceScene.DOME_Z + TerraceScene.DOME_RADIUS * StrictMath.sin(a)));
      }
    }
    TerraceScene.tops().forEach(tracks::feature);
    FeatureTracks.Tracks t = tracks.made();
    return new FeatureTracks.Tracks(t.observations(), onSphere(t.solved()), t.truth());
  }

  private static TrackerSet onSphere(TrackerSet t) {
    Vec3 eye = DomeTruth.SHOT.poseAt(0).position();
    double[] xyz = new double[3 * t.size()];
    for (int i = 0; i < t.size(); i++) {
      Vec3 p = eye.plus(t.position(i).minus(eye).normalized().times(SPHERE_METRES));
      xyz[3 * i] = p.x();
      xyz[3 * i + 1] = p.y();
      xyz[3 * i + 2] = p.z();
    }
    return TrackerSet.of(t.name(), t.names(), xyz);
  }
}
