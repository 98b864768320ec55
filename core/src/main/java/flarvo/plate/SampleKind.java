package flarvo.plate;

import java.util.Arrays;
import java.util.Optional;

/** How one number of a picture is stored. */
public enum SampleKind {
  BYTE("8", 8),
  SHORT("16", 16),
  HALF("half", 16),
  FLOAT("float", 32);

  private final String code;
  private final int bits;

  SampleKind(String code, int bits) {
    this.code = code;
    this.bits = bits;
  }

  /** The name on the command line and in files. */
  public String code() {
    return code;
  }

  public int bits() {
    return bits;
  }

  /** Whether numbers may be more than 1 and less than 0. */
  public boolean isFloating() {
    return this == HALF || this == FLOAT;
  }

  /** The kind of a name; empty where there is none. */
  public static Optional<SampleKind> of(String code) {
    return Arrays.stream(values()).filter(k -> k.code.equals(code)).findFirst();
  }
}
