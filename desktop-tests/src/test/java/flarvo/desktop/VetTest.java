package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.vet.CullPreview;
import flarvo.vet.ExtraPoint;
import flarvo.vet.TrackerGroup;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReference;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.control.skin.VirtualFlow;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.layout.Pane;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** The stop Vet in the real window, on the demo's terrace with its dozen strays. */
class VetTest extends WindowHarness {

  @BeforeEach
  void goToVet() throws Exception {
    onWindow(() -> session.stop().set("vet"));
    await(() -> vet().measures().get() != null && vet().kind().get() != null);
  }

  private void press(FxRobot robot, String button) throws Exception {
    onWindow(() -> robot.lookup(button).queryAs(Button.class).fire());
  }

  private double rms() {
    return session.errors().get().rmsPx();
  }

  @Test
  void strayTrackersGoAndTheSolveComesUnderATarget(FxRobot robot) throws Exception {
    assertThat(vet().kind().get().tripod()).isFalse();
    double before = rms();
    assertThat(before).isGreaterThan(1);
    onWindow(() -> robot.lookup("#refine-target").queryAs(TextField.class).setText("0.35 px"));
    press(robot, "#cull-and-refine");
    await(() -> session.state().get().vetting().solve().isPresent());
    assertThat(rms()).isLessThan(0.35);
    assertThat(session.state().get().vetting().culled()).hasSize(12).contains("t102", "t113");
    assertThat(robot.lookup("#vet-said").queryAs(Label.class).getText())
        .contains("round 1", "12 trackers culled");
    assertThat(session.project().diary().entries().toString()).contains("Cull 12 and refine");
    onWindow(session::undo);
    assertThat(rms()).isEqualTo(before);
    onWindow(session::redo);
    assertThat(rms()).isLessThan(0.35);
    await(() -> vet().measures().get().errors().rmsPx() < 0.35);
    press(robot, "#restore-all");
    assertThat(session.state().get().vetting().culled()).isEmpty();
    press(robot, "#solve-as-came");
    assertThat(rms()).isEqualTo(before);
  }

  @Test
  void aCullIsPreviewedBeforeItHappens(FxRobot robot) throws Exception {
    Set<String> over = vet().chosen(new flarvo.vet.Culling.Over(1));
    assertThat(over).hasSize(12);
    assertThat(robot.lookup("#cull-value").queryAs(TextField.class).getText()).isEqualTo("1.0");
    AtomicReference<CullPreview> preview = new AtomicReference<>();
    onWindow(
        () -> vet().preview(new flarvo.vet.Culling.Over(1), p -> preview.set(p.orElseThrow())));
    double promised = preview.get().rmsPx();
    assertThat(promised).isLessThan(0.4);
    onWindow(() -> robot.lookup("#cull-value").queryAs(TextField.class).setText("nonsense"));
    assertThat(robot.lookup("#cull").queryAs(Button.class).isDisabled()).isTrue();
    onWindow(() -> robot.lookup("#cull-value").queryAs(TextField.class).setText("1"));
    press(robot, "#cull");
    assertThat(rms()).isCloseTo(promised, within(1e-6));
    assertThat(session.shot().get().trackerCount()).isEqualTo(101);
    onWindow(
        () -> robot.lookup("#cull-reason").queryAs(ComboBox.class).getSelectionModel().select(2));
    await(() -> vet().measures().get().trackers().size() == 101);
    press(robot, "#cull"); // all but the best 90 %
    assertThat(session.shot().get().trackerCount()).isEqualTo(91);
  }

  @Test
  void tableAndPictureShareTheSelectionAndKeysDriveIt(FxRobot robot) throws Exception {
    onWindow(() -> window.picture().requestFocus());
    robot.type(KeyCode.T);
    await(() -> robot.lookup("#tracker-table").tryQuery().isPresent());
    TableView<?> table = robot.lookup("#tracker-table").queryAs(TableView.class);
    assertThat(table.getItems()).hasSize(113);
    onWindow(() -> table.getSelectionModel().clearAndSelect(3));
    assertThat(session.selection()).hasSize(1);
    String chosen = session.selection().iterator().next();
    onWindow(() -> window.picture().requestFocus());
    robot.type(KeyCode.W);
    assertThat(session.state().get().vetting().weightless()).containsExactly(chosen);
    robot.type(KeyCode.DELETE);
    assertThat(session.state().get().vetting().culled()).containsExactly(chosen);
    await(() -> table.getItems().size() == 113 && vet().measures().get().trackers().size() == 112);
    onWindow(
        () -> {
          session.selection().clear();
          session.selection().add(chosen);
        });
    robot.type(KeyCode.INSERT);
    assertThat(session.state().get().vetting().culled()).isEmpty();
  }

