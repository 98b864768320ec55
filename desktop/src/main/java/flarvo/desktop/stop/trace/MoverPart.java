package flarvo.desktop.stop.trace;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.desktop.stop.Tips;
import flarvo.trace.Mover;
import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;

/** What moves against the rest: the list, and what is done with the selected one. */
final class MoverPart extends VBox {

  private final TraceBench bench;
  private final MoverBench movers;
  private final Button find;
  private final Button mask;
  private final Button solve;
  private final Button back;
  private final FlowPane list = new FlowPane(4, 4);
  private final FlowPane with;

  /**
   * @param find finds what moves
   */
  MoverPart(Session session, TraceBench bench, Runnable find) {
    super(8);
    this.bench = bench;
    this.movers = bench.movers();
    this.find = Fields.button("trace-movers", "Find what moves", find);
    Tips.on(this.find, "Features with a motion of their own; the solve leaves them out");
    mask = Fields.button("trace-mover-mask", "Mask", movers::mask);
    Tips.on(mask, "Draw a mask around it, for the next time features are followed");
    solve = Fields.button("trace-mover-solve", "Solve as object", movers::solve);
    Tips.on(solve, "A second object that moves, with the scene's lens");
    back = Fields.button("trace-mover-back", "Count as scene", movers::giveBack);
    Tips.on(back, "Its features belong to the scene after all");
    list.setId("trace-mover-list");
    with = new FlowPane(6, 6, mask, solve, back);
    getChildren().addAll(Desk.heading("What moves"), this.find, list, with);
    movers.selected().addListener((o, a, b) -> fill());
    session.state().addListener((o, a, b) -> fill());
    session.shot().addListener((o, a, b) -> fill());
    fill();
  }

  private void fill() {
    find.setDisable(bench.work().features().isEmpty());
    boolean none = movers.selected().get() == null;
    List.of(mask, back).forEach(b -> b.setDisable(none));
    solve.setDisable(!movers.solveObstacle().isEmpty());
    list.getChildren().setAll(movers.movers().stream().map(this::button).toList());
    boolean any = !list.getChildren().isEmpty();
    list.setManaged(any);
    with.setManaged(any);
    with.setVisible(any);
  }

  private Button button(Mover m) {
    Button b =
        Fields.button(
            "trace-" + m.name().replace(' ', '-') + "-row",
            m.name() + " · " + m.features().size(),
            () -> movers.selected().set(m.name()));
    Tips.on(b, m.features().size() + " features, left out of the solve");
    if (m.name().equals(movers.selected().get())) {
      b.getStyleClass().add("on");
    }
    return b;
  }
}
