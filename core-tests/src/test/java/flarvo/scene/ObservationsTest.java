package flarvo.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Rows of trackers that live long and short, in any order, built in one or in two parts. */
class ObservationsTest {

  private record Row(String tracker, int frame, double x, double y) {}

  /** Long and short trackers in turns; t0 has the most rows. */
  private static List<Row> rows(Random random) {
    List<Row> rows = new ArrayList<>();
    for (int t = 0; t < 40; t++) {
      int count = t == 0 ? 3000 : t % 2 == 0 ? 1 + random.nextInt(400) : 1;
      for (int k = 0; k < count; k++) {
        rows.add(new Row("t" + t, 1001 + k, random.nextDouble(), random.nextDouble()));
      }
    }
    return rows;
  }

  private static Observations.Builder of(List<Row> rows) {
    Observations.Builder b = new Observations.Builder();
    rows.forEach(r -> b.add(r.tracker, r.frame, r.x, r.y));
    return b;
  }

  private static void assertHolds(Observations built, List<Row> rows) {
    Map<String, Map<Integer, Row>> truth = new TreeMap<>();
    rows.forEach(r -> truth.computeIfAbsent(r.tracker, k -> new TreeMap<>()).put(r.frame, r));
    assertThat(built.names()).containsExactlyInAnyOrderElementsOf(truth.keySet());
    assertThat(built.size()).isEqualTo(rows.size());
    truth.forEach(
        (tracker, byFrame) -> {
          int k = built.firstRow(tracker);
          for (Row r : byFrame.values()) {
            assertThat(new Row(tracker, built.frame(k), built.x(k), built.y(k))).isEqualTo(r);
            k++;
          }
          assertThat(k).isEqualTo(built.endRow(tracker));
        });
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void everyRowIsKept(boolean shuffled) {
    Random random = new Random(3);
    List<Row> rows = rows(random);
    if (shuffled) {
      Collections.shuffle(rows, random);
    }
    assertHolds(of(rows).build(), rows);
    int half = rows.size() / 2;
    Observations.Builder parts = of(rows.subList(0, half)).add(of(rows.subList(half, rows.size())));
    assertHolds(parts.build(), rows);
  }

  @Test
  void aTrackerGivenTwiceAtAFrameIsRefused() {
    Observations.Builder b = of(List.of(new Row("a", 7, 1, 2), new Row("b", 7, 1, 2)));
    assertThatThrownBy(() -> b.add(of(List.of(new Row("a", 7, 3, 4)))).build())
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("'a'")
        .hasMessageContaining("7");
  }
}
