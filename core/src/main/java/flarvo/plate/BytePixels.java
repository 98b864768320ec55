package flarvo.plate;

import flarvo.scene.Luma;
import java.awt.color.ColorSpace;
import java.awt.image.BufferedImage;
import java.awt.image.ComponentColorModel;
import java.awt.image.DataBuffer;
import java.awt.image.DataBufferByte;
import java.awt.image.PixelInterleavedSampleModel;
import java.io.IOException;
import java.util.Iterator;
import javax.imageio.ImageReadParam;
import javax.imageio.ImageReader;
import javax.imageio.ImageTypeSpecifier;

/**
 * Pictures of three sRGB bytes a pixel, as most plates are: read without turning each pixel round,
 * and without being drawn into another picture first.
 */
final class BytePixels {

  private static final int COLOURS = 3;

  private static final ImageTypeSpecifier RGB =
      ImageTypeSpecifier.createInterleaved(
          ColorSpace.getInstance(ColorSpace.CS_sRGB),
          new int[] {0, 1, 2},
          DataBuffer.TYPE_BYTE,
          false,
          false);

  private final byte[] data;
  private final int[] at; // offsets of red, green and blue
  private final int stride;
  private final int width;
  private final int height;

  private BytePixels(BufferedImage image) {
    PixelInterleavedSampleModel m = (PixelInterleavedSampleModel) image.getSampleModel();
    data = ((DataBufferByte) image.getRaster().getDataBuffer()).getData();
    at = m.getBandOffsets();
    stride = m.getScanlineStride();
    width = image.getWidth();
    height = image.getHeight();
  }

  /**
   * Decodes a picture. A JPEG holds red, green and blue in this order; left to itself, Java turns
   * each of its pixels round, to blue, green and red.
   */
  static BufferedImage read(ImageReader reader) throws IOException {
    Iterator<ImageTypeSpecifier> types = reader.getImageTypes(0);
    boolean turns =
        reader.getFormatName().equalsIgnoreCase("jpeg")
            && types.hasNext()
            && types.next().getBufferedImageType() == BufferedImage.TYPE_3BYTE_BGR;
    if (!turns) {
      return reader.read(0);
    }
    ImageReadParam p = reader.getDefaultReadParam();
    p.setDestination(RGB.createBufferedImage(reader.getWidth(0), reader.getHeight(0)));
    return reader.read(0, p);
  }

  /** Whether a picture has such pixels, in whatever order. */
  static boolean are(BufferedImage image) {
    return image.getColorModel() instanceof ComponentColorModel c
        && c.getColorSpace().isCS_sRGB()
        && c.getNumComponents() == COLOURS
        && image.getSampleModel() instanceof PixelInterleavedSampleModel m
        && m.getTransferType() == DataBuffer.TYPE_BYTE
        && m.getPixelStride() == COLOURS
        && image.getRaster().getDataBuffer().getOffset() == 0
        && image.getRaster().getParent() == null;
  }

  /** Pixels as numbers of alpha, red, green and blue, all opaque. */
  static PlateImage argb(BufferedImage image) {
    BytePixels p = new BytePixels(image);
    int[] out = new int[p.width * p.height];
    for (int y = 0, i = 0; y < p.height; y++) {
      int red = y * p.stride + p.at[0];
      int green = y * p.stride + p.at[1];
      int blue = y * p.stride + p.at[2];
      for (int x = 0; x < COLOURS * p.width; x += COLOURS, i++) {
        out[i] =
            0xFF000000
                | (p.data[red + x] & 255) << 16
                | (p.data[green + x] & 255) << 8
                | p.data[blue + x] & 255;
      }
    }
    return new PlateImage(p.width, p.height, out);
  }

  /**
   * A weighted sum of the three.
   *
   * @return 0 to 255, where the weights sum up to one
   */
  static Luma luma(BufferedImage image, float red, float green, float blue) {
    BytePixels p = new BytePixels(image);
    float[] reds = new float[256];
    float[] greens = new float[256];
    float[] blues = new float[256];
    for (int v = 0; v < 256; v++) {
      reds[v] = red * v;
      greens[v] = green * v;
      blues[v] = blue * v;
    }
    float[] out = new float[p.width * p.height];
    for (int y = 0, i = 0; y < p.height; y++) {
      int r = y * p.stride + p.at[0];
      int g = y * p.stride + p.at[1];
      int b = y * p.stride + p.at[2];
      for (int x = 0; x < COLOURS * p.width; x += COLOURS, i++) {
        out[i] =
            reds[p.data[r + x] & 255] + greens[p.data[g + x] & 255] + blues[p.data[b + x] & 255];
      }
    }
    return new Luma(p.width, p.height, out);
  }
}
