package flarvo.plate;

import flarvo.plate.remap.Light;
import flarvo.report.InputError;
import flarvo.scene.Inset;
import flarvo.scene.Luma;
import flarvo.scene.PlateSequence;
import java.awt.image.DataBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/**
 * A plate's brightness, for what searches in it: weights of Rec. 601, 0 to 255, as encoded for the
 * eye. Pictures of more than 8 bits keep what lies between; linear ones are encoded as sRGB, so
 * that their dark parts have detail too, and what is brighter than white goes on above 255.
 */
public final class PlateLuma {

  private static final float RED = 0.299f;
  private static final float GREEN = 0.587f;
  private static final float BLUE = 0.114f;

  /** Linear; a lamp that is brighter must not outweigh all that is round it. */
  private static final float BRIGHTEST = 8;

  private static final int ASKED = 3;

  private PlateLuma() {}

  /** Empty for a frame that is not there or cannot be read. */
  public static Optional<Luma> of(PlateSequence plates, int frame) {
    if (!plates.frames().contains(frame) || plates.missing().contains(frame)) {
      return Optional.empty();
    }
    try {
      Luma whole = whole(plates.file(frame));
      return Optional.of(plates.inner().map(p -> within(whole, p)).orElse(whole));
    } catch (InputError e) {
      return Optional.empty(); // a plate that cannot be read is a frame without a mark
    }
  }

  /**
   * Asks whether plates can be read at all, so that the cause is told where they cannot: of frames
   * that are missing one by one {@link #of} says nothing.
   *
   * @throws InputError when none of the first few that are there can be read, with the cause
   */
  public static void requireReadable(PlateSequence plates) {
    InputError first = null;
    int asked = 0;
    for (int f = plates.frames().first(); f <= plates.frames().last() && asked < ASKED; f++) {
      if (Files.exists(plates.file(f))) {
        asked++;
        try {
          whole(plates.file(f));
          return;
        } catch (InputError e) {
          first = first == null ? e : first;
        }
      }
    }
    if (first != null) {
      throw first;
    }
  }

  private static Luma whole(Path file) {
    if (!PlateReader.isExr(file)) {
      return PlateReader.withPixels(
          file,
          image -> {
            if (BytePixels.are(image)) {
              return BytePixels.luma(image, RED, GREEN, BLUE);
            }
            int type = image.getRaster().getTransferType();
            boolean fine = type == DataBuffer.TYPE_USHORT || type == DataBuffer.TYPE_FLOAT;
            return fine ? of(RasterReader.of(file, image)) : of(PlateReader.toArgb(image));
          });
    }
    Raster r = RasterReader.read(file);
    boolean named = r.channel("Y") >= 0 || r.channel("G") >= 0;
    return named ? of(r) : of(PlateReader.read(file));
  }

  private static Luma of(PlateImage image) {
    int[] argb = image.argb();
    float[] luma = new float[argb.length];
    for (int i = 0; i < argb.length; i++) {
      int c = argb[i];
      luma[i] = RED * (c >> 16 & 255) + GREEN * (c >> 8 & 255) + BLUE * (c & 255);
    }
    return new Luma(image.width(), image.height(), luma);
  }

  private static Luma of(Raster r) {
    int grey = r.channel("Y");
    int red = grey >= 0 ? grey : r.channel("R");
    int green = grey >= 0 ? grey : r.channel("G");
    int blue = grey >= 0 ? grey : r.channel("B");
    boolean linear = r.kind().isFloating();
    int n = r.channels().size();
    float[] v = r.values();
    float[] luma = new float[r.width() * r.height()];
    for (int i = 0, at = 0; i < luma.length; i++, at += n) {
      luma[i] =
          255
              * (RED * shown(v, at, red, linear)
                  + GREEN * shown(v, at, green, linear)
                  + BLUE * shown(v, at, blue, linear));
    }
    return new Luma(r.width(), r.height(), luma);
  }

  /** A code value; of a channel that is not there, none. What is no number is dark. */
  private static float shown(float[] v, int at, int channel, boolean linear) {
    float x = channel < 0 ? 0 : v[at + channel];
    if (!linear) {
      return x;
    }
    return x > 0 ? Light.encoded(Math.min(x, BRIGHTEST)) : 0;
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
  private static Luma within(Luma all, Inset inset) {
    int w = inset.picture().width();
    int h = inset.picture().height();
    double left = inset.left();
    double top = inset.top();
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
