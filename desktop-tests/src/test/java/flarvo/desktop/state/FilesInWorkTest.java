package flarvo.desktop.state;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import java.nio.file.Path;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

/** One file, one writer. */
class FilesInWorkTest {

  private static final Path FILE = Path.of("deliveries/a.usda");

  @Test
  void aFileIsTakenOnceUntilItIsReleased() {
    FilesInWork w = new FilesInWork();
    w.claim(FILE);
    assertThatThrownBy(() -> w.claim(FILE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("another delivery is being written to a.usda")
        .hasMessageContaining("{recipient}");
    w.claim(Path.of("deliveries/b.usda"));
    w.release(FILE);
    w.claim(FILE);
  }

  @Test
  void ofManyWhoWantItAtOnceOneGetsIt() throws Exception {
    FilesInWork w = new FilesInWork();
    AtomicInteger got = new AtomicInteger();
    CountDownLatch go = new CountDownLatch(1);
    Thread[] all = new Thread[8];
    for (int i = 0; i < all.length; i++) {
      all[i] =
          new Thread(
              () -> {
                try {
                  go.await();
                  w.claim(FILE);
                  got.incrementAndGet();
                } catch (InputError | InterruptedException e) {
                  // somebody else has it
                }
              });
      all[i].start();
    }
    go.countDown();
    for (Thread t : all) {
      t.join();
    }
    assertThat(got).hasValue(1);
  }
}
