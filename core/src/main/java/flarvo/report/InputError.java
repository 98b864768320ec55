package flarvo.report;

import java.util.Objects;

/**
 * The one error for what a user gave us: which file, where in it, what is wrong, what to do. Errors
 * of the program are other exceptions.
 */
public final class InputError extends RuntimeException {

  private static final long serialVersionUID = 1L;

  private final String file;
  private final String place;
  private final String cause;
  private final String advice;

  /**
   * @param file path or other source; empty when no file is at fault
   * @param place line and column, byte offset or scene path; may be empty
   * @param cause what is wrong, one sentence without a full stop
   * @param advice what to do about it; may be empty
   */
  public InputError(String file, String place, String cause, String advice) {
    super(sentence(file, place, cause, advice));
    this.file = Objects.requireNonNull(file);
    this.place = Printable.line(place);
    this.cause = Printable.line(cause);
    this.advice = Printable.line(advice);
  }

  public InputError(String file, String place, String cause, String advice, Throwable from) {
    this(file, place, cause, advice);
    initCause(from);
  }

  /** An error in the words given, with no file at fault. */
  public static InputError words(String cause, String advice) {
    return new InputError("", "", cause, advice);
  }

  public String file() {
    return file;
  }

  public String place() {
    return place;
  }

  public String reason() {
    return cause;
  }

  public String advice() {
    return advice;
  }

  /** The same error for a file that the thrower did not know. */
  public InputError in(String path) {
    return file.isEmpty() ? new InputError(path, place, cause, advice, this) : this;
  }

  private static String sentence(String file, String place, String cause, String advice) {
    StringBuilder s = new StringBuilder();
    if (!file.isEmpty()) {
      s.append(file).append(": ");
    }
    if (!place.isEmpty()) {
      s.append(place).append(": ");
    }
    s.append(cause);
    if (!advice.isEmpty()) {
      s.append(". ").append(advice);
    }
    // One line, whatever a hostile file put into its names.
    return Printable.line(s.toString());
  }
}
