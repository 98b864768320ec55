package flarvo.suspect;

import flarvo.convention.Dialects;
import flarvo.convention.RotationOrder;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.DoubleFunction;
import java.util.function.DoubleUnaryOperator;
import java.util.function.UnaryOperator;

/**
 * Shots with a known truth, and files of them that are wrong in a known way. A file is spoiled with
 * arithmetic of its own, written, and read like any other.
 */
public final class SpoiledFiles {

  public static final PictureSize PICTURE = PictureSize.of(1920, 1080);

  /** How a camera moves. */
  public enum Move {
    FREE,
    DOLLY,
    TRIPOD
  }

  /** A way to spoil: code and value of the cause, and what it does to file and tracks. */
  record Spoil(
      String code, String value, UnaryOperator<Shot> file, UnaryOperator<Observations> tracks) {

    Spoil(String code, String value, UnaryOperator<Shot> file) {
      this(code, value, file, t -> t);
    }
  }

  private SpoiledFiles() {}

  // ---- truth ----

  /** Where the camera really was, at any time between frames too. */
  private static Pose path(Move move, Random r0, double frame) {
    double phase = 6 * r0.nextDouble();
    double speed = 0.7 + 0.6 * r0.nextDouble();
    double t = speed * (frame - 1001) / 24.0;
    Vec3 eye =
        switch (move) {
          case TRIPOD -> new Vec3(0.5, 1.6, 6);
          case DOLLY -> new Vec3(-1.5 + 0.9 * t, 1.5, 6 - 0.25 * t);
          case FREE ->
              new Vec3(
                  0.8 * t - 1 + 0.12 * Math.sin(3.1 * t + phase),
                  1.6 + 0.09 * Math.sin(5.3 * t),
                  6 - 0.3 * t + 0.1 * Math.cos(4.2 * t + phase));
        };
    double pan = 0.11 * Math.sin(0.9 * t + phase) + 0.01 * Math.sin(5 * t);
    double tilt = -0.12 + 0.05 * Math.sin(1.3 * t + 1) + 0.008 * Math.sin(6 * t);
    double roll = 0.06 + 0.03 * Math.sin(1.7 * t + 2);
    if (move == Move.TRIPOD) {
      pan = 0.25 * Math.sin(0.8 * t + phase);
    }
    return new Pose(
        eye,
        Rotation.about(new Vec3(0, 1, 0), pan)
            .after(Rotation.about(new Vec3(1, 0, 0), tilt))
            .after(Rotation.about(new Vec3(0, 0, 1), roll)));
  }

  public static Shot truth(Move move, int frames, int points, long seed) {
    Random r = new Random(seed);
    FrameRange range = new FrameRange(1001, 1000 + frames);
    double focal = 20 + 50 * r.nextDouble();
    double sx = 0.4 + r.nextDouble();
    double sy = -0.4 - r.nextDouble() * 0.5;
    PoseTrack poses = PoseTrack.of(range, f -> path(move, new Random(seed ^ 77), f));
    ShotCamera camera =
        new ShotCamera(
            "cam",
            poses,
            OpticsTrack.constant(range, new Optics(focal, 24.576, 13.824, sx, sy)),
            Optional.empty());
    List<String> names = new ArrayList<>();
    double[] xyz = new double[3 * points];
    for (int i = 0; i < points; i++) {
      names.add("t" + (i + 1));
      // Where some frame sees it, at any depth.
      Pose at = poses.at(1001 + r.nextInt(frames));
      double depth = 3 + 17 * r.nextDouble() * r.nextDouble();
      double u = (r.nextDouble() - 0.5) * 24.576 / focal;
      double v = (r.nextDouble() - 0.5) * 13.824 / focal;
      Vec3 p = at.toWorld(new Vec3(u * depth, v * depth, -depth));
      xyz[3 * i] = p.x();
      xyz[3 * i + 1] = p.y();
      xyz[3 * i + 2] = p.z();
    }
    return new Shot(
        "truth",
        PICTURE,
        Rate.FPS_24,
        range,
        1001,
        List.of(camera),
        List.of(TrackerSet.of("trackers", names, xyz)),
        Observations.NONE,
        List.of(),
        Similarity.IDENTITY);
  }

