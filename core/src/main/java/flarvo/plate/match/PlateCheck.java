package flarvo.plate.match;

import flarvo.lens.LensTrack;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * Whether plates belong behind a camera in the role that they have: originals through the lens, all
 * others as they are.
 *
 * @param straight fit of the trackers to the plates as they are
 * @param bent the same through the lens; empty without a lens
 * @param registration against the original plates; empty for these, and without a lens
 */
public record PlateCheck(
    PlateSequence plates,
    PlateFit straight,
    Optional<PlateFit> bent,
    Optional<PlateRegistration> registration) {

  /** What the measurement says. */
  public enum Verdict {
    BELONGS,
    DOES_NOT_BELONG,
    UNKNOWN
  }

  /** Farther than this a plate is off, px; no solve is so bad that it means nothing. */
  private static final double OFF = 1.5;

  /** A plate that is this far from the original through the lens was made with another lens, px. */
  private static final double OTHER_LENS = 1;

  /** The other reading is the right one where it fits so many times better, and by so much. */
  private static final double TIMES_BETTER = 2;

  private static final double BETTER = 0.5;

  /** Measures every sequence of a shot but proxies, which are of another size. */
  public static List<PlateCheck> of(Shot shot, Optional<LensTrack> lens, Progress progress) {
    Optional<PlateSequence> original = shot.plate(PlateRole.ORIGINAL);
    List<PlateSequence> all =
        shot.plates().stream().filter(p -> p.role() != PlateRole.PROXY).toList();
    List<PlateCheck> out = new ArrayList<>();
    for (PlateSequence p : all) {
      out.add(of(shot, p, original, lens, progress.part(out.size(), all.size())));
    }
    return out;
  }

  private static PlateCheck of(
      Shot shot,
      PlateSequence plates,
      Optional<PlateSequence> original,
      Optional<LensTrack> lens,
      Progress progress) {
    Optional<PlateRegistration> against =
        plates.role() == PlateRole.UNDISTORTED && lens.isPresent() && original.isPresent()
            ? Optional.of(
                PlateRegistration.of(original.get(), plates, lens.get(), progress.part(0, 2)))
            : Optional.empty();
    List<Optional<LensTrack>> readings =
        lens.isPresent() ? List.of(Optional.empty(), lens) : List.of(lens);
    List<PlateFit> fits = PlateFit.of(shot, plates, readings, progress.part(1, 2));
    return new PlateCheck(plates, fits.get(0), lens.map(l -> fits.get(1)), against);
  }

  /** The verdict for somebody who has these plates and the camera, and no lens. */
  public Verdict verdictAsIs() {
    return plates.role() == PlateRole.ORIGINAL ? asUndistorted().verdict() : verdict();
  }

  /** {@link #verdictAsIs()} with its figures; a figure alone where the plates belong. */
  public String wordsAsIs() {
    if (verdictAsIs() == Verdict.BELONGS) {
      return straight.isKnown()
          ? "trackers fit to " + straight.words()
          : String.format(
              Locale.ROOT, "%.2f px from the original", registration.orElseThrow().px());
    }
    return plates.role() == PlateRole.ORIGINAL ? asUndistorted().words() : words();
  }

  private PlateCheck asUndistorted() {
    return new PlateCheck(plates.withRole(PlateRole.UNDISTORTED), straight, bent, Optional.empty());
  }

  private boolean isThroughLens() {
    return plates.role() == PlateRole.ORIGINAL && bent.isPresent();
  }

  /** The fit that counts for plates of this role. */
  public PlateFit fit() {
    return isThroughLens() ? bent.orElseThrow() : straight;
  }

  private Optional<PlateFit> other() {
    return isThroughLens() ? Optional.of(straight) : bent;
  }

  /** What follows. */
  public Verdict verdict() {
    boolean off =
        registration.isPresent()
            && (registration.get().framesOff() != 0 || registration.get().px() > OTHER_LENS);
    if (off || isOtherReading() || fit().isKnown() && fit().px() > OFF) {
      return Verdict.DOES_NOT_BELONG;
    }
    boolean near = registration.filter(PlateRegistration::isKnown).isPresent();
    return near || fit().isKnown() && !isIndifferent() ? Verdict.BELONGS : Verdict.UNKNOWN;
  }

  private boolean isOtherReading() {
    return fit().isKnown()
        && other().filter(PlateFit::isKnown).isPresent()
        && fit().px() > TIMES_BETTER * other().get().px()
        && fit().px() > other().get().px() + BETTER;
  }

  /** The trackers move too little across the picture to tell bent plates from straight ones. */
  private boolean isIndifferent() {
    return other().filter(PlateFit::isKnown).isPresent()
        && other().get().px() < fit().px() + BETTER;
  }

  /** The verdict with its figures, a sentence or two. */
  public String words() {
    String role = plates.role().word();
    if (registration.isPresent() && registration.get().framesOff() != 0) {
      int by = registration.get().framesOff();
      String n = Math.abs(by) == 1 ? "one frame" : Math.abs(by) + " frames";
      return "These plates are numbered " + n + (by > 0 ? " too high." : " too low.");
    }
    if (isOtherReading()) {
      return isThroughLens()
          ? String.format(
              Locale.ROOT,
              "Trackers fit these plates to %s as they are and to %s through the lens: they are"
                  + " undistorted, not original.",
              straight.words(),
              fit().words())
          : String.format(
              Locale.ROOT,
              "Trackers fit these plates to %s through the lens and to %s as they are: they are"
                  + " original, not %s.",
              bent.orElseThrow().words(),
              fit().words(),
              role);
    }
    if (registration.filter(r -> r.px() > OTHER_LENS).isPresent()) {
      return String.format(
          Locale.ROOT,
          "These plates are %.1f px off the original taken through the lens: they were made with"
              + " another lens.",
          registration.get().px());
    }
    if (!fit().isKnown() && registration.filter(PlateRegistration::isKnown).isEmpty()) {
      return "Whether these plates belong to the camera cannot be measured: too little was found"
          + " again from frame to frame.";
    }
    String near =
        registration
            .filter(PlateRegistration::isKnown)
            .map(
                r ->
                    String.format(
                        Locale.ROOT, ", the original through the lens to %.2f px", r.px()))
            .orElse("");
    if (!fit().isKnown()) {
      return String.format(
          Locale.ROOT,
          "These plates fit the original through the lens to %.2f px.",
          registration.orElseThrow().px());
    }
    if (fit().px() > OFF) {
      return String.format(
          Locale.ROOT,
          "Trackers fit these plates to %s only: another lens, another solve, or another frame.",
          fit().words());
    }
    String fits = "Trackers fit these plates to " + fit().words();
    return verdict() == Verdict.UNKNOWN
        ? fits + ", but the camera moves too little to tell bent plates from straight ones."
        : fits + (isThroughLens() ? " through the lens" : "") + near + ".";
  }
}
