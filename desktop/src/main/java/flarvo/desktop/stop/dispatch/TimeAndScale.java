package flarvo.desktop.stop.dispatch;

import flarvo.convention.Dialect;
import flarvo.convention.FrameNumbering;
import flarvo.convention.LinearUnit;
import flarvo.convention.RatePolicy;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Tips;
import flarvo.dispatch.Delivery;
import flarvo.scene.Rate;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** At which rate, by frames or seconds, and how large a delivery is. */
final class TimeAndScale extends VBox {

  private static final String PLATE = "as the plate";
  private static final double SMALLEST = 1e-6;
  private static final double LARGEST = 1e9;

  private final ComboBox<String> rate = new ComboBox<>();
  private final ComboBox<String> policy = new ComboBox<>();
  private final TextField scale = new TextField();
  private final HBox keep;
  private final Label compound = Desk.wrapped();
  private final BiConsumer<UnaryOperator<Dialect>, String> change;
  private final Consumer<String> refuse;
  private Delivery shown;
  private boolean filling;

  /**
   * @param change takes a change of a dialect, and what of it changes
   * @param refuse takes why something that was typed cannot be
   */
  TimeAndScale(BiConsumer<UnaryOperator<Dialect>, String> change, Consumer<String> refuse) {
    super(8);
    this.change = change;
    this.refuse = refuse;
    rate.setId("delivery-rate");
    rate.setEditable(true);
    rate.getItems().setAll(PLATE, "23.976", "24", "25", "29.97", "30", "48", "50", "59.94", "60");
    rate.setPrefWidth(140);
    rate.setOnAction(e -> changeRate());
    policy.setId("delivery-policy");
    policy.getItems().setAll("frames", "seconds");
    policy.setPrefWidth(140);
    Tips.on(policy, "Where rates differ: one frame for each of the plate's, or resampled in time");
    policy.setOnAction(e -> changePolicy());
    scale.setId("delivery-scale");
    scale.setPrefColumnCount(8);
    scale.setOnAction(e -> changeScale());
    scale.getStyleClass().add("number");
    for (var c : List.of(rate, policy, scale)) {
      c.getStyleClass().add("small-field");
    }
    keep = Desk.row("Keep", policy);
    keep.managedProperty().bind(keep.visibleProperty());
    getChildren().addAll(Desk.row("Rate", rate), keep, Desk.row("Units a metre", scale), compound);
    compound.setId("delivery-compound");
  }

  /** Shows a delivery; null for none. */
  void show(Delivery d) {
    filling = true;
    shown = d;
    rate.setDisable(d == null);
    // Without a rate of its own, a delivery keeps both.
    keep.setVisible(d != null && d.dialect().frames().rate().isPresent());
    scale.setDisable(d == null || d.dialect().pixels().isPresent());
    good(scale);
    good(rate);
    compound.setText("");
    if (d != null) {
      FrameNumbering n = d.dialect().frames();
      rate.setValue(n.rate().map(Rate::display).orElse(PLATE));
      policy.setValue(n.policy() == RatePolicy.KEEP_FRAMES ? "frames" : "seconds");
      boolean pixels = d.dialect().pixels().isPresent();
      scale.setText(pixels ? "by the picture" : number(units(d.dialect())));
      compound.setText(pixels ? "" : compound(units(d.dialect())));
    }
    filling = false;
  }

  private static double units(Dialect d) {
    return 1 / d.unit().metresPerUnit();
  }

  /** The usual mistake on import is a factor of ten. */
  private static String compound(double units) {
    return "1 m here is "
        + number(units)
        + (units == 1 ? " unit" : " units")
        + " there. If they import at ×\u00a010: "
        + number(10 * units)
        + ".";
  }

  private static String number(double v) {
    return v == Math.rint(v) && Math.abs(v) < 1e12
        ? String.valueOf((long) v)
        : String.format(Locale.ROOT, "%.8g", v).replaceAll("0+$", "");
  }

  private void changeRate() {
    String typed = rate.getValue();
    if (filling || shown == null || typed == null) {
      return;
    }
    FrameNumbering n = shown.dialect().frames();
    try {
      Optional<Rate> r =
          typed.isBlank() || typed.equals(PLATE)
              ? Optional.empty()
              : Optional.of(Rate.parse(typed.strip()));
      good(rate);
      if (!r.equals(n.rate())) {
        change.accept(
            d -> {
              FrameNumbering own = d.frames();
              return d.withFrames(new FrameNumbering(own.firstFrame(), r, own.policy()));
            },
            "rate");
      }
    } catch (IllegalArgumentException e) {
      bad(rate, "'" + typed + "' is no rate; enter one such as 24 or 24000/1001");
    }
  }

  private void changePolicy() {
    if (filling || shown == null) {
      return;
    }
    FrameNumbering n = shown.dialect().frames();
    RatePolicy p =
        policy.getValue().equals("frames") ? RatePolicy.KEEP_FRAMES : RatePolicy.KEEP_SECONDS;
    if (p != n.policy()) {
      change.accept(
          d -> {
            FrameNumbering own = d.frames();
            return d.withFrames(new FrameNumbering(own.firstFrame(), own.rate(), p));
          },
          "what is kept");
    }
  }

  private void changeScale() {
    if (filling || shown == null) {
      return;
    }
    double k;
    try {
      k = Double.parseDouble(scale.getText().strip());
    } catch (NumberFormatException e) {
      k = Double.NaN;
    }
    if (!(k >= SMALLEST && k <= LARGEST)) {
      bad(scale, "'" + scale.getText() + "' is no scale; enter the units of a metre, such as 100");
      return;
    }
    good(scale);
    LinearUnit u = new LinearUnit(1 / k);
    if (Math.abs(units(shown.dialect()) / k - 1) > 1e-12) {
      change.accept(d -> d.pixels().isPresent() ? d : d.withUnit(u), "scale");
    }
  }

  private void bad(javafx.scene.Node field, String why) {
    if (!field.getStyleClass().contains("bad")) {
      field.getStyleClass().add("bad");
    }
    refuse.accept(why);
  }

  private static void good(javafx.scene.Node field) {
    field.getStyleClass().remove("bad");
  }
}
