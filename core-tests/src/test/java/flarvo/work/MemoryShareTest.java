package flarvo.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Tasks that share memory. */
class MemoryShareTest {

  private static final long MIB = 1 << 20;

  @Test
  void togetherTheyNeverTakeMoreThanThereIs() {
    MemoryShare share = new MemoryShare(100 * MIB);
    AtomicLong taken = new AtomicLong();
    AtomicLong most = new AtomicLong();
    AtomicInteger done = new AtomicInteger();
    List<Callable<Boolean>> tasks =
        IntStream.range(0, 400)
            .mapToObj(
                i ->
                    (Callable<Boolean>)
                        () -> {
                          long need = (1 + i * 7919L % 98) * MIB;
                          return share.run(
                              need,
                              "a",
                              () -> {
                                most.accumulateAndGet(taken.addAndGet(need), Math::max);
                                Thread.yield();
                                taken.addAndGet(-need);
                                done.incrementAndGet();
                                return true;
                              });
                        })
            .toList();
    Workers.all(8, "share", tasks);
    assertThat(done).hasValue(400);
    assertThat(most.get()).isLessThanOrEqualTo(100 * MIB);
  }

  @Test
  void severalRunAtOnceWhereThereIsEnough() throws Exception {
    MemoryShare share = new MemoryShare(100 * MIB);
    CountDownLatch both = new CountDownLatch(2);
    Callable<Boolean> meets =
        () ->
            share.run(
                49 * MIB,
                "a",
                () -> {
                  both.countDown();
                  return both.await(60, TimeUnit.SECONDS);
                });
    assertThat(Workers.all(2, "share", List.of(meets, meets))).containsExactly(true, true);
  }

  @Test
  void whatNeverFitsIsAnErrorThatSaysHowMuchWould() {
    MemoryShare share = new MemoryShare(60 * MIB);
    assertThatThrownBy(() -> share.run(600 * MIB, "plates/a.1001.exr", () -> true))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("a.1001.exr")
        .hasMessageContaining("takes 601 MB")
        .hasMessageContaining("60 MB are for pictures")
        .hasMessageContaining("-Xmx1002m");
  }

  @Test
  void aTaskThatFailsGivesItsMemoryBack() throws Exception {
    MemoryShare share = new MemoryShare(10 * MIB);
    assertThatThrownBy(
            () ->
                share.run(
                    9 * MIB,
                    "a",
                    () -> {
                      throw new IllegalStateException("broken");
                    }))
        .hasMessage("broken");
    assertThat(share.run(9 * MIB, "a", () -> 7)).isEqualTo(7);
  }

  @Test
  void whoeverWaitsCanBeStopped() throws Exception {
    MemoryShare share = new MemoryShare(10 * MIB);
    Thread.currentThread().interrupt();
    assertThatThrownBy(() -> share.run(MIB, "a", () -> true)).isInstanceOf(Cancelled.class);
    assertThat(Thread.interrupted()).isTrue();
  }
}
