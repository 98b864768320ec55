package flarvo.trace;

import java.util.Objects;

/**
 * What was noticed in the plates while they were followed.
 *
 * @param frame of the plate at which it begins
 * @param text a sentence for people
 */
public record TraceNote(Kind kind, int frame, String text) {

  /** What it is about. */
  public enum Kind {
    /** Another picture begins: tracks do not go across. */
    CUT("cut"),
    /** Frames that could not be followed while those before and behind could. */
    FLASH("flash"),
    /** Frames that are the one before once more. */
    REPEATED("repeated"),
    /** Frames that are not there or cannot be read. */
    MISSING("missing"),
    /** Frames on which few features live. */
    THIN("thin"),
    /** A feature marked by hand that needs another mark. */
    BY_HAND("by-hand");

    private final String code;

    Kind(String code) {
      this.code = code;
    }

    /** The word in files. */
    public String code() {
      return code;
    }
  }

  public TraceNote {
    Objects.requireNonNull(kind);
    Objects.requireNonNull(text);
  }
}
