package flarvo.project;

import flarvo.scene.PlateRole;
import flarvo.scene.Rate;
import flarvo.scene.Similarity;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/**
 * A shot as the project file keeps it: where its files lie and what was decided. Paths are relative
 * to the project file.
 */
public record ProjectShot(
    String name,
    List<String> files,
    List<PlateFolder> plates,
    Optional<String> from,
    OptionalInt plateFirst,
    Optional<Rate> rate,
    Similarity level,
    List<PlannedDelivery> deliveries) {

  /** A folder of plates and what they are for. */
  public record PlateFolder(String path, PlateRole role) {}

  /** A delivery by the names of its dialect and format. */
  public record PlannedDelivery(
      String name,
      String dialect,
      OptionalInt firstFrame,
      Optional<Rate> rate,
      String format,
      String contents,
      String file) {}

  public ProjectShot {
    files = List.copyOf(files);
    plates = List.copyOf(plates);
    deliveries = List.copyOf(deliveries);
  }
}
