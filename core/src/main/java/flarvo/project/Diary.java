package flarvo.project;

import java.time.Clock;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** What was done with one shot, line by line. Undone steps stay in it, and so does the undoing. */
public final class Diary {

  private final List<DiaryEntry> entries = new ArrayList<>();
  private final Clock clock;

  public Diary(List<DiaryEntry> before, Clock clock) {
    entries.addAll(before);
    this.clock = clock;
  }

  /** The program's own words. */
  public void add(String text) {
    entries.add(new DiaryEntry(clock.instant(), text, false));
  }

  /** The user's own words. */
  public void note(String text) {
    entries.add(new DiaryEntry(clock.instant(), text.strip(), true));
  }

  /** Oldest first. */
  public List<DiaryEntry> entries() {
    return List.copyOf(entries);
  }

  /** For a file or the clipboard, in the given zone. */
  public static String asText(String shot, List<DiaryEntry> entries, ZoneId zone) {
    DateTimeFormatter f =
        DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss", Locale.ROOT).withZone(zone);
    StringBuilder s = new StringBuilder("Diary of " + shot + "\n");
    for (DiaryEntry e : entries) {
      s.append(f.format(e.at())).append(e.note() ? "  note: " : "  ").append(e.text()).append('\n');
    }
    return s.toString();
  }
}
