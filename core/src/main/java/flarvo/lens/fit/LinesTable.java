package flarvo.lens.fit;

import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import java.io.IOException;
import java.io.StringReader;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.CSVRecord;

/** Lines as a table with the columns {@code line,frame,x,y}; one row a point. */
public final class LinesTable {

  private static final List<String> COLUMNS = List.of("line", "frame", "x", "y");
  private static final String ADVICE = "The columns are line,frame,x,y in pixels of the original";
  private static final int MOST_POINTS = 1_000_000;

  private record Key(String name, int frame) {}

  private LinesTable() {}

  /**
   * Reads lines; a name stands for one line in each frame.
   *
   * @throws InputError with the row that is wrong
   */
  public static List<StraightLine> read(Path file) {
    String text = TextSource.read(file, ReadLimits.USUAL);
    Map<Key, List<Double>> points = new LinkedHashMap<>();
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setHeader()
            .setSkipHeaderRecord(true)
            .setTrim(true)
            .setCommentMarker('#')
            .get();
    try (CSVParser csv = CSVParser.parse(new StringReader(text), format)) {
      if (!csv.getHeaderNames().containsAll(COLUMNS)) {
        throw new InputError(file.toString(), "line 1", "not a table of lines", ADVICE);
      }
      int rows = 0;
      for (CSVRecord r : csv) {
        String place = "row " + r.getRecordNumber();
        if (!r.isConsistent()) {
          throw new InputError(file.toString(), place, "a cell is missing", ADVICE);
        }
        if (++rows > MOST_POINTS) {
          throw new InputError(file.toString(), place, "more than a million points", "");
        }
        Key k = new Key(r.get("line"), (int) number(file, place, r.get("frame"), true));
        List<Double> xy = points.computeIfAbsent(k, x -> new ArrayList<>());
        xy.add(number(file, place, r.get("x"), false));
        xy.add(number(file, place, r.get("y"), false));
      }
    } catch (IOException | UncheckedIOException | IllegalArgumentException e) {
      throw new InputError(file.toString(), "", "the table is broken", ADVICE, e);
    }
    List<StraightLine> lines = new ArrayList<>();
    points.forEach(
        (k, xy) ->
            lines.add(
                new StraightLine(
                    k.name, k.frame, xy.stream().mapToDouble(Double::doubleValue).toArray())));
    return lines;
  }

  private static double number(Path file, String place, String text, boolean whole) {
    try {
      double v = whole ? Integer.parseInt(text) : Double.parseDouble(text);
      if (Double.isFinite(v)) {
        return v;
      }
    } catch (NumberFormatException e) {
      // Falls through to the one message below.
    }
    throw new InputError(file.toString(), place, "'" + text + "' is no number", ADVICE);
  }

  /** The table of lines as text. */
  public static String text(List<StraightLine> lines) {
    StringWriter out = new StringWriter();
    try (CSVPrinter csv =
        new CSVPrinter(out, CSVFormat.RFC4180.builder().setRecordSeparator('\n').get())) {
      csv.printRecord(COLUMNS);
      for (StraightLine l : lines) {
        for (int i = 0; i < l.size(); i++) {
          csv.printRecord(l.name(), l.frame(), l.x(i), l.y(i));
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e); // a string writer throws none
    }
    return out.toString();
  }
}
