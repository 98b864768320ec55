package flarvo.plate;

import flarvo.report.InputError;
import flarvo.scene.Luma;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import java.util.Optional;

/** A plate's brightness, for what searches in it. Weights of Rec. 601, 0 to 255. */
public final class PlateLuma {

  private PlateLuma() {}

  /** Empty for a frame that is not there or cannot be read. */
  public static Optional<Luma> of(PlateSequence plates, int frame) {
    if (!plates.frames().contains(frame) || plates.missing().contains(frame)) {
      return Optional.empty();
    }
    try {
      PlateImage image = PlateReader.read(plates, frame);
      int[] argb = image.argb();
      float[] luma = new float[argb.length];
      for (int i = 0; i < argb.length; i++) {
        int c = argb[i];
        luma[i] = 0.299f * (c >> 16 & 255) + 0.587f * (c >> 8 & 255) + 0.114f * (c & 255);
      }
      Luma whole = new Luma(image.width(), image.height(), luma);
      return Optional.of(plates.inner().map(p -> within(whole, p)).orElse(whole));
    } catch (InputError e) {
      return Optional.empty(); // a plate that cannot be read is a frame without a mark
    }
  }

  /**
   * What a picture covers, from 0 to 255: its alpha. Empty for a frame that is not there, cannot be
   * read, or has no alpha.
   */
  public static Optional<Luma> alpha(PlateSequence plates, int frame) {
    if (!plates.frames().contains(frame) || plates.missing().contains(frame)) {
      return Optional.empty();
    }
    try {
      Raster r = RasterReader.read(plates.file(frame));
      int channel = r.channel("A");
      if (channel < 0) {
        return Optional.empty();
      }
      float[] out = new float[r.width() * r.height()];
      for (int i = 0; i < out.length; i++) {
        out[i] = 255 * r.at(i % r.width(), i / r.width(), channel);
      }
      Luma whole = new Luma(r.width(), r.height(), out);
      return Optional.of(plates.inner().map(p -> within(whole, p)).orElse(whole));
    } catch (InputError e) {
      return Optional.empty();
    }
  }

  /** The shot's picture without its overscan; between pixels where that is odd. */
  private static Luma within(Luma all, PictureSize picture) {
    int w = picture.width();
    int h = picture.height();
    double left = (all.width() - w) / 2.0;
    double top = (all.height() - h) / 2.0;
    float[] out = new float[w * h];
    for (int y = 0; y < h; y++) {
      for (int x = 0; x < w; x++) {
        out[y * w + x] = between(all, x + left, y + top);
      }
    }
    return new Luma(w, h, out);
  }

  private static float between(Luma l, double x, double y) {
    int x0 = clamp((int) Math.floor(x), l.width());
    int y0 = clamp((int) Math.floor(y), l.height());
    int x1 = clamp((int) Math.ceil(x), l.width());
    int y1 = clamp((int) Math.ceil(y), l.height());
    // An odd overscan is half a pixel on each side: all weights are a quarter, or all are one.
    return (l.at(x0, y0) + l.at(x1, y0) + l.at(x0, y1) + l.at(x1, y1)) / 4;
  }

  private static int clamp(int i, int n) {
    return Math.max(0, Math.min(n - 1, i));
  }
}
