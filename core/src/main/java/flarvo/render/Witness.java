package flarvo.render;

import flarvo.plate.Raster;
import flarvo.plate.SampleKind;
import flarvo.plate.remap.Light;
import flarvo.plate.tag.Alpha;
import java.util.List;

/**
 * The shaded pass over a plate, with trackers, for eyes: 8 bits in sRGB. Mixing is done in linear
 * light.
 */
final class Witness {

  /** How dark the ground is where all of the light is kept from it. */
  private static final double SHADOW = 0.6;

  private static final double DISC = 2.6;
  private static final double RIM = 1.2;

  /** A point lies on what it was measured on; so far behind it is hidden, as a share. */
  private static final double HIDDEN = 0.01;

  private static final float[] GREY = {0.18f, 0.18f, 0.18f};

  /**
   * A tracker in the picture.
   *
   * @param depth along the view, in metres
   */
  record Spot(double x, double y, double depth) {}

  private final Raster passes;
  private final float[] out;
  private final int w;
  private final int h;

  private Witness(Raster passes) {
    this.passes = passes;
    w = passes.width();
    h = passes.height();
    out = new float[3 * w * h];
  }

  /**
   * @param plate of the passes' size, code values or linear as its kind says; null for grey
   * @param keyed of the same size, with alpha: lies over what is drawn; null for none
   */
  static Raster of(Raster plate, Raster keyed, Raster passes, List<Spot> trackers) {
    Witness v = new Witness(passes);
    v.mix(plate);
    if (keyed != null) {
      v.over(keyed);
    }
    v.encode();
    trackers.forEach(v::mark);
    return new Raster(v.w, v.h, List.of("R", "G", "B"), SampleKind.BYTE, v.out, passes.tags());
  }

  /** What is drawn over the plate, in linear light. */
  private void mix(Raster plate) {
    int n = passes.channels().size();
    float[] p = passes.values();
    int[] from = plate == null ? null : colours(plate);
    boolean decode = plate != null && !plate.kind().isFloating();
    for (int i = 0; i < w * h; i++) {
      double free = 1 - p[i * n + 3];
      double ground = 1 - SHADOW * p[i * n + 10];
      for (int c = 0; c < 3; c++) {
        float v = plate == null ? GREY[c] : plate.values()[i * plate.channels().size() + from[c]];
        double lit = decode ? Light.decoded(v) : v;
        out[3 * i + c] = (float) (p[i * n + c] + free * lit * ground);
      }
    }
  }

  /** Mixed in linear light; whole numbers are decoded before alpha counts. */
  private void over(Raster keyed) {
    int[] from = colours(keyed);
    int n = keyed.channels().size();
    int alpha = keyed.channel("A");
    boolean encoded = !keyed.kind().isFloating();
    boolean multiplied = keyed.tags().alpha() == Alpha.MULTIPLIED;
    for (int i = 0; i < w * h; i++) {
      float a = keyed.values()[i * n + alpha];
      for (int c = 0; c < 3; c++) {
        float v = keyed.values()[i * n + from[c]];
        float lit =
            !multiplied
                ? a * (encoded ? Light.decoded(v) : v)
                : encoded && a > 0 ? a * Light.decoded(v / a) : v;
        out[3 * i + c] = lit + (1 - a) * out[3 * i + c];
      }
    }
  }

  private void encode() {
    for (int i = 0; i < out.length; i++) {
      out[i] = Light.encoded(Math.max(0, Math.min(1, out[i])));
    }
  }

  private static int[] colours(Raster plate) {
    int y = plate.channel("Y");
    return y >= 0
        ? new int[] {y, y, y}
        : new int[] {
          Math.max(0, plate.channel("R")),
          Math.max(0, plate.channel("G")),
          Math.max(0, plate.channel("B"))
        };
  }

  /** A light disc with a dark rim; hollow where something is in front of it. */
  private void mark(Spot s) {
    int cx = (int) Math.floor(s.x());
    int cy = (int) Math.floor(s.y());
    if (cx < 0 || cy < 0 || cx >= w || cy >= h) {
      return;
    }
    int depth = passes.channel("depth.Z");
    boolean hidden = s.depth() > passes.at(cx, cy, depth) * (1 + HIDDEN);
    int r = (int) Math.ceil(DISC + RIM + 1);
    for (int y = Math.max(0, cy - r); y <= Math.min(h - 1, cy + r); y++) {
      for (int x = Math.max(0, cx - r); x <= Math.min(w - 1, cx + r); x++) {
        double d = Math.hypot(x + 0.5 - s.x(), y + 0.5 - s.y());
        double disc = hidden ? 0 : within(DISC - d);
        double rim = within(DISC + RIM - d) - within(DISC - d);
        blend(3 * (y * w + x), disc, 0.95f, 0.85f, 0.55f);
        blend(3 * (y * w + x), Math.max(0, rim), 0.08f, 0.08f, 0.08f);
      }
    }
  }

  /** Coverage of a pixel whose middle lies so far inside an edge. */
  private static double within(double d) {
    return Math.max(0, Math.min(1, d + 0.5));
  }

  private void blend(int at, double k, float r, float g, float b) {
    out[at] += (float) (k * (r - out[at]));
    out[at + 1] += (float) (k * (g - out[at + 1]));
    out[at + 2] += (float) (k * (b - out[at + 2]));
  }
}
