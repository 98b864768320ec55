package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialect;
import flarvo.convention.RatePolicy;
import flarvo.decision.DispatchDecision;
import flarvo.decision.VetDecision;
import flarvo.desktop.state.SendState;
import flarvo.desktop.work.Job;
import flarvo.desktop.work.Lane;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.recipe.RecipeJson;
import flarvo.recipient.Foretelling;
import flarvo.recipient.ImportChain;
import flarvo.vet.Culling;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.Stream;
import javafx.event.ActionEvent;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.util.WaitForAsyncUtils;

/** Deliveries, background work, and the parts around the picture. */
class BoardTest extends WindowHarness {

  private static TableView<?> board(FxRobot robot) {
    return robot.lookup("#deliveries").<TableView<?>>query();
  }

  private static Object cell(TableView<?> table, int row, int column) {
    return table.getColumns().get(column).getCellData(row);
  }

  @Test
  void whatAPlainImportWouldGetWrongIsForetoldAndOneActionChangesIt(FxRobot robot)
      throws Exception {
    robot.type(KeyCode.DIGIT6);
    TableView<?> table = board(robot);
    robot.interact(() -> session.chosen().set(session.state().get().deliveries().get(1)));
    await(() -> cell(table, 1, 6).equals("2 to set")); // the range, and the size that it renders
    await(() -> cell(table, 0, 6).equals("1 to set")); // the demo's plates are smaller
    TextField first = robot.lookup("#delivery-first").query();
    robot.interact(
        () -> {
          first.setText("7");
          first.fireEvent(new ActionEvent());
        });
    await(() -> cell(table, 1, 6).equals("1 wrong"));
    await(() -> robot.lookup("#change-first-frame").tryQuery().isPresent());
    assertThat(robot.lookup("#plain-import .label").queryAllAs(Label.class))
        .anyMatch(l -> l.getText().contains("its picture would be 7 frames early. Up to "));
    robot.interact(robot.lookup("#change-first-frame").<Button>query()::fire);
    await(() -> cell(table, 1, 6).equals("2 to set"));
    assertThat(session.state().get().deliveries().get(1).dialect().frames().firstFrame())
        .hasValue(0);
    assertThat(session.state().get().deliveries().get(1)).isEqualTo(session.chosen().get());
  }

  /** Who gets it from the first recipient, and the next one, is told what will be wrong there. */
  @Test
  void aDeliveryIsPassedOnFromRecipientToRecipient(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    Delivery d = session.state().get().deliveries().get(0);
    robot.interact(() -> session.chosen().set(d));
    assertThat(robot.lookup("#pass-on-2").tryQuery()).isEmpty();
    ComboBox<String> next = robot.lookup("#pass-on-1").queryComboBox();
    robot.interact(() -> next.setValue("comp-yup"));
    await(() -> chain(robot).anyMatch(t -> t.startsWith("comp-yup: ")));
    ComboBox<String> after = robot.lookup("#pass-on-2").queryComboBox();
    robot.interact(() -> after.setValue("engine-zup-left-cm"));
    await(() -> chain(robot).anyMatch(t -> t.startsWith("engine-zup-left-cm: ")));
    List<ImportChain.Step> steps =
        Foretelling.chain(
            session.state().get().staged(),
            d,
            d.dialect(),
            Stream.of("comp-yup", "engine-zup-left-cm")
                .map(n -> new ImportChain.Hop(session.dialects().get(n), d.format()))
                .toList(),
            Progress.NONE);
    assertThat(chain(robot))
        .anyMatch(t -> t.contains(steps.get(2).imported().sentence()) && t.contains("since the"))
        .anyMatch(t -> t.startsWith("The first recipient's share: "));
    robot.interact(() -> next.setValue("nobody"));
    await(() -> chain(robot).noneMatch(t -> t.contains("comp-yup: ")));
    // A table of pixels has no scene to pass on.
    robot.interact(() -> session.chosen().set(session.state().get().deliveries().get(2)));
    assertThat(next.isDisabled()).isTrue();
  }

  private static Stream<String> chain(FxRobot robot) {
    return robot.lookup("#chain .label").queryAllAs(Label.class).stream().map(Label::getText);
  }

