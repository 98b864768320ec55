package flarvo.vet;

import boofcv.abst.filter.derivative.ImageGradient;
import boofcv.alg.tracker.klt.ConfigKlt;
import boofcv.alg.tracker.klt.KltFeature;
import boofcv.alg.tracker.klt.KltTrackFault;
import boofcv.alg.tracker.klt.KltTracker;
import boofcv.factory.filter.derivative.FactoryDerivative;
import boofcv.factory.interpolate.FactoryInterpolation;
import boofcv.struct.image.GrayF32;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.Optional;
import java.util.function.IntFunction;

/**
 * Follows a marked feature along the plate: each frame is searched near where the solve expects it,
 * with the pattern round the mark (Lucas and Kanade, by BoofCV). Marks that a hand set stay.
 */
public final class PatternSearch {

  private static final int RADIUS = 9; // pixels of the pattern to each side
  private static final float WORST_PER_PIXEL = 14; // mean difference of brightness, of 255
  private static final int MISSED_IN_A_ROW = 3;

  /** A feature that is found farther than this from where it is expected is another one. */
  private static final double FARTHEST_PX = 12;

  private final Shot shot;
  private final IntFunction<Optional<Luma>> plates;
  private final KltTracker<GrayF32, GrayF32> tracker;
  private final ImageGradient<GrayF32, GrayF32> gradient =
      FactoryDerivative.three(GrayF32.class, GrayF32.class);
  private GrayF32 dx = new GrayF32(1, 1);
  private GrayF32 dy = new GrayF32(1, 1);

  /**
   * @param plates of the size of the shot's picture, by plate frame; empty where one is missing
   */
  public PatternSearch(Shot shot, IntFunction<Optional<Luma>> plates) {
    this.shot = shot;
    this.plates = plates;
    ConfigKlt config = new ConfigKlt();
    config.maxPerPixelError = WORST_PER_PIXEL;
    config.maxIterations = 30;
    tracker =
        new KltTracker<>(
            FactoryInterpolation.bilinearRectangle(GrayF32.class),
            FactoryInterpolation.bilinearRectangle(GrayF32.class),
            config);
  }

  /** The point with marks in every frame of the range where its pattern was found. */
  public ExtraPoint along(ExtraPoint point, FrameRange range, Progress progress) {
    ExtraPoint out = point;
    int total = range.count();
    int done = 0;
    for (ExtraPoint.Mark mark : point.marks()) {
      if (mark.found()) {
        continue;
      }
      for (int way : new int[] {1, -1}) {
        out = follow(out, point, mark, way, range, progress, done++, total);
      }
    }
    return out;
  }

  /** From a hand's mark up to the next one, or to where the pattern is lost. */
  private ExtraPoint follow(
      ExtraPoint so,
      ExtraPoint hands,
      ExtraPoint.Mark mark,
      int way,
      FrameRange range,
      Progress progress,
      int done,
      int total) {
    Optional<Luma> first = plates.apply(mark.frame());
    if (first.isEmpty()) {
      return so;
    }
    KltFeature feature = new KltFeature(RADIUS);
    show(first.get());
    // Its pixels are counted from their centres.
    feature.setPosition((float) (mark.x() - 0.5), (float) (mark.y() - 0.5));
    if (!tracker.setDescription(feature)) {
      return so; // too near the edge, or without any pattern
    }
    ExtraPoint out = so;
    double x = mark.x();
    double y = mark.y();
    int from = mark.frame();
    int missed = 0;
    for (int f = mark.frame() + way; range.contains(f); f += way) {
      progress.step(Math.min(total, done + Math.abs(f - mark.frame())), 2L * total);
      int frame = f;
      if (hands.marks().stream().anyMatch(m -> m.frame() == frame && !m.found())) {
        break;
      }
      Optional<Luma> plate = plates.apply(f);
      double[] expected = expected(x, y, from, f);
      boolean found = false;
      if (plate.isPresent() && expected != null) {
        show(plate.get());
        feature.setPosition((float) (expected[0] - 0.5), (float) (expected[1] - 0.5));
        found =
            tracker.track(feature) == KltTrackFault.SUCCESS
                && Math.hypot(feature.x + 0.5 - expected[0], feature.y + 0.5 - expected[1])
                    < FARTHEST_PX;
      }
      if (found) {
        x = feature.x + 0.5;
        y = feature.y + 0.5;
        from = f;
        missed = 0;
        out = out.with(new ExtraPoint.Mark(f, x, y, true));
      } else if (++missed > MISSED_IN_A_ROW) {
        break;
      }
    }
    return out;
  }

  private void show(Luma l) {
    GrayF32 image = new GrayF32(l.width(), l.height());
    image.data = l.luma();
    dx = dx.createNew(l.width(), l.height());
    dy = dy.createNew(l.width(), l.height());
    gradient.process(image, dx, dy);
    tracker.setImage(image, dx, dy);
  }

  /** Where the solve expects the feature; null behind the camera. */
  private double[] expected(double x, double y, int from, int to) {
    if (shot.camera().isEmpty()
        || !shot.camera().get().frames().contains(from)
        || !shot.camera().get().frames().contains(to)) {
      return new double[] {x, y};
    }
    Pinhole h = new Pinhole(shot.camera().get(), shot.picture());
    Vec3 eye = shot.camera().get().poses().at(from).position();
    Vec3 p = eye.plus(h.at(from).ray(x, y).times(distance(from, x, y)));
    double[] px = new double[3];
    h.at(to).project(p.x(), p.y(), p.z(), px);
    return px[2] > 0 ? new double[] {px[0], px[1]} : null;
  }

  /** As far as the tracker that is nearest in the picture. */
  private double distance(int frame, double x, double y) {
    Pinhole h = new Pinhole(shot.camera().orElseThrow(), shot.picture()).at(frame);
    Vec3 eye = shot.camera().orElseThrow().poses().at(frame).position();
    double[] px = new double[3];
    double best = Double.POSITIVE_INFINITY;
    double distance = 1;
    for (flarvo.scene.TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        h.project(t, i, px);
        double d = Math.hypot(px[0] - x, px[1] - y);
        if (d < best) {
          best = d;
          distance = t.position(i, frame).minus(eye).length();
        }
      }
    }
    return distance;
  }
}
