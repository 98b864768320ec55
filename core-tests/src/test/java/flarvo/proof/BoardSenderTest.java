package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Outgoing;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Several deliveries at once: what became of each, whole files only, and one way on. */
class BoardSenderTest {

  private static final List<String> FORMATS =
      List.of("usd-text", "fbx-binary", "alembic", "gltf-binary", "table", "usd-crate");

  @TempDir private Path dir;

  private final Outgoing from = Outgoing.of(TestShots.walk(20, 60, 3));

  private BoardSender.Order order(String format, Path folder) {
    SceneFormat f = Formats.byId(format);
    Delivery d =
        new Delivery(
            format,
            Dialects.shipped().get("anim-yup-cm"),
            f,
            Contents.CAMERA_AND_TRACKERS,
            format + f.extensions().get(0));
    return new BoardSender.Order(d, folder.resolve(d.fileName()));
  }

  private List<BoardSender.Outcome> send(List<BoardSender.Order> orders, Progress progress) {
    return BoardSender.send(from, orders, 0.01, List.of(), progress);
  }

  @Test
  void theyAreTheBytesOfDeliveriesSentOneByOneInTheOrderAsked() throws IOException {
    List<BoardSender.Order> orders = FORMATS.stream().map(f -> order(f, dir)).toList();

    List<BoardSender.Outcome> all = send(orders, Progress.NONE);

    for (int i = 0; i < orders.size(); i++) {
      Delivery d = orders.get(i).delivery();
      Path alone = dir.resolve("alone-" + d.fileName());
      Handover one = Handover.send(from, d, alone, 0.01, List.of(), Progress.NONE);
      Handover among = all.get(i).handover().orElseThrow();
      assertThat(among.proof().holds()).as(d.name()).isTrue();
      assertThat(among.proof().drift().orElseThrow().maxPx())
          .isEqualTo(one.proof().drift().orElseThrow().maxPx());
      assertThat(orders.get(i).file()).hasSameBinaryContentAs(alone);
    }
  }

  @Test
  void oneThatCannotBeWrittenHoldsNobodyUp() throws IOException {
    Path inTheWay = Files.writeString(dir.resolve("folder"), "a file");
    List<BoardSender.Order> orders =
        List.of(
            order("usd-text", dir.resolve("new/one")),
            order("table", inTheWay.resolve("x")),
            order("alembic", dir));

    List<BoardSender.Outcome> all = send(orders, Progress.NONE);

    assertThat(all).extracting(o -> o.handover().isPresent()).containsExactly(true, false, true);
    assertThat(all.get(1).why()).startsWith("its folder cannot be made: ");
    assertThat(all.get(0).why()).isEmpty();
  }

  @Test
  void theWholeOnlyGoesOnAndEndsWhole() {
    List<Long> told = Collections.synchronizedList(new ArrayList<>());
    long[] total = new long[1];
    Progress watch =
        new Progress() {
          @Override
          public void at(long done, long of) {
            synchronized (told) {
              told.add(done);
              total[0] = of;
            }
          }

          @Override
          public boolean isCancelled() {
            return false;
          }
        };

    send(List.of(order("usd-text", dir)), watch);

    assertThat(told).isSorted().contains(total[0]);
    assertThat(total[0]).isPositive();
  }

  @Test
  void whenItIsCancelledNothingHalfWrittenRemains() throws IOException {
    List<BoardSender.Order> orders = FORMATS.stream().map(f -> order(f, dir)).toList();
    int[] asked = new int[1];
    Progress ends =
        new Progress() {
          @Override
          public void at(long done, long total) {}

          @Override
          public synchronized boolean isCancelled() {
            return ++asked[0] > 12;
          }
        };

    assertThatThrownBy(() -> send(orders, ends)).isInstanceOf(Cancelled.class);

    List<String> names = orders.stream().map(o -> o.delivery().fileName()).toList();
    try (Stream<Path> left = Files.list(dir)) {
      assertThat(left.map(p -> p.getFileName().toString())).isSubsetOf(companions(names));
    }
    try (Stream<Path> left = Files.list(dir)) {
      assertThat(left.count()).isLessThan(names.size());
    }
  }

  private static List<String> companions(List<String> names) {
    List<String> all = new ArrayList<>(names);
    names.forEach(n -> all.add(n.replace(".csv", ".trackers.csv")));
    return all;
  }
}
