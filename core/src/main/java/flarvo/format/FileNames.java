package flarvo.format;

import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/** Gives every object a name that a format accepts, unique among its neighbours and steady. */
public final class FileNames {

  private final Set<String> taken = new HashSet<>();
  private final Map<String, Integer> next = new HashMap<>();
  private final NameChanges changes;

  /** Nobody is told what became of the names. */
  public FileNames() {
    this(new NameChanges());
  }

  /**
   * @param changes takes every name that has to become another
   */
  public FileNames(NameChanges changes) {
    this.changes = changes;
  }

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
    String name = free(s.toString());
    changes.add(wanted, name);
    return name;
  }

  /** The name itself, numbered where it repeats. */
  public String unique(String wanted) {
    String name = free(wanted);
    changes.add(wanted, name);
    return name;
  }

  /**
   * A legal form of a name, numbered where it repeats.
   *
   * @param wanted as it was given
   */
  public String unique(String wanted, String legal) {
    String name = free(legal);
    changes.add(wanted, name);
    return name;
  }

  private String free(String wanted) {
    String name = wanted;
    while (!taken.add(name)) {
      int n = next.merge(wanted, 2, (a, b) -> a + 1);
      name = wanted + "_" + n;
    }
    return name;
  }
}
