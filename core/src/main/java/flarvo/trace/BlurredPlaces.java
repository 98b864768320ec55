package flarvo.trace;

import flarvo.lens.LensTrack;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.Observations;
import flarvo.scene.PixelIntrinsics;
import flarvo.scene.Pose;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.ParallelProgress;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.stream.IntStream;

/**
 * Where features are on blurred frames: each is looked for as the last clear frame before them
 * shows it, and as the first behind them does.
 */
final class BlurredPlaces {

  /** Features of either side. */
  private static final int MOST_FEATURES = 300;

  private static final int FEWEST_FEATURES = 30;

  /** Places that a frame needs, so that it stands on its own. */
  private static final int FEWEST_PLACES = 20;

  /** Shutters that are tried, up to one that is open all the time. */
  private static final int SHUTTERS = 10;

  /** Features of either side by which the shutter is found. */
  private static final int SHUTTER_FEATURES = 80;

  /** A place is good where both patterns correlate by this and its error is under that. */
  private static final double LEAST_ALIKE = 0.85;

  private static final double MOST_ERROR_PX = 0.6;

  private final Shot shot;
  private final ShotCamera camera;
  private final PixelIntrinsics k;
  private final FrameRange blurred;
  private final Optional<LensTrack> lens;
  private final IntFunction<Optional<Luma>> plates;

  /** A feature as a clear frame shows it. */
  private record Known(String name, double x, double y, double depth) {}

  /** The clear frame on one side of the blur. */
  private record Side(int frame, BlurredPatch.View view, List<Known> features) {}

  /**
   * @param shot with a camera on every frame, if not exactly, and undistorted tracks
   * @param blurred with two frames of the camera on either side
   * @param lens of original plates; empty where they are undistorted
   * @param plates brightness by plate frame; empty where one is missing
   */
  BlurredPlaces(
      Shot shot, FrameRange blurred, Optional<LensTrack> lens, IntFunction<Optional<Luma>> plates) {
    this.shot = shot;
    this.blurred = blurred;
    this.lens = lens;
    this.plates = plates;
    camera = shot.cameras().get(0);
    k = PixelIntrinsics.of(camera.optics().at(blurred.first()), shot.picture());
  }

  /**
   * The share of a frame for which the shutter is open: that with which what is found in the blur
   * looks most like what is known. Empty where too little is found.
   *
   * @param turned the frames that blur most
   * @param reachPx how far places may lie from where the cameras see them
   */
  Optional<Double> shutter(FrameRange turned, double reachPx, Progress progress) {
    List<Side> sides = sides(SHUTTER_FEATURES);
    List<Optional<BlurredPatch.View>> ends = List.of(view(turned.first()), view(turned.last()));
    if (sides.size() < 2 || ends.get(0).isEmpty() || ends.get(1).isEmpty()) {
      return Optional.empty();
    }
    double[] alike = new double[SHUTTERS + 2];
    int best = 0;
    for (int i = 1; i <= SHUTTERS; i++) {
      progress.step(i - 1, SHUTTERS);
      BlurredPatch patch = new BlurredPatch(k, i / (double) SHUTTERS);
      double sum = 0;
      int n = 0;
      for (int s = 0; s < sides.size(); s++) {
        BlurredPatch.View to = ends.get(s).orElseThrow();
        for (Known p : sides.get(s).features()) {
          if (patch.find(sides.get(s).view(), to, p.x(), p.y(), p.depth(), reachPx)) {
            sum += patch.correlation;
            n++;
          }
        }
      }
      alike[i] = n < FEWEST_FEATURES ? 0 : sum / n;
      best = alike[i] > alike[best] ? i : best;
    }
    // Where the parabola through three of them is highest.
    boolean inner = best > 1 && best < SHUTTERS && alike[best - 1] > 0 && alike[best + 1] > 0;
    double slope = inner ? (alike[best + 1] - alike[best - 1]) / 2 : 0;
    double bend = inner ? alike[best + 1] - 2 * alike[best] + alike[best - 1] : -1;
    double shutter = (best - (bend < 0 ? slope / bend : 0)) / SHUTTERS;
    return alike[best] < LEAST_ALIKE ? Optional.empty() : Optional.of(shutter);
  }

