package flarvo.receive;

import flarvo.format.table.PixelReading;
import flarvo.format.table.TableMapping;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Measures ways to read a table's 2D numbers: where 0, 0 lies and which way y grows. */
public final class MappingTrials {

  /**
   * @param words what eyes read
   * @param errorPx of the whole shot when the table is read so
   */
  public record Way(String words, TableMapping mapping, double errorPx) {}

  /**
   * @param file read another way
   * @param why in words
   */
  public record Fitting(ReceivedFile file, String why) {}

  /** An error that no wrong reading comes to. */
  private static final double FITS_PX = 5;

  /** How much better another reading must fit to be taken without a question. */
  private static final double FAR_BETTER = 4;

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
      double px = errorPx(set, rulings, path, text, m, progress);
      if (!Double.isNaN(px)) {
        out.add(new Way(r.words, m, px));
      }
    }
    out.sort(Comparator.comparingDouble(Way::errorPx));
    return out;
  }

  /**
   * The same file with its 2D numbers read as fits best, where another way fits far better than the
   * one that it was read by.
   *
   * @param file a table of 2D tracks that is in the set
   * @param picture of the shot
   * @return empty when it stays as it is
   */
  public static Optional<Fitting> fitting(
      ReceivedSet set,
      ReceivedFile file,
      Optional<PictureSize> picture,
      String text,
      Progress progress) {
    TableMapping read = file.mapping().orElseThrow();
    TableMapping m = read.withPicture(read.picture().or(() -> picture));
    double now = errorPx(set, Rulings.NONE);
    if (Double.isNaN(now) || now < FITS_PX) {
      return Optional.empty();
    }
    return of(set, Rulings.NONE, file.path(), text, m, progress).stream()
        .findFirst()
        .filter(w -> w.errorPx() < now / FAR_BETTER)
        .map(
            w ->
                new Fitting(
                    ReceivedFile.read(file.path(), text, w.mapping(), file.from(), progress),
                    String.format(
                        Locale.ROOT,
                        "2D numbers are read %s, which fits: error %.2f px, and %.0f px as usual",
                        w.words(),
                        w.errorPx(),
                        now)));
  }

  private static double errorPx(
      ReceivedSet set,
      Rulings rulings,
      Path path,
      String text,
      TableMapping mapping,
      Progress progress) {
    try {
      ReceivedFile f = ReceivedFile.read(path, text, mapping, Optional.empty(), progress);
      return errorPx(set.with(f), rulings);
    } catch (InputError e) {
      return Double.NaN; // read so it makes no shot
    }
  }

  /** The error of what came under some rulings, in pixels; NaN where nothing can be measured. */
  public static double errorPx(ReceivedSet set, Rulings rulings) {
    return ReadingTrials.errorPx(set, rulings, Observations.NONE);
  }
}
