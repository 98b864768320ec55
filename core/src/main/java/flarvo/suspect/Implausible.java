package flarvo.suspect;

import flarvo.scene.Optics;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * What cannot well be true of a camera and its points, where there is nothing to measure them
 * against. Bounds are wide: what they name is odd on any set, not only unusual.
 */
public final class Implausible {

  private static final double SHORTEST_MM = 2;
  private static final double LONGEST_MM = 3000;
  private static final double SMALLEST_BACK_MM = 2;
  private static final double LARGEST_BACK_MM = 110;
  private static final double FASTEST = 60; // metres a second: a train
  private static final double NEAREST = 0.05; // metres, in the median
  private static final double FARTHEST = 20_000;
  private static final double LARGEST_TURN = Math.toRadians(60); // between two frames
  private static final double MOST = 0.9; // of the points
  private static final int SAMPLES = 24; // frames that are looked at for what is seen

  private Implausible() {}

  /**
   * Sentences without their end; none where nothing is odd.
   *
   * @param shot read as its sender is believed to speak, in metres
   */
  public static List<String> of(Shot shot) {
    List<String> out = new ArrayList<>();
    shot.camera().ifPresent(c -> camera(c, shot, out));
    return List.copyOf(out);
  }

  private static void camera(ShotCamera c, Shot shot, List<String> out) {
    Optics o = c.optics().at(c.frames().first());
    if (o.focalLengthMm() < SHORTEST_MM || o.focalLengthMm() > LONGEST_MM) {
      out.add(say("a focal length of %.4g mm; another unit?", o.focalLengthMm()));
    }
    if (o.filmWidthMm() < SMALLEST_BACK_MM || o.filmWidthMm() > LARGEST_BACK_MM) {
      out.add(say("a film back %.4g mm wide; another unit?", o.filmWidthMm()));
    }
    moves(c, shot, out);
    if (shot.trackerCount() > 0) {
      points(c, shot, out);
    }
  }

  private static void moves(ShotCamera c, Shot shot, List<String> out) {
    int n = c.frames().count();
    double[] speed = new double[Math.max(0, n - 1)];
    double turn = 0;
    int at = 0;
    for (int i = 1; i < n; i++) {
      Pose a = c.poses().at(c.frames().first() + i - 1);
      Pose b = c.poses().at(c.frames().first() + i);
      speed[i - 1] = b.position().minus(a.position()).length() * shot.rate().toDouble();
      double angle = a.rotation().angleTo(b.rotation());
      if (angle > turn) {
        turn = angle;
        at = c.frames().first() + i;
      }
    }
    Arrays.sort(speed);
    double median = speed.length == 0 ? 0 : speed[speed.length / 2];
    if (median > FASTEST) {
      out.add(say("the camera moves at %.0f m/s; another unit?", median));
    }
    if (turn > LARGEST_TURN) {
      out.add(
          say(
              "the camera turns by %.0f° from frame %d to %d; angles that jump, or radians?",
              Math.toDegrees(turn), at - 1, at));
    }
  }

  private static void points(ShotCamera c, Shot shot, List<String> out) {
    Pinhole hole = new Pinhole(c, shot.picture());
    double[] p = new double[3];
    int all = 0;
    int behind = 0;
    int outside = 0;
    double[] depths = new double[SAMPLES * shot.trackerCount()];
    int n = 0;
    for (int k = 0; k < SAMPLES; k++) {
      int f = c.frames().first() + (int) ((k + 0.5) * c.frames().count() / SAMPLES);
      hole.at(f);
      for (TrackerSet t : shot.trackers()) {
        for (int i = 0; i < t.size(); i++) {
          hole.project(t, i, p);
          all++;
          if (!(p[2] > 0)) {
            behind++;
            continue;
          }
          depths[n++] = p[2];
          boolean in =
              p[0] >= 0
                  && p[0] <= shot.picture().width()
                  && p[1] >= 0
                  && p[1] <= shot.picture().height();
          outside += in ? 0 : 1;
        }
      }
    }
    if (behind > MOST * all) {
      out.add("nearly all points are behind the camera; other camera axes, or mirrored?");
    } else if (behind + outside > MOST * all) {
      out.add("nearly all points are outside the picture; other axes, or another film back?");
    }
    Arrays.sort(depths, 0, n);
    double median = n == 0 ? 1 : depths[n / 2];
    if (median < NEAREST || median > FARTHEST) {
      out.add(say("the points are %.4g m away; another unit?", median));
    }
    below(c, shot, out);
  }

  /** A camera that is lower than all it sees has mostly been turned over. */
  private static void below(ShotCamera c, Shot shot, List<String> out) {
    double lowest = Double.POSITIVE_INFINITY;
    double highest = Double.NEGATIVE_INFINITY;
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        Vec3 v = t.position(i);
        lowest = Math.min(lowest, v.y());
        highest = Math.max(highest, v.y());
      }
    }
    boolean under = highest > lowest;
    for (int f = c.frames().first(); f <= c.frames().last() && under; f++) {
      under = c.poses().at(f).position().y() < lowest - 0.1 * (highest - lowest);
    }
    if (under) {
      out.add("the camera is under all of its points; another up axis, or upside down?");
    }
  }

  private static String say(String text, Object... values) {
    return String.format(Locale.ROOT, text, values);
  }
}
