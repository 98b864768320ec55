package flarvo.plate;

/** In the decoder's process: why a file cannot be decoded. */
final class UndecodableException extends Exception {
  private static final long serialVersionUID = 1;

  UndecodableException(String message) {
    super(message);
  }

  /** The library's answers below zero are errors. */
  static int check(int answer, String what) throws UndecodableException {
    if (answer < 0) {
      throw new UndecodableException(what);
    }
    return answer;
  }
}
