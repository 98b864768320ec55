package flarvo.desktop.stop.receive;

import java.util.List;

/** Names of files without what they all begin with: the shot's own name, most often. */
public final class SourceNames {

  private static final int SHORTEST = 4;

  private SourceNames() {}

  public static List<String> shortened(List<String> names) {
    String cut = common(names);
    return names.stream().map(n -> n.startsWith(cut) ? n.substring(cut.length()) : n).toList();
  }

  /** A text that speaks of the sources, with their names shortened. */
  public static String shortened(String text, List<String> names) {
    String cut = common(names);
    return cut.isEmpty() ? text : text.replace(cut, "");
  }

  /** What all files' names begin with, up to a word's end; empty where that is not worth it. */
  private static String common(List<String> names) {
    List<String> files = names.stream().filter(n -> !n.contains("/")).toList();
    if (files.size() < 2) {
      return "";
    }
    String common = files.get(0);
    for (String n : files) {
      int i = 0;
      while (i < Math.min(common.length(), n.length()) && common.charAt(i) == n.charAt(i)) {
        i++;
      }
      common = common.substring(0, i);
    }
    int end = Math.max(common.lastIndexOf('_'), common.lastIndexOf('.')) + 1;
    String cut = common.substring(0, end);
    return cut.length() < SHORTEST ? "" : cut;
  }
}
