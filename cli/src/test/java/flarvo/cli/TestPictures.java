package flarvo.cli;

import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import javax.imageio.ImageIO;

/** Black pictures of each kind that plates come in. */
final class TestPictures {

  private TestPictures() {}

  static void write(Path file, int width, int height) throws IOException {
    String name = file.getFileName().toString();
    String kind = name.substring(name.lastIndexOf('.') + 1);
    if (kind.equals("exr")) {
      Files.write(file, exr(width, height));
    } else {
      BufferedImage black = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
      if (!ImageIO.write(black, kind.equals("tif") ? "tiff" : kind, file.toFile())) {
        throw new IOException("no writer of " + kind);
      }
    }
  }

  /** Uncompressed, one half channel each of blue, green and red, by the open standard's layout. */
  private static byte[] exr(int width, int height) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ints(out, 20000630, 2);
    ByteArrayOutputStream channels = new ByteArrayOutputStream();
    for (String c : new String[] {"B", "G", "R"}) {
      text(channels, c);
      ints(channels, 1, 0, 1, 1);
    }
    channels.write(0);
    attribute(out, "channels", "chlist", channels.toByteArray());
    attribute(out, "compression", "compression", new byte[1]);
    byte[] box = packed(0, 0, width - 1, height - 1);
    attribute(out, "dataWindow", "box2i", box);
    attribute(out, "displayWindow", "box2i", box);
    attribute(out, "lineOrder", "lineOrder", new byte[1]);
    attribute(out, "pixelAspectRatio", "float", packed(Float.floatToIntBits(1)));
    attribute(out, "screenWindowCenter", "v2f", packed(0, 0));
    attribute(out, "screenWindowWidth", "float", packed(Float.floatToIntBits(1)));
    out.write(0);
    int line = 8 + 3 * 2 * width;
    long first = out.size() + 8L * height;
    for (int y = 0; y < height; y++) {
      long at = first + (long) y * line;
      ints(out, (int) at, (int) (at >>> 32));
    }
    for (int y = 0; y < height; y++) {
      ints(out, y, 3 * 2 * width);
      out.writeBytes(new byte[3 * 2 * width]);
    }
    return out.toByteArray();
  }

  private static void attribute(ByteArrayOutputStream out, String name, String type, byte[] value) {
    text(out, name);
    text(out, type);
    ints(out, value.length);
    out.writeBytes(value);
  }

  private static void text(ByteArrayOutputStream out, String s) {
    out.writeBytes(s.getBytes(StandardCharsets.US_ASCII));
    out.write(0);
  }

  private static byte[] packed(int... values) {
    ByteBuffer b = ByteBuffer.allocate(4 * values.length).order(ByteOrder.LITTLE_ENDIAN);
    for (int v : values) {
      b.putInt(v);
    }
    return b.array();
  }

  private static void ints(ByteArrayOutputStream out, int... values) {
    out.writeBytes(packed(values));
  }
}
