package flarvo.format.table;

import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import java.io.IOException;
import java.io.StringReader;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/** A table with a header: cells by column name, comments by key, and the line for every error. */
final class TableFile {

  private final String file;
  private final Map<String, String> comments = new HashMap<>();
  private final Map<String, Integer> columns = new HashMap<>();
  private final List<CSVRecord> rows = new ArrayList<>();
  private final int commentLines;

  private TableFile(String file, String text) {
    this.file = file;
    int at = 0;
    int lines = 0;
    while (at < text.length() && (text.charAt(at) == '#' || text.charAt(at) == '\n')) {
      int end = text.indexOf('\n', at);
      end = end < 0 ? text.length() : end;
      String line = text.substring(at, end);
      int colon = line.indexOf(':');
      if (line.startsWith("#") && colon > 0) {
        comments.put(line.substring(1, colon).trim(), line.substring(colon + 1).trim());
      }
      at = Math.min(text.length(), end + 1);
      lines++;
    }
    commentLines = lines;
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setTrim(true)
            .setCommentMarker('#')
            .setIgnoreEmptyLines(true)
            .get();
    try (CSVParser parser = CSVParser.parse(new StringReader(text.substring(at)), format)) {
      for (CSVRecord r : parser) {
        if (columns.isEmpty()) {
          header(r);
        } else {
          rows.add(r);
        }
      }
    } catch (IOException | java.io.UncheckedIOException | IllegalStateException e) {
      throw new InputError(
          file, "", "the table is garbled (" + e.getMessage() + ")", "Save it as CSV again", e);
    }
    if (columns.isEmpty()) {
      throw new InputError(file, "", "the table has no header", "Name the columns in line 1");
    }
    checkRowCount(text.endsWith("\n"));
  }

  static TableFile read(Path path, ReadLimits limits) {
    return new TableFile(path.toString(), TextSource.read(path, limits));
  }

  private void header(CSVRecord r) {
    for (int i = 0; i < r.size(); i++) {
      String name = r.get(i).toLowerCase(Locale.ROOT);
      if (columns.put(name, i) != null) {
        throw new InputError(file, "header", "two columns are named '" + name + "'", "");
      }
    }
  }

  private void checkRowCount(boolean lineEnded) {
    String claimed = comments.get("rows");
    // A writer that counts its rows also ends its last one; a number cut short shows nowhere else.
    if (claimed != null && (!claimed.equals(Integer.toString(rows.size())) || !lineEnded)) {
      throw new InputError(
          file,
          "",
          "the table claims "
              + claimed
              + " rows and holds "
              + rows.size()
              + (lineEnded ? "" : ", the last of them cut off"),
          "It was cut off; ask for it again");
    }
    if (rows.isEmpty()) {
      throw new InputError(file, "", "the table has no rows", "Ask for it again");
    }
  }

  boolean has(String... names) {
    for (String n : names) {
      if (!columns.containsKey(n)) {
        return false;
      }
    }
    return true;
  }

  int rows() {
    return rows.size();
  }

  Optional<String> comment(String key) {
    return Optional.ofNullable(comments.get(key));
  }

  String text(int row, String column) {
    CSVRecord r = rows.get(row);
    int i = columns.get(column);
    if (i >= r.size()) {
      throw error(row, column, "the row has " + r.size() + " cells of " + columns.size());
    }
    return r.get(i);
  }

  double number(int row, String column) {
    String t = text(row, column);
    try {
      double d = Double.parseDouble(t);
      if (Double.isFinite(d)) {
        return d;
      }
    } catch (NumberFormatException e) {
      throw error(row, column, "'" + t + "' is no number");
    }
    throw error(row, column, "the value is " + t);
  }

  int whole(int row, String column) {
    double d = number(row, column);
    if (d != Math.rint(d) || Math.abs(d) > 1e8) {
      throw error(row, column, "'" + text(row, column) + "' is no whole frame");
    }
    return (int) d;
  }

  InputError error(int row, String column, String cause) {
    // Lines of the text below the comments, plus the comments.
    String line = "line " + (commentLines + rows.get(row).getRecordNumber());
    return new InputError(file, line + ", column " + column, cause, "Mend the table");
  }

  String file() {
    return file;
  }
}
