package flarvo.proof;

import flarvo.scene.FrameRange;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Compares where trackers are in space, by name and on every frame. It is what proves points that
 * no camera sees.
 */
final class PlaceCheck {

  /** The name of the check, by which a proof without a camera goes. */
  static final String NAME = "positions";

  private PlaceCheck() {}

  /**
   * @param source what was sent; {@code found} what was read back; both canonical, on plate frames
   * @param relative how far a point may be off, as a share of the scene's size
   */
  static Check of(
      List<TrackerSet> source, List<TrackerSet> found, FrameRange frames, double relative) {
    Map<String, TrackerSet> sets = new HashMap<>();
    found.forEach(t -> t.names().forEach(n -> sets.putIfAbsent(n, t)));
    int compared = 0;
    double worst = 0;
    double reach = 1;
    for (TrackerSet t : source) {
      for (int i = 0; i < t.size(); i++) {
        TrackerSet there = sets.get(t.names().get(i));
        if (there == null) {
          continue;
        }
        compared++;
        int k = there.names().indexOf(t.names().get(i));
        int last = t.moves() || there.moves() ? frames.last() : frames.first();
        for (int f = frames.first(); f <= last; f++) {
          Vec3 sent = t.position(i, f);
          reach = Math.max(reach, sent.length());
          worst = Math.max(worst, sent.minus(there.position(k, f)).length());
        }
      }
    }
    String is =
        compared == 0
            ? "no point in common"
            : compared + " compared, " + String.format(Locale.ROOT, "%.6f m off", worst);
    String wanted = String.format(Locale.ROOT, "at most %.6f m", relative * reach);
    return new Check(NAME, compared > 0 && worst <= relative * reach, wanted, is);
  }
}