  @Test
  void whatIsChosenStaysChosenWhenTheTableIsFilledAnew(FxRobot robot) throws Exception {
    onWindow(() -> window.picture().requestFocus());
    robot.type(KeyCode.T);
    await(() -> robot.lookup("#tracker-table").tryQuery().isPresent());
    TableView<?> table = robot.lookup("#tracker-table").queryAs(TableView.class);
    onWindow(() -> table.getSelectionModel().selectIndices(3, 5));
    var chosen = java.util.Set.copyOf(session.selection());
    assertThat(chosen).hasSize(2);
    Object before = vet().measures().get();

    onWindow(() -> vet().cullByHand(java.util.Set.of("t001")));
    await(() -> vet().measures().get() != before && session.store().isSettled());

    assertThat(session.selection()).containsExactlyInAnyOrderElementsOf(chosen);
    assertThat(table.getSelectionModel().getSelectedItems())
        .extracting(t -> ((flarvo.vet.TrackerMeasure) t).name())
        .containsExactlyInAnyOrderElementsOf(chosen);
  }

  @Test
  void anOutlineInThePictureSelects(FxRobot robot) throws Exception {
    var b = window.picture().localToScreen(window.picture().getBoundsInLocal());
    robot.press(KeyCode.ALT, KeyCode.CONTROL);
    robot.drag(
        b.getMinX() + b.getWidth() * 0.5, b.getMinY() + b.getHeight() * 0.45, MouseButton.PRIMARY);
    robot.moveTo(b.getMinX() + b.getWidth() * 0.6, b.getMinY() + b.getHeight() * 0.6);
    robot.moveTo(b.getMinX() + b.getWidth() * 0.9, b.getMinY() + b.getHeight() * 0.95);
    robot.drop();
    robot.release(KeyCode.ALT, KeyCode.CONTROL);
    await(() -> vet().region().get().size() == 8);
    assertThat(session.selection()).isNotEmpty();
  }

  @Test
  void theLimitIsTypedAndTheDeskCountsAnew(FxRobot robot) throws Exception {
    TextField limit = robot.lookup("#error-limit").queryAs(TextField.class);
    assertThat(limit.getText()).isEqualTo("1.00 px");
    onWindow(
        () -> {
          limit.setText("0.35 px");
          limit.getOnAction().handle(null);
        });
    assertThat(session.view().errorLimitPx().get()).isEqualTo(0.35);
    onWindow(
        () -> {
          limit.setText("little");
          limit.getOnAction().handle(null);
        });
    assertThat(session.view().errorLimitPx().get()).isEqualTo(0.35);
    assertThat(limit.getText()).isEqualTo("0.35 px");
    assertThat(message(robot)).contains("over 0");
  }

  @Test
  @SuppressWarnings("unchecked")
  void aGroupHasItsOwnDotsEverywhere(FxRobot robot) throws Exception {
    Set<String> some = Set.of("t001", "t002", "t003");
    onWindow(
        () -> {
          session.selection().addAll(some);
          robot.lookup("#group-name").queryAs(ComboBox.class).getEditor().setText("wall");
          robot.lookup("#group-dot").queryAs(ComboBox.class).setValue(TrackerGroup.Dot.KITE);
          robot.lookup("#group-tint").queryAs(ComboBox.class).setValue(2);
        });
    press(robot, "#group-put");
    TrackerGroup wall = vet().vetting().group("wall").orElseThrow();
    assertThat(wall).isEqualTo(new TrackerGroup("wall", TrackerGroup.Dot.KITE, 2, some));
    assertThat(robot.lookup("#things").queryAs(Pane.class).lookupAll(".manifest-row"))
        .anySatisfy(r -> assertThat(r.lookupAll("Canvas")).isNotEmpty());
    onWindow(() -> robot.lookup("#group-tint").queryAs(ComboBox.class).setValue(4));
    assertThat(vet().vetting().group("wall").orElseThrow().tint()).isEqualTo(4);
    onWindow(session::undo);
    assertThat(vet().vetting().group("wall").orElseThrow().tint()).isEqualTo(2);
    onWindow(session.selection()::clear);
    press(robot, "#group-select");
    assertThat(session.selection()).containsExactlyInAnyOrderElementsOf(some);
    press(robot, "#group-dissolve");
    assertThat(session.shot().get().trackers()).noneMatch(t -> t.name().equals("wall"));
  }