  @Test
  void rateAndScaleOfADeliveryAreChangedAndProven(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    robot.interact(() -> session.chosen().set(session.state().get().deliveries().get(0)));
    TextField scale = robot.lookup("#delivery-scale").query();
    Label compound = robot.lookup("#delivery-compound").query();
    assertThat(scale.getText()).isEqualTo("100");
    assertThat(compound.getText())
        .isEqualTo("1 m here is 100 units there. If they import at ×\u00a010: 1000.");
    robot.interact(
        () -> {
          scale.setText("many");
          scale.fireEvent(new ActionEvent());
        });
    assertThat(session.message().get()).contains("'many' is no scale");
    robot.interact(
        () -> {
          scale.setText("2.5");
          scale.fireEvent(new ActionEvent());
        });
    await(() -> compound.getText().contains("2.5 units there. If they import at ×\u00a010: 25."));
    ComboBox<String> rate = robot.lookup("#delivery-rate").query();
    ComboBox<String> keep = robot.lookup("#delivery-policy").query();
    assertThat(rate.getValue()).isEqualTo("as the plate");
    assertThat(keep.getParent().isVisible()).isFalse();
    robot.interact(() -> rate.setValue("30"));
    await(() -> session.chosen().get().dialect().frames().rate().isPresent());
    await(() -> keep.getParent().isVisible());
    robot.interact(() -> keep.setValue("seconds"));
    await(() -> session.chosen().get().dialect().frames().policy() == RatePolicy.KEEP_SECONDS);
    Delivery d = session.state().get().deliveries().get(0);
    assertThat(d).isEqualTo(session.chosen().get());
    assertThat(d.dialect().unit().metresPerUnit()).isEqualTo(0.4);
    robot.interact(() -> session.sending().send(d));
    await(
        () ->
            session.sending().states().get(d) != null
                && session.sending().states().get(d).stage() == SendState.Stage.SENT);
    assertThat(session.sending().states().get(d).proof().orElseThrow().checks())
        .filteredOn(c -> c.name().equals("unit") || c.name().equals("rate"))
        .hasSize(2)
        .allMatch(c -> c.holds());
    robot.interact(() -> session.store().undo());
    robot.interact(() -> session.store().undo());
    robot.interact(() -> session.store().undo());
    assertThat(session.state().get().deliveries().get(0).dialect().unit().metresPerUnit())
        .isEqualTo(0.01);
  }

  @Test
  void severalDeliveriesAreChangedTogether(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    TableView<?> table = board(robot);
    List<Delivery> before = session.state().get().deliveries();
    robot.interact(() -> table.getSelectionModel().clearAndSelect(0));
    robot.interact(() -> table.getSelectionModel().select(2));
    assertThat(session.chosenRows()).containsExactlyInAnyOrder(before.get(0), before.get(2));
    TextField head = robot.lookup("#delivery-head").query();
    TextField tail = robot.lookup("#delivery-tail").query();
    robot.interact(
        () -> {
          head.setText("8");
          tail.setText("96");
          tail.fireEvent(new ActionEvent());
        });
    assertThat(session.message().get()).contains("leave none of 96");
    robot.interact(
        () -> {
          tail.setText("4");
          tail.fireEvent(new ActionEvent());
        });
    await(() -> !session.state().get().deliveries().equals(before));
    List<Delivery> after = session.state().get().deliveries();
    assertThat(List.of(after.get(0).extract().head(), after.get(2).extract().tail()))
        .containsExactly(8, 4);
    assertThat(after.get(1)).isEqualTo(before.get(1));
    assertThat(session.chosenRows()).containsExactlyInAnyOrder(after.get(0), after.get(2));
    assertThat(table.getSelectionModel().getSelectedIndices()).containsExactlyInAnyOrder(0, 2);
    assertThat(robot.lookup("#delivery-frames").<Label>query().getText())
        .isEqualTo("1009-1092, 84 frames.");
    assertThat(robot.lookup("#delivery-name").<TextField>query().isDisabled()).isTrue();
    robot.interact(robot.lookup("#send-all").<Button>query()::fire);
    await(this::allSent);
    assertThat(cell(table, 0, 4)).isEqualTo("holds");
    assertThat(cell(table, 2, 4)).isEqualTo("holds");
    robot.interact(() -> session.store().undo());
    assertThat(session.state().get().deliveries()).isEqualTo(before);
  }

