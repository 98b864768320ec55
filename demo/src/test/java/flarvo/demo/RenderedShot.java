package flarvo.demo;

import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.Rate;
import flarvo.scene.Vec3;
import java.awt.image.BufferedImage;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.DoubleFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** Shots of the terrace that are rendered for a test and kept nowhere, each with its difficulty. */
final class RenderedShot extends ShotTruth {

  private static final FrameRange FRAMES = new FrameRange(1, 36);
  private static final Map<List<Object>, Map<Integer, Luma>> RENDERED = new ConcurrentHashMap<>();

  /** What happens to a picture after it was taken. */
  private interface Trouble {
    void in(Luma l, int frame);
  }

  private final String name;
  private final double focalMm;
  private final double zoom; // of the last frame, against the first
  private final Lens lens;
  private final DoubleFunction<Pose> path;
  private final Trouble trouble;

  private RenderedShot(
      String name, double focalMm, Lens lens, DoubleFunction<Pose> path, Trouble trouble) {
    this(name, focalMm, 1, lens, path, trouble);
  }

  private RenderedShot(
      String name,
      double focalMm,
      double zoom,
      Lens lens,
      DoubleFunction<Pose> path,
      Trouble trouble) {
    this.name = name;
    this.focalMm = focalMm;
    this.zoom = zoom;
    this.lens = lens;
    this.path = path;
    this.trouble = trouble;
  }

  private static Pose look(Vec3 eye, Vec3 at, double roll) {
    return new Pose(eye, lookAt(eye, at, roll));
  }

  private static double s(double frame) {
    return (frame - FRAMES.first()) / (FRAMES.count() - 1);
  }

  private static Pose walk(double f) {
    double angle = 0.5 - 0.7 * s(f) + 0.02 * wave(f, 23, 0.3);
    Vec3 eye =
        new Vec3(
            3.4 * StrictMath.sin(angle),
            1.6 + 0.022 * wave(f, 12.4, 0),
            3.4 * StrictMath.cos(angle) + 0.012 * wave(f, 24.8, 0.9));
    return look(eye, new Vec3(0.03 * wave(f, 17, 0), 0.7, -0.4), 0.006 * wave(f, 19, 1));
  }

  private static Pose crane(double f) {
    return look(
        new Vec3(-1.2 + 0.3 * s(f), 0.7 + 1.9 * s(f), 3.6 - 0.4 * s(f)), new Vec3(0.2, 0.4, -1), 0);
  }

  private static Pose tripod(double f) {
    double pan = -0.25 + 0.5 * s(f);
    Vec3 eye = new Vec3(0.4, 1.55, 3.9);
    return look(
        eye, eye.plus(new Vec3(StrictMath.sin(pan), -0.22 + 0.05 * s(f), -StrictMath.cos(pan))), 0);
  }

  private static Pose longLens(double f) {
    return look(
        new Vec3(-1.5 + 2.2 * s(f), 1.9 + 0.02 * wave(f, 15, 0), 8.5 - 0.6 * s(f)),
        new Vec3(0.1, 0.75, -1.5),
        0);
  }

  /** Still, then a turn of 35° in ten frames, then still; walking all the while. */
  private static Pose whip(double f) {
    double t = Math.max(0, Math.min(1, (f - 13) / 10));
    double pan = -0.3 + 0.61 * t * t * (3 - 2 * t);
    Vec3 eye = new Vec3(-0.6 + 1.1 * s(f), 1.6 + 0.02 * wave(f, 12, 0), 3.9 - 0.3 * s(f));
    return look(eye, eye.plus(new Vec3(StrictMath.sin(pan), -0.25, -StrictMath.cos(pan))), 0.004);
  }

  /** The ten, in the order of the issue that asked for them. */
  static List<RenderedShot> all() {
    Lens none = new Lens(0, 0);
    return List.of(
        new RenderedShot("walk", 17.5, none, RenderedShot::walk, (l, f) -> {}),
        new RenderedShot("crane", 20, none, RenderedShot::crane, (l, f) -> {}),
        new RenderedShot("tripod", 24, none, RenderedShot::tripod, (l, f) -> {}),
        new RenderedShot("long lens", 60, none, RenderedShot::longLens, (l, f) -> {}),
        new RenderedShot("whip", 17.5, none, RenderedShot::whip, (l, f) -> {}),
        new RenderedShot("people", 17.5, none, RenderedShot::walk, RenderedShot::people),
        new RenderedShot("water", 17.5, none, RenderedShot::walk, RenderedShot::water),
        new RenderedShot("light", 17.5, none, RenderedShot::walk, RenderedShot::light),
        new RenderedShot("focus", 17.5, none, RenderedShot::walk, RenderedShot::focus),
        new RenderedShot("lens", 17.5, new Lens(0.12, 0.02), RenderedShot::walk, (l, f) -> {}));
  }

  /** Two that zoom, as a hand does: slow at the ends. */
  static List<RenderedShot> zooms() {
    Lens none = new Lens(0, 0);
    return List.of(
        new RenderedShot("zoom walk", 17.5, 1.6, none, RenderedShot::walk, (l, f) -> {}),
        new RenderedShot("zoom tripod", 40, 0.6, none, RenderedShot::tripod, (l, f) -> {}));
  }

  /** Three boxes as large as people, with a pattern of their own, cross the picture. */
  private static void people(Luma l, int f) {
    int[][] boxes = boxes(f);
    for (int b = 0; b < boxes.length; b++) {
      for (int y = 0; y < 260; y++) {
        for (int x = 0; x < 80; x++) {
          int px = boxes[b][0] + x;
          int py = boxes[b][1] + y;
          if (px >= 0 && px < l.width() && py < l.height()) {
            l.luma()[py * l.width() + px] =
                (float) (60 + 150 * Texture.smooth(x * 0.2, y * 0.2, 500 + b));
          }
        }
      }
    }
  }

