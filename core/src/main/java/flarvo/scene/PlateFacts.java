package flarvo.scene;

import java.util.Optional;

/**
 * What the first picture of a sequence says of itself, besides its size.
 *
 * @param bits of one channel; 0 where it does not say
 * @param floating whether they are floating point numbers
 * @param alpha whether it has an alpha channel
 * @param rate where the header states one
 * @param timecode of the first picture, {@code hh:mm:ss:ff}
 * @param colour what it says of its colours, in words; empty where it says nothing
 */
public record PlateFacts(
    int bits,
    boolean floating,
    boolean alpha,
    Optional<Rate> rate,
    Optional<String> timecode,
    String colour) {

  public static final PlateFacts UNKNOWN =
      new PlateFacts(0, false, false, Optional.empty(), Optional.empty(), "");

  /** {@code 16 bit float}; empty where it is not known. */
  public String depth() {
    return bits == 0 ? "" : bits + " bit" + (floating ? " float" : "");
  }
}
