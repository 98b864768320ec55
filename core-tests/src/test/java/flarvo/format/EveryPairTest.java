package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.proof.Proof;
import flarvo.proof.ProofReport;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A shot that came in one format goes out in any other, and still holds. */
class EveryPairTest {

  /** What a format with 32-bit floats may cost, twice: once on the way in, once on the way out. */
  private static final double LIMIT_PX = 0.01;

  @TempDir private Path dir;

  private static final List<SceneFormat> FORMATS =
      Formats.all().stream().filter(SceneFormat::writes).toList();

  private Path send(Shot shot, SceneFormat f, Dialect to, String name) {
    Path file = dir.resolve(name + f.extensions().get(0));
    Dispatcher.send(
        shot, new Delivery(name, to, f, Contents.CAMERA_AND_TRACKERS, name), file, Progress.NONE);
    return file;
  }

  @Test
  void anyFormatIntoAnyOther() {
    Shot truth = TestShots.walk(20, 30, 9);
    Dialect sender = Dialects.shipped().get("anim-zup-m");
    Dialect recipient = Dialects.shipped().get("engine-zup-left-cm");
    for (SceneFormat in : FORMATS) {
      Path incoming = send(truth, in, sender, "in-" + in.id());
      IntakeOptions options =
          IntakeOptions.NONE.withFrom(sender).withSize(truth.picture()).withRate(truth.rate());
      Shot received =
          new ShotIntake()
              .add(incoming, options, Progress.NONE)
              .shot("s", options.withPlateFirst(truth.frames().first()));
      assertThat(received.frames()).as(in.id()).isEqualTo(truth.frames());
      for (SceneFormat out : FORMATS) {
        Path delivered = send(received, out, recipient, in.id() + "-" + out.id());
        ProofReport p = Proof.of(truth, delivered, recipient, LIMIT_PX, Progress.NONE);
        assertThat(p.drift().orElseThrow().maxPx())
            .as("%s into %s", in.id(), out.id())
            .isLessThanOrEqualTo(LIMIT_PX);
        assertThat(p.checks())
            .filteredOn(c -> !c.name().equals("filmBack") && !c.name().equals("origin"))
            .as("%s into %s", in.id(), out.id())
            .allMatch(c -> c.holds());
      }
    }
  }

  @Test
  void extensionsAndNamesTellFormatsApart() {
    assertThat(Formats.all()).extracting(SceneFormat::id).doesNotHaveDuplicates();
    assertThat(Formats.all()).extracting(SceneFormat::title).doesNotHaveDuplicates();
    for (SceneFormat f : FORMATS) {
      SceneFormat chosen = Formats.forWriting(Path.of("x" + f.extensions().get(0)));
      assertThat(chosen.extensions()).isEqualTo(f.extensions());
      assertThat(
              Formats.isExtension(
                  Path.of("X" + f.extensions().get(0).toUpperCase(java.util.Locale.ROOT))))
          .isTrue();
    }
  }
}
