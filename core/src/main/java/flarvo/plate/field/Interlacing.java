package flarvo.plate.field;

import java.util.Locale;
import java.util.Objects;
import java.util.Optional;

/**
 * Whether plates are interlaced, as measured in their pixels.
 *
 * @param order empty where they are not interlaced, or where the picture does not tell
 * @param looked frames that were looked at
 * @param moving those of them in which enough moves to tell
 * @param combed those of them whose lines are of two moments
 */
public record Interlacing(
    Kind kind, Optional<FieldOrder> order, int looked, int moving, int combed) {

  /** What it comes to. */
  public enum Kind {
    PROGRESSIVE("progressive"),
    INTERLACED("interlaced"),
    /** Some frames are combed and others are not, as pulldown leaves them. */
    MIXED("mixed"),
    /** Nothing moves, or there are no two frames in a row. */
    UNKNOWN("unknown");

    private final String word;

    Kind(String word) {
      this.word = word;
    }

    /** As files and the command line spell it. */
    public String word() {
      return word;
    }
  }

  /** Fewer frames in which something moves tell nothing. */
  static final int FEWEST = 2;

  private static final double NEARLY_ALL = 0.8;
  private static final double HARDLY_ANY = 0.15;

  public Interlacing {
    Objects.requireNonNull(kind);
    Objects.requireNonNull(order);
  }

  /** Of what was counted. */
  static Interlacing of(int looked, int moving, int combed, Optional<FieldOrder> order) {
    Kind kind = Kind.UNKNOWN;
    if (moving >= FEWEST) {
      kind =
          combed >= NEARLY_ALL * moving
              ? Kind.INTERLACED
              : combed <= HARDLY_ANY * moving ? Kind.PROGRESSIVE : Kind.MIXED;
    }
    boolean fields = kind == Kind.INTERLACED || kind == Kind.MIXED;
    return new Interlacing(kind, fields ? order : Optional.empty(), looked, moving, combed);
  }

  /** Whether its lines are of two moments, in all frames or in some. */
  public boolean isCombed() {
    return kind == Kind.INTERLACED || kind == Kind.MIXED;
  }

  /** What it comes to, for people. */
  public String words() {
    String of =
        String.format(
            Locale.ROOT,
            "combing on %d of %d frames with motion%s",
            combed,
            moving,
            order.map(o -> ", " + o.word() + " field first").orElse(""));
    return switch (kind) {
      case PROGRESSIVE -> "progressive";
      case INTERLACED -> "interlaced: " + of;
      case MIXED -> "interlaced in part, as pulldown leaves it: " + of;
      case UNKNOWN -> "not known to be interlaced: too little moves to tell";
    };
  }
}
