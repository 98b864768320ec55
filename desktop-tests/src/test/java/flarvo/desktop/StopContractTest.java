package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.desktop.action.Action;
import flarvo.desktop.action.Keys;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.window.MainWindow;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Labeled;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** What every stop owes the window, whichever it is. */
class StopContractTest extends WindowHarness {

  private List<StopModule> stops;

  @BeforeEach
  void stops() {
    stops = window.stops();
  }

  @Test
  void idsAreUnique() {
    Set<String> seen = new HashSet<>();
    for (StopModule s : stops) {
      assertThat(seen.add(s.id())).as(s.id()).isTrue();
    }
    seen.clear();
    for (StopModule s : stops) {
      for (Action a : s.actions()) {
        assertThat(seen.add(a.id())).as(a.id()).isTrue();
        assertThat(a.title()).isNotBlank().doesNotEndWith(".");
      }
    }
  }

  /** A stop's own key may stand in for the window's; two of the same reach may not meet. */
  @Test
  void keysAreUnique() {
    Set<Keys> everywhere = new HashSet<>();
    for (StopModule s : stops) {
      Set<Keys> here = new HashSet<>();
      for (Action a : s.actions()) {
        a.keys()
            .ifPresent(
                k ->
                    assertThat((k.shortcut() ? everywhere : here).add(k))
                        .as(a.id() + " " + k.words())
                        .isTrue());
      }
    }
  }

  @Test
  void everyKeyStandsOnTheCard(FxRobot robot) throws Exception {
    for (StopModule s : stops) {
      onWindow(
          () -> {
            session.stop().set(s.id());
            window.openKeys();
          });
      Set<String> words = words(window.root());
      assertThat(words).contains("Keys everywhere");
      Node card = ((Parent) window.root().lookup("#keys-card")).getChildrenUnmodifiable().get(0);
      assertThat(card.prefHeight(-1)).as(s.id()).isLessThanOrEqualTo(FlarvoApp.MIN_HEIGHT);
      assertThat(card.prefWidth(-1)).as(s.id()).isLessThanOrEqualTo(FlarvoApp.MIN_WIDTH);
      for (Action a : s.actions()) {
        a.keys().ifPresent(k -> assertThat(words).contains(k.words(), a.title()));
      }
      s.gestures().forEach(g -> assertThat(words).contains(g.how(), g.what()));
      robot.type(KeyCode.A);
    }
  }

  @Test
  void everyActionIsFoundByItsNameAndByItsOtherNames(FxRobot robot) throws Exception {
    onWindow(window::openFinder);
    TextField text = robot.lookup("#find-text").queryAs(TextField.class);
    ListView<Action> list = robot.lookup(".overlay .list-view").queryListView();
    for (StopModule s : stops) {
      for (Action a : s.actions()) {
        List<String> names = new ArrayList<>(a.alsoCalled());
        names.add(a.title());
        for (String n : names) {
          onWindow(() -> text.setText(n));
          assertThat(list.getItems()).extracting(Action::id).as(n).contains(a.id());
        }
      }
    }
    onWindow(() -> text.setText("no such thing at all"));
    assertThat(list.getItems()).isEmpty();
    assertThat(words(window.root())).contains("Nothing found for 'no such thing at all'");
  }

  @Test
  void anEmptyShotSpeaksAndNothingFails() throws Exception {
    onWindow(
        () -> {
          Session empty = new Session();
          MainWindow w = new MainWindow(empty, Stops.all(empty), java.util.Optional.empty());
          for (StopModule s : w.stops()) {
            empty.stop().set(s.id());
            assertThat(s.fact().text()).isNotBlank();
            assertThat(s.fact().bad()).as(s.id()).isFalse();
            assertThat(words((Parent) s.view().desk())).as(s.id()).anyMatch(t -> t.length() > 30);
            assertThat(s.escape()).isFalse();
            for (Action a : s.actions()) {
              empty.message().set("");
              if (!a.can().get().isYes()) {
                a.run(empty.message()::set);
                assertThat(empty.message().get()).as(a.id()).isNotBlank();
              }
            }
          }
          empty.close();
        });
  }

  /** At the usual size a desk takes the height from the line to the status line. */
  @Test
  void deskAndPictureFitTheUsualWindow() throws Exception {
    for (StopModule s : stops) {
      onWindow(() -> session.stop().set(s.id()));
      onWindow(() -> {});
      Node desk = s.view().desk();
      double width = desk.getBoundsInParent().getWidth();
      assertThat(width).as(s.id()).isBetween(280.0, 330.0);
      assertThat(desk.minWidth(-1)).as(s.id()).isLessThanOrEqualTo(330);
      double scroll = window.root().lookup(".desk-scroll").getBoundsInParent().getHeight();
      assertThat(scroll).as(s.id()).isGreaterThan(680);
      assertThat(window.root().minWidth(-1)).as(s.id()).isLessThanOrEqualTo(FlarvoApp.MIN_WIDTH);
      assertThat(window.root().minHeight(-1)).as(s.id()).isLessThanOrEqualTo(FlarvoApp.MIN_HEIGHT);
    }
  }

  private static Set<String> words(Parent p) {
    Set<String> all = new HashSet<>();
    for (Node n : p.lookupAll(".label")) {
      if (n instanceof Labeled l && l.getText() != null) {
        all.add(l.getText());
      }
    }
    return all;
  }
}
