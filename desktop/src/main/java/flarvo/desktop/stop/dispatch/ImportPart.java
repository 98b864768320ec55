package flarvo.desktop.stop.dispatch;

import flarvo.decision.DispatchDecision;
import flarvo.desktop.state.Session;
import flarvo.desktop.state.Worked;
import flarvo.desktop.stop.Desk;
import flarvo.dispatch.Delivery;
import flarvo.recipient.Bite;
import flarvo.recipient.PlainImport;
import java.util.Locale;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/** What the selected recipient makes of its file with no setting touched, and what avoids it. */
final class ImportPart extends VBox {

  private final Session session;

  ImportPart(Session session) {
    super(6);
    this.session = session;
    setId("plain-import");
    session.chosen().addListener((o, a, b) -> fill());
    session.store().now().addListener((o, a, b) -> fill());
    fill();
  }

  private void fill() {
    getChildren().clear();
    Delivery d = session.chosen().get();
    Worked<PlainImports> w = session.store().now().get().get(PlainImports.SLOT);
    if (d == null || !session.isOpen()) {
      return;
    }
    PlainImports.Outcome o = w.value() == null ? null : w.value().of().get(d);
    if (o == null) {
      getChildren().add(text(w.failure().isEmpty() ? "Trying the import …" : w.failure(), "note"));
      return;
    }
    if (o.imported().isEmpty()) {
      getChildren().add(text(o.why(), "note"));
      return;
    }
    PlainImport r = o.imported().get();
    getChildren().add(text(r.sentence(), r.holds() ? "note" : "bite"));
    r.bites().forEach(b -> add(d, b));
  }

  private void add(Delivery d, Bite b) {
    String px =
        b.driftPx().isEmpty()
            ? ""
            : Double.isInfinite(b.driftPx().getAsDouble())
                ? " Points are behind the camera."
                : String.format(Locale.ROOT, " Up to %.2f px.", b.driftPx().getAsDouble());
    VBox one = new VBox(4, text(b.says() + "." + px, "note"));
    b.change()
        .ifPresent(
            c -> {
              Button change = new Button(c.says());
              change.setId("change-" + b.setting().word());
              change.getStyleClass().add("small-button");
              change.setMaxWidth(Double.MAX_VALUE);
              change.setOnAction(e -> change(d, d.withDialect(c.dialect()), b));
              one.getChildren().add(change);
            });
    one.getChildren()
        .add(
            text(
                (b.change().isPresent() ? "Or the recipient: " : "Recipient: ")
                    + lower(b.ask())
                    + ".",
                "note"));
    getChildren().add(one);
  }

  private void change(Delivery old, Delivery next, Bite b) {
    int i = session.state().get().deliveries().indexOf(old);
    if (i >= 0) {
      session
          .store()
          .decide(
              new DispatchDecision.ChangeDelivery(
                  i, old.name(), next, b.setting().title().toLowerCase(Locale.ROOT)),
              () -> session.chosen().set(next));
    }
  }

  private static String lower(String s) {
    return s.substring(0, 1).toLowerCase(Locale.ROOT) + s.substring(1);
  }

  private static Label text(String s, String style) {
    Label l = Desk.wrapped();
    l.setText(s);
    l.getStyleClass().add(style);
    return l;
  }
}
