package flarvo.sender;

import flarvo.convention.BackPolicy;
import flarvo.convention.Dialect;
import flarvo.convention.FilmBack;
import flarvo.convention.FilmConvention;
import flarvo.convention.FilmFit;
import flarvo.convention.LensShift;
import flarvo.convention.ShiftUnit;
import flarvo.scene.Optics;
import flarvo.scene.ShotCamera;
import flarvo.sender.Readings.Reading;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;

/** What a sender makes of film back, fit and lens shift: every film convention is tried. */
final class FilmOfSender {

  /** A focal length that differs by less than this is the one that was stated. */
  private static final double SAME_FOCAL = 1e-3;

  private final Readings readings;
  private final OptionalInt plateFirst;
  private final Findings findings;

  FilmOfSender(Readings readings, OptionalInt plateFirst, Findings findings) {
    this.readings = readings;
    this.plateFirst = plateFirst;
    this.findings = findings;
  }

  /**
   * @param as read so far
   * @param focal factor on its focal length that mends it
   * @param error that can be reached
   * @return empty where no film convention reaches it
   */
  Optional<Dialect> over(Reading as, double focal, double error) {
    Dialect d = as.dialect();
    List<Reading> read = readings.of(conventions(d), plateFirst);
    Optional<Reading> plain =
        read.stream().filter(r -> Findings.isAlike(r.error(), error)).findFirst();
    if (plain.isPresent()) {
      say(read, plain.get().dialect());
      return plain.map(Reading::dialect);
    }
    if (Math.abs(focal - 1) < SAME_FOCAL) {
      return Optional.empty();
    }
    List<Reading> other = readings.of(conventions(withBack(as, focal)), plateFirst);
    Optional<Reading> fits =
        other.stream().filter(r -> Findings.isAlike(r.error(), error)).findFirst();
    if (fits.isEmpty()) {
      return Optional.empty();
    }
    Dialect out = fits.get().dialect();
    double before = read.stream().mapToDouble(Reading::error).min().orElse(as.error());
    findings.add(
        "film back",
        String.format(
            Locale.ROOT,
            "%.3f x %.3f mm",
            out.film().assumed().widthMm(),
            out.film().assumed().heightMm()),
        Known.MEASURED,
        String.format(
            Locale.ROOT, "%.2f px, as it is read otherwise %.2f px", fits.get().error(), before));
    say(other, out);
    return Optional.of(out);
  }

  private void say(List<Reading> read, Dialect d) {
    FilmConvention f = d.film();
    findings.compare("film fit", f.fit().word(), read, x -> x.film().fit().word());
    findings.compare("lens shift", f.shift().word(), read, x -> x.film().shift().word());
    findings.compare(
        "unit of the lens shift", f.shiftUnit().word(), read, x -> x.film().shiftUnit().word());
  }

  /** The usual one first. */
  static List<Dialect> conventions(Dialect d) {
    FilmConvention f = d.film();
    List<Dialect> out = new ArrayList<>(List.of(d));
    for (FilmFit fit : FilmFit.values()) {
      for (LensShift shift : LensShift.values()) {
        for (ShiftUnit unit : ShiftUnit.values()) {
          FilmConvention x = new FilmConvention(f.assumed(), f.policy(), fit, shift, unit);
          if (!x.equals(f)) {
            out.add(d.withFilm(x));
          }
        }
      }
    }
    return out;
  }

  /** A sender whose back is another than the file says, or who does not say it. */
  private static Dialect withBack(Reading as, double focal) {
    ShotCamera c = as.shot().camera().orElseThrow();
    Optics o = c.optics().at(c.frames().first());
    double width = o.filmWidthMm() / focal;
    FilmConvention f = as.dialect().film();
    FilmBack back = new FilmBack(width, width * o.filmHeightMm() / o.filmWidthMm());
    return as.dialect()
        .withFilm(
            new FilmConvention(back, BackPolicy.ALWAYS_ASSUMED, f.fit(), f.shift(), f.shiftUnit()));
  }
}
