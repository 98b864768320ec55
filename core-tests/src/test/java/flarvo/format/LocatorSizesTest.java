package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.report.Note;
import flarvo.scene.TrackerSet;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Sizes that locators came with, on their trackers. */
class LocatorSizesTest {

  private static TrackerSet set(String name) {
    return TrackerSet.of(name, List.of(name + "1"), new double[] {1, 2, 3});
  }

  @Test
  void severalSizesInASetAreSaidAndNotGuessed() {
    FileScene.Builder b = new FileScene.Builder();
    b.trackers.addAll(List.of(set("one"), set("several"), set("silent")));
    b.locatorSizes.put("one", 0.2);
    b.locatorSizes.put("several", Double.NaN);
    b.notes.add(Note.assumed("", "as before"));
    FileScene sized = b.build().withLocatorSizes();
    assertThat(sized.trackers().get(0).marker()).hasValue(0.2);
    assertThat(sized.trackers().get(1).marker()).isEmpty();
    assertThat(sized.trackers().get(2).marker()).isEmpty();
    assertThat(sized.notes()).hasSize(2);
    assertThat(sized.notes().get(1).toString()).contains("several").contains("differ in size");
  }
}
