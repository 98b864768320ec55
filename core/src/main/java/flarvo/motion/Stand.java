package flarvo.motion;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import java.util.Arrays;
import java.util.Locale;
import java.util.Objects;
import java.util.stream.Collectors;

/** Where something stands while the rest takes over its motion. */
public sealed interface Stand {

  /**
   * Its poses, in the solve space of a shot.
   *
   * @param own as it moves by itself
   * @throws InputError when the shot does not have what it goes by
   */
  PoseTrack poses(Shot shot, PoseTrack own);

  /** In words, after what it is that is held. */
  String words();

  /** One answer for each kind: one that is added does not compile until it has them all. */
  interface Visitor<T> {
    /** Where it is itself at a frame. */
    T frame(Frame s);

    /** At a pose. */
    T at(At s);

    /** Where another camera is. */
    T as(As s);
  }

  /** The answer for the kind that this is. */
  <T> T accept(Visitor<T> visitor);

  /** What {@link #parse} makes the same of. */
  String text();

  /**
   * Where it is itself at a frame.
   *
   * @param frame of the plate; beyond its range its nearest pose counts
   */
  record Frame(int frame) implements Stand {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.frame(this);
    }

    @Override
    public PoseTrack poses(Shot shot, PoseTrack own) {
      return still(shot.frames(), own.at(own.frames().clamp(frame)));
    }

    @Override
    public String words() {
      return "is held where it is at frame " + frame;
    }

    @Override
    public String text() {
      return Integer.toString(frame);
    }
  }

  /**
   * At a pose.
   *
   * @param metres pose in the levelled world
   * @param panDegrees about the world's up, then tilt about its own right, then roll about its own
   *     line of sight
   */
  record At(Vec3 metres, double panDegrees, double tiltDegrees, double rollDegrees)
      implements Stand {

    public At {
      Objects.requireNonNull(metres);
      double[] all = {metres.x(), metres.y(), metres.z(), panDegrees, tiltDegrees, rollDegrees};
      if (!Arrays.stream(all).allMatch(d -> Math.abs(d) < 1e9)) {
        throw new IllegalArgumentException("a pose is six numbers below 1e9");
      }
    }

    /** In the levelled world. */
    public Pose pose() {
      return new Pose(
          metres,
          Rotation.about(new Vec3(0, 1, 0), Math.toRadians(panDegrees))
              .after(Rotation.about(new Vec3(1, 0, 0), Math.toRadians(tiltDegrees)))
              .after(Rotation.about(new Vec3(0, 0, 1), Math.toRadians(rollDegrees))));
    }

    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.at(this);
    }

    @Override
    public PoseTrack poses(Shot shot, PoseTrack own) {
      return still(shot.frames(), shot.level().inverse().apply(pose()));
    }

    @Override
    public String words() {
      return String.format(
          Locale.ROOT, "is held at %s %s %s m, pan %s°, tilt %s°, roll %s°", (Object[]) numbers());
    }

    private String[] numbers() {
      return new String[] {
        number(metres.x()),
        number(metres.y()),
        number(metres.z()),
        number(panDegrees),
        number(tiltDegrees),
        number(rollDegrees)
      };
    }

    @Override
    public String text() {
      return String.join(",", numbers());
    }

    /** The angles of a pose, to a ten thousandth of a degree. */
    static At of(Pose p) {
      double[] m = p.rotation().toRows();
      // R = Ry(pan) Rx(tilt) Rz(roll)
      double tilt = Math.asin(Math.max(-1, Math.min(1, -m[5])));
      return new At(
          p.position(),
          rounded(Math.atan2(m[2], m[8])),
          rounded(tilt),
          rounded(Math.atan2(m[3], m[4])));
    }

    private static double rounded(double radians) {
      return Math.rint(Math.toDegrees(radians) * 1e4) / 1e4 + 0.0;
    }

    static String number(double d) {
      return d == Math.rint(d) ? Long.toString((long) d) : Double.toString(d);
    }
  }

  /**
   * Where another camera of the shot is, frame by frame.
   *
   * @param camera its name
   */
  record As(String camera) implements Stand {
    @Override
    public <T> T accept(Visitor<T> visitor) {
      return visitor.as(this);
    }

    @Override
    public PoseTrack poses(Shot shot, PoseTrack own) {
      ShotCamera c =
          shot.cameras().stream()
              .skip(1)
              .filter(x -> x.name().equals(camera))
              .findFirst()
              .orElseThrow(
                  () ->
                      InputError.words(
                          "there is no other camera '" + camera + "'",
                          shot.cameras().size() < 2
                              ? "The shot has one camera; give a frame, or a pose of six numbers"
                              : "These are there: "
                                  + shot.cameras().stream()
                                      .skip(1)
                                      .map(ShotCamera::name)
                                      .collect(Collectors.joining(", "))));
      FrameRange has = c.frames();
      return PoseTrack.of(shot.frames(), f -> c.poses().at(has.clamp(f)));
    }

    @Override
    public String words() {
      return "is where camera " + camera + " is";
    }

    @Override
    public String text() {
      return camera;
    }
  }

  /**
   * A frame, a pose of six numbers (place in metres, then pan, tilt and roll in degrees, separated
   * by commas), or else the name of another camera.
   *
   * @throws InputError when it is blank, or numbers that are neither
   */
  static Stand parse(String text) {
    String t = text.strip();
    String[] parts = t.split("\\s*,\\s*", -1);
    boolean numbers = Arrays.stream(parts).allMatch(p -> p.matches("[-+]?[0-9.]+(e[-+]?[0-9]+)?"));
    try {
      if (numbers && parts.length == 1 && t.matches("[-+]?[0-9]{1,9}")) {
        return new Frame(Integer.parseInt(t));
      }
      if (numbers && parts.length == 6) {
        double[] v = Arrays.stream(parts).mapToDouble(Double::parseDouble).toArray();
        return new At(new Vec3(v[0], v[1], v[2]), v[3], v[4], v[5]);
      }
    } catch (IllegalArgumentException e) {
      throw notOne(t, e);
    }
    if (t.isEmpty() || numbers) {
      throw notOne(t, null);
    }
    return new As(t);
  }

  private static InputError notOne(String text, Exception cause) {
    return new InputError(
        "",
        "",
        "'" + text + "' is neither a frame nor a pose",
        "Give a plate frame, x,y,z,pan,tilt,roll in metres and degrees, or another camera's name",
        cause);
  }

  private static PoseTrack still(FrameRange frames, Pose p) {
    return PoseTrack.of(frames, f -> p);
  }
}
