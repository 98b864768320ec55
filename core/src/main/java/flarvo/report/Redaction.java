package flarvo.report;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Takes private paths and names out of a text that is to be sent to strangers. Names of files stay,
 * their folders do not.
 */
public final class Redaction {

  /** A folder's name: spaces within, none at its ends, so that the next path is not swallowed. */
  private static final String FOLDER =
      "[^\\s\\\\/:;,\"'()<>|](?:[^\\n\\\\/:;,\"'()<>|]*[^\\s\\\\/:;,\"'()<>|])?";

  private static final Pattern UNIX = Pattern.compile("(?<![\\w/.~>])/(?:" + FOLDER + "/)+");
  private static final Pattern WINDOWS =
      Pattern.compile("(?<!\\w)[A-Za-z]:[\\\\/](?:" + FOLDER + "[\\\\/])+");
  private static final Pattern NETWORK =
      Pattern.compile("(?<![\\w\\\\])\\\\\\\\(?:" + FOLDER + "\\\\)+");

  private record Known(Pattern text, String stands) {}

  private final List<Known> folders = new ArrayList<>();
  private final List<Known> words = new ArrayList<>();

  /**
   * @param known folders, which may have spaces in their names, and what stands for each
   * @param named whole words such as the user's name, and what stands for each
   */
  public Redaction(Map<Path, String> known, Map<String, String> named) {
    known.entrySet().stream()
        .map(e -> Map.entry(e.getKey().toAbsolutePath().normalize().toString(), e.getValue()))
        .filter(e -> e.getKey().length() > 1)
        // The longest first: a project in the home folder is not the home folder.
        .sorted(Comparator.comparing(e -> -e.getKey().length()))
        .forEach(
            e -> folders.add(new Known(Pattern.compile(Pattern.quote(e.getKey())), e.getValue())));
    named.forEach(
        (w, s) -> {
          if (w.length() > 2) {
            words.add(new Known(Pattern.compile("\\b" + Pattern.quote(w) + "\\b"), s));
          }
        });
  }

  /** The text without what must not leave this machine. */
  public String of(String text) {
    String t = replace(text, folders);
    t = UNIX.matcher(t).replaceAll("…/");
    t = WINDOWS.matcher(t).replaceAll(Matcher.quoteReplacement("…\\"));
    t = NETWORK.matcher(t).replaceAll(Matcher.quoteReplacement("…\\"));
    return replace(t, words);
  }

  private static String replace(String text, List<Known> all) {
    String t = text;
    for (Known k : all) {
      t = k.text.matcher(t).replaceAll(Matcher.quoteReplacement(k.stands));
    }
    return t;
  }
}
