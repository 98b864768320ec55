package flarvo.vet;

import flarvo.lens.BrownConrady;
import flarvo.lens.Lens;
import flarvo.lens.Normalisation;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.PixelIntrinsics;
import flarvo.scene.ShotCamera;
import java.util.Optional;

/**
 * What is left of a lens after the plate was undistorted: three radial terms of the distance from
 * the principal point, counted in focal lengths ({@code ρ}). What was seen lies at {@code 1 + k1 ρ²
 * + k2 ρ⁴ + k3 ρ⁶} times where a pinhole would see it.
 */
public record ResidualDistortion(double k1, double k2, double k3) {

  public static final ResidualDistortion NONE = new ResidualDistortion(0, 0, 0);

  /** Steps of the inverse; each gains several digits for the small terms that are left here. */
  private static final int STEPS = 20;

  public ResidualDistortion {
    if (!Double.isFinite(k1) || !Double.isFinite(k2) || !Double.isFinite(k3)) {
      throw new IllegalArgumentException("lens terms must be finite");
    }
  }

  /** These terms on top of others, as where a refined solve is refined again. */
  public ResidualDistortion plus(ResidualDistortion o) {
    return new ResidualDistortion(k1 + o.k1, k2 + o.k2, k3 + o.k3);
  }

  /**
   * The same bend in the picture, counted in other focal lengths.
   *
   * @param factor how many times as long these are
   */
  public ResidualDistortion inFocalLengths(double factor) {
    double s = factor * factor;
    return new ResidualDistortion(k1 * s, k2 * s * s, k3 * s * s * s);
  }

  /**
   * The same as a lens of the original plates, for tracks that lie on these: it counts in focal
   * lengths of the first frame from its principal point. Empty where nothing is left.
   */
  public Optional<Lens> lens(ShotCamera camera, PictureSize picture) {
    if (equals(NONE)) {
      return Optional.empty();
    }
    Optics o = camera.optics().at(camera.frames().first());
    PixelIntrinsics k = PixelIntrinsics.of(o, picture);
    return Optional.of(
        new Lens(
            new BrownConrady(k1, k2, 0, 0, k3, 0, 0, 0),
            Normalisation.FOCAL_LENGTH,
            k.cx() / picture.width(),
            k.cy() / picture.height(),
            o.focalLengthMm() / o.filmWidthMm()));
  }

  /** Tracks as a pinhole would have seen them; the same object where nothing is left. */
  public Observations straightened(Observations o, ShotCamera camera, PictureSize picture) {
    if (equals(NONE)) {
      return o;
    }
    FrameRange frames = camera.frames();
    Observations.Builder out = new Observations.Builder();
    double[] p = new double[2];
    for (String name : o.names()) {
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        p[0] = o.x(row);
        p[1] = o.y(row);
        if (frames.contains(o.frame(row))) {
          straighten(p, camera.optics().at(o.frame(row)), picture);
        }
        out.add(name, o.frame(row), p[0], p[1]);
      }
    }
    return out.build();
  }

  private void straighten(double[] p, Optics o, PictureSize picture) {
    PixelIntrinsics k = PixelIntrinsics.of(o, picture);
    double xd = (p[0] - k.cx()) / k.fx();
    double yd = (p[1] - k.cy()) / k.fy();
    double x = xd;
    double y = yd;
    for (int i = 0; i < STEPS; i++) {
      double rr = x * x + y * y;
      double g = 1 + rr * (k1 + rr * (k2 + rr * k3));
      if (!(g > 0.1)) {
        return; // beyond where these terms mean anything
      }
      x = xd / g;
      y = yd / g;
    }
    p[0] = k.cx() + k.fx() * x;
    p[1] = k.cy() + k.fy() * y;
  }
}
