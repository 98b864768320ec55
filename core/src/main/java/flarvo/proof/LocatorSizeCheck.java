package flarvo.proof;

import flarvo.format.FileScene;
import flarvo.format.SceneFormat;
import flarvo.scene.TrackerSet;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Whether locators that were to be drawn at a size are. */
final class LocatorSizeCheck {

  /** How far a size may be off, as a share: clouds of points keep it as a float. */
  private static final double RELATIVE = 1e-5;

  private LocatorSizeCheck() {}

  /**
   * Empty where no size was asked for, or files of the format say none.
   *
   * @param expected what was sent, sizes in metres
   * @param metresPerUnit of the recipient's unit
   */
  static Optional<Check> of(
      List<TrackerSet> expected, FileScene scene, SceneFormat format, double metresPerUnit) {
    if (!format.holdsLocatorSizes()) {
      return Optional.empty();
    }
    Map<String, Double> found = new HashMap<>();
    scene.locatorSizes().forEach((name, size) -> found.put(Checks.plain(name), size));
    found.putAll(scene.locatorSizes()); // one that has its own name goes before one that is alike
    String first = "";
    for (TrackerSet t : expected) {
      if (t.size() == 0 || t.marker().isEmpty()) {
        continue;
      }
      double wanted = t.marker().getAsDouble();
      Double units = found.getOrDefault(t.name(), found.get(Checks.plain(t.name())));
      double is = units == null ? Double.NaN : units * metresPerUnit;
      if (!(Math.abs(is - wanted) <= RELATIVE * wanted)) {
        String what = units == null ? "none" : Double.isNaN(is) ? "several sizes" : metres(is);
        return Optional.of(new Check("locatorSize", false, t.name() + " " + metres(wanted), what));
      }
      first = first.isEmpty() || first.equals(metres(wanted)) ? metres(wanted) : "as asked";
    }
    return first.isEmpty()
        ? Optional.empty()
        : Optional.of(new Check("locatorSize", true, first, first));
  }

  private static String metres(double m) {
    return String.format(Locale.ROOT, "%.6g m", m);
  }
}
