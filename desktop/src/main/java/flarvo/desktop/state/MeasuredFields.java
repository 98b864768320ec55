package flarvo.desktop.state;

import flarvo.plate.field.Combing;
import flarvo.plate.field.Interlacing;
import flarvo.scene.PlateSequence;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Whether a shot's plates are interlaced, as measured in their pixels. */
public final class MeasuredFields {

  private MeasuredFields() {}

  /** Worked out while it is asked for; takes a second or two. */
  public static final Slot<List<PlateSequence>, Map<PlateSequence, Interlacing>> SLOT =
      new Slot<>(
          "Looking for fields",
          s ->
              s.isOpen()
                  ? Optional.of(s.get(DerivedShot.SLOT).value().shot().plates())
                  : Optional.empty(),
          Combing::of,
          List::isEmpty);
}
