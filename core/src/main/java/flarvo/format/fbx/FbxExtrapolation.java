package flarvo.format.fbx;

/**
 * How a curve goes on before its first key or after its last.
 *
 * @param repeats how often the keys are repeated; negative: without end
 */
record FbxExtrapolation(Mode mode, int repeats) {

  /** By the letter that the file stores. */
  enum Mode {
    /** The end's value holds. */
    CONSTANT,
    /** On along the tangent of the end. */
    SLOPE,
    /** The keys again. */
    REPEAT,
    /** The keys again, every other time backwards. */
    MIRROR,
    /** The keys again, each time starting where they ended. */
    RELATIVE
  }

  static final FbxExtrapolation HELD = new FbxExtrapolation(Mode.CONSTANT, -1);

  /** As the curve states it under a name such as {@code Post-Extrapolation}. */
  static FbxExtrapolation of(FbxNode curve, String name) {
    FbxNode node = curve.child(name).orElse(null);
    if (node == null) {
      return HELD;
    }
    Mode mode =
        switch (node.child("Type").map(FbxExtrapolation::letter).orElse('C')) {
          case 'K' -> Mode.SLOPE;
          case 'R' -> Mode.REPEAT;
          case 'M' -> Mode.MIRROR;
          case 'A' -> Mode.RELATIVE;
          default -> Mode.CONSTANT;
        };
    return new FbxExtrapolation(
        mode, node.child("Repetition").map(n -> (int) n.number(0)).orElse(-1));
  }

  /** Binary files store a character or its number, text files the letter. */
  private static char letter(FbxNode type) {
    String text = type.text(0);
    double number = type.number(0);
    return !text.isEmpty() ? text.charAt(0) : Double.isNaN(number) ? 'C' : (char) (int) number;
  }

  /**
   * The tick inside the keys whose value counts at a tick outside of them, for the modes that
   * repeat.
   *
   * @param first tick of the first key
   * @param last tick of the last key, after the first
   */
  double inside(double tick, double first, double last) {
    boolean before = tick < first;
    double length = last - first;
    double past = before ? first - tick : tick - last;
    double rounds = rounds(tick, first, last);
    double rest = repeats > 0 && past / length >= repeats ? length : past - rounds * length;
    if (mode == Mode.MIRROR && rounds % 2 == 0) {
      rest = length - rest;
    }
    return before ? last - rest : first + rest;
  }

  /** Whole repetitions between the keys and the tick. */
  double rounds(double tick, double first, double last) {
    double past = tick < first ? first - tick : tick - last;
    double rounds = Math.floor(past / (last - first));
    return repeats > 0 && rounds >= repeats ? repeats - 1 : rounds;
  }
}
