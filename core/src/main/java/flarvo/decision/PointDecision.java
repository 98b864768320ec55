package flarvo.decision;

import flarvo.plate.PlateLuma;
import flarvo.report.InputError;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.vet.ExtraPoint;
import flarvo.vet.PatternSearch;
import flarvo.work.Progress;
import java.util.List;
import java.util.Optional;

/** Extra points: marked after the solve was made, without weight in it. */
public sealed interface PointDecision extends Decision {

  /**
   * Marks an extra point by hand.
   *
   * @param x canonical pixels
   */
  @DecisionCode("mark-point")
  record MarkPoint(String point, int frame, double x, double y) implements PointDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Optional<ExtraPoint> there =
          s.vetting().extras().stream().filter(p -> p.name().equals(point)).findFirst();
      if (there.isEmpty() && s.whole().observations().firstRow(point) >= 0) {
        throw InputError.words("a tracker is named " + point + " already", "Choose another name");
      }
      ExtraPoint.Mark mark = new ExtraPoint.Mark(frame, x, y, false);
      ExtraPoint next =
          there.map(p -> p.with(mark)).orElseGet(() -> new ExtraPoint(point, List.of(mark)));
      return Applied.whole(s.withVetting(s.vetting().withExtra(next)));
    }

    @Override
    public String title() {
      return "mark " + point + " at frame " + frame;
    }
  }

  /** Removes an extra point. */
  @DecisionCode("remove-point")
  record RemovePoint(String point) implements PointDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      extraPoint(s, point);
      return Applied.whole(s.withVetting(s.vetting().withoutExtra(point)));
    }

    @Override
    public String title() {
      return "remove " + point;
    }
  }

  private static ExtraPoint extraPoint(ShotState s, String name) {
    return s.vetting().extras().stream()
        .filter(p -> p.name().equals(name))
        .findFirst()
        .orElseThrow(() -> InputError.words("extra point " + name + " not found", "Mark it first"));
  }

  /** Tracks an extra point's pattern along the undistorted plate. */
  @DecisionCode("track-point")
  record TrackPoint(String point) implements PointDecision {
    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      ExtraPoint p = extraPoint(s, point);
      PlateSequence plates =
          s.shot()
              .plate(PlateRole.UNDISTORTED)
              .orElseThrow(
                  () ->
                      InputError.words(
                          "no undistorted plate to track on", "Add the undistorted plates"));
      ExtraPoint found =
          new PatternSearch(s.shot(), f -> PlateLuma.of(plates, f))
              .along(p, s.shot().frames(), progress);
      return Optional.of(new Outcome.Point(found));
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      extraPoint(s, point);
      ExtraPoint found = ((Outcome.Point) outcome.orElseThrow()).point();
      return Applied.whole(s.withVetting(s.vetting().withExtra(found)));
    }

    @Override
    public String title() {
      return "track " + point + " on plate";
    }

    @Override
    public String title(Optional<Outcome> outcome) {
      return outcome.isEmpty()
          ? title()
          : "track "
              + point
              + " over "
              + ((Outcome.Point) outcome.get()).point().marks().size()
              + " frames";
    }
  }
}
