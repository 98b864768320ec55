package flarvo.desktop.stop.level;

import flarvo.decision.BuildDecision;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.level.LevelReading;
import flarvo.stage.Staging;
import java.io.File;
import java.util.List;
import java.util.Locale;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.stage.FileChooser;

/** Where the shot stands, how large it is, and what is built on it. */
public final class LevelDesk extends Desk {

  private final Session session;
  private final LevelWork level;
  private final Label size = number("");
  private final Label up = number("");
  private final Label ground = number("");
  private final Label sized = number("");
  private final Label free = Desk.wrapped();
  private final Label said = Desk.wrapped();
  private final Button take;
  private final Button leave;

  public LevelDesk(Session session, LevelWork level, BuildWork build) {
    super("Level");
    this.session = session;
    this.level = level;
    said.setId("level-said");
    said.textProperty().bind(level.said());
    said.managedProperty().bind(level.said().isNotEmpty());
    said.visibleProperty().bind(level.said().isNotEmpty());
    free.setId("level-free");
    take = Fields.button("guess-take", "Apply guess", level::takeGuess);
    leave = Fields.button("guess-leave", "Discard guess", level::leaveGuess);
    FlowPane guess =
        new FlowPane(
            6, 6, Fields.button("guess", "Find the ground", level::guessGround), take, leave);
    getChildren()
        .addAll(
            row("solve unit", size),
            row("up axis", up),
            row("ground height", ground),
            row("scale", sized),
            free,
            heading("First guess"),
            guess,
            said,
            new StatePart(session, level),
            new HandPart(session, level),
            new GaugePart(session, level, build));
    locators(build);
    another();
    getChildren().add(new MovingPart(session));
    depths(build);
    level.now().addListener((o, a, b) -> fill());
    level.guess().addListener((o, a, b) -> fill());
    fill();
  }

  private void locators(BuildWork build) {
    TextField name = Fields.small("locator-name", "", "Name of the locators", 90);
    name.setPromptText("name");
    TextField group = Fields.small("locator-group", "locators", "Group of the locators", 90);
    TextField metres = Fields.small("locator-size", "", "Size of the locators", 70);
    metres.setPromptText("auto");
    getChildren()
        .addAll(
            heading("Locators on selected"),
            new HBox(6, name, group, metres),
            new HBox(
                6,
                Fields.button(
                    "locators",
                    "Add locators",
                    () -> {
                      if (metres.getText().isBlank()) {
                        build.locators(name.getText().trim(), group.getText(), build.suitingSize());
                      } else {
                        Fields.metres(session, metres)
                            .ifPresent(
                                m -> build.locators(name.getText().trim(), group.getText(), m));
                      }
                    }),
                Fields.button("locators-clear", "Remove all", build::clearLocators)));
  }

  private void another() {
    getChildren()
        .addAll(heading("Second solve"), Fields.button("lay", "Align second solve…", this::choose));
  }

  private void choose() {
    FileChooser c = new FileChooser();
    c.setTitle("Camera and trackers of the second solve");
    List<File> files = c.showOpenMultipleDialog(getScene().getWindow());
    if (files != null) {
      level.lay(files.stream().map(File::toPath).toList());
    }
  }

  private void depths(BuildWork build) {
    TextField metres = Fields.small("depth-metres", "5 m", "Distance from the camera", 70);
    FlowPane ways =
        new FlowPane(
            6,
            6,
            metres,
            Fields.button(
                "depth-typed",
                "Set distance",
                () ->
                    Fields.metres(session, metres)
                        .ifPresent(m -> build.depths(new BuildDecision.DepthSource.Typed(m)))),
            Fields.button(
                "depth-ground",
                "On the ground",
                () -> build.depths(new BuildDecision.DepthSource.Ground())),
            Fields.button(
                "depth-stand-in",
                "Onto stand-in",
                () -> build.depths(new BuildDecision.DepthSource.OnStandIn(build.chosen().get()))),
            Fields.button("depth-clear", "Clear distances", build::clearDepths));
    getChildren().addAll(heading("Depth for a tripod's trackers"), ways);
    Region foot = new Region();
    foot.setMinHeight(12);
    getChildren().add(foot);
  }

  private void fill() {
    boolean offered = level.guess().get() != null;
    take.setDisable(!offered);
    leave.setDisable(!offered);
    LevelReading r = level.reading();
    if (r == null || !session.isOpen()) {
      say("No solve yet. Add a camera with its trackers.");
      return;
    }
    size.setText(String.format(Locale.ROOT, "%.4f m", level.standing().scale()));
    up.setText(
        Double.isNaN(r.upError())
            ? "–"
            : String.format(Locale.ROOT, "± %.2f°", Math.toDegrees(r.upError())));
    ground.setText(
        Double.isNaN(r.heightError())
            ? "–"
            : String.format(Locale.ROOT, "± %.4f m", r.heightError()));
    sized.setText(
        Double.isNaN(r.scaleError())
            ? "–"
            : String.format(Locale.ROOT, "± %.2f%%", 100 * r.scaleError()));
    free.setText(
        r.free().isEmpty()
            ? "Fully constrained."
            : "Unconstrained: " + String.join(", ", r.free()) + ".");
    say(verdict(r));
  }

  private String verdict(LevelReading r) {
    List<String> wrong = level.now().get().wrong();
    if (!wrong.isEmpty()) {
      return String.join(" ", wrong);
    }
    if (level.guess().get() != null) {
      return "Preview only. Check along the ground, then apply or discard.";
    }
    long conflicts = r.lines().stream().filter(l -> l.problem().isPresent()).count();
    if (conflicts > 0) {
      return conflicts
          + (conflicts == 1 ? " statement does" : " statements do")
          + " not fit; see below.";
    }
    Staging s = level.staging();
    if (s.statements().isEmpty()) {
      return "State an origin, three trackers on the ground and a distance, or use Find the ground.";
    }
    return r.free().isEmpty()
        ? "Shot is levelled. Place a gauge and scrub: it should stick."
        : "All statements hold. State what is unconstrained, or set it by hand.";
  }
}
