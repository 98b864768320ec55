package flarvo.desktop.stop.level;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.StopView;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Tool;
import flarvo.desktop.view.ViewKind;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;

/** Level's desk, and the world over Picture and Space with its handles. */
final class LevelView implements StopView {

  private final Session session;
  private final LevelWork level;
  private final BuildWork build;
  private final LevelDesk desk;
  private final Map<ViewKind, Layer> layers = new EnumMap<>(ViewKind.class);
  private final Map<ViewKind, HandleDrag> drags = new EnumMap<>(ViewKind.class);
  private final BuildTool clicks;

  LevelView(Session session, LevelWork level, BuildWork build) {
    this.session = session;
    this.level = level;
    this.build = build;
    desk = new LevelDesk(session, level, build);
    clicks = new BuildTool(session, level, build);
    for (ViewKind k : ViewKind.values()) {
      Handles handles = new Handles();
      HandleDrag drag = new HandleDrag(session, level, handles, k == ViewKind.PICTURE);
      drags.put(k, drag);
      layers.put(k, new LevelDrawing(session, level, build, k, handles, drag));
    }
  }

  @Override
  public Node desk() {
    return desk;
  }

  @Override
  public boolean showsBoth() {
    return !session.view().pictureAlone().get();
  }

  @Override
  public List<Layer> layers(ViewKind kind) {
    return List.of(layers.get(kind));
  }

  @Override
  public List<Tool> tools(ViewKind kind) {
    return kind == ViewKind.PICTURE ? List.of(drags.get(kind), clicks) : List.of(drags.get(kind));
  }

  @Override
  public void onRearranged(Runnable told) {
    session.view().pictureAlone().addListener((o, a, b) -> told.run());
  }

  @Override
  public void hidden() {
    level.giveUp();
    build.disarm();
  }
}
