package flarvo.demo;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.LinearUnit;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Extract;
import flarvo.motion.Held;
import flarvo.motion.Recast;
import flarvo.motion.Stand;
import flarvo.project.ProjectShot;
import flarvo.receive.Fact;
import flarvo.scene.PlateRole;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What came for the cart: a camera without film back at 30, points without axis or unit, tracks
 * without a header.
 */
final class CartFiles {

  private static final String NAME = CartTruth.SHOT.name();

  private CartFiles() {}

  static void write(Path shot) {
    FeatureTracks.Tracks tracks = CartTracks.make();
    Shot solved = ShotFiles.solve(CartTruth.SHOT, tracks, Similarity.IDENTITY, 0.0003, 31);
    Dialect camera = Dialects.shipped().get("anim-yup-m");
    Dialect points = Dialects.shipped().get("track-yup").withUnit(LinearUnit.CENTIMETRE);
    String in = "incoming/" + NAME;
    ReturnedFiles.cart(shot.resolveSibling("returns"), solved);
    ShotFiles.bareTracks(tracks.observations(), shot.resolve(in + "_tracks.txt"));
    ShotFiles.send(
        solved,
        camera.withFrames(camera.frames().withFirstFrame(0).withRate(Rate.FPS_30)),
        "gltf-binary",
        Contents.CAMERA,
        shot.resolve(in + "_camera.glb"));
    ShotFiles.points(solved, points, ',', shot.resolve(in + "_points.csv"));
    ShotFiles.text(
        shot.resolve(in + "_log.txt"),
        """
        Meridian, shot 030, cart. Locked off; the cart was solved, so the camera moves round it.
        Camera: sensor 23.76 x 13.365 mm, 32 mm lens, progressive.
        Plates 960x540, frame rate 29.97, frames 1-60. Nothing to undistort on this lens.
        The case of the cart is 0.58 long.
        """);
  }

  static ProjectShot entry() {
    return DemoWriter.entry(
        NAME,
        List.of("camera.glb", "points.csv", "tracks.txt", "log.txt"),
        List.of(new ProjectShot.PlateFolder(NAME + "/plates/original", PlateRole.ORIGINAL)),
        Map.of(
            Fact.FIRST_FRAME.id(), "1",
            Fact.RATE.id(), "30000/1001",
            Fact.UP_AXIS.id(), "+Y",
            Fact.UNIT.id(), "cm"),
        Similarity.IDENTITY,
        List.of(
            DemoWriter.planned(NAME, "Game engine", "engine-yup-m", "gltf-binary", "engine.glb"),
            // The animators want it as it was filmed: the camera stands, and the cart rolls.
            DemoWriter.planned(NAME, "Animation", "anim-yup-cm", "fbx-binary", "anim.fbx")
                .withExtract(
                    Extract.WHOLE.recast(
                        Recast.NONE.withHeld(
                            Optional.of(
                                new Held(
                                    Optional.empty(),
                                    new Stand.Frame(CartTruth.SHOT.frames().first()),
                                    "cart")))))));
  }
}
