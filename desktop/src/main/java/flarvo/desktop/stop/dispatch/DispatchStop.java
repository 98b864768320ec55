package flarvo.desktop.stop.dispatch;

import flarvo.desktop.action.Action;
import flarvo.desktop.action.Can;
import flarvo.desktop.action.Keys;
import flarvo.desktop.state.SendState;
import flarvo.desktop.state.Session;
import flarvo.desktop.state.Slot;
import flarvo.desktop.stop.Fact;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.stop.StopView;
import flarvo.desktop.stop.TextCopy;
import flarvo.dispatch.Delivery;
import flarvo.proof.ProofReport;
import java.io.File;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.beans.Observable;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.stage.FileChooser;

/** Who gets what, in which dialect and format. */
public final class DispatchStop implements StopModule {

  public static final String ID = "dispatch";

  private final Session session;
  private View view;

  public DispatchStop(Session session) {
    this.session = session;
  }

  @Override
  public String id() {
    return ID;
  }

  @Override
  public String title() {
    return "Dispatch";
  }

  @Override
  public List<Observable> factDependsOn() {
    return List.of(session.state(), session.sending().states());
  }

  @Override
  public Fact fact() {
    if (!session.isOpen()) {
      return Fact.NONE;
    }
    List<Delivery> all = session.state().get().deliveries();
    long sent =
        all.stream()
            .map(d -> session.sending().states().get(d))
            .filter(s -> s != null && s.stage() == SendState.Stage.SENT)
            .count();
    boolean failed =
        session.sending().states().values().stream()
            .anyMatch(s -> s.stage() == SendState.Stage.FAILED);
    if (all.isEmpty()) {
      return new Fact("no deliveries", Fact.Mark.HOLLOW, false);
    }
    long stale = all.stream().filter(d -> !session.sending().since(d).isEmpty()).count();
    if (stale > 0 && !failed) {
      return new Fact(stale + " stale", Fact.Mark.HALF, false);
    }
    boolean proven =
        all.stream()
            .map(d -> session.sending().states().get(d))
            .allMatch(s -> s != null && s.proof().filter(ProofReport::holds).isPresent());
    if (proven) {
      return new Fact(sent + " of " + all.size() + " proven", Fact.Mark.FULL, false);
    }
    return new Fact(
        sent + " of " + all.size() + " sent",
        sent == 0 ? Fact.Mark.HOLLOW : sent == all.size() ? Fact.Mark.FULL : Fact.Mark.HALF,
        failed);
  }

  @Override
  public List<Slot<?, ?>> slots() {
    return List.of(PlainImports.SLOT);
  }

  private Can some() {
    return Can.when(
        !session.state().get().deliveries().isEmpty(),
        session.isOpen() ? "No deliveries yet; add one in Dispatch" : "No shot open");
  }

  @Override
  public List<Action> actions() {
    return List.of(
        Action.of("dispatch.send-all", "Send all deliveries", session.sending()::sendAll)
            .called("export", "write", "publish")
            .on(Keys.ctrl(KeyCode.ENTER))
            .when(this::some),
        Action.of(
                "dispatch.send",
                "Send the selected delivery",
                () -> session.sending().send(session.chosen().get()))
            .called("export", "write")
            .when(() -> Can.when(session.chosen().get() != null, "No delivery is selected")),
        Action.of("dispatch.note", "Write the hand-over note", session.sending()::writeNote)
            .called("report", "page", "html", "viewer")
            .when(
                () ->
                    Can.when(session.sending().hasSent(), "Nothing is sent yet; send a delivery")),
        Action.of("dispatch.recipe", "Save decisions and board as a recipe…", this::saveRecipe)
            .called("template", "batch", "many shots")
            .when(this::some),
        Action.of("dispatch.copy", "Copy the deliveries as text", this::copy).when(this::some));
  }

  private void saveRecipe() {
    FileChooser c = new FileChooser();
    c.setTitle("Save a recipe for other shots");
    c.setInitialFileName("recipe.json");
    File f = c.showSaveDialog(view().desk().getScene().getWindow());
    if (f != null) {
      session.sending().saveRecipe(f.toPath());
    }
  }

  private void copy() {
    TextCopy.copy(session, board().copiedName(), board().asText());
  }

  private DispatchBoard board() {
    view();
    return view.board;
  }

  @Override
  public List<Action> objects() {
    List<Action> list = new ArrayList<>();
    for (Delivery d : session.state().get().deliveries()) {
      list.add(
          Action.of(
              "delivery." + d.name(),
              "Delivery " + d.name(),
              () -> {
                session.stop().set(ID);
                session.chosen().set(d);
              }));
      list.add(
          Action.of(
              "delivery-send." + d.name(), "Send " + d.name(), () -> session.sending().send(d)));
    }
    return list;
  }

  @Override
  public StopView view() {
    if (view == null) {
      view = new View(new DispatchDesk(session), new DispatchBoard(session));
    }
    return view;
  }

  private static final class View implements StopView {
    private final DispatchDesk desk;
    private final DispatchBoard board;

    View(DispatchDesk desk, DispatchBoard board) {
      this.desk = desk;
      this.board = board;
    }

    @Override
    public Node desk() {
      return desk;
    }

    @Override
    public Optional<Node> below() {
      return Optional.of(board);
    }
  }
}
