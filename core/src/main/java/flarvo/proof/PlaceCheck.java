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

  /** So many of a set are followed over the shot; they hang in one group, which moves as one. */
  private static final int FOLLOWED = 64;

  private record Place(TrackerSet set, int at) {}

  private PlaceCheck() {}

  /**
   * @param source what was sent; {@code found} what was read back; both canonical, on plate frames
   * @param relative how far a point may be off, as a share of the scene's size
   */
  static Check of(
      List<TrackerSet> source, List<TrackerSet> found, FrameRange frames, double relative) {
    Map<String, Place> places = new HashMap<>();
    for (TrackerSet t : found) {
      for (int i = 0; i < t.size(); i++) {
        places.putIfAbsent(t.names().get(i), new Place(t, i));
      }
    }
    int compared = 0;
    double worst = 0;
    double reach = 1;
    for (TrackerSet t : source) {
      int step = Math.max(1, t.size() / FOLLOWED);
      for (int i = 0; i < t.size(); i++) {
        Place there = places.get(t.names().get(i));
        if (there == null) {
          continue;
        }
        compared++;
        boolean follow = (t.moves() || there.set.moves()) && i % step == 0;
        int last = follow ? frames.last() : frames.first();
        for (int f = frames.first(); f <= last; f++) {
          Vec3 sent = t.position(i, f);
          reach = Math.max(reach, sent.length());
          worst = Math.max(worst, sent.minus(there.set.position(there.at, f)).length());
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
