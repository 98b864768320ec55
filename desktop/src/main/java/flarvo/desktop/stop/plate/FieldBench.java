package flarvo.desktop.stop.plate;

import flarvo.desktop.state.Session;
import flarvo.desktop.work.Lane;
import flarvo.plate.field.FieldMethod;
import flarvo.plate.field.FieldOrder;
import flarvo.plate.field.SequenceFields;
import flarvo.plate.remap.SequenceName;
import flarvo.scene.PlateSequence;
import java.nio.file.Path;
import java.util.Optional;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/** Takes interlaced plates apart, into a folder beside them. */
final class FieldBench {

  private static final int JOBS = 2;

  private final Session session;
  private final StringProperty said = new SimpleStringProperty("");

  FieldBench(Session session) {
    this.session = session;
    session
        .state()
        .addListener(
            (o, a, b) -> {
              if (!a.name().equals(b.name())) {
                said.set("");
              }
            });
  }

  /** What the last one came to. */
  StringProperty said() {
    return said;
  }

  void split(PlateSequence p, Optional<FieldOrder> order) {
    order.ifPresent(o -> make(p, FieldMethod.SPLIT, o));
  }

  void blend(PlateSequence p) {
    make(p, FieldMethod.BLEND, FieldOrder.UPPER);
  }

  private void make(PlateSequence p, FieldMethod method, FieldOrder order) {
    String as = method == FieldMethod.SPLIT ? "_fields" : "_blended";
    Path folder = p.folder().resolveSibling(p.folder().getFileName() + as);
    SequenceName target =
        new SequenceName(folder, p.prefix(), Math.max(1, p.padding()), p.suffix());
    session
        .jobs()
        .newest(
            this,
            Lane.DECIDE,
            method == FieldMethod.SPLIT ? "Splitting fields" : "Blending fields",
            progress -> SequenceFields.run(p, target, method, order, JOBS, progress),
            o -> said.set(words(folder, method, o)),
            said::set);
  }

  private static String words(Path folder, FieldMethod method, SequenceFields.Outcome o) {
    String rate = method == FieldMethod.SPLIT ? " at double rate" : "";
    String made =
        "Frames " + o.frames() + rate + " are in " + folder.getFileName() + " beside these plates.";
    if (o.failed().isEmpty()) {
      return made + " Drop that folder on the window to work with them.";
    }
    return made
        + " "
        + o.failed().size()
        + " could not be made, the first: "
        + o.failed().firstEntry().getValue();
  }
}
