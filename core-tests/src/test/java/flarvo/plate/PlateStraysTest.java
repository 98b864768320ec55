package flarvo.plate;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.PlateSequence;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Folders in which something lies that does not belong. */
class PlateStraysTest {

  @TempDir Path dir;

  private void picture(String name, int width) {
    RasterWriter.write(
        Raster.empty(width, 4, List.of("R", "G", "B"), SampleKind.BYTE), dir.resolve(name));
  }

  private List<String> notes() {
    List<PlateSequence> all = PlateFinder.find(dir);
    return PlateStrays.of(all, Progress.NONE).get(all.get(0));
  }

  private void frames(int first, int last) {
    for (int f = first; f <= last; f++) {
      picture("a." + f + ".png", 6);
    }
  }

  @Test
  void whereAllBelongsNothingIsSaid() {
    frames(1001, 1012);
    picture("a.1020.png", 6); // a gap that a sequence may have
    assertThat(notes()).isEmpty();
  }

  @Test
  void framesFarFromTheOthersAreNamed() {
    frames(1001, 1012);
    picture("a.9999.png", 6);
    assertThat(notes())
        .containsExactly("frame 9999 is far from the others, with 8986 missing between: a stray?");
    picture("a.0001.png", 6);
    assertThat(notes())
        .hasSize(2)
        .first()
        .isEqualTo("frame 1 is far from the others, with 999 missing between: a stray?");
  }

  @Test
  void picturesOfAnotherSizeOrThatCannotBeReadAreNamed() throws Exception {
    frames(1001, 1012);
    picture("a.1003.png", 5);
    for (int f = 1005; f < 1012; f++) {
      picture("a." + f + ".png", 3);
    }
    Files.write(dir.resolve("a.1012.png"), new byte[0]);
    assertThat(notes())
        .containsExactly(
            "frame 1012 cannot be read", "7 frames, the first 1005, are 3x4", "frame 1003 is 5x4");
  }

  @Test
  void picturesOfNoSequenceAreNamed() throws Exception {
    frames(1001, 1004);
    picture("slate.png", 6);
    Files.writeString(dir.resolve("notes.txt"), "no picture");
    assertThat(notes())
        .containsExactly("1 picture in the folder belongs to no sequence: slate.png");
    picture("a.1002 copy.png", 6);
    assertThat(notes())
        .containsExactly(
            "2 pictures in the folder belong to no sequence: a.1002 copy.png, slate.png");
  }
}
