package flarvo.desktop.window;

import javafx.geometry.Pos;
import javafx.scene.layout.Pane;
import javafx.scene.layout.StackPane;

/**
 * A card that lies over the window while it is open. What is on it joins the scene when it is first
 * shown: styling what nobody sees would be an eighth of the window's start.
 */
class OverlayCard extends StackPane {

  private final Pane card;

  /**
   * @param card lays out what is on it; subclasses fill it
   */
  OverlayCard(Pane card, Pos at) {
    this.card = card;
    card.getStyleClass().add("pop-up");
    card.setMaxSize(USE_PREF_SIZE, USE_PREF_SIZE);
    getStyleClass().add("overlay");
    setAlignment(at);
    present(false);
  }

  final Pane card() {
    return card;
  }

  /** Shows the card, or hides it. */
  final void present(boolean shown) {
    if (shown && getChildren().isEmpty()) {
      getChildren().add(card);
    }
    setVisible(shown);
    setManaged(shown);
  }
}
