package flarvo.dispatch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.EnumSet;
import java.util.Set;
import org.junit.jupiter.api.Test;

class ContentsTest {

  @Test
  void partsAreASetInAnOrderOfTheirOwn() {
    assertThat(Contents.of(Part.GEOMETRY, Part.CAMERA))
        .isEqualTo(Contents.of(Part.CAMERA, Part.GEOMETRY));
    assertThat(Contents.of(Part.GEOMETRY, Part.CAMERA).parts())
        .containsExactly(Part.CAMERA, Part.GEOMETRY);
    assertThat(Contents.CAMERA.with(Part.TRACKERS, true)).isEqualTo(Contents.CAMERA_AND_TRACKERS);
    assertThat(Contents.CAMERA_AND_TRACKERS.with(Part.CAMERA, false)).isEqualTo(Contents.TRACKERS);
    assertThat(Contents.CAMERA.with(Part.CAMERA, true)).isEqualTo(Contents.CAMERA);
  }

  @Test
  void theLastPartStays() {
    assertThatThrownBy(() -> Contents.TRACKERS.with(Part.TRACKERS, false))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("at least one part");
    assertThatThrownBy(() -> new Contents(Set.of())).isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void whatWasHandedInMayChangeAfterwards() {
    Set<Part> mine = EnumSet.of(Part.CAMERA);
    Contents c = new Contents(mine);
    mine.add(Part.GEOMETRY);
    assertThat(c).isEqualTo(Contents.CAMERA);
    assertThatThrownBy(() -> c.parts().add(Part.GEOMETRY))
        .isInstanceOf(UnsupportedOperationException.class);
  }
}
