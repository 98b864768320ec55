package flarvo.stage;

import flarvo.report.InputError;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.Map;

/**
 * A place with a name, for others to attach things to.
 *
 * @param tracker that it stands on and follows
 * @param metres how large others see it
 */
public record Locator(String name, String group, String tracker, Vec3 place, double metres) {

  public Locator {
    if (name.isBlank() || group.isBlank()) {
      throw InputError.words("a locator needs a name and a group", "Type them");
    }
    if (!(metres > 0) || !Double.isFinite(metres)) {
      throw InputError.words("a locator cannot be " + metres + " m large", "Type a size over zero");
    }
  }

  Locator following(Map<String, Vec3> places) {
    return places.containsKey(tracker)
        ? new Locator(name, group, tracker, places.get(tracker), metres)
        : this;
  }

  Locator moved(Similarity to) {
    return new Locator(name, group, tracker, to.apply(place), metres);
  }
}
