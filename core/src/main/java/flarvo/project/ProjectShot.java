package flarvo.project;

import flarvo.format.table.TableMapping;
import flarvo.scene.PlateRole;
import flarvo.scene.Rate;
import flarvo.scene.Similarity;
import flarvo.stage.Staging;
import flarvo.vet.Vetting;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/**
 * A shot as the project file keeps it: where its files lie and what was decided. Paths are relative
 * to the project file.
 *
 * @param mappings by the path of the table that each is for
 * @param rulings by the fact's id, as typed
 * @param vetting frames are plate frames under these rulings
 */
public record ProjectShot(
    String name,
    List<String> files,
    Map<String, TableMapping> mappings,
    List<PlateFolder> plates,
    Optional<String> from,
    Map<String, String> rulings,
    Similarity level,
    Vetting vetting,
    Staging staging,
    List<PlannedDelivery> deliveries,
    List<DiaryEntry> diary) {

  /**
   * A folder of plates and what they are for.
   *
   * @param pattern which sequence, where the folder holds several
   */
  public record PlateFolder(String path, PlateRole role, Optional<String> pattern) {
    public PlateFolder(String path, PlateRole role) {
      this(path, role, Optional.empty());
    }
  }

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
    mappings = Map.copyOf(mappings);
    plates = List.copyOf(plates);
    deliveries = List.copyOf(deliveries);
    rulings = Map.copyOf(rulings);
    diary = List.copyOf(diary);
  }

  /** A shot that nobody has vetted, without tables that need a mapping. */
  public ProjectShot(
      String name,
      List<String> files,
      List<PlateFolder> plates,
      Optional<String> from,
      Map<String, String> rulings,
      Similarity level,
      List<PlannedDelivery> deliveries,
      List<DiaryEntry> diary) {
    this(
        name,
        files,
        Map.of(),
        plates,
        from,
        rulings,
        level,
        Vetting.NONE,
        Staging.NONE,
        deliveries,
        diary);
  }

  /** The same shot with its files elsewhere. */
  public ProjectShot withPaths(UnaryOperator<String> moved) {
    return new ProjectShot(
        name,
        files.stream().map(moved).toList(),
        mappings.entrySet().stream()
            .collect(Collectors.toMap(e -> moved.apply(e.getKey()), Map.Entry::getValue)),
        plates.stream()
            .map(p -> new PlateFolder(moved.apply(p.path()), p.role(), p.pattern()))
            .toList(),
        from,
        rulings,
        level,
        vetting,
        staging,
        deliveries,
        diary);
  }

  public ProjectShot withDiary(List<DiaryEntry> entries) {
    return new ProjectShot(
        name, files, mappings, plates, from, rulings, level, vetting, staging, deliveries, entries);
  }
}
