package flarvo.demo;

import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import java.awt.image.BufferedImage;
import java.awt.image.DataBufferInt;

/** Renders plates through the true camera, with or without its lens, motion blur and grain. */
final class PlateRenderer {

  /** Samples of a pixel, across and down; each at a moment of its own. */
  private static final int SIDE = 2;

  /** Share of a frame during which the shutter is open. */
  private static final double SHUTTER = 0.35;

  private static final double EXPOSURE = 1.12;

  private PlateRenderer() {}

  static BufferedImage render(ShotTruth shot, int frame, boolean undistorted) {
    return render(shot, frame, undistorted, 1, SIDE, 1);
  }

  /**
   * @param grain its strength; 0 for none
   * @param side samples of a pixel, across and down
   * @param spread width of the square that a pixel gathers light from, pixels; 1 for a pixel alone,
   *     about 2.5 behind the lens, low-pass filter and colour filter of a camera
   */
  static BufferedImage render(
      ShotTruth shot, int frame, boolean undistorted, double grain, int side, double spread) {
    int samples = side * side;
    PictureSize size = ShotTruth.PICTURE;
    int w = size.width();
    int h = size.height();
    BufferedImage image = new BufferedImage(w, h, BufferedImage.TYPE_INT_RGB);
    int[] pixels = ((DataBufferInt) image.getRaster().getDataBuffer()).getData();
    TerraceScene[] scenes = new TerraceScene[samples];
    double[][] eyes = new double[samples][];
    double[][] rows = new double[samples][];
    double[] focals = new double[samples];
    for (int s = 0; s < samples; s++) {
      double moment = frame + ((s + 0.5) / samples - 0.5) * SHUTTER;
      Pose p = shot.poseAt(moment);
      scenes[s] = new TerraceScene().at(shot, moment);
      eyes[s] = new double[] {p.position().x(), p.position().y(), p.position().z()};
      rows[s] = p.rotation().toRows();
      scenes[s].from(eyes[s], rows[s]);
      Optics o = shot.opticsAt(moment);
      focals[s] = o.focalLengthMm() / o.filmWidthMm() * w;
    }
    Lens lens = shot.lens();
    double[] rgb = new double[3];
    for (int y = 0; y < h; y++) {
      for (int x = 0; x < w; x++) {
        rgb[0] = 0;
        rgb[1] = 0;
        rgb[2] = 0;
        for (int s = 0; s < samples; s++) {
          int column = s % side;
          int row = s / side;
          double across = (column + 0.5 + (Texture.hash(x, y, s) - 0.5) * 0.8) / side - 0.5;
          double down = (row + 0.5 + (Texture.hash(y, x, s) - 0.5) * 0.8) / side - 0.5;
          double sx = x + 0.5 + spread * across;
          double sy = y + 0.5 + spread * down;
          double cx = sx - w / 2.0;
          double cy = sy - h / 2.0;
          if (!undistorted) {
            double half = w / 2.0;
            double k = lens.factor((cx * cx + cy * cy) / (half * half));
            cx *= k;
            cy *= k;
          }
          double lx = cx / focals[s];
          double ly = -cy / focals[s];
          ray(scenes[s], eyes[s], rows[s], lx, ly, x, y, s, 1.0 / samples, rgb);
        }
        pixels[y * w + x] = pixel(rgb, x, y, frame, grain);
      }
    }
    return image;
  }

  private static void ray(
      TerraceScene scene,
      double[] eye,
      double[] m,
      double lx,
      double ly,
      int x,
      int y,
      int s,
      double weight,
      double[] rgb) {
    double dx = m[0] * lx + m[1] * ly - m[2];
    double dy = m[3] * lx + m[4] * ly - m[5];
    double dz = m[6] * lx + m[7] * ly - m[8];
    double n = 1 / Math.sqrt(dx * dx + dy * dy + dz * dz);
    scene.shade(
        eye[0],
        eye[1],
        eye[2],
        dx * n,
        dy * n,
        dz * n,
        lx,
        ly,
        Texture.hash(x, y, 100 + s) - 0.5,
        Texture.hash(x, y, 200 + s) - 0.5,
        weight,
        rgb);
  }

  private static int pixel(double[] rgb, int x, int y, int frame, double strength) {
    double noise = Texture.hash(x, y, 1000 + frame) + Texture.hash(y, x, frame) - 1;
    double grain = strength * noise * 3.0;
    int out = 0;
    for (int i = 0; i < 3; i++) {
      double v = rgb[i] * EXPOSURE;
      v = v / (1 + 0.18 * v); // a soft shoulder, so that highlights keep their drawing
      double code = 255 * Math.sqrt(Math.max(0, v)) + grain;
      out = out << 8 | (int) Math.max(0, Math.min(255, Math.rint(code)));
    }
    return out;
  }
}
