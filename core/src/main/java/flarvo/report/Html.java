package flarvo.report;

/** Text inside a page of HTML. */
public final class Html {

  private Html() {}

  /** The text with what would be markup spelled out; good between tags and inside quotes. */
  public static String escaped(String text) {
    return text.replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replace("\"", "&quot;");
  }
}
