package flarvo.format;

import flarvo.convention.Dialect;
import flarvo.report.Note;
import java.util.List;

/**
 * The nearest to a wanted dialect that a format can state, and what differs. The recipient's own
 * importer bridges the rest, as it does for every file of that format.
 */
public record Settlement(Dialect spoken, List<Note> notes) {

  public Settlement {
    notes = List.copyOf(notes);
  }
}
