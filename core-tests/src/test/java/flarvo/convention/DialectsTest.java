package flarvo.convention;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DialectsTest {

  private final Dialects dialects = Dialects.shipped();

  @Test
  void aboutADozenShipAndCoverTheCommonCombinations() {
    assertThat(dialects.all()).hasSizeBetween(12, 16);
    assertThat(dialects.all()).extracting(Dialect::name).doesNotHaveDuplicates();
    assertThat(dialects.all()).anyMatch(d -> d.handedness() == Handedness.LEFT);
    assertThat(dialects.all()).anyMatch(d -> d.pixels().isPresent());
    assertThat(dialects.all()).anyMatch(d -> d.angles() == AngleUnit.RADIANS);
    assertThat(dialects.all()).anyMatch(d -> d.film().policy() == BackPolicy.ALWAYS_ASSUMED);
    assertThat(dialects.get("engine-zup-left-cm").handedness()).isEqualTo(Handedness.LEFT);
    assertThat(dialects.get("comp-pixels").world().handedness()).isEqualTo(Handedness.RIGHT);
  }

  @Test
  void everyOneComesBackFromItsJson() {
    for (Dialect d : dialects.all()) {
      assertThat(DialectJson.read(DialectJson.write(d).toString(), "test")).isEqualTo(d);
    }
  }

  @Test
  void anUnknownOneIsAnErrorThatListsTheKnown() {
    assertThatThrownBy(() -> dialects.get("martian"))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("martian")
        .hasMessageContaining("anim-yup-cm");
  }

  @Test
  void aStudioAddsItsOwnAsAFile(@TempDir Path dir) throws Exception {
    Path f = dir.resolve("ours.json");
    Files.writeString(
        f,
        "{\"name\":\"ours\",\"world\":{\"right\":\"-X\",\"up\":\"+Z\",\"away\":\"-Y\"},"
            + "\"unit\":\"0.05\",\"frames\":{\"first\":101}}");
    Dialect d = dialects.get(f.toString());
    assertThat(d.world().up()).isEqualTo(SignedAxis.POSITIVE_Z);
    assertThat(d.unit().metresPerUnit()).isEqualTo(0.05);
    assertThat(d.frames().firstFrame()).hasValue(101);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{\"name\":\"x\",\"world\":{\"up\":\"+X\"}}|world",
        "{\"name\":\"x\",\"unit\":\"-1\"}|unit",
        "{\"name\":\"x\",\"unit\":\"0\"}|unit",
        "{\"name\":\"x\",\"frames\":{\"rate\":\"0/0\"}}|frames.rate",
        "{\"name\":\"x\",\"frames\":{\"first\":1.5}}|first",
        "{\"name\":\"x\",\"film\":{\"fit\":\"squash\"}}|fit",
        "{\"name\":\"x\",\"film\":{\"assumedBackMm\":[36]}}|assumedBackMm",
        "{\"name\":\"x\",\"rotation\":{\"order\":\"XXY\"}}|order",
        "{\"name\":\"x\",\"pixelSpace\":{}}|pixelSpace",
        "{\"name\":|line 1",
        "[]|a dialect is a JSON object",
        "{}|name",
      })
  void badOnesAreRefusedWithTheirPlace(String json, String place) {
    assertThatThrownBy(() -> DialectJson.read(json, "bad.json"))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("bad.json")
        .hasMessageContaining(place);
  }
}