  /** Which of the boxes a place is on, −1 for none. */
  static int onBox(double x, double y, int f) {
    int[][] boxes = boxes(f);
    for (int b = boxes.length - 1; b >= 0; b--) {
      if (x >= boxes[b][0] && x < boxes[b][0] + 80 && y >= boxes[b][1] && y < boxes[b][1] + 260) {
        return b;
      }
    }
    return -1;
  }

  private static int[][] boxes(int f) {
    return new int[][] {{60 + 9 * f, 190}, {820 - 12 * f, 160}, {420 + 3 * f, 230}};
  }

  /** The lower third ripples, anew in each frame. */
  private static void water(Luma l, int f) {
    for (int y = 2 * l.height() / 3; y < l.height(); y++) {
      for (int x = 0; x < l.width(); x++) {
        l.luma()[y * l.width() + x] =
            (float) (80 + 90 * Texture.smooth(x * 0.12, y * 0.3, 900 + f));
      }
    }
  }

  private static void light(Luma l, int f) {
    double gain = 0.8 + 0.3 * wave(f, 21, 0);
    double lift = 8 * wave(f, 9, 1);
    for (int i = 0; i < l.luma().length; i++) {
      l.luma()[i] = (float) Math.max(0, Math.min(255, gain * l.luma()[i] + lift));
    }
  }

  /** Soft in the middle of the shot: a Gaussian of up to 2 px. */
  private static void focus(Luma l, int f) {
    double sigma = 2 * StrictMath.sin(Math.PI * s(f));
    if (sigma < 0.2) {
      return;
    }
    int r = (int) Math.ceil(3 * sigma);
    double[] k = new double[2 * r + 1];
    double sum = 0;
    for (int i = -r; i <= r; i++) {
      k[i + r] = StrictMath.exp(-i * i / (2 * sigma * sigma));
      sum += k[i + r];
    }
    blur(l, k, sum, r, 1, 0);
    blur(l, k, sum, r, 0, 1);
  }

  private static void blur(Luma l, double[] k, double sum, int r, int dx, int dy) {
    float[] from = l.luma().clone();
    for (int y = 0; y < l.height(); y++) {
      for (int x = 0; x < l.width(); x++) {
        double v = 0;
        for (int i = -r; i <= r; i++) {
          int px = Math.max(0, Math.min(l.width() - 1, x + i * dx));
          int py = Math.max(0, Math.min(l.height() - 1, y + i * dy));
          v += k[i + r] * from[py * l.width() + px];
        }
        l.luma()[y * l.width() + x] = (float) (v / sum);
      }
    }
  }

  /** Every frame at four samples a pixel: noisier, and rendered four times as fast. */
  Map<Integer, Luma> plates() {
    return plates(2);
  }

  /**
   * Every frame as it was filmed, with grain and motion blur; the caller may draw into them.
   *
   * @param side samples of a pixel, across and down, each at a moment of its own. With 2 detail
   *     flickers by 3.3 of 255 and blur stands in four pictures, as behind no lens; with 4, by 1.3
   */
  Map<Integer, Luma> plates(int side) {
    // Half of the shots are one walk with different trouble: it is rendered once for all tests.
    List<Object> filmed = List.of(focalMm, zoom, lens, poseAt(FRAMES.first()), poseAt(13.5), side);
    Map<Integer, Luma> clean =
        RENDERED.computeIfAbsent(
            filmed,
            k ->
                IntStream.rangeClosed(FRAMES.first(), FRAMES.last())
                    .boxed()
                    .parallel()
                    .collect(Collectors.toMap(f -> f, f -> plate(f, side))));
    Map<Integer, Luma> out = new HashMap<>();
    clean.forEach(
        (f, l) -> {
          Luma own = new Luma(l.width(), l.height(), l.luma().clone());
          trouble.in(own, f);
          out.put(f, own);
        });
    return out;
  }

  private Luma plate(int frame, int side) {
    BufferedImage image = PlateRenderer.render(this, frame, false, 1, side, 1.6);
    int[] rgb = image.getRGB(0, 0, image.getWidth(), image.getHeight(), null, 0, image.getWidth());
    float[] luma = new float[rgb.length];
    for (int i = 0; i < rgb.length; i++) {
      luma[i] =
          0.299f * (rgb[i] >> 16 & 255) + 0.587f * (rgb[i] >> 8 & 255) + 0.114f * (rgb[i] & 255);
    }
    return new Luma(image.getWidth(), image.getHeight(), luma);
  }

  @Override
  String name() {
    return name;
  }

  @Override
  FrameRange frames() {
    return FRAMES;
  }

  @Override
  Rate rate() {
    return Rate.FPS_24;
  }

  @Override
  Optics optics() {
    return Optics.centred(focalMm, FILM_WIDTH_MM, FILM_HEIGHT_MM);
  }

  @Override
  Optics opticsAt(double frame) {
    double t = Math.max(0, Math.min(1, s(frame)));
    double k = StrictMath.pow(zoom, t * t * (3 - 2 * t));
    return Optics.centred(focalMm * k, FILM_WIDTH_MM, FILM_HEIGHT_MM);
  }

  @Override
  Lens lens() {
    return lens;
  }

  @Override
  Pose poseAt(double frame) {
    return path.apply(frame);
  }
}
