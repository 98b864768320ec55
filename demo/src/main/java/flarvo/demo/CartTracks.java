package flarvo.demo;

import java.util.Random;

/** Tracks of the cart, on the cart alone. */
final class CartTracks {

  private static final long SEED = 20_261_030L;
  private static final double POINT_NOISE = 0.0004;

  private CartTracks() {}

  static FeatureTracks.Tracks make() {
    FeatureTracks tracks = new FeatureTracks(CartTruth.SHOT, new Random(SEED), POINT_NOISE);
    Cart.features().forEach(tracks::feature);
    return tracks.made();
  }
}
