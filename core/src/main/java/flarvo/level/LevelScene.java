package flarvo.level;

import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.Triangulation;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/**
 * What levelling needs of a shot, in solve space: places by name, eyes, and what pixels say. Safe
 * for use by several threads.
 */
public final class LevelScene {

  /** Frames that are looked at for an effect in pixels, at most. */
  private static final int MOST_FRAMES = 48;

  private final Shot shot;
  private final Map<String, Vec3> places;
  private final Map<String, Optional<Spread>> spreads = new ConcurrentHashMap<>();
  private final List<Pose> poses = new ArrayList<>();
  private volatile Boolean mirrored;

  public LevelScene(Shot shot) {
    this.shot = shot;
    places = TrackerSet.stillPositions(shot.trackers());
    shot.camera()
        .ifPresent(
            c -> {
              int step = Math.max(1, c.frames().count() / MOST_FRAMES);
              for (int f = c.frames().first(); f <= c.frames().last(); f += step) {
                poses.add(c.poses().at(f));
              }
            });
  }

  public Shot shot() {
    return shot;
  }

  public Map<String, Vec3> places() {
    return places;
  }

  /** Some of the camera's poses, over the whole shot. */
  public List<Pose> poses() {
    return poses;
  }

  /** Whether it fits its tracks only when mirrored; worked out when first asked. */
  boolean isMirrored() {
    Boolean known = mirrored;
    if (known == null) {
      known = LevelCheck.isMirrored(this);
      mirrored = known;
    }
    return known;
  }

  /** Empty where no 2D tracks say it. */
  public Optional<Spread> spread(String tracker) {
    return spreads.computeIfAbsent(tracker, this::measure);
  }

  private Optional<Spread> measure(String tracker) {
    Vec3 at = places.get(tracker);
    if (at == null || shot.camera().isEmpty() || shot.observations().firstRow(tracker) < 0) {
      return Optional.empty();
    }
    ShotCamera c = shot.camera().get();
    return new Triangulation(c, shot.picture(), shot.observations())
        .measured(tracker, at)
        .filter(p -> Double.isFinite(p.depthError()) && p.depthError() > 0)
        .map(
            p -> {
              // The errors are for one pixel on each axis; the tracker's own is rms / √2.
              double own = Math.max(0.02, p.rmsPx() / Math.sqrt(2));
              Vec3 nearest = null;
              for (Pose pose : poses) {
                Vec3 d = at.minus(pose.position());
                if (nearest == null || d.length() < nearest.length()) {
                  nearest = d;
                }
              }
              Vec3 ray = nearest.length() > 0 ? nearest.normalized() : new Vec3(0, 0, 1);
              return new Spread(ray, own * p.depthError(), own * p.sideError());
            });
  }

  /**
   * How far a tracker's place would move in the picture, RMS over frames that see it.
   *
   * @param by in solve space
   * @return NaN where no frame shows it
   */
  public double pixels(String tracker, Vec3 by) {
    Vec3 at = places.get(tracker);
    return at == null ? Double.NaN : pixels(at, by, tracker);
  }

  /** The same for any place. */
  public double pixels(Vec3 at, Vec3 by) {
    return pixels(at, by, null);
  }

  private double pixels(Vec3 at, Vec3 by, String tracker) {
    if (shot.camera().isEmpty()) {
      return Double.NaN;
    }
    ShotCamera c = shot.camera().get();
    Observations o = shot.observations();
    boolean tracked = tracker != null && o.firstRow(tracker) >= 0;
    Pinhole p = new Pinhole(c, shot.picture());
    double[] a = new double[3];
    double[] b = new double[3];
    Vec3 to = at.plus(by);
    double sum = 0;
    int n = 0;
    int step = Math.max(1, c.frames().count() / MOST_FRAMES);
    for (int f = c.frames().first(); f <= c.frames().last(); f += step) {
      p.at(f).project(at.x(), at.y(), at.z(), a);
      p.project(to.x(), to.y(), to.z(), b);
      boolean inside =
          a[2] > 0
              && b[2] > 0
              && a[0] >= 0
              && a[1] >= 0
              && a[0] <= shot.picture().width()
              && a[1] <= shot.picture().height();
      if (inside && (!tracked || o.row(tracker, f) >= 0)) {
        sum += (a[0] - b[0]) * (a[0] - b[0]) + (a[1] - b[1]) * (a[1] - b[1]);
        n++;
      }
    }
    return n == 0 ? Double.NaN : Math.sqrt(sum / n);
  }
}
