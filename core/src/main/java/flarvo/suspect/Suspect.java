package flarvo.suspect;

import java.util.List;
import java.util.stream.Collectors;

/**
 * One explanation of a file's error: a mix-up, or up to three together.
 *
 * @param causes one to three, each with its stable code and value
 * @param errorPxAfter error in pixels with all of them undone
 * @param confident whether it explains the error; others are only the best that was found
 * @param sentence for people
 * @param alike other causes, or pairs of them, that explain it equally well: the evidence cannot
 *     tell them apart
 */
public record Suspect(
    List<Cause> causes,
    double errorPxAfter,
    boolean confident,
    String sentence,
    List<List<Cause>> alike,
    TriedScene scene) {

  /**
   * A mix-up.
   *
   * @param code stable, such as {@code frame-shift}
   * @param value such as {@code -1}: what undoes it
   */
  public record Cause(String code, String value) {}

  public Suspect {
    causes = List.copyOf(causes);
    alike = alike.stream().map(List::copyOf).toList();
  }

  /** What it cannot be told from, for eyes; empty where it can. */
  public String alikeWords() {
    return alike.stream()
        .map(
            a ->
                a.stream()
                    .map(c -> c.code() + " " + c.value())
                    .collect(Collectors.joining(" with ")))
        .collect(Collectors.joining(", "));
  }
}
