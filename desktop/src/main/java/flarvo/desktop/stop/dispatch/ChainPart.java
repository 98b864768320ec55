package flarvo.desktop.stop.dispatch;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.work.Lane;
import flarvo.dispatch.Delivery;
import flarvo.recipient.Bite;
import flarvo.recipient.Foretelling;
import flarvo.recipient.ImportChain;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/** The selected recipient passes the shot on: what those after it get, each on a plain import. */
final class ChainPart extends VBox {

  private static final String NOBODY = "nobody";
  private static final int LONGEST = 3;

  private final Session session;
  private final List<ComboBox<String>> hops = new ArrayList<>();
  private final VBox rows = new VBox(6);
  private final VBox said = new VBox(6);
  private Asked asked;
  private boolean filling;

  /** Equal where the same comes out. */
  private record Asked(PlainImports.Input input, Delivery delivery, List<String> then) {}

  ChainPart(Session session) {
    super(6);
    this.session = session;
    setId("chain");
    getChildren().addAll(rows, said);
    for (int i = 0; i < LONGEST; i++) {
      ComboBox<String> c = new ComboBox<>();
      c.setId("pass-on-" + (i + 1));
      c.getStyleClass().add("small-field");
      c.setPrefWidth(186);
      c.setAccessibleText("Recipient " + (i + 2) + " of the chain");
      c.setOnAction(e -> follow());
      hops.add(c);
    }
    session.knownDialects().addListener((o, a, b) -> offer(b));
    offer(session.dialects());
    session.chosen().addListener((o, a, b) -> follow());
    session.store().now().addListener((o, a, b) -> follow());
    follow();
  }

  private void offer(Dialects known) {
    filling = true;
    for (ComboBox<String> c : hops) {
      String was = c.getValue();
      List<String> names = new ArrayList<>(List.of(NOBODY));
      known.all().stream()
          .filter(d -> d.pixels().isEmpty()) // who works in pixels keeps no scene
          .map(Dialect::name)
          .forEach(names::add);
      c.getItems().setAll(names);
      c.setValue(was != null && names.contains(was) ? was : NOBODY);
    }
    filling = false;
  }

  private List<String> then() {
    List<String> out = new ArrayList<>();
    for (ComboBox<String> c : hops) {
      if (NOBODY.equals(c.getValue())) {
        break;
      }
      out.add(c.getValue());
    }
    return out;
  }

  private void follow() {
    if (filling) {
      return;
    }
    Delivery d = session.chosen().get();
    List<String> then = then();
    rows.getChildren().clear();
    for (int i = 0; i < Math.min(LONGEST, then.size() + 1); i++) {
      rows.getChildren().add(Desk.row(i == 0 ? "Passed on to" : "and then to", hops.get(i)));
      hops.get(i).setDisable(d == null || d.dialect().pixels().isPresent());
    }
    boolean none = d == null || !session.isOpen() || then.isEmpty() || hops.get(0).isDisable();
    Asked now =
        none
            ? null
            : new Asked(new PlainImports.Input(session.state().get()), d, List.copyOf(then));
    if (Objects.equals(now, asked)) {
      return;
    }
    asked = now;
    session.jobs().drop(this);
    if (now == null) {
      said.getChildren().clear();
      return;
    }
    say(List.of(text("Passing it on …", "note")));
    Dialects known = session.dialects();
    session
        .jobs()
        .newest(
            this,
            Lane.MEASURE,
            "Passing " + d.name() + " on",
            p ->
                Foretelling.chain(
                    now.input().state().outgoing().shot(d.contents()),
                    d,
                    Foretelling.recipient(d),
                    then.stream().map(n -> new ImportChain.Hop(known.get(n), d.format())).toList(),
                    p),
            this::show,
            why -> say(List.of(text(why, "bite"))));
  }

  private void say(List<Label> lines) {
    said.getChildren().setAll(lines);
  }

  private void show(List<ImportChain.Step> steps) {
    List<Label> lines = new ArrayList<>();
    for (ImportChain.Step s : steps.subList(1, steps.size())) {
      boolean good = s.imported().holds() && s.notSaved().isEmpty();
      lines.add(text(words(s), good ? "note" : "bite"));
      for (Bite b : s.imported().bites()) {
        lines.add(text(b.says() + ". Recipient: " + b.ask() + ".", "note"));
      }
    }
    double px = steps.get(0).imported().drift().map(d -> d.maxPx()).orElse(Double.NaN);
    if (Double.isFinite(px)) {
      lines.add(
          text(String.format(Locale.ROOT, "The first recipient's share: %.4f px.", px), "note"));
    }
    steps
        .get(0)
        .notSaved()
        .ifPresent(
            f -> lines.add(text("The first recipient does not pass on frames " + f + ".", "bite")));
    say(lines);
  }

  private static String words(ImportChain.Step s) {
    StringBuilder out = new StringBuilder(s.imported().recipient().name());
    out.append(": ").append(s.imported().sentence());
    s.imported()
        .drift()
        .ifPresent(
            d -> {
              out.append(String.format(Locale.ROOT, " %s here", px(d.maxPx())));
              if (Double.isFinite(s.totalPx())) {
                out.append(", ").append(px(s.totalPx())).append(" since the first file");
              }
              out.append('.');
            });
    if (Math.abs(s.totalScale() - 1) > 1e-9) {
      out.append(String.format(Locale.ROOT, " Size: %.6g of what was sent.", s.totalScale()));
    }
    s.notSaved().ifPresent(f -> out.append(" Frames ").append(f).append(" are not passed on."));
    return out.toString();
  }

  private static String px(double v) {
    return Double.isInfinite(v) ? "behind the camera" : String.format(Locale.ROOT, "%.4f px", v);
  }

  private static Label text(String s, String style) {
    Label l = Desk.wrapped();
    l.setText(s);
    l.getStyleClass().add(style);
    return l;
  }
}
