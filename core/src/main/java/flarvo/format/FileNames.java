package flarvo.format;

import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/** Gives every object a name that a format accepts, unique among its neighbours and steady. */
public final class FileNames {

  private final Set<String> taken = new HashSet<>();
  private final Map<String, Integer> next = new HashMap<>();

  /** Letters, digits and underscores, not starting with a digit; numbered where it repeats. */
  public String identifier(String wanted) {
    StringBuilder s = new StringBuilder();
    for (int i = 0; i < wanted.length(); i++) {
      char c = wanted.charAt(i);
      boolean plain =
          c == '_' || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z';
      s.append(plain ? c : '_');
    }
    if (s.length() == 0 || Character.isDigit(s.charAt(0))) {
      s.insert(0, '_');
    }
    return unique(s.toString());
  }

  /** The name itself, numbered where it repeats. */
  public String unique(String wanted) {
    String name = wanted;
    while (!taken.add(name)) {
      int n = next.merge(wanted, 2, (a, b) -> a + 1);
      name = wanted + "_" + n;
    }
    return name;
  }
}
