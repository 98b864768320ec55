package flarvo.demo;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.LinearUnit;
import flarvo.dispatch.Contents;
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
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;

/** What came for the terrace: a camera through another package, points without axis or unit. */
final class TerraceFiles {

  /** From the solve's own space to the levelled world; the project file holds the same numbers. */
  static final Similarity LEVEL =
      new Similarity(2.6, Rotation.about(new Vec3(0.2, 1, -0.1), 0.7), new Vec3(0.35, -0.92, 1.4));

  /** Another solve of the shot stands elsewhere, in another size. */
  static final Similarity SECOND_LEVEL =
      new Similarity(0.37, Rotation.about(new Vec3(-0.5, 0.3, 1), 2.1), new Vec3(-4.1, 2.6, 7.7));

  private static final double SECOND_NOISE = 0.0006;

  /** One tracker in so many is not in the second solve. */
  private static final int LEFT_OUT = 9;

  private static final String NAME = TerraceTruth.SHOT.name();

  private TerraceFiles() {}

  static void write(Path shot) {
    FeatureTracks.Tracks tracks = new TerraceTracks().make();
    Shot solved = ShotFiles.solve(TerraceTruth.SHOT, tracks, LEVEL.inverse(), 0.0004, 11);
    Dialect zUp = Dialects.shipped().get("track-zup");
    Dialect animation = Dialects.shipped().get("anim-yup-cm");
    String in = "incoming/" + NAME;
    ReturnedFiles.terrace(
        shot.resolveSibling("returns"),
        ShotFiles.solve(TerraceTruth.SHOT, tracks, Similarity.IDENTITY, 0.0004, 11));
    ShotFiles.tracks(tracks.observations(), ',', shot.resolve(in + "_tracks.csv"));
    // As the tracking department has it: whole, Z up, numbered from 0.
    ShotFiles.send(
        solved,
        zUp.withFrames(zUp.frames().withFirstFrame(0)),
        "usd-text",
        Contents.CAMERA_AND_TRACKERS,
        shot.resolve("solve/" + NAME + "_solve.usda"));
    // As it came: through another package, at its own rate and with a film back nobody set.
    ShotFiles.send(
        ShotFiles.withFilm(solved, 36, 24),
        animation.withFrames(animation.frames().withFirstFrame(0).withRate(Rate.FPS_25)),
        "fbx-text",
        Contents.CAMERA,
        shot.resolve(in + "_camera.fbx"));
    ShotFiles.points(solved, zUp.withUnit(LinearUnit.METRE), ',', shot.resolve(in + "_points.csv"));
    ShotFiles.lens(TerraceTruth.LENS, shot.resolve(in + "_lens.json"));
    ShotFiles.send(
        second(tracks),
        Dialects.shipped().get("track-yup"),
        "usd-crate",
        Contents.CAMERA_AND_TRACKERS,
        shot.resolve("second/" + NAME + "_v2.usdc"));
    ShotFiles.text(
        shot.resolve(in + "_log.txt"),
        """
        Meridian, shot 010, terrace. Hand-held, one take, walk round the sundial.
        Camera: sensor 23.76 x 13.365 mm, 17.5 mm lens, progressive.
        Plates 960x540, frame rate 23.976, frames 1001-1096.
        Solve is z-up. Sundial stands 1.01 above the flagstones, flagstones are 0.6 apart.
        """);
  }

  /** A solve of next week: its own origin, size and errors, and not quite the same trackers. */
  private static Shot second(FeatureTracks.Tracks tracks) {
    Shot solved = ShotFiles.solve(TerraceTruth.SHOT, tracks, SECOND_LEVEL.inverse(), 0.0004, 12);
    Random jitter = new Random(13);
    double noise = SECOND_NOISE / SECOND_LEVEL.scale();
    TrackerSet all =
        solved
            .trackers()
            .get(0)
            .map(
                p ->
                    p.plus(
                        new Vec3(
                                jitter.nextGaussian(), jitter.nextGaussian(), jitter.nextGaussian())
                            .times(noise)));
    Set<String> gone = new HashSet<>();
    for (int i = 0; i < all.size(); i += LEFT_OUT) {
      gone.add(all.names().get(i));
    }
    return solved.withTrackers(List.of(all.without(gone)));
  }

  static ProjectShot entry() {
    return DemoWriter.entry(
        NAME,
        List.of("camera.fbx", "points.csv", "tracks.csv", "lens.json", "log.txt"),
        List.of(
            new ProjectShot.PlateFolder(NAME + "/plates/undistorted", PlateRole.UNDISTORTED),
            new ProjectShot.PlateFolder(NAME + "/plates/original", PlateRole.ORIGINAL)),
        Map.of(
            Fact.FIRST_FRAME.id(), "1001",
            Fact.RATE.id(), "24000/1001",
            Fact.FILM_BACK.id(), "23.76x13.365",
            Fact.UP_AXIS.id(), "+Z",
            Fact.UNIT.id(), "m"),
        LEVEL,
        List.of(
            DemoWriter.planned(NAME, "Animation", "anim-yup-cm", "usd-text", "anim.usda"),
            DemoWriter.planned(NAME, "Game engine", "engine-zup-left-cm", "fbx-text", "engine.fbx"),
            DemoWriter.planned(NAME, "Compositing", "comp-pixels", "table", "comp.csv")));
  }
}
