package flarvo.demo;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.LinearUnit;
import flarvo.decision.Decision;
import flarvo.decision.MotionDecision;
import flarvo.dispatch.Contents;
import flarvo.motion.ObjectScale;
import flarvo.project.ProjectShot;
import flarvo.receive.Fact;
import flarvo.scene.PlateRole;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/**
 * What came for the two carts: the terrace's solve as camera, points and tracks, and a solve of
 * each cart in a space and size of its own.
 */
final class CartsFiles {

  private static final String NAME = CartsTruth.SHOT.name();

  /** No solve of an object knows its size. */
  private static final Similarity NEAR_SPACE =
      new Similarity(3.2, Rotation.about(new Vec3(0.3, 1, 0.2), 1.1), new Vec3(2, -1, 5));

  private static final Similarity FAR_SPACE =
      new Similarity(0.41, Rotation.about(new Vec3(1, 0.2, -0.4), 0.6), new Vec3(-1, 0.5, 0.2));

  private CartsFiles() {}

  static void write(Path shot) {
    FeatureTracks.Tracks tracks = CartsTracks.terrace();
    Shot solved = ShotFiles.solve(CartsTruth.SHOT, tracks, Similarity.IDENTITY, 0.0003, 51);
    Dialect camera = Dialects.shipped().get("anim-yup-m");
    Dialect points = Dialects.shipped().get("track-yup").withUnit(LinearUnit.METRE);
    String in = "incoming/" + NAME;
    ShotFiles.tracks(tracks.observations(), '\t', shot.resolve(in + "_tracks.txt"));
    ShotFiles.send(
        solved,
        camera.withFrames(camera.frames().withFirstFrame(1).withRate(Rate.FPS_25)),
        "gltf-binary",
        Contents.CAMERA,
        shot.resolve(in + "_camera.glb"));
    ShotFiles.points(solved, points, ',', shot.resolve(in + "_points.csv"));
    object(CartsTruth.NEAR, CartsTracks.near(), NEAR_SPACE, 52, shot.resolve(file("near_cart")));
    object(CartsTruth.FAR, CartsTracks.far(), FAR_SPACE, 53, shot.resolve(file("far_cart")));
    ShotFiles.text(
        shot.resolve(in + "_log.txt"),
        """
        Meridian, shot 050, two carts. Camera on a dolly, left to right.
        Camera: sensor 23.76 x 13.365 mm, 24 mm lens, progressive.
        Plates 960x540, frame rate 24, frames 1001-1024. Nothing to undistort on this lens.
        Both carts were solved as well, each by itself. The case of a cart is 0.58 long.
        """);
  }

  private static String file(String object) {
    return "objects/" + NAME + "_" + object + ".usda";
  }

  private static void object(
      CartsTruth cart, FeatureTracks.Tracks tracks, Similarity space, long seed, Path file) {
    ShotFiles.send(
        ShotFiles.solve(cart, tracks, space, 0.0003, seed),
        Dialects.shipped().get("comp-yup"),
        "usd-text",
        Contents.CAMERA_AND_TRACKERS,
        file);
  }

  /**
   * @param production folder of the project, from which it names the files of the objects
   */
  static ProjectShot entry(Path production) {
    return DemoWriter.entry(
        NAME,
        List.of("camera.glb", "points.csv", "tracks.txt", "log.txt"),
        List.of(new ProjectShot.PlateFolder(NAME + "/plates/original", PlateRole.ORIGINAL)),
        Map.of(
            Fact.FIRST_FRAME.id(), "1001",
            Fact.RATE.id(), "24",
            Fact.FILM_BACK.id(), "23.76x13.365",
            Fact.UP_AXIS.id(), "+Y",
            Fact.UNIT.id(), "m"),
        Similarity.IDENTITY,
        List.of(
            DemoWriter.planned(NAME, "Game engine", "engine-yup-m", "gltf-binary", "engine.glb"),
            DemoWriter.planned(NAME, "Animation", "anim-yup-cm", "fbx-binary", "anim.fbx")),
        objects(production.toAbsolutePath()));
  }

  /** A length on the nearer one, and how far away a point of the farther one is. */
  private static List<Decision> objects(Path production) {
    TrackerSet near = CartsTracks.near().truth();
    int[] ends = farthest(near);
    double length = near.position(ends[0]).minus(near.position(ends[1])).length();
    TrackerSet far = CartsTracks.far().truth();
    int frame = CartsTruth.SHOT.frames().first();
    Vec3 there = CartsTruth.FAR.featuresAt(frame).toWorld(far.position(0));
    double away = there.minus(CartsTruth.SHOT.poseAt(frame).position()).length();
    return List.of(
        new MotionDecision.AddMovingObject(
            "near_cart",
            List.of(production.resolve(NAME).resolve(file("near_cart"))),
            new ObjectScale.Length(
                near.names().get(ends[0]), near.names().get(ends[1]), millimetres(length))),
        new MotionDecision.AddMovingObject(
            "far_cart",
            List.of(production.resolve(NAME).resolve(file("far_cart"))),
            new ObjectScale.Away(far.names().get(0), frame, millimetres(away))));
  }

  private static double millimetres(double metres) {
    return Math.rint(metres * 1000) / 1000;
  }

  private static int[] farthest(TrackerSet t) {
    int[] out = {0, 0};
    double most = -1;
    for (int i = 0; i < t.size(); i++) {
      for (int j = 0; j < i; j++) {
        double d = t.position(i).minus(t.position(j)).length();
        if (d > most) {
          most = d;
          out = new int[] {j, i};
        }
      }
    }
    return out;
  }
}
