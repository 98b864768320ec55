package flarvo.tools.dependencies;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.TreeMap;

/**
 * A library that the program ships with.
 *
 * @param licences as its own description calls them; any of them may be chosen
 */
record Dependency(String group, String name, String version, List<String> licences) {

  /** From a CycloneDX document; jars of one library for several systems are one. */
  static Collection<Dependency> all(JsonNode document) {
    TreeMap<String, Dependency> out = new TreeMap<>();
    for (JsonNode c : document.path("components")) {
      Dependency d =
          new Dependency(
              c.path("group").asText(),
              c.path("name").asText(),
              c.path("version").asText(),
              licences(c.path("licenses")));
      if (!d.group.equals("flarvo")) {
        out.put(d.group + ":" + d.name, d);
      }
    }
    return out.values();
  }

  private static List<String> licences(JsonNode all) {
    List<String> out = new ArrayList<>();
    for (JsonNode l : all) {
      JsonNode one = l.path("license");
      String text = one.path("id").asText(one.path("name").asText(l.path("expression").asText()));
      out.add(text.isEmpty() ? "not stated" : text);
    }
    return out.isEmpty() ? List.of("not stated") : out;
  }

  /** Numbers of a version in order; words between them count nothing. */
  static int compare(String a, String b) {
    String[] x = a.toLowerCase(Locale.ROOT).split("[^0-9]+");
    String[] y = b.toLowerCase(Locale.ROOT).split("[^0-9]+");
    for (int i = 0; i < Math.max(x.length, y.length); i++) {
      long left = i < x.length && !x[i].isEmpty() ? Long.parseLong(x[i]) : 0;
      long right = i < y.length && !y[i].isEmpty() ? Long.parseLong(y[i]) : 0;
      if (left != right) {
        return Long.compare(left, right);
      }
    }
    return 0;
  }
}
