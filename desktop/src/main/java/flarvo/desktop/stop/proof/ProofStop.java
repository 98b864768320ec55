package flarvo.desktop.stop.proof;

import flarvo.desktop.action.Action;
import flarvo.desktop.action.Can;
import flarvo.desktop.state.Comparison;
import flarvo.desktop.state.SendState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Blink;
import flarvo.desktop.stop.Fact;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.stop.StopView;
import flarvo.desktop.view.DivideTool;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Tool;
import flarvo.desktop.view.ViewKind;
import flarvo.proof.DriftReport;
import flarvo.proof.ProofReport;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.beans.Observable;
import javafx.beans.property.BooleanProperty;
import javafx.scene.Node;

/** The evidence that what was sent holds. */
public final class ProofStop implements StopModule {

  public static final String ID = "proof";

  private final Session session;
  private final ProofWork work;
  private final WitnessPreview preview;
  private final Blink blink;
  private ProofDesk desk;
  private StopView view;

  public ProofStop(Session session) {
    this.session = session;
    work = new ProofWork(session);
    preview = new WitnessPreview(session);
    BooleanProperty other = session.view().otherShown();
    blink = new Blink(() -> other.set(!other.get()), () -> other.set(false));
    session.view().comparison().addListener((o, a, b) -> blinkWhileShown());
  }

  /** Only here; the clock stands still at every other stop. */
  private void blinkWhileShown() {
    blink
        .on()
        .set(
            session.stop().get().equals(ID)
                && session.view().comparison().get() == Comparison.BLINK);
  }

  @Override
  public String id() {
    return ID;
  }

  @Override
  public String title() {
    return "Proof";
  }

  @Override
  public List<Observable> factDependsOn() {
    return List.of(session.sending().states());
  }

  @Override
  public Fact fact() {
    if (!session.isOpen()) {
      return Fact.NONE;
    }
    List<ProofReport> proofs =
        session.sending().states().values().stream()
            .map(SendState::proof)
            .flatMap(Optional::stream)
            .toList();
    if (proofs.isEmpty()) {
      return new Fact("none sent", Fact.Mark.HOLLOW, false);
    }
    long broken = proofs.stream().filter(p -> !p.holds()).count();
    if (broken > 0) {
      return new Fact(
          broken + (broken == 1 ? " does not hold" : " do not hold"), Fact.Mark.HALF, true);
    }
    double worst =
        proofs.stream()
            .map(ProofReport::drift)
            .flatMap(Optional::stream)
            .mapToDouble(DriftReport::maxPx)
            .max()
            .orElse(0);
    return new Fact(
        px(worst),
        proofs.size() == session.state().get().deliveries().size()
            ? Fact.Mark.FULL
            : Fact.Mark.HALF,
        false);
  }

  /** Pixels with as many digits as the number needs to be more than zero. */
  private static String px(double v) {
    return v >= 0.001 || v == 0
        ? String.format(Locale.ROOT, "%.4f px", v)
        : String.format(Locale.ROOT, "%.6f px", v);
  }

  @Override
  public List<Action> actions() {
    List<Action> all = new ArrayList<>();
    all.add(
        Action.of("proof.worst", "Go to the worst frame of the proof", () -> desk().goToWorst())
            .called("largest drift")
            .when(
                () -> Can.when(desk().isMeasured(), "Nothing was measured against the shot yet")));
    all.add(
        Action.of("proof.copy", "Copy the proof as text", () -> desk().copy())
            .called("report", "evidence")
            .when(this::proven));
    for (Comparison c : Comparison.values()) {
      all.add(
          Action.of(
                  "proof." + c.name().toLowerCase(Locale.ROOT),
                  "Compare source and recipient: " + c.label().toLowerCase(Locale.ROOT),
                  () -> session.view().comparison().set(c))
              .called("compare", "split", "flicker", "difference")
              .when(
                  () ->
                      Can.when(
                          work.now().get() != null,
                          "There is nothing to compare with: send a delivery, or check a file")));
    }
    all.add(
        Action.of(
                "proof.witness",
                "Preview the witness picture",
                () -> preview.on().set(!preview.on().get()))
            .called("render", "light", "shadow")
            .when(() -> Can.when(session.isOpen(), "No shot open")));
    return all;
  }

  private Can proven() {
    return Can.when(
        desk().proof() != null, "The selected delivery was not sent since the shot changed");
  }

  private ProofDesk desk() {
    if (desk == null) {
      desk = new ProofDesk(session, work, preview);
    }
    return desk;
  }

  @Override
  public StopView view() {
    if (view == null) {
      view = new View(desk());
    }
    return view;
  }

  private final class View implements StopView {
    private final ProofDesk desk;
    private final DriftGraph graph = new DriftGraph(session, work);
    private final List<Layer> layers =
        List.of(
            new SeenLayer(session, work, Layer.Side.OWN),
            new SeenLayer(session, work, Layer.Side.OTHER),
            preview);
    private final Tool divide =
        new DivideTool(
            session.view().divide(),
            () -> work.now().get() != null && session.view().comparison().get() == Comparison.WIPE);

    View(ProofDesk desk) {
      this.desk = desk;
    }

    @Override
    public Node desk() {
      return desk;
    }

    @Override
    public Optional<Node> graph() {
      return Optional.of(graph);
    }

    @Override
    public List<Layer> layers(ViewKind kind) {
      return kind == ViewKind.PICTURE ? layers : List.of();
    }

    @Override
    public List<Tool> tools(ViewKind kind) {
      return kind == ViewKind.PICTURE ? List.of(divide) : List.of();
    }

    @Override
    public void shown() {
      blinkWhileShown();
      preview.setShown(true);
    }

    @Override
    public void hidden() {
      blink.on().set(false);
      preview.setShown(false);
    }
  }
}
