package flarvo.desktop.window;

import flarvo.desktop.state.Session;
import flarvo.desktop.work.Job;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.PauseTransition;
import javafx.animation.Timeline;
import javafx.collections.ListChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.util.Duration;

/** What just happened, the progress of background work with cancel, and memory. */
public final class StatusBar extends HBox {

  private final Session session;
  private final Label work = new Label();
  private final ProgressBar bar = new ProgressBar(-1);
  private final Button cancel = new Button("Cancel");
  private final Label memory = new Label();
  private final PauseTransition soon = new PauseTransition(Duration.millis(200));
  private final Timeline every = new Timeline(new KeyFrame(Duration.seconds(1), e -> second()));

  public StatusBar(Session session) {
    this.session = session;
    getStyleClass().add("status-bar");
    setAlignment(Pos.CENTER_LEFT);
    setSpacing(8);
    Label message = new Label();
    message.setId("message");
    message.textProperty().bind(session.message());
    message.setMinWidth(0);
    HBox.setHgrow(message, Priority.ALWAYS);
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    bar.setPrefWidth(110);
    bar.setAccessibleText("Progress of background work");
    cancel.getStyleClass().add("small-button");
    cancel.setOnAction(
        e -> {
          if (!session.jobs().running().isEmpty()) {
            session.jobs().running().get(0).cancel();
          }
        });
    memory.getStyleClass().addAll("number", "quiet");
    memory.setMinWidth(Region.USE_PREF_SIZE);
    work.setMinWidth(Region.USE_PREF_SIZE);
    getChildren().addAll(message, gap, work, bar, cancel, memory);
    session.jobs().running().addListener((ListChangeListener<Job>) c -> showSoon());
    soon.setOnFinished(e -> showWork());
    every.setCycleCount(Timeline.INDEFINITE);
    every.play();
    showWork();
    second();
  }

  /** Work that ends at once is not shown: the line would be laid out for each piece of it. */
  private void showSoon() {
    boolean any = !session.jobs().running().isEmpty();
    if (any && !bar.isVisible()) {
      if (soon.getStatus() != Animation.Status.RUNNING) {
        soon.playFromStart();
      }
    } else {
      soon.stop();
      showWork();
    }
  }

  /** Stops the clock, which would keep the whole window in memory. */
  void close() {
    every.stop();
    soon.stop();
  }

  private void showWork() {
    boolean any = !session.jobs().running().isEmpty();
    for (var n : new javafx.scene.Node[] {work, bar, cancel}) {
      n.setVisible(any);
      n.setManaged(any);
    }
    bar.progressProperty().unbind();
    if (any) {
      Job job = session.jobs().running().get(0);
      bar.progressProperty().bind(job.fraction());
      second();
    }
  }

  private void second() {
    if (!session.jobs().running().isEmpty()) {
      Job job = session.jobs().running().get(0);
      int more = session.jobs().running().size() - 1;
      double left = job.secondsLeft();
      work.setText(
          job.title()
              + (left >= 1 ? String.format(java.util.Locale.ROOT, ", %.0f s left", left) : "")
              + (more > 0 ? " and " + more + " more" : ""));
    }
    Runtime r = Runtime.getRuntime();
    memory.setText((r.totalMemory() - r.freeMemory()) / 1_000_000 + " MB");
  }
}
