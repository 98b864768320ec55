package flarvo.motion;

import flarvo.report.InputError;
import flarvo.scene.Fraction;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Observations;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TimeSampler;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalInt;

/**
 * Another time: for each frame of the new plates, the frame of the old ones that it shows. Between
 * frames of the old ones motion is sampled ({@link TimeSampler}).
 */
public final class Retime {

  /** Parts of a frame that a table is read to: exact for thirds, tenths and sixteenths. */
  private static final long DENOMINATOR = 480_000;

  private static final int MOST_FRAMES = 1_000_000;

  private final int first;
  private final double[] source;

  /**
   * @param first number of the first new frame
   * @param source frame of the old plates for each new one
   */
  public Retime(int first, double[] source) {
    if (source.length == 0 || source.length > MOST_FRAMES) {
      throw new IllegalArgumentException("a retime needs 1 to " + MOST_FRAMES + " frames");
    }
    for (double s : source) {
      if (!Double.isFinite(s) || Math.abs(s) > MOST_FRAMES * 10.0) {
        throw new IllegalArgumentException("a retime has no frame " + s);
      }
    }
    this.first = first;
    this.source = source.clone();
  }

  /** The frames backwards, under the same numbers. */
  public static Retime reversed(FrameRange frames) {
    double[] s = new double[frames.count()];
    Arrays.setAll(s, i -> frames.last() - i);
    return new Retime(frames.first(), s);
  }

  /**
   * A table of two columns, new frame and old frame, with or without a header: separated by commas,
   * semicolons, tabs or blanks. New frames must follow each other.
   *
   * @param file for errors
   * @throws InputError with the line that cannot be read
   */
  public static Retime parse(String file, String text) {
    List<Double> source = new ArrayList<>();
    int begin = 0;
    String[] lines = text.split("\\R", -1);
    for (int i = 0; i < lines.length; i++) {
      String line = lines[i].strip();
      if (line.isEmpty() || line.startsWith("#")) {
        continue;
      }
      String[] cells = line.split("\\s*[,;\\t]\\s*|\\s+");
      OptionalInt frame = cells.length < 2 ? OptionalInt.empty() : whole(cells[0]);
      double at = cells.length < 2 ? Double.NaN : number(cells[1]);
      if (frame.isEmpty() || Double.isNaN(at)) {
        if (source.isEmpty() && i < 2) {
          continue; // a header
        }
        throw line(file, i, "two frames are expected, new and old: '" + line + "'");
      }
      if (source.isEmpty()) {
        begin = frame.getAsInt();
      } else if (frame.getAsInt() != begin + source.size()) {
        throw line(file, i, "frame " + (begin + source.size()) + " is expected, not " + cells[0]);
      }
      source.add(at);
      if (source.size() > MOST_FRAMES) {
        throw line(file, i, "more than " + MOST_FRAMES + " frames");
      }
    }
    try {
      return new Retime(begin, source.stream().mapToDouble(d -> d).toArray());
    } catch (IllegalArgumentException e) {
      throw new InputError(file, "", e.getMessage(), "Give new frame and old frame a line", e);
    }
  }

  private static InputError line(String file, int i, String why) {
    return new InputError(file, "line " + (i + 1), why, "Give new frame and old frame a line");
  }

  private static OptionalInt whole(String s) {
    double d = number(s);
    return d == Math.rint(d) && Math.abs(d) < 1e9 ? OptionalInt.of((int) d) : OptionalInt.empty();
  }

  private static double number(String s) {
    try {
      return s.matches("[-+]?[0-9.]+([eE][-+]?[0-9]+)?") ? Double.parseDouble(s) : Double.NaN;
    } catch (NumberFormatException e) {
      return Double.NaN;
    }
  }

  /** The new frames. */
  public FrameRange frames() {
    return new FrameRange(first, first + source.length - 1);
  }

  /** The old frame that a new one shows; a fraction in between. */
  public double source(int frame) {
    return source[frame - first];
  }

  /** Old frames, one for each new. */
  public double[] sources() {
    return source.clone();
  }

  /** This retime of what another one makes: one for both. Between its frames it is straight. */
  public Retime after(Retime other) {
    double[] s = new double[source.length];
    for (int i = 0; i < s.length; i++) {
      double at = Math.max(0, Math.min(other.source.length - 1, source[i] - other.first));
      int k = (int) Math.min(Math.floor(at), Math.max(0, other.source.length - 2));
      double u = at - k;
      s[i] =
          u == 0
              ? other.source[k]
              : other.source[k] * (1 - u)
                  + other.source[Math.min(k + 1, other.source.length - 1)] * u;
    }
    return new Retime(first, s);
  }

  /**
   * The shot under the new time, on the new frames; without plates and tracks, which are of the old
   * one. Before its first frame and after its last, a motion is held.
   */
  public Shot of(Shot s) {
    FrameRange frames = frames();
    return new Shot(
        s.name(),
        s.picture(),
        s.rate(),
        frames,
        first,
        s.cameras().stream().map(c -> camera(c, frames)).toList(),
        s.trackers().stream().map(t -> trackers(t, frames)).toList(),
        Observations.NONE,
        List.of(),
        s.meshes().stream().map(m -> mesh(m, frames)).toList(),
        s.level());
  }

  private Fraction at(int frame) {
    double d = source(frame);
    return d == Math.rint(d)
        ? Fraction.of((long) d)
        : new Fraction(Math.round(d * DENOMINATOR), DENOMINATOR);
  }

  private ShotCamera camera(ShotCamera c, FrameRange frames) {
    return new ShotCamera(
        c.name(),
        poses(c.poses(), frames),
        OpticsTrack.of(frames, f -> TimeSampler.optics(c.optics(), at(f))),
        c.clip());
  }

  private PoseTrack poses(PoseTrack p, FrameRange frames) {
    return PoseTrack.of(frames, f -> TimeSampler.pose(p, at(f)));
  }

  private TrackerSet trackers(TrackerSet t, FrameRange frames) {
    return t.moves() ? t.inGroup(t.group().map(g -> group(g, frames))) : t;
  }

  private Mesh mesh(Mesh m, FrameRange frames) {
    return m.moves() ? m.inGroup(m.group().map(g -> group(g, frames))) : m;
  }

  private Group group(Group g, FrameRange frames) {
    return g.map(p -> poses(p, frames));
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof Retime r && r.first == first && Arrays.equals(r.source, source);
  }

  @Override
  public int hashCode() {
    return 31 * first + Arrays.hashCode(source);
  }

  @Override
  public String toString() {
    return "Retime[" + frames() + " from " + source[0] + " to " + source[source.length - 1] + "]";
  }
}
