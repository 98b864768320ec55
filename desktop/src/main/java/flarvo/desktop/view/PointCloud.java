package flarvo.desktop.view;

import java.nio.IntBuffer;
import java.util.Arrays;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.PixelBuffer;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.paint.Color;

/** Very many points as pixels of one image, which costs a fraction of drawing each. */
public final class PointCloud {

  private IntBuffer pixels;
  private PixelBuffer<IntBuffer> buffer;
  private WritableImage image;
  private int width;
  private int height;

  void begin(int w, int h) {
    if (image == null || w != width || h != height) {
      width = Math.max(1, w);
      height = Math.max(1, h);
      pixels = IntBuffer.allocate(width * height);
      buffer = new PixelBuffer<>(width, height, pixels, PixelFormat.getIntArgbPreInstance());
      image = new WritableImage(buffer);
    }
    Arrays.fill(pixels.array(), 0);
  }

  static int argb(Color c) {
    return 0xFF000000
        | (int) (255 * c.getRed()) << 16
        | (int) (255 * c.getGreen()) << 8
        | (int) (255 * c.getBlue());
  }

  /** Two pixels by two. */
  void point(double x, double y, int argb) {
    int px = (int) x;
    int py = (int) y;
    if (px >= 0 && py >= 0 && px + 1 < width && py + 1 < height) {
      int at = py * width + px;
      int[] p = pixels.array();
      p[at] = argb;
      p[at + 1] = argb;
      p[at + width] = argb;
      p[at + width + 1] = argb;
    }
  }

  void draw(GraphicsContext g) {
    buffer.updateBuffer(b -> null);
    g.drawImage(image, 0, 0);
  }
}
