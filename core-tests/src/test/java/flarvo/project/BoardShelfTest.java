package flarvo.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.decision.DecisionLog;
import flarvo.decision.DispatchDecision;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.FirstBoard;
import flarvo.dispatch.Part;
import flarvo.format.Formats;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class BoardShelfTest {

  @TempDir private Path dir;
  private final Dialects dialects = Dialects.shipped();

  private Delivery delivery(String name, String file) {
    return new Delivery(
        name, dialects.get("anim-yup-cm"), Formats.byId("usd-text"), Contents.CAMERA, file);
  }

  @Test
  void boardsAreSavedForAnyShot() {
    BoardShelf shelf = new BoardShelf(dir, dialects);
    assertThat(shelf.list()).isEmpty();
    shelf.save(
        "show", List.of(delivery("a", "sh010_a.usda"), delivery("b", "{shot}.{ext}")), "sh010");
    shelf.save("other", List.of(delivery("c", "c.usda")), "sh010");
    shelf.save("show", List.of(delivery("a", "sh010_a.usda")), "sh010");
    assertThat(new BoardShelf(dir, dialects).list())
        .containsExactly(
            new BoardShelf.Board("show", List.of(delivery("a", "{shot}_a.{ext}"))),
            new BoardShelf.Board("other", List.of(delivery("c", "{shot}_c.{ext}"))));
    shelf.remove("show");
    assertThat(shelf.list()).extracting(BoardShelf.Board::name).containsExactly("other");
    assertThatThrownBy(() -> shelf.save(" ", List.of(delivery("a", "a")), "s"))
        .isInstanceOf(InputError.class);
    assertThatThrownBy(() -> shelf.save("x", List.of(), "s")).isInstanceOf(InputError.class);
  }

  @Test
  void aFileThatCannotBeReadIsNotWrittenOver() throws IOException {
    Path file = Files.writeString(dir.resolve("boards.json"), "{\"schema\": \"flarvo-boards\"}");
    BoardShelf shelf = new BoardShelf(dir, dialects);
    assertThatThrownBy(() -> shelf.save("a", List.of(delivery("a", "a")), "s"))
        .isInstanceOf(InputError.class);
    assertThat(file).hasContent("{\"schema\": \"flarvo-boards\"}");
  }

  @Test
  void theBoardOfAnotherShotIsWhatItsDecisionsLeft() {
    DecisionLog log =
        DecisionLog.of(
            List.of(
                new DispatchDecision.AddBoard(
                    "x", List.of(delivery("a", "a"), delivery("a", "b"), delivery("c", "c"))),
                new DispatchDecision.RemoveDelivery(2, "c"),
                new DispatchDecision.ChangeDeliveries(
                    List.of("a", "a_2"),
                    List.of(delivery("a", "new"), delivery("a_2", "new2")),
                    "format")));
    ProjectShot shot = new ProjectShot("s", List.of(), List.of(), Optional.empty(), log);
    assertThat(shot.deliveries()).containsExactly(delivery("a", "new"), delivery("a_2", "new2"));
  }

  @Test
  void theFirstBoardHasWhatTheShotHas() {
    Shot shot = TestShots.walk(4, 9, 1);
    assertThat(FirstBoard.of(shot, dialects))
        .hasSizeGreaterThan(3)
        .allSatisfy(
            d -> assertThat(d.contents().parts()).containsExactly(Part.CAMERA, Part.TRACKERS))
        .extracting(Delivery::name)
        .doesNotHaveDuplicates();
    assertThat(FirstBoard.of(shot.withTrackers(List.of()), dialects))
        .allSatisfy(d -> assertThat(d.contents()).isEqualTo(Contents.CAMERA));
    assertThat(FirstBoard.of(Shot.EMPTY, dialects)).isEmpty();
  }
}
