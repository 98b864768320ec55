package flarvo.plate;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class PlateTableTest {

  private static PlateSequence plates(
      PlateRole role, int first, int last, int w, int h, Integer... missing) {
    return new PlateSequence(
        Path.of("p"),
        role.word() + ".",
        4,
        ".jpg",
        new FrameRange(first, last),
        List.of(missing),
        PictureSize.of(w, h),
        role);
  }

  @Test
  void eachIsMeasuredAgainstTheOriginal() {
    List<PlateTable.Row> rows =
        PlateTable.of(
            List.of(
                plates(PlateRole.UNDISTORTED, 1001, 1096, 2016, 1134),
                plates(PlateRole.ORIGINAL, 1001, 1096, 1920, 1080, 1004, 1009),
                plates(PlateRole.PROXY, 1002, 1096, 960, 540),
                plates(PlateRole.KEYED, 1002, 1097, 1920, 800)));
    assertThat(rows.get(0).relation()).isEqualTo("1.050 × the size");
    assertThat(rows.get(0).notes()).isEmpty();
    assertThat(rows.get(1).relation()).isEmpty();
    assertThat(rows.get(1).notes()).containsExactly("missing 1004, 1009");
    assertThat(rows.get(2).relation()).isEqualTo("1/2 size");
    assertThat(rows.get(2).notes()).containsExactly("starts 1 frame late");
    assertThat(rows.get(3).relation()).isEqualTo("1.000 × 0.741 of the size");
    assertThat(rows.get(3).notes()).containsExactly("numbered 1 frame later");
  }

  @Test
  void manyMissingFramesAreCounted() {
    Integer[] gone = IntStream.rangeClosed(1010, 1030).boxed().toArray(Integer[]::new);
    assertThat(
            PlateTable.of(List.of(plates(PlateRole.ORIGINAL, 1001, 1096, 8, 8, gone)))
                .get(0)
                .notes())
        .containsExactly("21 frames missing, the first 1010");
    assertThat(PlateTable.of(List.of())).isEmpty();
  }
}
