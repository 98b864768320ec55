package flarvo.desktop.stop.level;

import flarvo.desktop.state.Session;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Projector;
import flarvo.desktop.view.Tool;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.scene.input.MouseEvent;

/** Clicks that set a gauge, or the corners of a stand-in. */
final class BuildTool implements Tool {

  private final Session session;
  private final LevelWork level;
  private final BuildWork build;

  BuildTool(Session session, LevelWork level, BuildWork build) {
    this.session = session;
    this.level = level;
    this.build = build;
  }

  @Override
  public boolean click(DrawContext c, MouseEvent e, Supplier<Optional<String>> tracker) {
    Projector to = c.world();
    if (to == null) {
      return false;
    }
    if (build.sketching().get() != null) {
      build.sketchAt(to.eye(), to.ray(e.getX(), e.getY()));
      return true;
    }
    if (build.dropping().get() == null) {
      return false;
    }
    Optional<String> on = tracker.get().filter(level.scene().places()::containsKey);
    if (on.isPresent()) {
      build.drop(on, level.scene().places().get(on.get()));
      return true;
    }
    build
        .under(to.eye(), to.ray(e.getX(), e.getY()), true)
        .ifPresentOrElse(
            v -> build.drop(Optional.empty(), v),
            () -> session.message().set("There is no ground under the pointer"));
    return true;
  }
}
