package flarvo.plate;

import flarvo.plate.tag.Alpha;
import flarvo.plate.tag.HeadStream;
import flarvo.plate.tag.JpegTags;
import flarvo.plate.tag.PlateTags;
import flarvo.plate.tag.PngTags;
import flarvo.plate.tag.TagHome;
import flarvo.plate.tag.TiffTags;
import flarvo.report.InputError;
import flarvo.work.AtomicFile;
import java.awt.Point;
import java.awt.color.ColorSpace;
import java.awt.image.BufferedImage;
import java.awt.image.ComponentColorModel;
import java.awt.image.DataBuffer;
import java.awt.image.DataBufferByte;
import java.awt.image.DataBufferFloat;
import java.awt.image.DataBufferUShort;
import java.awt.image.PixelInterleavedSampleModel;
import java.awt.image.WritableRaster;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageTypeSpecifier;
import javax.imageio.ImageWriteParam;
import javax.imageio.ImageWriter;
import javax.imageio.metadata.IIOMetadata;
import javax.imageio.stream.ImageOutputStream;

/**
 * Writes whole pictures; the format follows from the name's ending. Tags that the format holds are
 * written too; the others are {@link PlateTags#notIn}.
 */
public final class RasterWriter {

  private static final float JPEG_QUALITY = 0.95f;

  private static final Map<String, Set<SampleKind>> KINDS =
      Map.of(
          "jpg", Set.of(SampleKind.BYTE),
          "png", Set.of(SampleKind.BYTE, SampleKind.SHORT),
          "tif", Set.of(SampleKind.BYTE, SampleKind.SHORT, SampleKind.FLOAT),
          "exr", Set.of(SampleKind.HALF, SampleKind.FLOAT));

  private RasterWriter() {}

  /**
   * What a format stores of what is asked for: the same where it can, else the nearest it has.
   *
   * @throws InputError when the name's ending is not that of a picture
   */
  public static SampleKind kindFor(String name, SampleKind asked) {
    Set<SampleKind> can = KINDS.get(format(name));
    return can.contains(asked)
        ? asked
        : List.of(SampleKind.HALF, SampleKind.SHORT, SampleKind.BYTE, SampleKind.FLOAT).stream()
            .filter(can::contains)
            .findFirst()
            .orElseThrow();
  }

  private static String format(String name) {
    String n = name.toLowerCase(Locale.ROOT);
    String f = n.substring(n.lastIndexOf('.') + 1);
    String known = f.equals("jpeg") ? "jpg" : f.equals("tiff") ? "tif" : f;
    if (!KINDS.containsKey(known)) {
      throw new InputError(
          name, "", "not the name of a picture", "Names end in .jpg, .png, .tif or .exr");
    }
    return known;
  }

  /**
   * Writes a picture whole or not at all, its alpha in the way of the format; TIFF keeps both.
   *
   * @throws InputError when the format cannot hold it, or the disk refuses
   */
  public static void write(Raster r, Path file) {
    String format = format(file.getFileName().toString());
    if (!KINDS.get(format).contains(r.kind())) {
      throw new InputError(
          file.toString(), "", format + " stores no numbers of " + r.kind().code(), "");
    }
    TagHome home = TagHome.ofName(file.getFileName().toString());
    Raster kept = AlphaChange.to(home.alpha(r.tags().alpha()), r);
    if (format.equals("exr")) {
      AtomicFile.write(file, out -> ExrWriter.write(kept, out));
    } else {
      AtomicFile.write(file, out -> write(kept, format, out));
    }
  }

