package flarvo.shotlist;

import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Collectors;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/** A shot list as a table with a header row, separated by commas, semicolons or tabs. */
final class ShotTable {

  private static final int MOST_HANDLES = 100_000;

  /** What a column is, and how people head it. */
  private enum Column {
    SHOT("shot", "name", "shot name", "shot code", "code", "clip"),
    FIRST("first", "first frame", "start", "start frame", "in", "cut in", "frame in"),
    LAST("last", "last frame", "end", "end frame", "out", "cut out", "frame out"),
    HEAD_IN("head in"),
    TAIL_OUT("tail out"),
    RANGE("frames", "range", "frame range", "cut range"),
    HANDLES("handles", "handle"),
    HEAD("head", "head handle", "head handles", "handle in", "handles in"),
    TAIL("tail", "tail handle", "tail handles", "handle out", "handles out"),
    RATE("rate", "fps", "frame rate");

    private final Set<String> headings;

    Column(String... headings) {
      this.headings = Set.of(headings);
    }
  }

  private final Path file;
  private final Map<Column, Integer> columns = new EnumMap<>(Column.class);
  private final List<Note> notes = new ArrayList<>();

  ShotTable(Path file) {
    this.file = file;
  }

  /**
   * @throws InputError when there is no column of shots, or a cell cannot be read
   */
  ShotList read(String text) {
    List<ShotEntry> shots = new ArrayList<>();
    Set<String> names = new HashSet<>();
    CSVFormat format =
        CSVFormat.DEFAULT
            .builder()
            .setDelimiter(separator(text))
            .setIgnoreEmptyLines(true)
            .setTrim(true)
            .get();
    try (CSVParser rows = CSVParser.parse(text, format)) {
      for (CSVRecord row : rows) {
        if (columns.isEmpty()) {
          header(row);
        } else if (row.stream().anyMatch(c -> !c.isBlank())) {
          ShotEntry shot = shot(row, "line " + rows.getCurrentLineNumber());
          if (!names.add(shot.name().toLowerCase(Locale.ROOT))) {
            throw error(shot.place(), "the shot " + shot.name() + " is listed twice");
          }
          shots.add(shot);
        }
      }
    } catch (IOException | UncheckedIOException e) {
      String why = (e instanceof UncheckedIOException u ? u.getCause() : e).getMessage();
      throw new InputError(file.toString(), "", "not a table (" + why + ")", "Save it as CSV", e);
    }
    return new ShotList(file, shots, notes);
  }

  private static String separator(String text) {
    String first = text.stripLeading().lines().findFirst().orElse("");
    return first.contains("\t") ? "\t" : first.contains(";") ? ";" : ",";
  }

  private void header(CSVRecord row) {
    List<String> unknown = new ArrayList<>();
    for (int i = 0; i < row.size(); i++) {
      String heading =
          row.get(i).replace("\uFEFF", "").toLowerCase(Locale.ROOT).replaceAll("[\\s_.#-]+", " ");
      Optional<Column> known = Optional.empty();
      for (Column c : Column.values()) {
        known = c.headings.contains(heading.strip()) ? Optional.of(c) : known;
      }
      if (known.isEmpty()) {
        unknown.add(row.get(i));
      } else if (columns.putIfAbsent(known.get(), i) != null) {
        throw error("line 1", "two columns are headed '" + row.get(i) + "' or alike");
      }
    }
    if (!columns.containsKey(Column.SHOT)) {
      throw new InputError(
          file.toString(),
          "line 1",
          "no column is headed 'shot'",
          "Head the columns shot, first, last, handles and rate");
    }
    if (!unknown.isEmpty()) {
      String list = unknown.stream().filter(s -> !s.isBlank()).collect(Collectors.joining(", "));
      notes.add(Note.ignored(file.getFileName().toString(), "the columns " + list));
    }
  }

  private ShotEntry shot(CSVRecord row, String place) {
    String name = cell(row, Column.SHOT).orElseThrow(() -> error(place, "the shot has no name"));
    Optional<FrameRange> cut = cut(row, place);
    int both = handle(row, Column.HANDLES, place).orElse(0);
    int head = handle(row, Column.HEAD, place).orElse(both);
    int tail = handle(row, Column.TAIL, place).orElse(both);
    OptionalInt in = whole(row, Column.HEAD_IN, place);
    OptionalInt out = whole(row, Column.TAIL_OUT, place);
    if (cut.isEmpty() && in.isPresent() && out.isPresent()) {
      // Only the whole is stated: the cut is what its handles leave of it.
      cut = Optional.of(range(in.getAsInt() + head, out.getAsInt() - tail, place));
    } else if (cut.isPresent()) {
      head = in.isPresent() ? cut.get().first() - in.getAsInt() : head;
      tail = out.isPresent() ? out.getAsInt() - cut.get().last() : tail;
    }
    if (head < 0 || tail < 0) {
      throw error(place, "head in and tail out lie inside the cut");
    }
    Optional<Rate> rate = cell(row, Column.RATE).map(t -> rate(t, place));
    try {
      return new ShotEntry(name, cut, head, tail, OptionalInt.empty(), rate, place);
    } catch (IllegalArgumentException e) {
      throw error(place, e.getMessage());
    }
  }

  private Optional<FrameRange> cut(CSVRecord row, String place) {
    Optional<String> whole = cell(row, Column.RANGE);
    OptionalInt first = whole(row, Column.FIRST, place);
    OptionalInt last = whole(row, Column.LAST, place);
    if (first.isPresent() != last.isPresent()) {
      throw error(place, "the shot has a first or a last frame, but not both");
    }
    if (first.isPresent()) {
      return Optional.of(range(first.getAsInt(), last.getAsInt(), place));
    }
    return whole.map(t -> range(t, place));
  }

  private FrameRange range(String text, String place) {
    try {
      return FrameRange.parse(text);
    } catch (IllegalArgumentException e) {
      throw error(place, e.getMessage());
    }
  }

  private FrameRange range(int first, int last, String place) {
    try {
      return new FrameRange(first, last);
    } catch (IllegalArgumentException e) {
      throw error(place, e.getMessage());
    }
  }

  private Rate rate(String text, String place) {
    try {
      return Rate.parse(text);
    } catch (IllegalArgumentException e) {
      throw error(place, e.getMessage());
    }
  }

  private OptionalInt handle(CSVRecord row, Column c, String place) {
    OptionalInt n = whole(row, c, place);
    if (n.isPresent() && (n.getAsInt() < 0 || n.getAsInt() > MOST_HANDLES)) {
      throw error(place, "handles of " + n.getAsInt() + " frames");
    }
    return n;
  }

  private OptionalInt whole(CSVRecord row, Column c, String place) {
    Optional<String> text = cell(row, c);
    if (text.isEmpty()) {
      return OptionalInt.empty();
    }
    if (!text.get().matches("[+-]?\\d{1,8}(\\.0*)?")) {
      throw error(place, "'" + text.get() + "' is not a frame number");
    }
    return OptionalInt.of(Integer.parseInt(text.get().replaceAll("\\..*", "")));
  }

  private Optional<String> cell(CSVRecord row, Column c) {
    Integer i = columns.get(c);
    return i == null || i >= row.size()
        ? Optional.empty()
        : Optional.of(row.get(i)).filter(t -> !t.isBlank());
  }

  private InputError error(String place, String what) {
    return new InputError(file.toString(), place, what, "Correct the list");
  }
}
