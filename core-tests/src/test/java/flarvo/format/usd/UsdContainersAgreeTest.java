package flarvo.format.usd;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.FileCamera;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The same scene as text, crate and package is the same scene to the last bit. */
class UsdContainersAgreeTest {

  private static final SceneFormat[] ALL = {
    new UsdTextFormat(), new UsdCrateFormat(), new UsdPackageFormat()
  };

  @TempDir private Path dir;

  private FileScene through(SceneFormat f, Shot shot, Dialect d) {
    Path file = dir.resolve("s" + f.extensions().get(0));
    Dispatcher.send(
        shot, new Delivery("s", d, f, Contents.CAMERA_AND_TRACKERS, "s"), file, Progress.NONE);
    return f.read(file, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }

  private void same(Shot shot, Dialect d) {
    FileScene text = through(ALL[0], shot, d);
    for (int i = 1; i < ALL.length; i++) {
      FileScene other = through(ALL[i], shot, d);
      assertThat(other.trackers()).isEqualTo(text.trackers());
      assertThat(other.rate()).isEqualTo(text.rate());
      assertThat(other.range()).isEqualTo(text.range());
      assertThat(other.unit()).isEqualTo(text.unit());
      assertThat(other.up()).isEqualTo(text.up());
      assertThat(other.picture()).isEqualTo(text.picture());
      FileCamera a = text.cameras().get(0);
      FileCamera b = other.cameras().get(0);
      assertThat(b.keys()).isEqualTo(a.keys());
      for (int f = a.camera().frames().first(); f <= a.camera().frames().last(); f++) {
        assertThat(b.camera().poses().at(f)).isEqualTo(a.camera().poses().at(f));
        assertThat(b.camera().optics().at(f)).isEqualTo(a.camera().optics().at(f));
      }
    }
  }

  @Test
  void walksAndZoomsInEveryDialect() {
    for (Dialect d : Dialects.shipped().all()) {
      same(TestShots.walk(12, 30, 6), d);
      same(TestShots.zoom(9, 4, 2), d);
    }
  }

  @Test
  void aCrateIsSmallerThanItsText() throws java.io.IOException {
    Shot shot = TestShots.walk(200, 400, 6);
    Dialect d = Dialects.shipped().get("comp-yup");
    through(ALL[0], shot, d);
    through(ALL[1], shot, d);
    assertThat(java.nio.file.Files.size(dir.resolve("s.usdc")))
        .isLessThan(java.nio.file.Files.size(dir.resolve("s.usda")) / 2);
  }
}
