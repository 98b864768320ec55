package flarvo.desktop.stop;

/** A part of a stop whose contents Ctrl+C copies as text while it has the keys. */
public interface CopiesText {

  /** What the copied thing is called, such as "Ledger". */
  String copiedName();

  /** Tab separated; empty while there is nothing to copy. */
  String asText();
}
