package flarvo.motion;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A second solve of the same shot, made on an object that moves, put into the world of the first.
 * Both cameras are the same camera, so the object moves as
 *
 * <pre>
 *   G(f) = ( R_s R_o⁻¹ ,  c_s + k R_s R_o⁻¹ (p − c_o) )      on places k (x − p)
 * </pre>
 *
 * with centre c and rotation R of the scene's (s) and the object's (o) camera, and p the middle of
 * the object, about which its group turns. One camera cannot know k: the picture is the same for
 * every k, near and small or far and large. It is settled by a {@link ObjectScale}.
 */
public final class ObjectSolve {

  /** The same lens sees both; a focal length may differ by so much between two solves. */
  private static final double SAME_LENS = 0.02;

  private final Shot scene;
  private final Shot object;
  private final FrameRange frames;

  private ObjectSolve(Shot scene, Shot object, FrameRange frames) {
    this.scene = scene;
    this.object = object;
    this.frames = frames;
  }

  /**
   * @param scene the solve of the scene
   * @param object the solve of the object, in the same plate frames
   * @throws InputError when one has no camera, they have no frame in common, or are seen through
   *     different lenses
   */
  public static ObjectSolve of(Shot scene, Shot object) {
    ShotCamera a = camera(scene, "the scene");
    ShotCamera b = camera(object, "the object");
    int first = Math.max(a.frames().first(), b.frames().first());
    int last = Math.min(a.frames().last(), b.frames().last());
    if (first > last) {
      throw InputError.words(
          "the object's camera has frames " + b.frames() + ", the scene's " + a.frames(),
          "Give solves of the same plate frames");
    }
    double there = ratio(a, first);
    double here = ratio(b, first);
    if (Math.abs(here / there - 1) > SAME_LENS) {
      throw InputError.words(
          String.format(
              java.util.Locale.ROOT,
              "the two are seen through different lenses: focal lengths of %.4f and %.4f film backs",
              there,
              here),
          "Solve the object with the scene's lens");
    }
    return new ObjectSolve(scene, object, new FrameRange(first, last));
  }

  private static ShotCamera camera(Shot s, String what) {
    return s.camera()
        .orElseThrow(
            () -> InputError.words(what + " has no camera", "Give the solve with its camera"));
  }

  private static double ratio(ShotCamera c, int frame) {
    return c.optics().at(frame).focalLengthMm() / c.optics().at(frame).filmWidthMm();
  }

  /** Frames on which both are solved. */
  public FrameRange frames() {
    return frames;
  }

  /**
   * Where a place of the object is at a frame, in the scene's solve space.
   *
   * @param x in the object's solve space
   * @param k scale of the object
   */
  public Vec3 at(Vec3 x, int frame, double k) {
    Pose s = scene.cameras().get(0).poses().at(frame);
    Pose o = object.cameras().get(0).poses().at(frame);
    return s.toWorld(o.toLocal(x).times(k));
  }

  /**
   * A place of the object by a tracker's name, in its solve space.
   *
   * @throws InputError when the object has no such tracker
   */
  public Vec3 place(String tracker) {
    for (TrackerSet t : object.trackers()) {
      int i = t.moves() ? -1 : t.names().indexOf(tracker);
      if (i >= 0) {
        return t.position(i);
      }
    }
    throw InputError.words(
        "the object has no tracker '" + tracker + "'", "Give one of its trackers");
  }

  /** From the scene's solve space to its levelled world. */
  public Similarity level() {
    return scene.level();
  }

  /** Where the scene's camera is at a frame, in its solve space. */
  public Vec3 eye(int frame) {
    return scene.cameras().get(0).poses().at(frame).position();
  }

  /** Of the object's trackers: its group turns about it, and its path is that of the object. */
  private Vec3 middle() {
    Vec3 sum = Vec3.ZERO;
    int n = 0;
    for (TrackerSet t : object.trackers()) {
      if (!t.moves() && t.size() > 0) {
        sum = sum.plus(t.centre());
        n++;
      }
    }
    return n == 0 ? Vec3.ZERO : sum.times(1.0 / n);
  }

  /**
   * The scene with the object in it: its trackers and meshes in a group that moves. Names that both
   * have are the object's with its name before them.
   *
   * @param name of the group
   * @param k scale of the object, positive
   */
  public Shot in(String name, double k) {
    if (!(k > 0) || !Double.isFinite(k)) {
      throw InputError.words("a scale of " + k + " is none", "Give one over zero");
    }
    Vec3 pivot = middle();
    Group group =
        Group.moving(
            name,
            PoseTrack.of(
                frames,
                f -> {
                  Rotation s = scene.cameras().get(0).poses().at(f).rotation();
                  Rotation o = object.cameras().get(0).poses().at(f).rotation();
                  return new Pose(at(pivot, f, k), s.after(o.inverse()));
                }));
    List<String> taken =
        scene.trackers().stream().flatMap(t -> t.names().stream()).sorted().toList();
    List<TrackerSet> trackers = new ArrayList<>(scene.trackers());
    for (TrackerSet t : object.trackers()) {
      if (!t.moves()) {
        List<String> names =
            t.names().stream()
                .map(n -> java.util.Collections.binarySearch(taken, n) >= 0 ? name + "_" + n : n)
                .toList();
        trackers.add(
            t.map(p -> p.minus(pivot).times(k))
                .withNames(names)
                .named(name + "_" + t.name())
                .inGroup(Optional.of(group)));
      }
    }
    List<Mesh> meshes = new ArrayList<>(scene.meshes());
    for (Mesh m : object.meshes()) {
      if (!m.moves()) {
        meshes.add(m.map(p -> p.minus(pivot).times(k), v -> v, false).inGroup(Optional.of(group)));
      }
    }
    return scene.withTrackers(trackers).withMeshes(meshes);
  }
}
