package flarvo.desktop.window;

import flarvo.desktop.state.Session;
import flarvo.receive.IncomingWatch.Arrival;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;

/** Offers files of the shot that changed on disk, or newer versions of them. */
public final class ArrivalBanner extends HBox {

  private final Session session;
  private final Label text = new Label();
  private final Button again = new Button("Receive and send");

  public ArrivalBanner(Session session) {
    super(10);
    this.session = session;
    getStyleClass().add("left-work");
    setAlignment(Pos.CENTER_LEFT);
    setMaxSize(USE_PREF_SIZE, USE_PREF_SIZE);
    Button receive = new Button("Receive");
    receive.setId("receive-arrival");
    receive.getStyleClass().addAll("small-button", "accent");
    receive.setOnAction(e -> session.incoming().receive(false));
    again.setId("receive-and-send");
    again.getStyleClass().add("small-button");
    again.setOnAction(e -> session.incoming().receive(true));
    Button away = new Button("Not now");
    away.setId("dismiss-arrival");
    away.getStyleClass().add("small-button");
    away.setOnAction(e -> session.incoming().dismiss());
    // What is long is the file's name: it wraps, and the buttons stay whole.
    text.setWrapText(true);
    for (Button b : List.of(receive, again, away)) {
      b.setMinWidth(USE_PREF_SIZE);
    }
    getChildren().addAll(text, receive, again, away);
    session.incoming().arrivals().addListener((o, a, b) -> show(b));
    session.project().loading().addListener((o, a, b) -> show(session.incoming().arrivals().get()));
    show(List.of());
  }

  private void show(List<Arrival> all) {
    boolean any = !all.isEmpty() && !session.project().loading().get();
    setVisible(any);
    setManaged(any);
    if (!any) {
      return;
    }
    Arrival first = all.get(0);
    int decisions = session.store().now().get().log().counting().size();
    text.setText(
        first.file().getFileName()
            + (first.isNewVersion() ? " is a newer version" : " changed on disk")
            + (all.size() > 1 ? ", and " + (all.size() - 1) + " more" : "")
            + (decisions == 0
                ? "."
                : ". Replays " + decisions + (decisions == 1 ? " decision." : " decisions.")));
    boolean sends = !session.state().get().deliveries().isEmpty();
    again.setVisible(sends);
    again.setManaged(sends);
  }
}
