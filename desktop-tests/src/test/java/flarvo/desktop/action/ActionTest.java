package flarvo.desktop.action;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import org.junit.jupiter.api.Test;

class ActionTest {

  private static KeyEvent pressed(KeyCode code, boolean shift, boolean ctrl, boolean alt) {
    return new KeyEvent(KeyEvent.KEY_PRESSED, "", "", code, shift, ctrl, alt, false);
  }

  @Test
  void aKeyMatchesWithExactlyWhatIsHeldDown() {
    Keys undo = Keys.ctrl(KeyCode.Z);
    assertThat(undo.matches(pressed(KeyCode.Z, false, true, false))).isTrue();
    assertThat(undo.matches(pressed(KeyCode.Z, true, true, false))).isFalse();
    assertThat(undo.matches(pressed(KeyCode.Z, false, false, false))).isFalse();
    assertThat(undo.matches(pressed(KeyCode.Z, false, true, true))).isFalse();
    assertThat(Keys.ctrlShift(KeyCode.Z).matches(pressed(KeyCode.Z, true, true, false))).isTrue();
  }

  @Test
  void theNumberPadAndBackspaceCountAsTheUsualKeys() {
    assertThat(Keys.of(KeyCode.DIGIT3).matches(pressed(KeyCode.NUMPAD3, false, false, false)))
        .isTrue();
    assertThat(Keys.of(KeyCode.DELETE).matches(pressed(KeyCode.BACK_SPACE, false, false, false)))
        .isTrue();
  }

  @Test
  void keysReadAsPeopleWriteThem() {
    assertThat(Keys.ctrlShift(KeyCode.S).words()).isEqualTo("Ctrl+Shift+S");
    assertThat(Keys.shift(KeyCode.LEFT).words()).isEqualTo("Shift+←");
    assertThat(Keys.of(KeyCode.OPEN_BRACKET).words()).isEqualTo("[");
    assertThat(Keys.of(KeyCode.DIGIT2).words()).isEqualTo("2");
  }

  @Test
  void whatCannotBeDoneSaysWhyAndDoesNothing() {
    List<String> said = new ArrayList<>();
    List<String> done = new ArrayList<>();
    boolean[] open = new boolean[1];
    Action a =
        Action.of("save", "Save the project", () -> done.add("saved"))
            .called("store", "Write")
            .on(Keys.ctrl(KeyCode.S))
            .when(() -> Can.when(open[0], "No shot open"));
    a.run(said::add);
    assertThat(said).containsExactly("No shot open");
    assertThat(done).isEmpty();
    open[0] = true;
    a.run(said::add);
    assertThat(done).containsExactly("saved");
    assertThat(a.text()).isEqualTo("save the project store write");
  }
}