  /** What a tracker would have followed: 0.3 px of noise, one track in twenty astray. */
  public static Observations tracks(Shot truth, long seed) {
    Random r = new Random(seed);
    Pinhole hole = new Pinhole(truth.cameras().get(0), PICTURE);
    TrackerSet set = truth.trackers().get(0);
    Observations.Builder b = new Observations.Builder();
    double[] out = new double[3];
    for (int i = 0; i < set.size(); i++) {
      boolean stray = r.nextDouble() < 0.05;
      double sx = 60 * (r.nextDouble() - 0.5);
      double sy = 60 * (r.nextDouble() - 0.5);
      for (int f = truth.frames().first(); f <= truth.frames().last(); f++) {
        hole.at(f);
        hole.project(set, i, out);
        boolean inside = out[2] > 0 && out[0] > 0 && out[0] < 1920 && out[1] > 0 && out[1] < 1080;
        if (inside) {
          b.add(
              set.names().get(i),
              f,
              out[0] + 0.3 * r.nextGaussian() + (stray ? sx : 0),
              out[1] + 0.3 * r.nextGaussian() + (stray ? sy : 0));
        }
      }
    }
    return b.build();
  }

  // ---- the file ----

  /** Written in a dialect and format, and read as whoever gets it would. */
  static Shot read(Shot shot, Path dir, String format, String dialect) {
    Delivery d =
        new Delivery(
            "d",
            Dialects.shipped().get(dialect),
            Formats.byId(format),
            Contents.CAMERA_AND_TRACKERS,
            "d");
    Path file = dir.resolve("spoiled" + d.format().extensions().get(0));
    Dispatcher.send(shot, d, file, Progress.NONE);
    IntakeOptions options = IntakeOptions.NONE.withFrom(d.dialect()).withSize(PICTURE);
    ShotIntake intake = new ShotIntake();
    intake.add(file, options, Progress.NONE);
    ReceivedSet set = intake.received(options);
    int first = set.files().get(0).scene().cameras().get(0).camera().frames().first();
    return set.shot("s", options.withPlateFirst(first + shot.frames().first() - first));
  }

  // ---- ways to spoil ----

  private static Shot camera(Shot s, UnaryOperator<ShotCamera> change) {
    ShotCamera c = change.apply(s.cameras().get(0));
    return new Shot(
        s.name(),
        s.picture(),
        s.rate(),
        c.frames(),
        c.frames().first(),
        List.of(c),
        s.trackers(),
        s.observations(),
        s.plates(),
        s.level());
  }

  private static Shot poses(Shot s, UnaryOperator<Pose> change) {
    return camera(s, c -> c.withPoses(c.poses().map(change)));
  }

  private static Shot points(Shot s, UnaryOperator<Vec3> change) {
    return s.withTrackers(s.trackers().stream().map(t -> t.map(change)).toList());
  }

  private static Shot optics(Shot s, UnaryOperator<Optics> change) {
    return camera(s, c -> c.withOptics(c.optics().map(change)));
  }

