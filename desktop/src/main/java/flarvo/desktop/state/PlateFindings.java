package flarvo.desktop.state;

import flarvo.plate.PlateStrays;
import flarvo.plate.field.Combing;
import flarvo.plate.field.Interlacing;
import flarvo.scene.PlateSequence;
import flarvo.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What is found in a shot's plates alone: whether they are interlaced, and what is no part of them.
 */
public final class PlateFindings {

  /**
   * Of all plates of a shot.
   *
   * @param fields whether each is interlaced; not of proxies
   * @param strays sentences on what does not belong
   */
  public record Found(
      Map<PlateSequence, Interlacing> fields, Map<PlateSequence, List<String>> strays) {

    static Found of(List<PlateSequence> plates, Progress p) {
      return new Found(Combing.of(plates, p.part(0, 2)), PlateStrays.of(plates, p.part(1, 2)));
    }
  }

  private PlateFindings() {}

  /** Worked out while it is asked for; takes a second or two. */
  public static final Slot<List<PlateSequence>, Found> SLOT =
      new Slot<>(
          "Looking through the plates",
          s ->
              s.isOpen()
                  ? Optional.of(s.get(DerivedShot.SLOT).value().shot().plates())
                  : Optional.empty(),
          Found::of);
}
