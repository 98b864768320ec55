package flarvo.desktop.stop.plate;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.scene.PlateSequence;
import flarvo.scene.WorldShot;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/** What Plate will do, and the plates as they were received. */
final class PlateDesk extends Desk {

  private final Session session;
  private final VBox plates = new VBox(4);

  PlateDesk(Session session) {
    super("Plate");
    this.session = session;
    say(
        "Undistortion is not available yet. It will need the original plates and a lens, and"
            + " write the undistorted sequence. Until then, add plates undistorted elsewhere.");
    getChildren().addAll(heading("Received plates"), plates);
    session.shot().addListener((o, a, b) -> fill());
    fill();
  }

  private void fill() {
    plates.getChildren().clear();
    WorldShot shot = session.shot().get();
    for (PlateSequence p : shot.plates()) {
      Label facts = wrapped();
      facts.setText(
          p.pattern()
              + "\n"
              + p.role().word()
              + ", frames "
              + p.frames()
              + (p.missing().isEmpty() ? "" : ", " + p.missing().size() + " missing"));
      plates.getChildren().add(facts);
    }
    if (shot.plates().isEmpty()) {
      Label none = wrapped();
      none.setText("No plates. Drop the folder of an image sequence on the window.");
      plates.getChildren().add(none);
    }
  }
}
