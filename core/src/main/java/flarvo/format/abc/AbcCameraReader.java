package flarvo.format.abc;

import flarvo.format.FileCamera;
import flarvo.format.MatrixPose;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.ShotCamera;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import org.joml.Matrix4d;

/** A camera object, evaluated frame by frame. */
final class AbcCameraReader {

  private static final double MM_PER_CM = 10;

  /** How far from a whole frame a sample may lie and still be on the grid, in frames. */
  private static final double GRID = 1e-4;

  private static final int CORE = 16;

  private final String file;
  private final AbcClock clock;
  private final Rate rate;
  private final ReadLimits limits;
  private final List<Note> notes;

  AbcCameraReader(String file, AbcClock clock, ReadLimits limits, List<Note> notes) {
    this.file = file;
    this.clock = clock;
    this.rate = clock.rate();
    this.limits = limits;
    this.notes = notes;
  }

  FileCamera read(AbcNode node, AbcCompound geom, String name, String path) {
    AbcProperty core =
        geom.property(".core")
            .orElseThrow(
                () -> new InputError(file, "<" + path + ">", "the camera has no lens", ""));
    List<AbcProperty> moving = new ArrayList<>(node == null ? List.of() : node.moving());
    if (!core.isConstant()) {
      moving.add(core);
    }
    TreeSet<Double> times = new TreeSet<>();
    for (AbcProperty p : moving) {
      if (p.samples > limits.mostFrames()) {
        throw new InputError(
            file, "<" + path + ">", p.samples + " samples are more than a shot has", "");
      }
      for (int i = 0; i < p.samples; i++) {
        times.add(p.sampling.time(i) * rate.toDouble());
      }
    }
    if (times.isEmpty()) {
      times.add(core.sampling.time(0) * rate.toDouble());
    }
    clock.snap().goBy(times.stream().mapToDouble(Double::doubleValue).toArray(), path, notes);
    FrameRange frames = range(times, path);
    AbcFilmBack filmBack = new AbcFilmBack(geom);
    if (filmBack.isThere()) {
      notes.add(Note.assumed(path, "its film back transform is read in units of half the back"));
    }
    boolean[] scaled = {false};
    PoseTrack poses = PoseTrack.of(frames, f -> pose(node, f, path, scaled));
    if (scaled[0]) {
      notes.add(Note.changed(path, "the camera is under a scale, which was removed"));
    }
    OpticsTrack optics = OpticsTrack.of(frames, f -> optics(core, filmBack, f, path));
    double[] first = core.at(seconds(frames.first()));
    Optional<ClipRange> clip =
        first[14] > 0 && first[15] > first[14] && Double.isFinite(first[15])
            ? Optional.of(new ClipRange(first[14], first[15]))
            : Optional.empty();
    int off = 0;
    for (double t : times) {
      off += Math.abs(t - Math.rint(t)) > GRID ? 1 : 0;
    }
    return new FileCamera(new ShotCamera(name, poses, optics, clip), times.size(), off, true, true);
  }

  /** From the first sample of some properties to the last; null where there are none. */
  FrameRange framesOf(List<AbcProperty> moving) {
    TreeSet<Double> times = new TreeSet<>();
    for (AbcProperty p : moving) {
      times.add(p.sampling.time(0) * rate.toDouble());
      times.add(p.sampling.time(Math.max(0, p.samples - 1)) * rate.toDouble());
    }
    return times.isEmpty() ? null : range(times, "");
  }

  private double seconds(int frame) {
    return clock.secondsOf(frame);
  }

  private FrameRange range(TreeSet<Double> times, String path) {
    double[] ends = clock.snap().snapped(new double[] {times.first(), times.last()});
    double first = Math.ceil(ends[0] - GRID);
    double last = Math.max(first, Math.floor(ends[1] + GRID));
    if (Math.abs(first) > 1e8 || Math.abs(last) > 1e8 || last - first >= limits.mostFrames()) {
      throw new InputError(
          file, "<" + path + ">", "the samples reach over more frames than a shot has", "");
    }
    return new FrameRange((int) first, (int) last);
  }

  private Pose pose(AbcNode node, int frame, String path, boolean[] scaled) {
    Matrix4d m = node == null ? new Matrix4d() : node.world(seconds(frame));
    scaled[0] |= Math.abs(m.determinant3x3() - 1) > 1e-6;
    return MatrixPose.rigid(m, 2, 1)
        .orElseThrow(
            () ->
                new InputError(
                    file,
                    "<" + path + "> at frame " + frame,
                    "the camera's transform is mirrored or collapsed",
                    "Ask for it without a negative or zero scale above the camera"));
  }

  private Optics optics(AbcProperty core, AbcFilmBack filmBack, int frame, String path) {
    double[] c = core.at(seconds(frame));
    if (c.length < CORE) {
      throw new InputError(
          file, "<" + path + ">", "the lens has " + c.length + " of " + CORE + " values", "");
    }
    double width = c[1] * MM_PER_CM * (c[5] > 0 ? c[5] : 1);
    double height = c[3] * MM_PER_CM;
    try {
      Optics o = new Optics(c[0], width, height, -c[2] * MM_PER_CM, -c[4] * MM_PER_CM);
      return filmBack.apply(o, seconds(frame));
    } catch (IllegalArgumentException e) {
      throw new InputError(
          file, "<" + path + "> at frame " + frame, e.getMessage(), "Request a new copy", e);
    }
  }
}
