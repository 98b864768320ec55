package flarvo.sender;

/**
 * One part of a sender's dialect.
 *
 * @param part such as {@code camera axes}
 * @param value as the dialect's file spells it
 * @param why in words, without an end: what it was measured by, or what else would fit
 */
public record Finding(String part, String value, Known known, String why) {

  /** Why a part is open that the files do not use. */
  public static final String NO_MATTER = "nothing in these files depends on it";
}
