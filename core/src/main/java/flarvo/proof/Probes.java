package flarvo.proof;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import java.util.ArrayList;
import java.util.List;

/**
 * Points placed in the view of a shot's cameras, which stand in for trackers where there are none:
 * with them a camera can be proven alone. On up to 200 frames, nine places of the picture, near and
 * far.
 */
public final class Probes {

  private static final int MOST_FRAMES = 200;
  private static final double[] PLACES = {0.05, 0.5, 0.95};

  /** In metres: nearer than most things in a shot, and farther. */
  private static final double[] DEPTHS = {2, 50};

  private Probes() {}

  /** The shot with probes in the place of its trackers and without observations. */
  public static WorldShot in(WorldShot shot) {
    List<String> names = new ArrayList<>();
    List<Vec3> at = new ArrayList<>();
    shot.cameras().forEach(c -> place(c, shot.picture(), names, at));
    double[] xyz = new double[3 * at.size()];
    for (int i = 0; i < at.size(); i++) {
      xyz[3 * i] = at.get(i).x();
      xyz[3 * i + 1] = at.get(i).y();
      xyz[3 * i + 2] = at.get(i).z();
    }
    return new WorldShot(
        shot.contents()
            .withTrackers(List.of(TrackerSet.of("probes", names, xyz)))
            .withObservations(Observations.NONE));
  }

  private static void place(
      ShotCamera c, PictureSize picture, List<String> names, List<Vec3> points) {
    FrameRange frames = c.frames();
    Pinhole eye = new Pinhole(c, picture);
    int step = Math.max(1, (frames.count() + MOST_FRAMES - 1) / MOST_FRAMES);
    for (int f = frames.first(); f <= frames.last(); f += step) {
      eye.at(f);
      Vec3 from = c.poses().at(f).position();
      for (double x : PLACES) {
        for (double y : PLACES) {
          Vec3 ray = eye.ray(x * picture.width(), y * picture.height());
          for (double depth : DEPTHS) {
            names.add("probe " + (names.size() + 1));
            points.add(from.plus(ray.times(depth)));
          }
        }
      }
    }
  }
}
