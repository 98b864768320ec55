package flarvo.convention;

import java.util.Arrays;
import java.util.Optional;

/** What a scene is set to as a whole: a file may state it, and a plain import may overlook it. */
public enum SceneSetting {
  RATE("rate"),
  RANGE("range"),
  UNIT("unit"),
  AXES("axes"),
  PICTURE("picture");

  private final String word;

  SceneSetting(String word) {
    this.word = word;
  }

  public String word() {
    return word;
  }

  /** The setting of that word, as dialects write it. */
  public static Optional<SceneSetting> of(String word) {
    return Arrays.stream(values()).filter(s -> s.word.equals(word)).findFirst();
  }
}
