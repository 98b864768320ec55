package flarvo.suspect;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.PixelIntrinsics;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;

/** A file's shot with its mix-up undone. */
public final class Mending {

  /** A world that is mirrored along Z, for a camera that sees a mirrored picture. */
  private static final double[] MIRROR = {1, 0, 0, 0, 1, 0, 0, 0, -1};

  /** Closer than this a pixel aspect is the one that was stated. */
  private static final double SQUARE = 1e-3;

  private Mending() {}

  /**
   * The shot as it was meant: its first camera and the points that stand still, see {@link
   * #leftOut}. Points move where camera and points do not belong together; frames for which the
   * file has no camera then are gone.
   *
   * @param shot the one that the search was made on
   * @throws InputError when the mix-up is in the tracks or the plates and not in the file, or is a
   *     bad range that nothing in the file tells how to mend
   */
  public static Shot of(Shot shot, Suspect suspect) {
    TriedScene.Knobs k = suspect.scene().knobs;
    for (Suspect.Cause c : suspect.causes()) {
      if (c.code().equals("bad-range") || c.code().equals("frozen-frame")) {
        throw InputError.words(
            "nothing in the file tells where the camera was at " + c.value(),
            "Request those frames again");
      }
    }
    if (k.flipY || k.scale != 1 || k.radial != 0) {
      throw InputError.words(
          "the mix-up is in the tracks or their plates, not in the file",
          "Mend the tracks: " + suspect.sentence());
    }
    ShotCamera camera = camera(shot, suspect.scene());
    boolean mirrors = Axes.determinant(k.local) < 0;
    double[] turn = mirrors ? Axes.times(MIRROR, k.points) : k.points;
    double[] move = mirrors ? Axes.apply(MIRROR, k.offset) : k.offset;
    List<TrackerSet> points =
        shot.trackers().stream()
            .filter(t -> !t.moves())
            .map(t -> t.map(p -> moved(turn, move, p)))
            .toList();
    return new Shot(
        shot.name(),
        picture(shot.picture(), camera),
        shot.rate(),
        camera.frames(),
        camera.frames().first(),
        List.of(camera),
        points,
        shot.observations(),
        shot.plates(),
        shot.level());
  }

  /** What a mended shot does not have, in sentences without their end. */
  public static List<String> leftOut(Shot shot) {
    List<String> out = new ArrayList<>();
    if (shot.cameras().size() > 1) {
      out.add(count(shot.cameras().size() - 1, "more camera", "more cameras"));
    }
    int moving =
        shot.trackers().stream().filter(TrackerSet::moves).mapToInt(TrackerSet::size).sum();
    if (moving > 0) {
      out.add(count(moving, "moving point", "moving points"));
    }
    if (!shot.meshes().isEmpty()) {
      out.add(count(shot.meshes().size(), "mesh", "meshes"));
    }
    return out;
  }

  private static String count(int n, String one, String many) {
    return n + " " + (n == 1 ? one : many);
  }

  /** Of another pixel aspect, where the back does not have the picture's. */
  private static PictureSize picture(PictureSize p, ShotCamera c) {
    Optics o = c.optics().at(c.frames().first());
    double aspect = o.filmWidthMm() / o.filmHeightMm() * p.height() / p.width();
    return Math.abs(aspect / p.pixelAspect() - 1) > SQUARE
        ? new PictureSize(p.width(), p.height(), aspect)
        : p;
  }

  private static Vec3 moved(double[] m, double[] t, Vec3 p) {
    double[] v = Axes.apply(m, new double[] {p.x(), p.y(), p.z()});
    return new Vec3(v[0] + t[0], v[1] + t[1], v[2] + t[2]);
  }

  private static ShotCamera camera(Shot shot, TriedScene s) {
    TriedScene.Knobs k = s.knobs;
    double last = s.file.first() + s.file.count() - 1;
    int first = (int) Math.ceil((s.file.first() - k.frameStart) / k.frameStep - 1e-9);
    int end = (int) Math.floor((last - k.frameStart) / k.frameStep + 1e-9);
    FrameRange frames = new FrameRange(first, Math.max(first, end));
    PictureSize picture = shot.picture();
    ShotCamera old = shot.camera().orElseThrow();
    Optics before = old.optics().at(old.frames().first());
    TriedScene.View v = new TriedScene.View();
    return new ShotCamera(
        old.name(),
        PoseTrack.of(frames, f -> pose(s, f, picture, v)),
        OpticsTrack.of(
            frames,
            f -> {
              s.look(f, picture.width(), picture.height(), v);
              return optics(v, before.filmWidthMm(), picture);
            }),
        old.clip());
  }

  /** The camera's centre and rotation: {@code c = R (R' x + …)} turned round. */
  private static Pose pose(TriedScene s, int frame, PictureSize picture, TriedScene.View v) {
    s.with(
            k -> {
              k.points = TriedScene.IDENTITY;
              k.offset = new double[3];
            })
        .look(frame, picture.width(), picture.height(), v);
    // m = local · Rᵀ, t = −m · c. A mirrored camera in a mirrored world is a camera again.
    boolean mirrors = Axes.determinant(v.m) < 0;
    double[] m = mirrors ? Axes.times(v.m, MIRROR) : v.m;
    Vec3 centre =
        new Vec3(
            -(m[0] * v.t[0] + m[3] * v.t[1] + m[6] * v.t[2]),
            -(m[1] * v.t[0] + m[4] * v.t[1] + m[7] * v.t[2]),
            -(m[2] * v.t[0] + m[5] * v.t[1] + m[8] * v.t[2]));
    return new Pose(
        centre, Rotation.fromRows(m[0], m[3], m[6], m[1], m[4], m[7], m[2], m[5], m[8]));
  }

  /** On a film back of a width, what sees as these intrinsics do; see {@link PixelIntrinsics}. */
  private static Optics optics(TriedScene.View v, double widthMm, PictureSize picture) {
    double focal = v.fx * widthMm / picture.width();
    double height = focal * picture.height() / v.fy;
    return new Optics(
        focal,
        widthMm,
        height,
        (v.cx / picture.width() - 0.5) * widthMm,
        (0.5 - v.cy / picture.height()) * height);
  }
}
