package flarvo.proof;

import flarvo.dispatch.Sidecars;
import flarvo.lens.Direction;
import flarvo.lens.LensMapper;
import flarvo.lens.LensSheet;
import flarvo.plate.Raster;
import flarvo.plate.remap.MapBending;
import flarvo.plate.remap.Overscan;
import flarvo.plate.remap.PositionGrid;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** What lies beside a delivery's file, read from disk and compared with what it was made from. */
final class SidecarChecks {

  /** Maps hold floats: 1e-4 px over a wide picture. */
  private static final double MAP_PX = 0.001;

  private static final double MISSING = Double.POSITIVE_INFINITY;

  /** Pixels from one that is compared to the next, in both directions. */
  private static final int STEP = 7;

  private SidecarChecks() {}

  /**
   * A check of each kind that is there.
   *
   * @param sidecars of the delivery that is proven
   */
  static List<Check> of(Sidecars sidecars, Progress progress) {
    List<Check> out = new ArrayList<>();
    sidecars.sheet().ifPresent(f -> out.add(sheet(sidecars, f)));
    if (!sidecars.maps().isEmpty()) {
      out.add(maps(sidecars, progress));
    }
    sidecars.tracks().ifPresent(t -> out.add(TracksCheck.same(t)));
    if (!sidecars.plates().isEmpty()) {
      out.add(plates(sidecars, progress));
    }
    if (!out.isEmpty()) {
      out.add(strays(sidecars));
    }
    return out;
  }

  private static Check strays(Sidecars s) {
    String expected = "no frames but its own";
    List<Path> more = s.strays();
    return new Check(
        "noStrays",
        more.isEmpty(),
        expected,
        more.isEmpty()
            ? expected
            : more.size() + " of another delivery, such as " + more.get(0).getFileName());
  }

  private static Check sheet(Sidecars s, Path file) {
    String expected = "the lens that the shot has";
    try {
      boolean same = LensSheet.read(file).track().equals(s.sheetLens().orElseThrow());
      return new Check("lensSheet", same, expected, same ? expected : "another lens");
    } catch (InputError e) {
      return new Check("lensSheet", false, expected, e.reason());
    }
  }

  private static Check maps(Sidecars s, Progress progress) {
    String expected = "points of the lens, within " + MAP_PX + " px";
    double worst = 0;
    int n = 0;
    for (Sidecars.MapFile m : s.maps()) {
      progress.step(n++, s.maps().size());
      try {
        worst = Math.max(worst, distance(s, m));
      } catch (InputError e) {
        String found = m.file().getFileName() + ": " + e.reason();
        return new Check("distortionMaps", false, expected, found);
      }
    }
    String found =
        Double.isFinite(worst)
            ? String.format(Locale.ROOT, "%d maps, %.6f px", n, worst)
            : "another picture size, or nothing where the lens has a point";
    return new Check("distortionMaps", worst <= MAP_PX, expected, found);
  }

  /**
   * Largest distance between a map's points and the lens's, in pixels; infinite where one is
   * missing.
   */
  private static double distance(Sidecars s, Sidecars.MapFile m) {
    Overscan o = s.overscan();
    boolean undistorts = m.direction() == Direction.ORIGINAL_TO_UNDISTORTED;
    PictureSize made = undistorts ? o.size() : o.original();
    PictureSize had = s.had(m.direction());
    Raster r = MapBending.read(m.file());
    if (r.width() != made.width() || r.height() != made.height()) {
      return MISSING;
    }
    PositionGrid g = PositionGrid.of(r, had.width(), had.height(), Sidecars.MAPS_FROM_BOTTOM);
    LensMapper lens = s.mapper(m.frame());
    double left = undistorts ? 0 : o.left();
    double top = undistorts ? 0 : o.top();
    double[] found = new double[2];
    double[] p = new double[2];
    double worst = 0;
    for (int y = 0; y < r.height(); y += STEP) {
      for (int x = 0; x < r.width(); x += STEP) {
        // Both pictures have one centre, and the larger one begins before the smaller.
        double px = x + 0.5 - (undistorts ? o.left() : 0);
        double py = y + 0.5 - (undistorts ? o.top() : 0);
        boolean there = undistorts ? lens.toOriginal(px, py, p) : lens.toUndistorted(px, py, p);
        g.at(x, y, found);
        double fx = p[0] + left;
        double fy = p[1] + top;
        boolean inside = there && within(fx, had.width()) && within(fy, had.height());
        if (Double.isNaN(found[0])) {
          worst = inside ? MISSING : worst;
        } else {
          worst = Math.max(worst, there ? Math.hypot(found[0] - fx, found[1] - fy) : MISSING);
        }
      }
    }
    return worst;
  }

  /** Whether a point lies well in a picture, where no map may leave it out. */
  private static boolean within(double at, int size) {
    return at > 0 && at < size;
  }

  private static Check plates(Sidecars s, Progress progress) {
    Map<Integer, Path> copies = s.plates();
    String expected = copies.size() + " plates, byte for byte";
    int n = 0;
    for (Map.Entry<Integer, Path> e : copies.entrySet()) {
      progress.step(n++, copies.size());
      try {
        if (Files.mismatch(s.copied().orElseThrow().file(e.getKey()), e.getValue()) >= 0) {
          return new Check("plateCopies", false, expected, named(e) + " differs");
        }
      } catch (IOException x) {
        return new Check("plateCopies", false, expected, named(e) + " cannot be read");
      }
    }
    return new Check("plateCopies", true, expected, expected);
  }

  private static String named(Map.Entry<Integer, Path> e) {
    return e.getValue().getFileName() + ", of frame " + e.getKey() + ",";
  }
}
