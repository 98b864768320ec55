package flarvo.level;

import flarvo.scene.Similarity;
import java.util.List;
import java.util.Optional;

/**
 * What statements come to.
 *
 * @param level solve space to metres
 * @param lines one for each statement, in their order
 * @param free what no statement determines, in words, such as "rotation about the up axis"
 * @param upError how far up may lean, radians; NaN where it is not known
 * @param heightError how far the ground may be off under the middle of the trackers, metres
 * @param scaleError share of the size that it may be off
 */
public record LevelReading(
    Similarity level,
    List<Line> lines,
    List<String> free,
    double upError,
    double heightError,
    double scaleError) {

  /**
   * What is left of one statement.
   *
   * @param metres RMS over its equations; NaN where it does not count
   * @param px the same in the picture; NaN where no frame shows it
   * @param problem why it does not count, or with what it disagrees
   */
  public record Line(Stated stated, double metres, double px, Optional<String> problem) {}

  public LevelReading {
    lines = List.copyOf(lines);
    free = List.copyOf(free);
  }
}
