package flarvo.demo;

import flarvo.scene.Vec3;
import java.util.Random;

/** Tracks of the two carts and of the terrace behind them, each for a solve of its own. */
final class CartsTracks {

  private static final double POINT_NOISE = 0.0005;

  private CartsTracks() {}

  static FeatureTracks.Tracks terrace() {
    FeatureTracks tracks = new FeatureTracks(CartsTruth.SHOT, new Random(50_001), POINT_NOISE);
    double side = TerraceTruth.FLAGSTONE_METRES;
    for (int i = -5; i <= 5; i++) {
      for (int j = -5; j <= 4; j++) {
        tracks.feature(new Vec3(i * side, 0, j * side));
      }
    }
    TerraceScene.tops().forEach(tracks::feature);
    return tracks.made();
  }

  static FeatureTracks.Tracks of(CartsTruth cart, long seed) {
    FeatureTracks tracks = new FeatureTracks(cart, new Random(seed), POINT_NOISE);
    Cart.features().forEach(tracks::feature);
    return tracks.made();
  }

  static FeatureTracks.Tracks near() {
    return of(CartsTruth.NEAR, 50_002);
  }

  static FeatureTracks.Tracks far() {
    return of(CartsTruth.FAR, 50_003);
  }
}
