package flarvo.desktop.stop.level;

import flarvo.decision.LevelDecision;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The level by eye: what the handles do, as numbers, and each part given back. */
public final class HandPart extends VBox {

  /** What is typed moves the shot; the ground stays. */
  private enum Move {
    TURN("rotate about up", "5°"),
    TILT_X("tilt about x", "1°"),
    TILT_Z("tilt about z", "1°"),
    ALONG_X("shift along x", "10 cm"),
    ALONG_Z("shift along z", "10 cm"),
    RAISE("raise", "1 cm"),
    SCALE("scale", "× 1.01");

    private final String word;
    private final String usual;

    Move(String word, String usual) {
      this.word = word;
      this.usual = usual;
    }

    @Override
    public String toString() {
      return word;
    }
  }

  private final Session session;
  private final LevelWork level;
  private final ComboBox<Move> move = new ComboBox<>();
  private final TextField amount = Fields.small("hand-amount", "5°", "Amount", 84);

  HandPart(Session session, LevelWork level) {
    super(6);
    this.session = session;
    this.level = level;
    CheckBox handles = new CheckBox("Handles in Picture and Space");
    handles.selectedProperty().bindBidirectional(session.view().handlesShown());
    move.getItems().setAll(Move.values());
    move.setValue(Move.TURN);
    move.setId("hand-move");
    move.setAccessibleText("Manual adjustment");
    move.getStyleClass().add("small-field");
    move.setOnAction(e -> amount.setText(move.getValue().usual));
    ComboBox<LevelDecision.Part> part = new ComboBox<>();
    part.getItems().setAll(LevelDecision.Part.values());
    part.setValue(LevelDecision.Part.TURN);
    part.setId("reset-part");
    part.setAccessibleText("Part of the level");
    part.getStyleClass().add("small-field");
    part.setConverter(Fields.shown(LevelDecision.Part::label));
    getChildren()
        .addAll(
            Desk.heading("Manual"),
            handles,
            new HBox(6, move, amount),
            new HBox(
                6,
                Fields.button("hand-do", "Apply", () -> go(1)),
                Fields.button("hand-back", "Reverse", () -> go(-1))),
            new HBox(6, part, Fields.button("reset", "Reset", () -> level.reset(part.getValue()))));
  }

  private void go(int way) {
    Move m = move.getValue();
    switch (m) {
      case TURN -> turn(new Vec3(0, 1, 0), way);
      case TILT_X -> turn(new Vec3(1, 0, 0), way);
      case TILT_Z -> turn(new Vec3(0, 0, 1), way);
      case ALONG_X -> shift(new Vec3(way, 0, 0));
      case ALONG_Z -> shift(new Vec3(0, 0, way));
      case RAISE -> shift(new Vec3(0, way, 0));
      case SCALE ->
          Fields.number(session, amount, "factor")
              .ifPresent(
                  k -> {
                    if (!(k > 0)) {
                      session.message().set("Scale is a factor over 0, such as × 1.01");
                      return;
                    }
                    level.move(
                        new Similarity(way > 0 ? k : 1 / k, Rotation.IDENTITY, Vec3.ZERO),
                        m.word + " by " + amount.getText().trim());
                  });
    }
  }

  private void turn(Vec3 axis, int way) {
    Fields.number(session, amount, "angle in degrees")
        .ifPresent(
            d ->
                level.turn(
                    axis, way * Math.toRadians(d), move.getValue().word + " by " + way * d + "°"));
  }

  private void shift(Vec3 way) {
    Fields.metres(session, amount)
        .ifPresent(
            m ->
                level.move(
                    new Similarity(1, Rotation.IDENTITY, way.times(m)),
                    move.getValue().word + " by " + amount.getText().trim()));
  }
}