  @Test
  void boardsAreSavedAddedAndCopied(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    MenuButton menu = robot.lookup("#board-menu").query();
    robot.interact(menu::show);
    TextField name = robot.lookup("#board-name").query();
    robot.interact(
        () -> {
          name.setText("show");
          name.fireEvent(new ActionEvent());
        });
    assertThat(session.message().get()).isEqualTo("Board saved as show");
    List<Delivery> own = session.state().get().deliveries();
    robot.interact(
        () -> {
          for (int i = own.size() - 1; i >= 0; i--) {
            session.store().decide(new DispatchDecision.RemoveDelivery(i, own.get(i).name()));
          }
        });
    await(() -> robot.lookup("#add-usual").tryQuery().isPresent());
    robot.interact(robot.lookup("#add-usual").<Button>query()::fire);
    await(() -> session.state().get().deliveries().size() == 4);
    assertThat(session.store().now().get().log().undoTitle().orElse(""))
        .isEqualTo("add usual recipients");
    robot.interact(
        () -> {
          menu.show();
          item(menu, "board-saved-show").fire();
        });
    await(() -> session.state().get().deliveries().size() == 4 + own.size());
    assertThat(session.state().get().deliveries().get(4).fileName()).startsWith("{shot}");
    robot.interact(
        () -> {
          menu.show();
          Menu copy =
              (Menu)
                  menu.getItems().stream()
                      .filter(i -> i.getText() != null && i.getText().startsWith("Copy from"))
                      .findFirst()
                      .orElseThrow();
          assertThat(copy.getItems()).hasSize(3).allMatch(i -> i.getText().startsWith("mer_0"));
          copy.getItems().get(0).fire();
          menu.hide();
        });
    await(() -> session.state().get().deliveries().size() > 4 + own.size());
    assertThat(session.state().get().deliveries().stream().map(Delivery::name))
        .doesNotHaveDuplicates();
  }

  private static MenuItem item(MenuButton menu, String id) {
    return menu.getItems().stream().filter(i -> id.equals(i.getId())).findFirst().orElseThrow();
  }

  @Test
  void theBoardTellsWhatBecameOfEachDelivery(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    TableView<?> table = board(robot);
    assertThat(cell(table, 0, 4)).isEqualTo("not sent");
    robot.clickOn("#send-all");
    await(this::allSent);
    for (int i = 0; i < table.getItems().size(); i++) {
      assertThat(cell(table, i, 4)).isEqualTo("holds");
      assertThat(cell(table, i, 5).toString()).endsWith(" px");
    }
    assertThat(robot.lookup("#stop-6").query().getAccessibleText()).contains("3 of 3 proven");
    Path page = session.sending().deliveryFolder().resolve("mer_010_terrace_note.html");
    assertThat(page).doesNotExist();
    robot.interact(robot.lookup("#handover-note").<Button>query()::fire);
    await(() -> Files.exists(page) && session.message().get().startsWith("Wrote mer_010_terrace"));
    assertThat(session.message().get()).contains("3 of 3 deliveries proven");
    assertThat(page).content().contains("Game engine").contains("viewer-data");
  }

  @Test
  void aFailedDeliverySaysWhyAndWritesNothing(FxRobot robot) throws Exception {
    Path inTheWay = dir.resolve("deliveries");
    Files.writeString(inTheWay, "not a folder");
    Delivery d = session.chosen().get();
    onWindow(() -> session.sending().send(d));
    await(
        () -> {
          SendState s = session.sending().states().get(d);
          return s != null && s.stage() == SendState.Stage.FAILED;
        });
    assertThat(message(robot)).contains("cannot be written");
    assertThat(inTheWay).hasContent("not a folder");
    robot.type(KeyCode.DIGIT6);
    assertThat(cell(board(robot), 0, 4)).isEqualTo("failed");
  }

  @Test
  void anotherDialectIsChosenAndTakenBack(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    Delivery before = session.chosen().get();
    ComboBox<String> box = robot.lookup("#delivery-dialect").queryComboBox();
    onWindow(() -> box.setValue("engine-yup-left-m"));
    assertThat(session.chosen().get().dialect().name()).isEqualTo("engine-yup-left-m");
    assertThat(cell(board(robot), 0, 1)).isEqualTo("engine-yup-left-m");
    assertThat(session.undoTitle()).contains("change dialect of " + before.name());
    onWindow(session::undo);
    assertThat(session.state().get().deliveries().get(0)).isEqualTo(before);
  }

