package flarvo.desktop.stop.receive;

import flarvo.format.FileScene;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** The beginning of what a table was read as, in words. */
public final class ReadSample {

  private ReadSample() {}

  static List<String> of(FileScene s, int lines) {
    List<String> out = new ArrayList<>();
    Observations o = s.observations();
    for (String name : o.names()) {
      for (int r = o.firstRow(name); r < o.endRow(name) && out.size() < lines; r++) {
        out.add(
            String.format(
                Locale.ROOT,
                "%s  frame %d  %.2f px from the left, %.2f px from the top",
                name,
                o.frame(r),
                o.x(r),
                o.y(r)));
      }
    }
    if (!s.cameras().isEmpty()) {
      ShotCamera c = s.cameras().get(0).camera();
      for (int f = c.frames().first(); f <= c.frames().last() && out.size() < lines; f++) {
        Vec3 p = c.poses().at(f).position();
        Optics l = c.optics().at(f);
        out.add(
            String.format(
                Locale.ROOT,
                "frame %d  at %.3f  %.3f  %.3f  lens %.2f° across",
                f,
                p.x(),
                p.y(),
                p.z(),
                2 * Math.toDegrees(Math.atan(l.filmWidthMm() / 2 / l.focalLengthMm()))));
      }
    }
    for (TrackerSet t : s.trackers()) {
      for (int i = 0; i < t.size() && out.size() < lines; i++) {
        out.add(
            String.format(
                Locale.ROOT, "%s  at %.3f  %.3f  %.3f", t.names().get(i), t.x(i), t.y(i), t.z(i)));
      }
    }
    return out;
  }

  /** How much was read, in one phrase. */
  static String sum(FileScene s) {
    List<String> parts = new ArrayList<>();
    if (!s.observations().isEmpty()) {
      parts.add(
          String.format(
              Locale.ROOT,
              "2D tracks of %d trackers, %,d observations",
              s.observations().names().size(),
              s.observations().size()));
    }
    if (!s.cameras().isEmpty()) {
      ShotCamera c = s.cameras().get(0).camera();
      parts.add("a camera, frames " + c.frames().first() + "–" + c.frames().last());
    }
    if (s.trackerCount() > 0) {
      parts.add(s.trackerCount() + " trackers' positions");
    }
    return String.join("; ", parts);
  }
}
