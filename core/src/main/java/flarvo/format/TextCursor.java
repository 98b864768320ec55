package flarvo.format;

import ch.randelshofer.fastdoubleparser.JavaDoubleParser;
import flarvo.report.InputError;

/** Walks over text character by character and knows the line and column for every error. */
public final class TextCursor {

  private final String file;
  private final String text;
  private int at;

  public TextCursor(String file, String text) {
    this.file = file;
    this.text = text;
  }

  /** Whether nothing is left. */
  public boolean atEnd() {
    return at >= text.length();
  }

  /** The next character, or 0 at the end. */
  public char peek() {
    return at < text.length() ? text.charAt(at) : 0;
  }

  /** The next character, without taking it; 0 at the end. */
  public char peek(int ahead) {
    return at + ahead < text.length() ? text.charAt(at + ahead) : 0;
  }

  /** Takes the next character. */
  public char next() {
    if (atEnd()) {
      throw error("the file ends in the middle", "It was cut off; request a new copy");
    }
    return text.charAt(at++);
  }

  /** Whether the rest begins with some text. */
  public boolean startsWith(String s) {
    return text.startsWith(s, at);
  }

  /** Moves on by some characters. */
  public void skip(int count) {
    at = Math.min(text.length(), at + count);
  }

  public int position() {
    return at;
  }

  /** Moves to an offset. */
  public void moveTo(int position) {
    at = position;
  }

  /** Text between two offsets. */
  public String slice(int from) {
    return text.substring(from, at);
  }

  /**
   * The number that the text between an offset and here spells, in Java's grammar.
   *
   * @throws NumberFormatException where it spells none
   */
  public double number(int from) {
    return JavaDoubleParser.parseDouble(text, from, at - from);
  }

  /** Moves to just behind {@code end} and returns what stood before it. */
  public String until(String end, String what) {
    int found = text.indexOf(end, at);
    if (found < 0) {
      throw error(what + " is not closed", "The file is truncated or corrupt");
    }
    String s = text.substring(at, found);
    at = found + end.length();
    return s;
  }

  /** Moves to the end of the line. */
  public void skipLine() {
    int found = text.indexOf('\n', at);
    at = found < 0 ? text.length() : found;
  }

  /** Line and column of where the cursor stands; counted only when something is wrong. */
  public String place() {
    int line = 1;
    int start = 0;
    int end = Math.min(at, text.length());
    for (int i = 0; i < end; i++) {
      if (text.charAt(i) == '\n') {
        line++;
        start = i + 1;
      }
    }
    return "line " + line + ", column " + (end - start + 1);
  }

  /** An error at the present line, for the caller to throw. */
  public InputError error(String cause, String advice) {
    return new InputError(file, place(), cause, advice);
  }

  public String file() {
    return file;
  }
}