  @Test
  void deliveriesAreAddedAndRemoved(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    int before = session.state().get().deliveries().size();
    Dialect d = session.dialects().get("previs-yup-foot");
    Delivery extra =
        new Delivery("Previs", d, session.chosen().get().format(), Contents.CAMERA, "previs.usda");
    onWindow(() -> session.store().decide(new DispatchDecision.AddDelivery(extra)));
    assertThat(board(robot).getItems()).hasSize(before + 1);
    onWindow(() -> session.chosen().set(extra));
    robot.clickOn("Remove");
    assertThat(session.state().get().deliveries()).hasSize(before).doesNotContain(extra);
    assertThat(session.chosen().get()).isNotNull();
    onWindow(session::undo);
    assertThat(session.state().get().deliveries()).contains(extra);
  }

  /** Before, a camera or trackers sent alone never held: there was nothing to compare. */
  @Test
  void aDeliveryOfOnePartIsProvenAndKeepsThatPart(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    onWindow(() -> robot.lookup("#delivery-trackers").queryAs(CheckBox.class).fire());
    assertThat(session.chosen().get().contents()).isEqualTo(Contents.CAMERA);
    assertThat(session.undoTitle().orElse("")).contains("contents");
    Delivery d = session.chosen().get();
    assertThat(sent(d).holds()).isTrue();
    onWindow(() -> robot.lookup("#delivery-camera").queryAs(CheckBox.class).fire());
    assertThat(session.chosen().get().contents()).isEqualTo(Contents.CAMERA);
    assertThat(message(robot)).contains("at least one part");
  }

  @Test
  void workIsCancelledFromTheStatusLine(FxRobot robot) throws Exception {
    await(() -> session.jobs().running().isEmpty()); // what opening a project begins
    CountDownLatch begun = new CountDownLatch(1);
    AtomicReference<String> said = new AtomicReference<>("");
    onWindow(
        () ->
            session
                .jobs()
                .run(
                    Lane.MEASURE,
                    "Counting",
                    p -> {
                      begun.countDown();
                      for (long i = 0; ; i++) {
                        p.step(i, 0);
                      }
                    },
                    done -> said.set("done"),
                    said::set));
    begun.await();
    assertThat(session.jobs().running()).extracting(Job::title).containsExactly("Counting");
    await(() -> robot.lookup("Cancel").queryAll().stream().anyMatch(Node::isVisible));
    robot.clickOn("Cancel");
    await(() -> !said.get().isEmpty());
    assertThat(said.get()).isEqualTo("Counting was cancelled");
    assertThat(session.jobs().running()).isEmpty();
  }

  @Test
  void theManifestSearchesAndSharesItsSelection(FxRobot robot) throws Exception {
    ListView<String> list = robot.lookup("#trackers").queryListView();
    assertThat(list.getItems()).hasSizeGreaterThan(100);
    TextField search = (TextField) robot.lookup(".manifest .text-field").query();
    robot.clickOn(search).write("t10");
    WaitForAsyncUtils.waitForFxEvents();
    assertThat(list.getItems()).allMatch(n -> n.contains("t10")).isNotEmpty();
    onWindow(() -> list.getSelectionModel().select("t103"));
    assertThat(session.selection()).containsExactly("t103");
    robot.type(KeyCode.ESCAPE);
    onWindow(() -> session.choose("t105", false));
    assertThat(list.getSelectionModel().getSelectedItems()).containsExactly("t105");
  }

