package flarvo.receive;

import flarvo.format.table.PixelReading;
import flarvo.format.table.TableMapping;
import flarvo.report.InputError;
import flarvo.vet.Reprojection;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Measures ways to read a table's 2D numbers: where 0, 0 lies and which way y grows. */
public final class MappingTrials {

  /**
   * @param words what eyes read
   * @param medianPx error of the whole shot when the table is read so
   */
  public record Way(String words, TableMapping mapping, double medianPx) {}

  private record Reading(String words, PixelReading.Origin origin, boolean up) {}

  private static final List<Reading> READINGS =
      List.of(
          new Reading("from the top left, y down", PixelReading.Origin.TOP_LEFT, false),
          new Reading("from the bottom left, y up", PixelReading.Origin.BOTTOM_LEFT, true),
          new Reading("from the centre, y up", PixelReading.Origin.CENTRE, true),
          new Reading("from the centre, y down", PixelReading.Origin.CENTRE, false));

  private MappingTrials() {}

  /**
   * @param text of the table
   * @return best first; empty where there is nothing to measure with
   */
  public static List<Way> of(
      ReceivedSet set,
      Rulings rulings,
      Path path,
      String text,
      TableMapping mapping,
      Progress progress) {
    List<Way> out = new ArrayList<>();
    if (mapping.kind().isEmpty()
        || mapping.kind().get() == TableMapping.Kind.CAMERA
        || mapping.kind().get() == TableMapping.Kind.POINTS
        || mapping.picture().isEmpty()) {
      return out;
    }
    for (Reading r : READINGS) {
      TableMapping m = mapping.withPixels(mapping.pixels().withOrigin(r.origin).withUp(r.up));
      double px = medianPx(set, rulings, path, text, m, progress);
      if (!Double.isNaN(px)) {
        out.add(new Way(r.words, m, px));
      }
    }
    out.sort(Comparator.comparingDouble(Way::medianPx));
    return out;
  }

  private static double medianPx(
      ReceivedSet set,
      Rulings rulings,
      Path path,
      String text,
      TableMapping mapping,
      Progress progress) {
    try {
      ReceivedFile f = ReceivedFile.read(path, text, mapping, Optional.empty(), progress);
      return medianPx(set.with(f), rulings);
    } catch (InputError e) {
      return Double.NaN; // read so it makes no shot
    }
  }

  /** NaN where nothing can be measured. */
  public static double medianPx(ReceivedSet set, Rulings rulings) {
    try {
      return Reprojection.of(set.shot("", rulings)).map(Reprojection::medianPx).orElse(Double.NaN);
    } catch (InputError e) {
      return Double.NaN;
    }
  }
}