  private static Observations tracks(Observations o, UnaryOperator<double[]> change) {
    Observations.Builder b = new Observations.Builder();
    for (String n : o.names()) {
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        double[] p = change.apply(new double[] {o.x(row), o.y(row)});
        b.add(n, o.frame(row), p[0], p[1]);
      }
    }
    return b.build();
  }

  /** Other times of the true path on the file's frames. */
  private static Shot at(Shot s, DoubleFunction<Pose> path, DoubleUnaryOperator time) {
    return camera(
        s, c -> c.withPoses(PoseTrack.of(c.frames(), f -> path.apply(time.applyAsDouble(f)))));
  }

  private static Shot keyed(Shot s, int frame, UnaryOperator<Pose> change, int until) {
    return camera(
        s,
        c ->
            c.withPoses(
                PoseTrack.of(
                    c.frames(),
                    f ->
                        f >= frame && f <= until
                            ? change.apply(c.poses().at(f))
                            : c.poses().at(f))));
  }

  /** One of each kind that a move can show, with values drawn at random. */
  static Map<String, Spoil> all(Move move, long seed) {
    Random r = new Random(seed + 5);
    DoubleFunction<Pose> path = f -> path(move, new Random(seed ^ 77), f);
    List<Spoil> out = new ArrayList<>();
    int shift = (r.nextBoolean() ? 1 : -1) * (1 + r.nextInt(6));
    out.add(
        new Spoil(
            "frame-shift",
            (shift > 0 ? "-" : "+") + Math.abs(shift),
            s -> camera(s, c -> c.shifted(shift))));
    out.add(new Spoil("frame-shift", "-0.5", s -> at(s, path, f -> f - 0.5)));
    out.add(
        new Spoil("rate-stretch", "25/24", s -> at(s, path, f -> 1001 + (f - 1001) * 24 / 25.0)));
    Rotation quarter =
        Rotation.about(
            r.nextBoolean() ? new Vec3(1, 0, 0) : new Vec3(0, 0, 1),
            r.nextBoolean() ? Math.PI / 2 : -Math.PI / 2);
    out.add(
        new Spoil(
            "camera-axes",
            "",
            s -> poses(s, p -> new Pose(p.position(), p.rotation().after(quarter)))));
    out.add(new Spoil("world-axes", "", s -> points(s, p -> new Vec3(p.x(), -p.z(), p.y()))));
    out.add(new Spoil("handedness", "", s -> points(s, p -> new Vec3(p.x(), p.y(), -p.z()))));
    double focal = r.nextBoolean() ? 0.7 + 0.2 * r.nextDouble() : 1.1 + 0.3 * r.nextDouble();
    out.add(
        new Spoil(
            "focal-length",
            String.valueOf(1 / focal),
            s ->
                optics(
                    s,
                    o ->
                        new Optics(
                            o.focalLengthMm() * focal,
                            o.filmWidthMm(),
                            o.filmHeightMm(),
                            o.principalXMm(),
                            o.principalYMm()))));
    double aspect = 1.05 + 0.4 * r.nextDouble();
    out.add(
        new Spoil(
            "pixel-aspect",
            String.valueOf(aspect),
            s -> s,
            t -> tracks(t, p -> new double[] {960 + (p[0] - 960) / aspect, p[1]})));
    out.add(
        new Spoil(
            "lens-shift-sign",
            "both",
            s -> optics(s, o -> o.withPrincipal(-o.principalXMm(), -o.principalYMm()))));
    out.add(
        new Spoil("y-flip", "true", s -> s, t -> tracks(t, p -> new double[] {p[0], 1080 - p[1]})));
    out.add(
        new Spoil(
            "picture-scale",
            "0.5",
            s -> s,
            t -> tracks(t, p -> new double[] {p[0] / 2, p[1] / 2})));
    double radial = (r.nextBoolean() ? 1 : -1) * (0.03 + 0.1 * r.nextDouble());
    out.add(
        new Spoil(
            "distorted-plate",
            String.valueOf(radial),
            s -> s,
            t ->
                tracks(
                    t,
                    p -> {
                      double x = p[0] - 960;
                      double y = p[1] - 540;
                      double k = 1 + radial * (x * x + y * y) / (960 * 960 + 540 * 540);
                      return new double[] {960 + x * k, 540 + y * k};
                    })));
    out.add(
        new Spoil(
            "rotation-order",
            "",
            s ->
                poses(
                    s,
                    p -> {
                      double[] a = RotationOrder.ZXY.decompose(p.rotation(), 0);
                      return new Pose(p.position(), euler(a, "XYZ"));
                    })));
    out.add(
        new Spoil(
            "degrees-radians",
            "",
            s ->
                poses(
                    s,
                    p -> {
                      double[] a = RotationOrder.XYZ.decompose(p.rotation(), 0);
                      double k = Math.PI / 180;
                      return new Pose(
                          p.position(), euler(new double[] {k * a[0], k * a[1], k * a[2]}, "XYZ"));
                    })));
    out.add(
        new Spoil(
            "channel-sign",
            "",
            s ->
                poses(
                    s,
                    p -> {
                      double[] a = RotationOrder.ZXY.decompose(p.rotation(), 0);
                      return new Pose(p.position(), euler(new double[] {a[0], -a[1], a[2]}, "ZXY"));
                    })));
    out.add(
        new Spoil(
            "frozen-frame",
            "1013",
            s -> keyed(s, 1013, p -> s.cameras().get(0).poses().at(1012), 1013)));
    out.add(
        new Spoil(
            "bad-range",
            "1020-1024",
            s ->
                keyed(
                    s,
                    1020,
                    p ->
                        new Pose(
                            p.position(),
                            p.rotation().after(Rotation.about(new Vec3(0, 1, 0), 0.01))),
                    1024)));
    out.add(
        new Spoil(
            "picture-offset",
            "",
            s -> s,
            t -> tracks(t, p -> new double[] {p[0] + 31, p[1] - 12})));
    if (move != Move.TRIPOD) {
      double[] units = {100, 0.01, 0.3048, 10};
      double unit = units[r.nextInt(units.length)];
      out.add(
          new Spoil("unit-scale", String.valueOf(1 / unit), s -> points(s, p -> p.times(unit))));
      out.add(
          new Spoil(
              "channel-sign",
              "position",
              s -> poses(s, p -> new Pose(flipX(p.position()), p.rotation()))));
      out.add(
          new Spoil(
              "channel-swap",
              "position",
              s -> poses(s, p -> new Pose(swapYz(p.position()), p.rotation()))));
      Similarity parent =
          new Similarity(1.37, Rotation.about(new Vec3(0.2, 1, 0.3), 0.6), new Vec3(2, -0.5, 1));
      out.add(new Spoil("missing-parent", "", s -> points(s, parent::apply)));
    }
    Map<String, Spoil> named = new LinkedHashMap<>();
    for (Spoil s : out) {
      named.put(s.code() + (named.containsKey(s.code()) ? " 2" : ""), s);
    }
    return named;
  }

  private static Vec3 flipX(Vec3 v) {
    return new Vec3(-v.x(), v.y(), v.z());
  }

  private static Vec3 swapYz(Vec3 v) {
    return new Vec3(v.x(), v.z(), v.y());
  }

  /**
   * A shot whose angles, in the order ZXY, were copied as they are.
   *
   * @param order that they were composed in
   * @param factor on all of them
   * @param flipped whether the second has the wrong sign
   */
  static Shot angles(Shot s, String order, double factor, boolean flipped) {
    return poses(
        s,
        p -> {
          double[] a = RotationOrder.ZXY.decompose(p.rotation(), 0);
          double y = flipped ? -a[1] : a[1];
          return new Pose(
              p.position(), euler(new double[] {factor * a[0], factor * y, factor * a[2]}, order));
        });
  }

  /** Turns about fixed axes, the first letter first. */
  private static Rotation euler(double[] a, String order) {
    Rotation out = Rotation.IDENTITY;
    for (int k = 0; k < 3; k++) {
      int i = order.charAt(k) - 'X';
      Vec3 axis = new Vec3(i == 0 ? 1 : 0, i == 1 ? 1 : 0, i == 2 ? 1 : 0);
      out = Rotation.about(axis, a[i]).after(out);
    }
    return out;
  }
}
