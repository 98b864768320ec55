package flarvo.tools.soak;

import flarvo.decision.VetDecision;
import flarvo.desktop.FlarvoApp;
import flarvo.desktop.state.SendState;
import flarvo.desktop.state.Session;
import flarvo.vet.TrackerGroup;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.Set;
import javafx.animation.PauseTransition;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.beans.value.ChangeListener;
import javafx.stage.Stage;
import javafx.util.Duration;

/**
 * The real window on a project, told by lines on standard input what to do, and telling on standard
 * output what it did: {@code ready}, {@code edit NAME MILLIS}, {@code said TEXT}.
 */
public final class SoakedApp extends Application {

  private final Random random = new Random();
  private Session session;
  private int next;

  @Override
  public void start(Stage stage) {
    session = new Session();
    FlarvoApp.open(stage, session);
    session.message().addListener((o, a, b) -> tell("said " + b));
    session.open().addListener(opened());
    session.project().open(List.of(Path.of(getParameters().getUnnamed().get(0))));
    Thread ears = new Thread(this::listen, "ears");
    ears.setDaemon(true);
    ears.start();
  }

  private ChangeListener<Boolean> opened() {
    return (o, a, now) -> {
      if (now) {
        Platform.runLater(() -> tell("ready"));
      }
    };
  }

  private static void tell(String line) {
    System.out.println(line.replace('\n', ' '));
    System.out.flush();
  }

  private void listen() {
    try (BufferedReader in =
        new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8))) {
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        String[] words = line.split(" ");
        Platform.runLater(() -> act(words));
      }
    } catch (IOException e) {
      Platform.exit(); // whoever started this is gone
    }
  }

  private void act(String[] words) {
    switch (words[0]) {
      case "edits" -> {
        next = Integer.parseInt(words[1]);
        every(Double.parseDouble(words[2]), this::edit);
      }
      case "saves" -> every(Double.parseDouble(words[1]), session.project()::save);
      case "sends" -> every(Double.parseDouble(words[1]), this::send);
      case "edit" -> {
        next = Integer.parseInt(words[1]);
        edit();
      }
      case "save" -> session.project().save();
      case "send" -> send();
      case "quit" -> {
        session.close();
        Platform.exit();
      }
      default -> tell("said what is " + words[0] + "?");
    }
  }

  /** Over and over, after times about a mean, in milliseconds. */
  private void every(double mean, Runnable work) {
    PauseTransition wait =
        new PauseTransition(Duration.millis(mean * (0.2 + 1.6 * random.nextDouble())));
    wait.setOnFinished(
        e -> {
          work.run();
          every(mean, work);
        });
    wait.play();
  }

  /** By turns a decision and a note in the diary, each with a name of its own. */
  private void edit() {
    String name = String.format(Locale.ROOT, "k%06d", next++);
    if (next % 2 == 0) {
      session.project().note("edit " + name);
    } else {
      List<String> all =
          session.state().get().shot().trackers().stream()
              .flatMap(t -> t.names().stream())
              .toList();
      String tracker = all.get(next / 2 % all.size());
      session
          .store()
          .decide(new VetDecision.PutInGroup(name, TrackerGroup.Dot.DISC, 1, Set.of(tracker)));
    }
    tell("edit " + name + " " + System.currentTimeMillis());
  }

  private void send() {
    boolean busy =
        session.sending().states().values().stream()
            .anyMatch(s -> s.stage() == SendState.Stage.SENDING);
    if (!busy) {
      session.sending().sendAll();
    }
  }
}