  @Test
  void aBadFrameIsBridgedAndNothingElseTouched(FxRobot robot) throws Exception {
    var before = session.state().get().shot().cameras().get(0).poses();
    onWindow(() -> robot.lookup("#path-frames").queryAs(TextField.class).setText("1040-1042"));
    press(robot, "#path-bridge");
    await(() -> session.state().get().vetting().solve().isPresent());
    assertThat(vet().repaired().get().touched()).containsExactly(1040, 1041, 1042);
    assertThat(vet().repaired().get().movedPx()).hasSize(3);
    var after = session.state().get().shot().cameras().get(0).poses();
    for (int f = 1001; f <= 1096; f++) {
      boolean chosen = f >= 1040 && f <= 1042;
      assertThat(after.at(f).equals(before.at(f))).as("frame %s", f).isEqualTo(!chosen);
    }
    onWindow(() -> robot.lookup("#path-frames").queryAs(TextField.class).setText("from here"));
    press(robot, "#path-bridge");
    assertThat(message(robot)).contains("1010-1016");
  }

  @Test
  void aFeatureIsMarkedLateFoundAlongThePlateAndNeverPulls(FxRobot robot) throws Exception {
    double before = rms();
    var camera = session.state().get().shot().cameras().get(0);
    // Where a flagstone's corner is seen: a tracker of the solve itself, under another name.
    var o = session.shot().get().observations();
    int row = o.row("t064", 1040);
    int later = o.row("t064", 1046);
    onWindow(
        () -> {
          vet().point().set("floor");
          session.playhead().goTo(1040);
          vet().mark(o.x(row), o.y(row));
          session.playhead().goTo(1046);
          vet().mark(o.x(later), o.y(later));
        });
    ExtraPoint two = vet().extra("floor").orElseThrow();
    assertThat(two.marks()).hasSize(2);
    press(robot, "#late-search");
    await(() -> vet().extra("floor").orElseThrow().marks().size() > 8);
    List<ExtraPoint.Mark> marks = vet().extra("floor").orElseThrow().marks();
    int near = 0;
    for (ExtraPoint.Mark m : marks) {
      int seen = o.row("t064", m.frame());
      if (seen >= 0 && Math.hypot(o.x(seen) - m.x(), o.y(seen) - m.y()) < 2) {
        near++;
      }
    }
    assertThat(near).isGreaterThan(marks.size() / 2);
    assertThat(rms()).isEqualTo(before);
    assertThat(session.state().get().shot().cameras().get(0)).isEqualTo(camera);
    assertThat(session.shot().get().trackers()).anyMatch(t -> t.name().equals("extra points"));
  }

  /** Nobody wants to look for the place again after each edit. */
  @Test
  void anEditLeavesTheTableWhereItWasAndTheManifestsRowsStanding(FxRobot robot) throws Exception {
    onWindow(() -> session.selection().add("t102"));
    onWindow(() -> session.view().tableShown().set(true));
    await(() -> robot.lookup("#tracker-table").tryQuery().isPresent());
    TableView<?> table = robot.lookup("#tracker-table").queryAs(TableView.class);
    await(() -> !table.getItems().isEmpty());
    await(() -> firstRow(table) > 40); // it opens where the chosen one is
    onWindow(() -> table.scrollTo(0));
    await(() -> firstRow(table) == 0);
    onWindow(() -> robot.lookup("#trackers").queryListView().scrollTo(50));
    await(() -> firstRow(robot.lookup("#trackers").queryListView()) == 50);
    Pane things = robot.lookup("#things").queryAs(Pane.class);
    List<Node> rows = List.copyOf(things.getChildren());
    int trackers = session.shot().get().trackerCount();
    var measures = vet().measures().get();
    onWindow(() -> vet().cullByHand(Set.of("t003", "t007")));
    await(() -> vet().measures().get() != measures);
    await(() -> table.getSelectionModel().getSelectedItems().size() == 1);
    assertThat(firstRow(table)).isZero();
    await(() -> firstRow(robot.lookup("#trackers").queryListView()) == 48);
    assertThat(things.getChildren()).isEqualTo(rows);
    assertThat(things.lookupAll(".label"))
        .anySatisfy(l -> assertThat(((Label) l).getText()).isEqualTo("" + (trackers - 2)));
    onWindow(() -> session.selection().clear());
    onWindow(() -> session.selection().add("t102"));
    await(() -> firstRow(table) > 40); // what is chosen anew is still brought into view
  }

  private static int firstRow(Node table) {
    VirtualFlow<?> flow = (VirtualFlow<?>) table.lookup(".virtual-flow");
    return flow.getFirstVisibleCell() == null ? -1 : flow.getFirstVisibleCell().getIndex();
  }

  /** A weight changes what counts, and so every figure, although the shot is the same. */
  @Test
  void aChangeOfWeightAloneIsMeasured() throws Exception {
    double before = rms();
    var measures = vet().measures().get();
    onWindow(() -> vet().weigh(Set.of("t102", "t113"), false));
    assertThat(rms()).isLessThan(before);
    await(() -> vet().measures().get() != measures);
    assertThat(vet().measures().get().errors().rmsPx()).isLessThan(before);
    onWindow(session::undo);
    assertThat(rms()).isEqualTo(before);
  }
}
