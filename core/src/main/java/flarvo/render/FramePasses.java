package flarvo.render;

import flarvo.plate.Raster;
import flarvo.plate.SampleKind;
import flarvo.plate.tag.Alpha;
import flarvo.plate.tag.PlateTags;
import flarvo.scene.PictureSize;
import flarvo.scene.ShotCamera;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.util.List;

/**
 * One frame's passes. Shading and coverage are averaged over 16 samples a pixel; depth, position
 * and identity are those of the pixel's middle, because an average of them is of nothing.
 *
 * <ul>
 *   <li>{@code R G B A}: shaded in linear light, premultiplied, without holdouts;
 *   <li>{@code depth.Z}: metres along the view; {@value #FAR} where there is nothing;
 *   <li>{@code position.X .Y .Z}: in the canonical world, metres; 0 where there is nothing;
 *   <li>{@code id.I}: number of the item, 0 where there is nothing;
 *   <li>{@code holdout.A}: coverage by holdouts;
 *   <li>{@code shadow.A}: light kept from the ground where it is seen, 0 to 1.
 * </ul>
 *
 * Holdouts are in depth, position and identity like everything else.
 */
final class FramePasses {

  static final float FAR = 1e10f;

  static final List<String> CHANNELS =
      List.of(
          "R",
          "G",
          "B",
          "A",
          "depth.Z",
          "position.X",
          "position.Y",
          "position.Z",
          "id.I",
          "holdout.A",
          "shadow.A");

  private static final int SAMPLES = 4;
  private static final int ROWS = 32;

  private final RenderScene scene;
  private final PictureSize picture;
  private final Eye eye;
  private final FrameTriangles triangles;
  private final GroundShadow shadow;
  private final Shading shading;
  private final RenderItem.Kind[] kinds; // one an item
  private final boolean[] held; // one an item
  private final float[] out;
  private final int n = CHANNELS.size();

  private FramePasses(
      RenderScene scene, ShotCamera camera, PictureSize picture, int frame, RenderLook look) {
    this.scene = scene;
    this.picture = picture;
    eye = new Eye(camera, picture, frame);
    triangles = FrameTriangles.of(scene.items(), frame);
    shadow = new GroundShadow(triangles, look.light());
    kinds = new RenderItem.Kind[scene.items().size()];
    held = new boolean[kinds.length];
    for (int i = 0; i < held.length; i++) {
      held[i] = look.holdouts().contains(scene.items().get(i).name());
      kinds[i] = scene.items().get(i).kind();
    }
    shading = new Shading(triangles, eye.at(), look.light().normalized());
    out = new float[Math.multiplyExact(picture.width() * picture.height(), n)];
  }

  /**
   * Draws a frame.
   *
   * @param camera canonical; its film covers {@code picture}
   */
  static Raster of(
      RenderScene scene,
      ShotCamera camera,
      PictureSize picture,
      int frame,
      RenderLook look,
      Progress progress) {
    FramePasses p = new FramePasses(scene, camera, picture, frame, look);
    p.draw(progress);
    return new Raster(
        picture.width(),
        picture.height(),
        CHANNELS,
        SampleKind.FLOAT,
        p.out,
        new PlateTags(picture.pixelAspect(), Alpha.MULTIPLIED, List.of()));
  }

  private void draw(Progress progress) {
    Projected p = Projected.of(triangles, eye);
    int w = picture.width();
    Visibility middles = new Visibility(w, ROWS, 1);
    Visibility fine = new Visibility(w, ROWS, SAMPLES);
    double[] ray = new double[3];
    for (int top = 0; top < picture.height(); top += ROWS) {
      if (progress.isCancelled()) {
        throw new Cancelled();
      }
      int rows = Math.min(ROWS, picture.height() - top);
      middles.draw(p, top, rows);
      fine.draw(p, top, rows);
      for (int y = 0; y < rows; y++) {
        for (int x = 0; x < w; x++) {
          int at = ((top + y) * w + x) * n;
          eye.ray(x + 0.5, top + y + 0.5, ray);
          middle(middles, x, y, at, ray);
          double free = 1 - cover(fine, x, y, at, ray);
          out[at + 10] = (float) (free * onGround(ray));
        }
      }
    }
  }

  private void middle(Visibility v, int x, int y, int at, double[] ray) {
    int t = v.seen(x, y);
    if (t == Visibility.NOTHING) {
      out[at + 4] = FAR;
      return;
    }
    double depth = v.depth(x, y);
    out[at + 4] = (float) depth;
    out[at + 5] = (float) (eye.at().x() + depth * ray[0]);
    out[at + 6] = (float) (eye.at().y() + depth * ray[1]);
    out[at + 7] = (float) (eye.at().z() + depth * ray[2]);
    out[at + 8] = scene.items().get(triangles.item()[t]).id();
  }

  /** Colour and coverage; answers how much of the pixel is covered by anything. */
  private double cover(Visibility v, int x, int y, int at, double[] ray) {
    if (!v.touches(x, y)) {
      return 0;
    }
    double r = 0;
    double g = 0;
    double b = 0;
    int drawn = 0;
    int cut = 0;
    int last = Visibility.NOTHING; // a pixel's samples share the brightness of each triangle
    double k = 0;
    for (int sy = y * SAMPLES; sy < (y + 1) * SAMPLES; sy++) {
      for (int sx = x * SAMPLES; sx < (x + 1) * SAMPLES; sx++) {
        int t = v.seen(sx, sy);
        if (t == Visibility.NOTHING) {
          continue;
        }
        if (held[triangles.item()[t]]) {
          cut++;
          continue;
        }
        drawn++;
        if (t != last) {
          last = t;
          k = shading.at(t, ray);
        }
        RenderItem.Kind kind = kinds[triangles.item()[t]];
        r += k * kind.colour(0);
        g += k * kind.colour(1);
        b += k * kind.colour(2);
      }
    }
    double all = SAMPLES * SAMPLES;
    out[at] = (float) (r / all);
    out[at + 1] = (float) (g / all);
    out[at + 2] = (float) (b / all);
    out[at + 3] = (float) (drawn / all);
    out[at + 9] = (float) (cut / all);
    return (drawn + cut) / all;
  }

  private double onGround(double[] ray) {
    double k = -eye.at().y() / ray[1];
    return k > 0 && Double.isFinite(k)
        ? shadow.at(eye.at().x() + k * ray[0], eye.at().z() + k * ray[2])
        : 0;
  }
}
