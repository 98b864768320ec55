package flarvo.lens.fit;

import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.scene.PictureSize;

/** How far a lens puts undistorted points from where they stand in the original, in its pixels. */
final class PairResiduals implements LensSolver.Residuals {

  private final double[] original;
  private final double[] straight;
  private final PictureSize picture;

  PairResiduals(double[] original, double[] straight, PictureSize picture) {
    this.original = original;
    this.straight = straight;
    this.picture = picture;
  }

  @Override
  public int count() {
    return original.length;
  }

  @Override
  public boolean of(Lens lens, double[] out) {
    LensMapper m = lens.on(picture);
    double[] p = new double[2];
    for (int i = 0; i < original.length; i += 2) {
      if (!m.toOriginal(straight[i], straight[i + 1], p)) {
        return false;
      }
      out[i] = p[0] - original[i];
      out[i + 1] = p[1] - original[i + 1];
    }
    return true;
  }
}
