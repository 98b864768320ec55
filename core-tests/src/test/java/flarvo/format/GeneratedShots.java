package flarvo.format;

import flarvo.TestShots;
import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;

/** Shots with a random choice of what makes writing one hard. */
final class GeneratedShots {

  /** Letters of many scripts, what formats reserve, and what looks like a number. */
  private static final List<String> NAMES =
      List.of(
          "t1",
          "трекер",
          "追跡点",
          "متتبع",
          "עקיבה",
          "अनुगामी",
          "추적",
          "é_accent",
          "a b",
          "a/b",
          "a.b:c|d",
          "1st",
          "-7",
          "\"quoted\"",
          "back\\slash",
          "<path>",
          "&amp;",
          "x=1;y",
          "ÅÄÖ",
          "🙂",
          "e\u0301",
          "T1",
          "t1_2",
          "_",
          "null",
          "true");

  private final Random r;

  GeneratedShots(long seed) {
    r = new Random(seed);
  }

  private boolean sometimes() {
    return r.nextInt(3) == 0;
  }

  Shot next() {
    int first = new int[] {1001, 0, -5, 86_400, 1}[r.nextInt(5)];
    int count = new int[] {1, 2, 7, 30}[r.nextInt(4)];
    FrameRange frames = new FrameRange(first, first + count - 1);
    Vec3 at = sometimes() ? new Vec3(5000, 120, -3400) : Vec3.ZERO;
    PictureSize picture =
        new PictureSize(
            r.nextBoolean() ? 1920 : 2047, r.nextBoolean() ? 1080 : 871, sometimes() ? 2.0 : 1.0);
    Group cart = Group.moving("cart", moving(frames, at));
    Group arm = Group.moving("arm", moving(frames, at)).in(cart);
    Set<String> taken = new HashSet<>();
    List<TrackerSet> sets = new ArrayList<>();
    if (!sometimes()) {
      sets.add(trackers("trackers", r.nextInt(40) + 1, at, taken));
    }
    if (sometimes()) {
      sets.add(
          trackers("on the cart", 5, Vec3.ZERO, taken)
              .inGroup(Optional.of(r.nextBoolean() ? cart : arm)));
    }
    List<Mesh> meshes = new ArrayList<>();
    if (sometimes()) {
      meshes.add(mesh("panel", at));
    }
    if (sometimes()) {
      meshes.add(mesh("lid", Vec3.ZERO).inGroup(Optional.of(arm)));
    }
    List<ShotCamera> cameras = new ArrayList<>();
    cameras.add(camera("cam", frames, at, picture));
    if (sometimes()) {
      cameras.add(camera("witness cam", frames, at, picture));
    }
    return new Shot(
        "generated",
        picture,
        r.nextBoolean() ? Rate.NTSC_24 : Rate.parse("25"),
        frames,
        first,
        cameras,
        sets,
        Observations.NONE,
        List.of(),
        meshes,
        Similarity.IDENTITY);
  }

  private ShotCamera camera(String name, FrameRange frames, Vec3 at, PictureSize picture) {
    boolean zooms = sometimes();
    boolean shifted = sometimes();
    double px = shifted ? 0.8 * r.nextGaussian() : 0;
    double py = shifted ? 0.5 * r.nextGaussian() : 0;
    double width = 20 + 20 * r.nextDouble();
    double height = width * picture.height() / picture.width() / picture.pixelAspect();
    double focal = 12 + 80 * r.nextDouble();
    Rotation base = TestShots.randomRotation(r);
    Vec3 axis = new Vec3(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()).normalized();
    double turn = 0.05 * r.nextGaussian();
    return new ShotCamera(
        name,
        PoseTrack.of(
            frames,
            f -> {
              double k = f - frames.first();
              return new Pose(
                  at.plus(new Vec3(0.1 * k, Math.sin(0.3 * k), -0.02 * k * k)),
                  Rotation.about(axis, turn * k).after(base));
            }),
        OpticsTrack.of(
            frames,
            f ->
                new Optics(
                    zooms ? focal + 0.4 * (f - frames.first()) : focal, width, height, px, py)),
        sometimes() ? Optional.of(new ClipRange(0.05, 20_000)) : Optional.empty());
  }

  private PoseTrack moving(FrameRange frames, Vec3 at) {
    Rotation base = TestShots.randomRotation(r);
    double dx = r.nextGaussian();
    return PoseTrack.of(
        frames,
        f -> {
          double k = f - frames.first();
          return new Pose(
              at.plus(new Vec3(dx + 0.05 * k, 0.3 * Math.cos(0.2 * k), 1)),
              Rotation.about(new Vec3(0, 1, 0), 0.04 * k).after(base));
        });
  }

  private TrackerSet trackers(String set, int n, Vec3 at, Set<String> taken) {
    List<String> names = new ArrayList<>();
    double[] xyz = new double[3 * n];
    for (int i = 0; i < n; i++) {
      String name = NAMES.get(r.nextInt(NAMES.size()));
      while (!taken.add(name)) {
        name += "+" + i;
      }
      names.add(name);
      xyz[3 * i] = at.x() + 5 * r.nextGaussian();
      xyz[3 * i + 1] = at.y() + 5 * r.nextGaussian();
      xyz[3 * i + 2] = at.z() + 5 * r.nextGaussian();
    }
    return TrackerSet.of(set, names, xyz);
  }

  private Mesh mesh(String name, Vec3 at) {
    double[] xyz = new double[15];
    for (int i = 0; i < 5; i++) {
      xyz[3 * i] = at.x() + r.nextGaussian();
      xyz[3 * i + 1] = at.y() + r.nextGaussian();
      xyz[3 * i + 2] = at.z() + r.nextGaussian();
    }
    Mesh m = Mesh.of(name, xyz, new int[] {4, 3}, new int[] {0, 1, 2, 3, 2, 1, 4});
    double[] uvs = new double[14];
    for (int i = 0; i < uvs.length; i++) {
      uvs[i] = r.nextDouble();
    }
    return sometimes() ? m.withUvs(uvs) : m;
  }
}
