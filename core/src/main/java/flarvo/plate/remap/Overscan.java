package flarvo.plate.remap;

import flarvo.lens.LensMapper;
import flarvo.lens.LensTrack;
import flarvo.scene.Inset;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;

/**
 * Which part an undistorted picture shows: more than the original, or less.
 *
 * @param original size of the original
 * @param width of the undistorted picture
 * @param height of the undistorted picture
 * @param left pixels of it at the left of the original's left edge; below zero where it begins
 *     within
 * @param top pixels of it above the original's top edge, likewise
 */
public record Overscan(PictureSize original, int width, int height, double left, double top) {

  /** A picture four times as wide is a lens that folds, not an overscan. */
  private static final double MOST = 4;

  public Overscan {
    if (width < 1 || height < 1) {
      throw new IllegalArgumentException("the undistorted picture has no pixels");
    }
  }

  /** On all sides alike: by half a pixel more where the difference is odd. */
  public Overscan(PictureSize original, int width, int height) {
    this(
        original,
        width,
        height,
        (width - original.width()) / 2.0,
        (height - original.height()) / 2.0);
  }

  /** That of undistorted plates; on all sides alike where it was not said where they lie. */
  public static Overscan of(PictureSize original, PlateSequence plates) {
    PlateSequence p = plates.placed(original);
    return new Overscan(
        original, p.size().width(), p.size().height(), p.overscanX(), p.overscanY());
  }

  /** The undistorted picture as large as the original. */
  public static Overscan none(PictureSize original) {
    return new Overscan(original, original.width(), original.height());
  }

  /**
   * As large as it takes to hold every pixel of the original; never smaller than the original.
   *
   * @throws IllegalArgumentException when the lens folds within the picture, or it would be more
   *     than four times as wide or high
   */
  public static Overscan fit(LensMapper lens) {
    PictureSize p = lens.picture();
    double x = p.width() / 2.0;
    double y = p.height() / 2.0;
    double[] out = new double[2];
    int n = 2 * (p.width() + p.height());
    for (int i = 0; i <= n; i++) {
      double[] at = border(p, i);
      if (!lens.toUndistorted(at[0], at[1], out)) {
        throw new IllegalArgumentException(
            "the lens folds over within the picture; no overscan holds all of it");
      }
      x = Math.max(x, Math.abs(out[0] - p.width() / 2.0));
      y = Math.max(y, Math.abs(out[1] - p.height() / 2.0));
    }
    if (x > MOST * p.width() / 2 || y > MOST * p.height() / 2) {
      throw new IllegalArgumentException(
          "the undistorted picture would be more than four times as large");
    }
    // Pairs of pixels, so that the centre stays where it is. The last digits are the lens's.
    int w = p.width() + 2 * (int) Math.ceil(x - p.width() / 2.0 - 1e-6);
    int h = p.height() + 2 * (int) Math.ceil(y - p.height() / 2.0 - 1e-6);
    return new Overscan(p, w, h);
  }

  /** One size for all frames of a lens, the largest of them; as {@link #fit(LensMapper)}. */
  public static Overscan fit(LensTrack lens, PictureSize picture) {
    Overscan most = fit(lens.base().on(picture));
    for (int frame : lens.keys().keySet()) {
      Overscan o = fit(lens.at(frame).on(picture));
      int w = Math.max(most.width, o.width);
      most = new Overscan(picture, w, Math.max(most.height, o.height));
    }
    return most;
  }

  private static double[] border(PictureSize p, int i) {
    int w = p.width();
    int h = p.height();
    if (i <= w) {
      return new double[] {i, 0};
    }
    if (i <= 2 * w) {
      return new double[] {i - w, h};
    }
    int k = i - 2 * w;
    return k <= h ? new double[] {0, k} : new double[] {w, k - h};
  }

  /** Whether it is the same on all sides. */
  public boolean isCentred() {
    return equals(new Overscan(original, width, height));
  }

  /** Where the original lies in it. */
  public Inset inset() {
    return new Inset(original, left, top);
  }

  /** Size of the undistorted picture, with the pixel aspect of the original. */
  public PictureSize size() {
    return new PictureSize(width, height, original.pixelAspect());
  }

  /**
   * The camera's optics over the undistorted picture: a film back that grows with the picture, at
   * the same focal length, round a principal point that stays on its pixel.
   */
  public Optics optics(Optics o) {
    return o.over(original, size(), left, top);
  }

  /** Whether it is as large as the original. */
  public boolean isNone() {
    return inset().equals(new Inset(size(), 0, 0));
  }
}
