package flarvo.suspect;

import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.List;

/** A level that is known, and was applied to the camera or the points alone. */
final class LevelFamily implements Family {

  private final Similarity level;

  /**
   * @param level from solve space to the levelled world
   */
  LevelFamily(Similarity level) {
    this.level = level;
  }

  @Override
  public List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b) {
    return List.of(
        change(s, level, "points", "The camera is levelled and the points are not"),
        change(s, level.inverse(), "camera", "The points are levelled and the camera is not"));
  }

  private static Change change(TriedScene s, Similarity by, String which, String says) {
    double[] turn = Axes.times(by.scale(), by.rotation().toRows());
    Vec3 t = by.translation();
    return new Change(
        "level",
        which,
        1.5,
        says,
        which.equals("points") ? "with the points levelled" : "with the points put back",
        s.with(
            k -> {
              k.points = Axes.times(turn, k.points);
              double[] o = Axes.apply(turn, k.offset);
              k.offset = new double[] {o[0] + t.x(), o[1] + t.y(), o[2] + t.z()};
            }));
  }
}