  /**
   * Places of features that were not followed on a frame, in pixels of the undistorted picture;
   * empty where a frame has too few.
   */
  Optional<Observations> found(double shutter, double reachPx, Progress progress) {
    List<Side> sides = sides(MOST_FEATURES);
    if (sides.size() < 2) {
      return Optional.empty();
    }
    ParallelProgress parts = new ParallelProgress(progress, blurred.count());
    List<Map<String, double[]>> frames =
        IntStream.rangeClosed(blurred.first(), blurred.last())
            .parallel()
            .mapToObj(
                f -> {
                  parts.part(f - blurred.first()).step(0, 1);
                  return found(sides, f, new BlurredPatch(k, shutter), reachPx);
                })
            .toList();
    Observations.Builder out = new Observations.Builder();
    for (int i = 0; i < frames.size(); i++) {
      if (frames.get(i).size() < FEWEST_PLACES) {
        return Optional.empty();
      }
      int frame = blurred.first() + i;
      frames.get(i).forEach((name, p) -> out.add(name, frame, p[0], p[1]));
    }
    return Optional.of(out.build());
  }

  private Map<String, double[]> found(
      List<Side> sides, int frame, BlurredPatch patch, double reachPx) {
    Map<String, double[]> out = new LinkedHashMap<>();
    Optional<BlurredPatch.View> to = view(frame);
    for (Side side : to.isPresent() ? sides : List.<Side>of()) {
      for (Known p : side.features()) {
        if (!out.containsKey(p.name())
            && shot.observations().row(p.name(), frame) < 0
            && patch.find(side.view(), to.get(), p.x(), p.y(), p.depth(), reachPx)
            && patch.correlation > LEAST_ALIKE
            && patch.errorPx < MOST_ERROR_PX) {
          out.put(p.name(), patch.at.clone());
        }
      }
    }
    return out;
  }

  /** The clear frames that show enough. */
  private List<Side> sides(int most) {
    List<Side> out = new ArrayList<>();
    for (int frame : new int[] {blurred.first() - 1, blurred.last() + 1}) {
      Optional<BlurredPatch.View> v = view(frame);
      List<Known> all = known(frame);
      if (v.isPresent() && all.size() >= FEWEST_FEATURES) {
        List<Known> some = new ArrayList<>();
        double step = Math.max(1, all.size() / (double) most);
        for (double i = 0; i < all.size(); i += step) {
          some.add(all.get((int) i));
        }
        out.add(new Side(frame, v.get(), some));
      }
    }
    return out;
  }

  private List<Known> known(int frame) {
    Map<String, Vec3> points = TrackerSet.stillPositions(shot.trackers());
    Pose pose = camera.poses().at(frame);
    Observations o = shot.observations();
    List<Known> out = new ArrayList<>();
    for (String n : o.names()) {
      Vec3 p = points.get(n);
      int row = o.row(n, frame);
      if (p != null && row >= 0) {
        double depth = -pose.rotation().inverse().apply(p.minus(pose.position())).z();
        if (depth > 0) {
          out.add(new Known(n, o.x(row), o.y(row), depth));
        }
      }
    }
    return out;
  }

  private Optional<BlurredPatch.View> view(int frame) {
    return plates
        .apply(frame)
        .filter(l -> l.width() == shot.picture().width() && l.height() == shot.picture().height())
        .map(
            l ->
                new BlurredPatch.View(
                    Levels.of(
                        frame,
                        lens.isEmpty()
                            ? l
                            : StraightLuma.of(l, lens.get().at(frame).on(shot.picture()))),
                    camera.poses().at(frame),
                    camera.poses().at(frame - 1),
                    camera.poses().at(frame + 1)));
  }
}
