package flarvo.trace;

import flarvo.lens.LensTrack;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.vet.InterpolatedFrames;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.IntFunction;

/**
 * Rotation of a camera on frames that are too blurred to follow anything in, as in a whip pan. It
 * is measured on the pictures as a whole, from frame to frame. The camera is known on both sides of
 * the blur, so the drift of these steps is known too, and is spread over them evenly. The position
 * stays interpolated.
 */
public final class BlurredTurns {

  /** Below this correlation two pictures are not taken for the same scene. */
  private static final double LEAST_ALIKE = 0.7;

  /**
   * A drift over this share of the whole rotation is not believed. Some of it is the camera's move,
   * which shifts the picture as a rotation does.
   */
  private static final double MOST_DRIFT = 0.15;

  /**
   * What came of it.
   *
   * @param camera turned as the pictures show it
   * @param measured drift of the steps at the end of each range that was measured, in degrees
   */
  public record Outcome(ShotCamera camera, Map<FrameRange, Double> measured) {

    /** A sentence on the ranges that were measured; empty where there are none. */
    public String sentence() {
      List<String> ranges = new ArrayList<>();
      measured.forEach(
          (r, drift) ->
              ranges.add(
                  String.format(
                      Locale.ROOT,
                      "%s (drift %.2f° at the end, spread evenly)",
                      InterpolatedFrames.words(r),
                      drift)));
      return ranges.isEmpty()
          ? ""
          : "Rotation was measured from the blurred pictures on frames "
              + String.join(", ", ranges)
              + ".";
    }
  }

  private BlurredTurns() {}

  /**
   * Measures the rotation on frames that see too few features.
   *
   * @param camera known but for where it is interpolated
   * @param pixelAspect of the plates
   * @param lens of original plates; empty where they are undistorted
   * @param plates brightness by plate frame; empty where one is missing
   */
  public static Outcome of(
      ShotCamera camera,
      List<FrameRange> interpolated,
      double pixelAspect,
      Optional<LensTrack> lens,
      IntFunction<Optional<Luma>> plates,
      Progress progress) {
    IntFunction<Optional<PictureTurn.View>> views =
        f ->
            plates
                .apply(f)
                .map(
                    l ->
                        new PictureTurn.View(
                            Levels.of(f, l),
                            new PictureSize(l.width(), l.height(), pixelAspect),
                            camera.optics().at(f),
                            lens.map(t -> t.at(f))));
    Map<Integer, Rotation> turned = new TreeMap<>();
    Map<FrameRange, Double> measured = new TreeMap<>((a, b) -> a.first() - b.first());
    for (FrameRange r : interpolated) {
      if (r.first() > camera.frames().first() && r.last() < camera.frames().last()) {
        measure(camera, r, views, turned, progress).ifPresent(drift -> measured.put(r, drift));
      }
    }
    PoseTrack poses =
        PoseTrack.of(
            camera.frames(),
            f -> {
              Pose p = camera.poses().at(f);
              return turned.containsKey(f) ? new Pose(p.position(), turned.get(f)) : p;
            });
    return new Outcome(turned.isEmpty() ? camera : camera.withPoses(poses), measured);
  }

  private static Optional<Double> measure(
      ShotCamera camera,
      FrameRange blurred,
      IntFunction<Optional<PictureTurn.View>> views,
      Map<Integer, Rotation> turned,
      Progress progress) {
    int first = blurred.first() - 1;
    int steps = blurred.count() + 1;
    double turnedInAll = 0;
    Rotation[] chain = new Rotation[steps + 1];
    chain[0] = camera.poses().at(first).rotation();
    Rotation last = Rotation.IDENTITY;
    Optional<PictureTurn.View> before = views.apply(first);
    for (int i = 1; i <= steps; i++) {
      progress.step(i - 1, steps);
      Optional<PictureTurn.View> now = views.apply(first + i);
      if (before.isEmpty() || now.isEmpty() || !before.get().size().equals(now.get().size())) {
        return Optional.empty();
      }
      PictureTurn.Found found =
          PictureTurn.between(
              before.get(), now.get(), List.of(step(camera, first + i), last, Rotation.IDENTITY));
      if (!(found.correlation() >= LEAST_ALIKE)) {
        return Optional.empty();
      }
      chain[i] = chain[i - 1].after(found.turn().inverse());
      before = now;
      last = found.turn();
      turnedInAll += last.angleTo(Rotation.IDENTITY);
    }
    Rotation off = camera.poses().at(first + steps).rotation().after(chain[steps].inverse());
    double missed = off.angleTo(Rotation.IDENTITY);
    if (!(missed <= MOST_DRIFT * turnedInAll)) {
      return Optional.empty();
    }
    for (int i = 1; i < steps; i++) {
      Rotation share = Rotation.IDENTITY.slerp(off, (double) i / steps);
      turned.put(first + i, share.after(chain[i]));
    }
    return Optional.of(Math.toDegrees(missed));
  }

  /**
   * Rotation from the frame before as the camera has it, in the sense of {@link PictureTurn.Found}.
   */
  private static Rotation step(ShotCamera camera, int frame) {
    return camera
        .poses()
        .at(frame)
        .rotation()
        .inverse()
        .after(camera.poses().at(frame - 1).rotation());
  }
}
