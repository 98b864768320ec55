package flarvo.receive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.proof.CartShot;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A file that is mapped, and cut by somebody else while it is read. */
class ShrinkingFileTest {

  /** Over the size from which files are mapped. */
  private static final long LARGE = 300L << 20;

  private static final int LEFT = 8192;

  @TempDir private Path dir;

  /** A crate with 20,000 points, and a hole behind it that takes no space on the disk. */
  private Path large() throws IOException {
    Shot cart = CartShot.shot();
    double[] xyz = IntStream.range(0, 60_000).mapToDouble(i -> Math.sin(i * 1.7)).toArray();
    List<String> names = IntStream.range(0, 20_000).mapToObj(i -> "t" + i).toList();
    Shot shot = cart.withTrackers(List.of(TrackerSet.of("points", names, xyz)));
    Path file = dir.resolve("large.usdc");
    Delivery d =
        new Delivery(
            "d",
            Dialects.shipped().get("anim-yup-cm"),
            Formats.byId("usd-crate"),
            Contents.CAMERA_AND_TRACKERS,
            "large.usdc");
    Dispatcher.send(shot, d, file, Progress.NONE);
    resize(file, LARGE);
    return file;
  }

  private static void resize(Path file, long size) {
    try (java.io.RandomAccessFile f = new java.io.RandomAccessFile(file.toFile(), "rw")) {
      f.setLength(size);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @Test
  void isAnErrorOfThatFile() throws IOException {
    Path file = large();
    // As it is, it is read.
    assertThat(ReceivedFile.read(file, Optional.empty(), Progress.NONE).scene().cameras())
        .hasSize(1);
    boolean[] cut = new boolean[1];
    Progress cutting =
        new Progress() {
          @Override
          public void at(long done, long total) {
            if (!cut[0]) {
              cut[0] = true;
              resize(file, LEFT);
            }
          }

          @Override
          public boolean isCancelled() {
            return false;
          }
        };
    assertThatThrownBy(() -> ReceivedFile.read(file, Optional.empty(), cutting))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("large.usdc")
        .hasMessageContaining("it became shorter while it was read");
    assertThat(cut[0]).isTrue();
  }
}
