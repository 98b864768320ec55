package flarvo.desktop.stop.vet;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import javafx.collections.ListChangeListener;
import javafx.collections.transformation.FilteredList;
import org.junit.jupiter.api.Test;

class WholeListTest {

  @Test
  void replacingIsOneChangeOfAll() {
    WholeList<String> list = new WholeList<>();
    List<String> told = new ArrayList<>();
    list.addListener(
        (ListChangeListener<String>)
            c -> {
              while (c.next()) {
                told.add(c.getRemoved() + " -> " + c.getAddedSubList() + " " + c.wasReplaced());
              }
              c.reset();
              assertThat(c.next()).isTrue();
            });
    list.replace(List.of("a", "b"));
    list.replace(List.of("c"));
    list.replace(List.of());
    list.replace(List.of());
    assertThat(told).containsExactly("[] -> [a, b] false", "[a, b] -> [c] true", "[c] -> [] false");
    assertThat(list).isEmpty();
  }

  /** The toolkit's own followers of a list, which it did not make for this one. */
  @Test
  void listsThatFollowItStayRight() {
    WholeList<String> list = new WholeList<>();
    FilteredList<String> some = new FilteredList<>(list, s -> !s.equals("b"));
    list.replace(List.of("a", "b", "c"));
    assertThat(some).containsExactly("a", "c");
    list.replace(List.of("b", "d"));
    assertThat(some).containsExactly("d");
  }
}
