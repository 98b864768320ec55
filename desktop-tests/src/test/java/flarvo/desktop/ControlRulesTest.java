package flarvo.desktop;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.theme.ControlRules;
import flarvo.desktop.theme.Theme;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import javafx.css.CssParser;
import javafx.css.Rule;
import javafx.css.Selector;
import javafx.css.Stylesheet;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.ComboBox;
import javafx.scene.control.MenuButton;
import javafx.stage.Window;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;

/** No rule that is left out of the library's stylesheet may apply to anything in the window. */
class ControlRulesTest extends WindowHarness {

  private static List<Selector> selectors(String css) {
    Stylesheet sheet = new CssParser().parse(css);
    List<Selector> out = new ArrayList<>();
    for (Rule r : sheet.getRules()) {
      out.addAll(r.getSelectors());
    }
    return out;
  }

  private static void collect(Node n, Set<Node> to) {
    if (to.add(n) && n instanceof Parent p) {
      p.getChildrenUnmodifiable().forEach(c -> collect(c, to));
    }
  }

  /** Of the window and of everything that lies over it just now. */
  private static void collectAll(Set<Node> to) {
    for (Window w : List.copyOf(Window.getWindows())) {
      if (w.getScene() != null) {
        w.getScene().getRoot().applyCss();
        w.getScene().getRoot().layout();
        collect(w.getScene().getRoot(), to);
      }
    }
  }

  @Test
  void noRuleThatIsLeftOutAppliesToAnything(FxRobot robot) throws Exception {
    Set<Node> nodes = new LinkedHashSet<>();
    onWindow(() -> session.view().tableShown().set(true));
    for (StopModule s : window.stops()) {
      onWindow(
          () -> {
            session.stop().set(s.id());
            collectAll(nodes);
          });
      List<Node> opening = new ArrayList<>(window.root().lookupAll(".combo-box"));
      opening.addAll(window.root().lookupAll(".menu-button"));
      for (Node n : opening) {
        onWindow(
            () -> {
              open(n, true);
              collectAll(nodes);
              open(n, false);
            });
      }
    }
    onWindow(
        () -> {
          window.openKeys();
          collectAll(nodes);
        });
    assertThat(nodes).hasSizeGreaterThan(1_500);
    for (Theme t : Theme.values()) {
      List<Selector> out = selectors(ControlRules.leftOut(t.library()));
      assertThat(out).hasSizeGreaterThan(500);
      for (Node n : nodes) {
        for (Selector s : out) {
          assertThat(s.applies(n)).as("%s to %s", s, n).isFalse();
        }
      }
    }
  }

  private static void open(Node n, boolean on) {
    if (!n.isVisible() || n.isDisabled()) {
      return;
    }
    if (n instanceof ComboBox<?> c) {
      if (on) {
        c.show();
      } else {
        c.hide();
      }
    } else if (n instanceof MenuButton m) {
      if (on) {
        m.show();
      } else {
        m.hide();
      }
    }
  }

  /** Every selector is in one part or the other, in the same order, with the same declarations. */
  @Test
  void nothingIsLostBetweenTheParts() {
    for (Theme t : Theme.values()) {
      List<String> all = selectors(t.library()).stream().map(Selector::toString).toList();
      List<String> kept =
          selectors(ControlRules.kept(t.library())).stream().map(Selector::toString).toList();
      List<String> out =
          selectors(ControlRules.leftOut(t.library())).stream().map(Selector::toString).toList();
      assertThat(kept.size() + out.size()).isEqualTo(all.size());
      assertThat(all).containsSubsequence(kept).containsSubsequence(out);
      assertThat(kept.size()).isLessThan(out.size());
    }
  }

  /** Whoever wants to use one of these has to put its rules back. */
  @Test
  void theWindowHasNoneOfTheControls() {
    noClasses()
        .should()
        .dependOnClassesThat()
        .haveNameMatching(
            "javafx\\.scene\\.(chart\\..*|web\\..*|control\\.(Accordion|Alert|ChoiceBox|ColorPicker"
                + "|DatePicker|Dialog|DialogPane|Hyperlink|MenuBar|Pagination|ProgressIndicator"
                + "|RadioButton|RadioMenuItem|Spinner|SplitMenuButton|Tab|TabPane|TitledPane"
                + "|ToolBar|TreeTableView|TreeView))")
        .check(
            new ClassFileImporter()
                .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
                .importPackages("flarvo.desktop"));
  }
}
