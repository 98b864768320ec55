package flarvo.project;

import java.time.Instant;
import java.util.Objects;

/**
 * One line of a shot's diary: what was done, when, with what figures.
 *
 * @param note true for what the user wrote, false for what the program noted
 */
public record DiaryEntry(Instant at, String text, boolean note) {

  public DiaryEntry {
    Objects.requireNonNull(at);
    Objects.requireNonNull(text);
  }
}