  @Test
  void thePictureAndTheBoardAreCopied(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT3); // at Receive it is the ledger that is worked in
    robot.press(KeyCode.CONTROL).type(KeyCode.C).release(KeyCode.CONTROL);
    AtomicReference<Boolean> image = new AtomicReference<>();
    onWindow(() -> image.set(Clipboard.getSystemClipboard().hasImage()));
    assertThat(image.get()).isTrue();
    robot.type(KeyCode.DIGIT6);
    onWindow(() -> board(robot).requestFocus());
    robot.press(KeyCode.CONTROL).type(KeyCode.C).release(KeyCode.CONTROL);
    AtomicReference<String> text = new AtomicReference<>();
    onWindow(() -> text.set(Clipboard.getSystemClipboard().getString()));
    assertThat(text.get().lines()).hasSize(1 + session.state().get().deliveries().size());
    assertThat(text.get()).startsWith("To\tDialect\tFormat").contains("engine-zup-left-cm");
  }

  @Test
  void manyDeliveriesStillFitTheLadder() throws Exception {
    Delivery d = session.chosen().get();
    for (int i = 0; i < 8; i++) {
      onWindow(() -> session.store().decide(new DispatchDecision.AddDelivery(d)));
    }
    assertThat(session.state().get().deliveries()).hasSize(11);
    assertThat(window.root().getScene().getHeight()).isEqualTo(800);
    assertThat(window.picture().getHeight()).isGreaterThan(300);
  }

  /** Going from stop to stop by key keeps the keys with the picture. */
  @Test
  void theFocusStaysWithThePicture(FxRobot robot) {
    for (KeyCode k : new KeyCode[] {KeyCode.DIGIT6, KeyCode.DIGIT7, KeyCode.DIGIT3, KeyCode.TAB}) {
      robot.type(k);
      WaitForAsyncUtils.waitForFxEvents();
      assertThat(window.picture().isFocused() || window.space().isFocused()).as("%s", k).isTrue();
    }
  }

  @Test
  void theKeysOfAStopAreShownAndGoAway(FxRobot robot) {
    robot.clickOn("Keys");
    assertThat(robot.lookup("#keys-card").query().isVisible()).isTrue();
    robot.type(KeyCode.A);
    assertThat(robot.lookup("#keys-card").query().isVisible()).isFalse();
  }

  @Test
  void theLadderScrubsAndInAndOutBoundThePlayback(FxRobot robot) throws Exception {
    onWindow(() -> session.playhead().goTo(1020));
    robot.type(KeyCode.OPEN_BRACKET);
    onWindow(() -> session.playhead().goTo(1030));
    robot.type(KeyCode.CLOSE_BRACKET);
    assertThat(session.playhead().inOut().get().toString()).isEqualTo("1020-1030");
    robot.type(KeyCode.SPACE);
    Thread.sleep(1200);
    robot.type(KeyCode.SPACE);
    assertThat(frame()).isBetween(1020, 1030);
    TextField field = robot.lookup("#frame").queryAs(TextField.class);
    robot.clickOn(field).push(KeyCode.CONTROL, KeyCode.A).write("1077").type(KeyCode.ENTER);
    assertThat(frame()).isEqualTo(1077);
  }

  @Test
  void vetMeasuresAgainstAMovableLimit(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT3);
    assertThat(session.stop().get()).isEqualTo("vet");
    await(() -> robot.lookup("12 of 113").tryQuery().isPresent());
    onWindow(() -> session.view().errorLimitPx().set(5));
    assertThat(robot.lookup("12 of 113").tryQuery()).isEmpty();
    assertThat(robot.lookup("4 of 113").tryQuery()).isPresent();
    assertThat(robot.lookup("#stop-3").query().getAccessibleText()).contains("px");
  }

  @Test
  void sceneFilesOpenWithoutAProject(FxRobot robot) throws Exception {
    Path solve = Path.of("../demo/meridian/mer_010_terrace/solve/mer_010_terrace_solve.usda");
    onWindow(() -> session.project().open(List.of(solve)));
    await(() -> session.isOpen() && session.project().file().isEmpty());
    assertThat(session.state().get().shot().frames().first()).isZero();
    onWindow(session.project()::save);
    assertThat(message(robot)).contains("no project file");
  }

  /** From nothing to five proven, by the menu and by Ctrl+Enter. */
  @Test
  void anEmptyBoardIsFilledSentAndProven(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    while (session.chosen().get() != null) {
      robot.clickOn("Remove");
      WaitForAsyncUtils.waitForFxEvents();
    }
    assertThat(robot.lookup("#stop-6").query().getAccessibleText()).contains("no deliveries");
    MenuButton add = robot.lookup("Add delivery").query();
    for (String d :
        List.of(
            "anim-yup-cm",
            "engine-zup-left-cm",
            "comp-pixels",
            "previs-yup-foot",
            "engine-yup-left-m")) {
      onWindow(
          () ->
              add.getItems().stream()
                  .filter(m -> m.getText().startsWith(d + " "))
                  .findFirst()
                  .orElseThrow()
                  .fire());
    }
    assertThat(board(robot).getItems()).hasSize(5);
    assertThat(robot.lookup("#delivery-result").queryAs(Label.class).getText())
        .isEqualTo("deliveries/mer_010_terrace_engine-yup-left-m.usda");
    robot.press(KeyCode.CONTROL).type(KeyCode.ENTER).release(KeyCode.CONTROL);
    await(this::allSent);
    assertThat(robot.lookup("#stop-6").query().getAccessibleText()).contains("5 of 5 proven");
    assertThat(dir.resolve("deliveries/mer_010_terrace_previs-yup-foot.usda")).exists();
    // A second row of one recipient has a name of its own.
    onWindow(() -> add.getItems().get(0).fire());
    onWindow(() -> add.getItems().get(0).fire());
    assertThat(session.state().get().deliveries().stream().map(Delivery::name))
        .doesNotHaveDuplicates();
  }

  /** What was sent of a shot that changed is stale, and what changed is said. */
  @Test
  void aDeliveryGoesStaleAndSaysWhatChanged(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    robot.clickOn("#send-all");
    await(this::allSent);
    onWindow(
        () ->
            session
                .store()
                .decide(new VetDecision.Cull(new Culling.ByHand(Set.of("t001", "t002")))));
    await(() -> "stale".equals(cell(board(robot), 0, 4)));
    assertThat(robot.lookup("#stop-6").query().getAccessibleText()).contains("3 stale");
    assertThat(robot.lookup(".sentence").queryAs(Label.class).getText())
        .contains("is stale", session.undoTitle().orElseThrow())
        .contains("Send it again");
    // Taken back, the files are what stands here again.
    onWindow(session::undo);
    await(() -> "holds".equals(cell(board(robot), 0, 4)));
    assertThat(robot.lookup("#stop-6").query().getAccessibleText()).contains("3 of 3 proven");
    // A delivery that was changed is stale by itself.
    ComboBox<String> box = robot.lookup("#delivery-dialect").queryComboBox();
    onWindow(() -> box.setValue("engine-yup-left-m"));
    assertThat(cell(board(robot), 0, 4)).isEqualTo("stale");
    assertThat(cell(board(robot), 1, 4)).isEqualTo("holds");
  }

  @Test
  void namesAndFilePatternsAreTypedAndShownAsTheyWillBe(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT6);
    type(robot, "#delivery-name", "Layout");
    assertThat(session.chosen().get().name()).isEqualTo("Layout");
    type(robot, "#delivery-file", "{recipient}/{shot}_v{version}_{first}-{last}.{ext}");
    Label result = robot.lookup("#delivery-result").queryAs(Label.class);
    assertThat(result.getText()).isEqualTo("deliveries/layout/mer_010_terrace_v001_1001-1096.usda");
    Delivery d = session.chosen().get();
    onWindow(() -> session.sending().send(d));
    await(
        () -> {
          SendState s = session.sending().states().get(d);
          return s != null && s.stage() == SendState.Stage.SENT;
        });
    assertThat(dir.resolve("deliveries/layout/mer_010_terrace_v001_1001-1096.usda")).exists();
    assertThat(result.getText()).contains("_v002_");
    // The format's extension follows, and what is no pattern changes nothing.
    ComboBox<String> format = robot.lookup("#delivery-format").queryComboBox();
    onWindow(() -> format.setValue("FBX text"));
    assertThat(result.getText()).endsWith("_v001_1001-1096.fbx");
    Delivery before = session.chosen().get();
    type(robot, "#delivery-file", "{shots}.usd");
    assertThat(message(robot)).contains("{shots} is not known");
    type(robot, "#delivery-file", "../../up.usd");
    assertThat(message(robot)).contains("outside");
    type(robot, "#delivery-name", "Compositing");
    assertThat(message(robot)).contains("already");
    assertThat(session.chosen().get()).isEqualTo(before);
  }

  private static void type(FxRobot robot, String field, String text) throws Exception {
    onWindow(
        () -> {
          TextField f = robot.lookup(field).queryAs(TextField.class);
          f.setText(text);
          f.fireEvent(new ActionEvent());
        });
  }

  @Test
  void theBoardIsSavedAsARecipe(FxRobot robot) throws Exception {
    Path file = dir.resolve("recipe.json");
    onWindow(() -> session.sending().saveRecipe(file));
    await(() -> message(robot).startsWith("Saved the recipe as recipe.json"));
    assertThat(message(robot)).contains("kept: level by hand");
    assertThat(RecipeJson.read(file).deliveries()).hasSize(3);
    assertThat(RecipeJson.read(file).deliveries().get(0).fileName()).isEqualTo("{shot}_anim.{ext}");
  }
}
