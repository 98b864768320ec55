package flarvo.format;

import flarvo.report.Note;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** What names became in a file whose format does not allow them as they were, or not twice. */
public final class NameChanges {

  /** More are counted, and not listed. */
  private static final int MOST_LISTED = 40;

  private final Map<String, String> changes = new LinkedHashMap<>();
  private int count;

  /** Takes one; nothing where it stayed as it was. */
  void add(String was, String is) {
    if (!was.equals(is)) {
      count++;
      if (changes.size() < MOST_LISTED) {
        changes.putIfAbsent(was, is);
      }
    }
  }

  /** One note of all of them; none where every name stayed. */
  public List<Note> notes() {
    if (count == 0) {
      return List.of();
    }
    String listed =
        changes.entrySet().stream()
            .map(e -> e.getKey() + " → " + e.getValue())
            .collect(Collectors.joining(", "));
    int more = count - changes.size();
    return List.of(
        Note.changed(
            "names",
            (count == 1 ? "1 name was" : count + " names were")
                + " not allowed or already taken: "
                + listed
                + (more > 0 ? ", and " + more + " more" : "")));
  }
}