  private static void write(Raster r, String format, OutputStream to) throws IOException {
    Raster kept = format.equals("jpg") ? withoutAlpha(r) : r;
    BufferedImage image = image(kept);
    PlateTags tags = r.tags();
    ImageWriter w =
        ImageIO.getImageWritersByFormatName(format.equals("tif") ? "tiff" : format).next();
    OutputStream tagged =
        switch (format) {
          case "png" ->
              new HeadStream(to, PngTags.HEAD, head -> joined(head, PngTags.chunks(tags)));
          case "jpg" -> new HeadStream(to, JpegTags.HEAD, head -> JpegTags.head(head, tags));
          default -> to;
        };
    try (ImageOutputStream out = ImageIO.createImageOutputStream(tagged)) {
      ImageWriteParam p = w.getDefaultWriteParam();
      IIOMetadata fields = null;
      if (format.equals("jpg")) {
        p.setCompressionMode(ImageWriteParam.MODE_EXPLICIT);
        p.setCompressionQuality(JPEG_QUALITY);
      } else if (format.equals("tif")) {
        p.setCompressionMode(ImageWriteParam.MODE_EXPLICIT);
        p.setCompressionType("ZLib");
        IIOMetadata given =
            w.getDefaultImageMetadata(ImageTypeSpecifier.createFromRenderedImage(image), p);
        fields = TiffTags.metadata(given, tags);
      }
      w.setOutput(out);
      w.write(null, new IIOImage(image, null, fields), p);
    } finally {
      w.dispose();
    }
  }

  private static byte[] joined(byte[] a, byte[] b) {
    byte[] out = Arrays.copyOf(a, a.length + b.length);
    System.arraycopy(b, 0, out, a.length, b.length);
    return out;
  }

  private static Raster withoutAlpha(Raster r) {
    int a = r.channel("A");
    if (a < 0) {
      return r;
    }
    int n = r.channels().size();
    float[] v = new float[r.values().length / n * (n - 1)];
    for (int i = 0, k = 0; i < r.values().length; i++) {
      if (i % n != a) {
        v[k++] = r.values()[i];
      }
    }
    List<String> rest = r.channels().stream().filter(c -> !c.equals("A")).toList();
    return new Raster(r.width(), r.height(), rest, r.kind(), v, r.tags());
  }

  private static BufferedImage image(Raster r) {
    int n = r.channels().size();
    int type =
        switch (r.kind()) {
          case BYTE -> DataBuffer.TYPE_BYTE;
          case SHORT -> DataBuffer.TYPE_USHORT;
          default -> DataBuffer.TYPE_FLOAT;
        };
    boolean alpha = r.channel("A") >= 0;
    boolean multiplied = alpha && r.tags().alpha() == Alpha.MULTIPLIED;
    ComponentColorModel model =
        new ComponentColorModel(
            ColorSpace.getInstance(n < 3 ? ColorSpace.CS_GRAY : ColorSpace.CS_sRGB),
            alpha,
            multiplied,
            alpha ? ComponentColorModel.TRANSLUCENT : ComponentColorModel.OPAQUE,
            type);
    PixelInterleavedSampleModel samples =
        new PixelInterleavedSampleModel(
            type, r.width(), r.height(), n, n * r.width(), IntStream.range(0, n).toArray());
    WritableRaster raster =
        java.awt.image.Raster.createWritableRaster(samples, buffer(r, type), new Point());
    return new BufferedImage(model, raster, multiplied, null);
  }

  private static DataBuffer buffer(Raster r, int type) {
    float[] v = r.values();
    if (type == DataBuffer.TYPE_FLOAT) {
      return new DataBufferFloat(v, v.length);
    }
    if (type == DataBuffer.TYPE_USHORT) {
      short[] s = new short[v.length];
      for (int i = 0; i < v.length; i++) {
        s[i] = (short) rounded(v[i], 65535);
      }
      return new DataBufferUShort(s, s.length);
    }
    byte[] b = new byte[v.length];
    for (int i = 0; i < v.length; i++) {
      b[i] = (byte) rounded(v[i], 255);
    }
    return new DataBufferByte(b, b.length);
  }

  private static int rounded(float v, int most) {
    float s = v * most + 0.5f;
    return s >= most ? most : s > 0 ? (int) s : 0;
  }
}
