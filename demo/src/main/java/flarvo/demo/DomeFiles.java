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
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/** What came for the pan: a camera counted from 1 at 24, points on a sphere round the tripod. */
final class DomeFiles {

  /** The solve has its origin in the tripod's head. */
  static final Similarity LEVEL =
      new Similarity(1, Rotation.IDENTITY, DomeTruth.SHOT.poseAt(0).position());

  private static final String NAME = DomeTruth.SHOT.name();

  private DomeFiles() {}

  static void write(Path shot) {
    FeatureTracks.Tracks tracks = DomeTracks.make();
    // A solver that knows of a tripod does not move it: no noise in the place.
    Shot solved = ShotFiles.solve(DomeTruth.SHOT, tracks, LEVEL.inverse(), 0, 21);
    Dialect camera = Dialects.shipped().get("anim-yup-cm");
    Dialect points = Dialects.shipped().get("track-zup").withUnit(LinearUnit.MILLIMETRE);
    String in = "incoming/" + NAME;
    ReturnedFiles.dome(
        shot.resolveSibling("returns"),
        ShotFiles.solve(DomeTruth.SHOT, tracks, Similarity.IDENTITY, 0, 21));
    ShotFiles.tracks(tracks.observations(), '\t', shot.resolve(in + "_tracks.tsv"));
    ShotFiles.send(
        ShotFiles.withFilm(solved, 36, 20.25),
        camera.withFrames(camera.frames().withFirstFrame(1).withRate(Rate.FPS_24)),
        "alembic",
        Contents.CAMERA,
        shot.resolve(in + "_camera.abc"));
    ShotFiles.points(solved, points, ';', shot.resolve(in + "_points.csv"));
    ShotFiles.lens(DomeTruth.SHOT.lens(), shot.resolve(in + "_lens.json"));
    ShotFiles.text(
        shot.resolve(in + "_log.txt"),
        """
        Meridian, shot 020, dome. Tripod, nodal head, pan left to right.
        Camera: sensor 23.76 x 13.365 mm, 24 mm lens, progressive.
        Plates 960x540, frame rate 25, frames 0-71.
        Trackers have no depth; they were put on a sphere. Points are z-up, millimetres.
        """);
  }

  static ProjectShot entry() {
    return DemoWriter.entry(
        NAME,
        List.of("camera.abc", "points.csv", "tracks.tsv", "lens.json", "log.txt"),
        List.of(
            new ProjectShot.PlateFolder(NAME + "/plates/undistorted", PlateRole.UNDISTORTED),
            new ProjectShot.PlateFolder(NAME + "/plates/original", PlateRole.ORIGINAL)),
        Map.of(
            Fact.FIRST_FRAME.id(), "0",
            Fact.RATE.id(), "25",
            Fact.FILM_BACK.id(), "23.76x13.365",
            Fact.UP_AXIS.id(), "+Z",
            Fact.UNIT.id(), "mm"),
        LEVEL,
        List.of(
            DemoWriter.planned(NAME, "Compositing", "comp-yup", "usd-crate", "comp.usdc"),
            DemoWriter.planned(NAME, "Animation", "anim-zup-m", "alembic", "anim.abc")));
  }
}
