package flarvo.cli;

/** What the shell is told. */
final class ExitCode {
  static final int HOLDS = 0;
  static final int DOES_NOT_HOLD = 1;
  static final int BAD_INPUT = 2;
  static final int CANCELLED = 130;

  private ExitCode() {}
}
