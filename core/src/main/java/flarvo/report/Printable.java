package flarvo.report;

import java.util.Locale;

/**
 * Text from files made safe to show. Control characters, which names in files may hold to move the
 * cursor or change what is shown, come out as {@code \\u001b}. Marks that turn the direction of
 * writing round are controls too.
 */
public final class Printable {

  private Printable() {}

  private static boolean isControl(char c) {
    return c < ' ' && c != '\n' && c != '\r' && c != '\t'
        || c >= 0x7f && c < 0xa0
        || c >= 0x202a && c <= 0x202e
        || c >= 0x2066 && c <= 0x2069;
  }

  /** The same text with controls spelled out; tabs and ends of lines stay. */
  public static String of(String text) {
    if (text.chars().noneMatch(c -> isControl((char) c))) {
      return text;
    }
    StringBuilder s = new StringBuilder();
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (isControl(c)) {
        s.append(String.format(Locale.ROOT, "\\u%04x", (int) c));
      } else {
        s.append(c);
      }
    }
    return s.toString();
  }

  /** The same on one line: tabs and ends of lines become spaces. */
  public static String line(String text) {
    return of(text.replace('\n', ' ').replace('\r', ' ').replace('\t', ' '));
  }
}
