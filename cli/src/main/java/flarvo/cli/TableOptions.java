package flarvo.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.convention.AngleUnit;
import flarvo.convention.LinearUnit;
import flarvo.convention.RotationOrder;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.format.table.TableAdvice;
import flarvo.format.table.TableColumn;
import flarvo.format.table.TableMapping;
import flarvo.format.table.TableMappingJson;
import flarvo.format.table.TableShape;
import flarvo.project.MappingShelf;
import flarvo.project.UserFolder;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Rate;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import picocli.CommandLine.Option;

/** What tables mean that do not say it themselves. */
final class TableOptions {

  @Option(
      names = "--columns",
      paramLabel = "WORDS",
      description =
          "columns of a table from left to right, such as frame,tx,ty,tz,rx,ry,rz,focal; - is not"
              + " used, -tz turns the sign round")
  private String columns;

  @Option(
      names = "--mapping",
      paramLabel = "NAME|FILE",
      description = "how to read a table: a mapping that was saved in the window, or its file")
  private String mapping;

  @Option(
      names = "--rotation-order",
      paramLabel = "XYZ",
      description = "order of a table's rotations, the first turn first")
  private String order;

  @Option(names = "--angles", paramLabel = "deg|rad", description = "unit of a table's angles")
  private String angles;

  @Option(
      names = "--y",
      paramLabel = "up|down",
      description = "2D tracks of a table: from the bottom left up, or from the top left down")
  private String y;

  @Option(names = "--unit", paramLabel = "U", description = "unit of a table's positions")
  private String unit;

  @Option(
      names = "--table-rate",
      paramLabel = "FPS",
      description = "rate of a table whose rows have times or timecode instead of frames")
  private String rate;

  @Option(
      names = "--shape",
      paramLabel = "rows|columns|blocks",
      description = "a row each, columns for each tracker, or a block of rows for each tracker")
  private String shape;

  /**
   * @throws InputError naming the option that is not understood
   */
  TableAdvice advice() {
    return new TableAdvice(
        columns == null ? List.<TableColumn>of() : word("--columns", columns, TableAdvice::columns),
        Optional.ofNullable(mapping).map(TableOptions::mapping),
        Optional.ofNullable(order)
            .map(o -> word("--rotation-order", o.toUpperCase(Locale.ROOT), RotationOrder::parse)),
        Optional.ofNullable(angles)
            .map(a -> choice("--angles", a, "deg", AngleUnit.DEGREES, "rad", AngleUnit.RADIANS)),
        Optional.ofNullable(y).map(w -> choice("--y", w, "up", true, "down", false)),
        Optional.ofNullable(unit).map(u -> word("--unit", u, LinearUnit::parse)),
        Optional.ofNullable(shape).map(w -> word("--shape", w, TableShape::of)),
        Optional.ofNullable(rate).map(w -> word("--table-rate", w, Rate::parse)));
  }

  /** An intake for lists of what is known and not: a table that is not sure is read, and noted. */
  ShotIntake noting() {
    TableAdvice said = advice();
    return said.equals(TableAdvice.NONE) ? new ShotIntake() : new ShotIntake(said);
  }

  private static <T> T word(String option, String text, Function<String, T> parse) {
    try {
      return parse.apply(text);
    } catch (IllegalArgumentException e) {
      throw InputError.words(option + ": " + e.getMessage(), "");
    }
  }

  private static <T> T choice(String option, String said, String a, T first, String b, T second) {
    if (said.equalsIgnoreCase(a)) {
      return first;
    }
    if (said.equalsIgnoreCase(b)) {
      return second;
    }
    throw InputError.words(option + " takes " + a + " or " + b + ", not '" + said + "'", "");
  }

  private static TableMapping mapping(String nameOrFile) {
    Path file = Path.of(nameOrFile);
    if (!Files.isRegularFile(file)) {
      List<TableMapping> saved = new MappingShelf(UserFolder.settings()).list();
      return saved.stream()
          .filter(m -> m.name().equals(nameOrFile))
          .findFirst()
          .orElseThrow(
              () ->
                  InputError.words(
                      "there is no file and no saved mapping '" + nameOrFile + "'",
                      saved.isEmpty()
                          ? "None is saved"
                          : "Saved are: "
                              + String.join(
                                  ", ", saved.stream().map(TableMapping::name).toList())));
    }
    try {
      return TableMappingJson.read(
          new ObjectMapper().readTree(TextSource.read(file, ReadLimits.USUAL)));
    } catch (JsonProcessingException | IllegalArgumentException e) {
      throw new InputError(file.toString(), "", "not a mapping: " + e.getMessage(), "", e);
    }
  }
}
