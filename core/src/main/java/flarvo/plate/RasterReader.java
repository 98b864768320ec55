package flarvo.plate;

import flarvo.plate.tag.Alpha;
import flarvo.plate.tag.PictureTags;
import flarvo.plate.tag.PlateTags;
import flarvo.report.InputError;
import java.awt.AlphaComposite;
import java.awt.Graphics2D;
import java.awt.image.BufferedImage;
import java.awt.image.ColorModel;
import java.awt.image.DataBuffer;
import java.awt.image.DataBufferByte;
import java.awt.image.IndexColorModel;
import java.awt.image.PixelInterleavedSampleModel;
import java.awt.image.WritableRaster;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;

/** Reads whole pictures as numbers, at the depth that the file has. */
public final class RasterReader {

  private static final List<List<String>> CHANNELS =
      List.of(List.of("Y"), List.of("Y", "A"), List.of("R", "G", "B"), List.of("R", "G", "B", "A"));

  private RasterReader() {}

  /**
   * Reads JPEG, PNG, TIFF or OpenEXR.
   *
   * @throws InputError when it cannot be read, with the cause
   */
  public static Raster read(Path file) {
    if (PlateReader.isExr(file)) {
      return ExrRaster.read(file);
    }
    double aspect = PlateReader.header(file).size().pixelAspect();
    Raster r = PlateReader.withPixels(file, image -> of(file, image));
    try {
      return r.with(new PlateTags(aspect, r.tags().alpha(), PictureTags.read(file)));
    } catch (IOException e) {
      throw new InputError(file.toString(), "", "the picture cannot be read", "", e);
    }
  }

  /** Numbers of a decoded picture; its pixel aspect and what it says are not known here. */
  static Raster of(Path file, BufferedImage image) {
    BufferedImage plain = plain(image);
    WritableRaster from = plain.getRaster();
    int bands = from.getNumBands();
    if (bands > CHANNELS.size()) {
      throw new InputError(
          file.toString(), "", bands + " channels are not supported", "Write it as OpenEXR");
    }
    int type = from.getTransferType();
    SampleKind kind =
        switch (type) {
          case DataBuffer.TYPE_BYTE -> SampleKind.BYTE;
          case DataBuffer.TYPE_USHORT -> SampleKind.SHORT;
          case DataBuffer.TYPE_FLOAT -> SampleKind.FLOAT;
          default ->
              throw new InputError(
                  file.toString(),
                  "",
                  "numbers of this kind are not supported",
                  "Supported: 8 and 16 bit, and 32 bit float");
        };
    int w = plain.getWidth();
    int h = plain.getHeight();
    float[] values = new float[Math.toIntExact((long) w * h * bands)];
    if (kind == SampleKind.BYTE && from.getSampleModel() instanceof PixelInterleavedSampleModel m) {
      bytes(from, m, values);
    } else {
      from.getPixels(0, 0, w, h, values);
      if (!kind.isFloating()) {
        float most = (1L << bits(plain.getColorModel(), kind)) - 1;
        for (int i = 0; i < values.length; i++) {
          values[i] /= most;
        }
      }
    }
    Alpha alpha =
        bands % 2 == 1
            ? Alpha.NONE
            : plain.isAlphaPremultiplied() ? Alpha.MULTIPLIED : Alpha.STRAIGHT;
    return new Raster(w, h, CHANNELS.get(bands - 1), kind, values, PlateTags.NONE.with(alpha));
  }

  private static int bits(ColorModel model, SampleKind kind) {
    return Math.min(kind.bits(), Arrays.stream(model.getComponentSize()).max().orElse(8));
  }

  /** The usual case, without a call for each row. */
  private static void bytes(WritableRaster from, PixelInterleavedSampleModel m, float[] values) {
    float[] scaled = new float[256];
    for (int i = 0; i < 256; i++) {
      scaled[i] = i / 255f;
    }
    byte[] data = ((DataBufferByte) from.getDataBuffer()).getData();
    int[] offsets = m.getBandOffsets();
    int first = from.getDataBuffer().getOffset();
    int w = from.getWidth();
    int bands = offsets.length;
    for (int y = 0, i = 0; y < from.getHeight(); y++) {
      int row =
          first
              + (y - from.getSampleModelTranslateY()) * m.getScanlineStride()
              - from.getSampleModelTranslateX() * m.getPixelStride();
      for (int x = 0; x < w; x++, row += m.getPixelStride()) {
        for (int b = 0; b < bands; b++) {
          values[i++] = scaled[data[row + offsets[b]] & 255];
        }
      }
    }
  }

  /** Palettes become one number a channel. */
  private static BufferedImage plain(BufferedImage image) {
    if (!(image.getColorModel() instanceof IndexColorModel m)) {
      return image;
    }
    BufferedImage out =
        new BufferedImage(
            image.getWidth(),
            image.getHeight(),
            m.hasAlpha() ? BufferedImage.TYPE_4BYTE_ABGR : BufferedImage.TYPE_3BYTE_BGR);
    Graphics2D g = out.createGraphics();
    g.setComposite(AlphaComposite.Src);
    g.drawImage(image, 0, 0, null);
    g.dispose();
    return out;
  }
}
