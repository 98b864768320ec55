package flarvo.desktop.view;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.plate.PlateFinder;
import flarvo.scene.PlateSequence;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

class PlateCacheTest {

  /** A window that closes may still be drawn once; frames it asks for then are not decoded. */
  @Test
  void afterClosingNothingIsDecoded() {
    PlateSequence plates =
        PlateFinder.find(Path.of("../demo/meridian/mer_010_terrace/plates/original")).get(0);
    PlateCache cache = new PlateCache(() -> {});
    cache.close();
    assertThat(cache.get(plates, plates.frames().first())).isNull();
    assertThat(cache.hasFailed(plates, plates.frames().first())).isFalse();
    assertThat(cache.loaded(plates)).isZero();
  }
}
