package flarvo.format;

import flarvo.report.InputError;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Places that a reader finds one by one, as groups; names that repeat are numbered. */
public final class TrackerCollector {

  /** Where a file has no group around its points. */
  private static final String GROUP = "trackers";

  private static final class Group {
    final List<String> names = new ArrayList<>();
    double[] xyz = new double[48];
  }

  private final String file;
  private final FileNames unique = new FileNames();
  private final Map<String, Group> groups = new LinkedHashMap<>();

  public TrackerCollector(String file) {
    this.file = file;
  }

  /**
   * @param group may be empty
   * @param place where it stands in the file, for errors
   * @throws InputError when a number is not finite
   */
  public void add(String group, String name, double x, double y, double z, String place) {
    if (!Double.isFinite(x) || !Double.isFinite(y) || !Double.isFinite(z)) {
      throw new InputError(file, place, "the position is not finite", "Request a new copy");
    }
    Group g = groups.computeIfAbsent(group.isEmpty() ? GROUP : group, k -> new Group());
    int at = 3 * g.names.size();
    if (at == g.xyz.length) {
      g.xyz = Arrays.copyOf(g.xyz, 2 * at);
    }
    g.names.add(unique.unique(name));
    g.xyz[at] = x;
    g.xyz[at + 1] = y;
    g.xyz[at + 2] = z;
  }

  /** In the order in which they were first met. */
  public List<TrackerSet> sets() {
    List<TrackerSet> out = new ArrayList<>();
    groups.forEach(
        (name, g) ->
            out.add(TrackerSet.of(name, g.names, Arrays.copyOf(g.xyz, 3 * g.names.size()))));
    return out;
  }
}
