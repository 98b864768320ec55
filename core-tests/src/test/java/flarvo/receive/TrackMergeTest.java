package flarvo.receive;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.report.Note;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Several files of 2D tracks: nothing is left out without a word. */
class TrackMergeTest {

  private static final IntakeOptions SIZED =
      IntakeOptions.NONE.withSize(PictureSize.of(1920, 1080));

  @TempDir private Path dir;

  private Path file(String name, String text) throws IOException {
    return Files.writeString(dir.resolve(name), text);
  }

  private ReceivedSet received(Path... tracks) throws IOException {
    ShotIntake in = new ShotIntake();
    in.add(
        file(
            "camera.csv",
            "frame,tx,ty,tz,rx,ry,rz,focal_mm,film_width_mm,film_height_mm\n"
                + "1,0,0,0,0,0,0,24,24,13.5\n2,1,0,0,0,0,0,24,24,13.5\n"),
        SIZED,
        Progress.NONE);
    for (Path t : tracks) {
      in.add(t, SIZED, Progress.NONE);
    }
    return in.received(SIZED);
  }

  @Test
  void tracksOfDifferentTrackersAreUnited() throws IOException {
    ReceivedSet set =
        received(
            file("a.csv", "tracker,frame,x,y\nt1,1,10,20\nt1,2,11,21\n"),
            file("b.csv", "tracker,frame,x,y\nt2,1,30,40\n"));
    Shot s = set.shot("s", SIZED);
    assertThat(s.observations().names()).containsExactly("t1", "t2");
    assertThat(s.observations().size()).isEqualTo(3);
    assertThat(set.notes()).extracting(Note::toString).anyMatch(n -> n.contains("2 files"));
    assertThat(set.notes()).extracting(Note::toString).noneMatch(n -> n.contains("both"));
  }

  @Test
  void aTrackerOfTwoFilesIsTakenFromTheLastAndThatIsSaid() throws IOException {
    ReceivedSet set =
        received(
            file("a.csv", "tracker,frame,x,y\nt1,1,10,20\nt1,2,11,21\nt3,1,5,6\n"),
            file("b.csv", "tracker,frame,x,y\nt1,1,12,22\nt2,1,30,40\n"));
    Observations o = set.shot("s", SIZED).observations();
    assertThat(o.names()).containsExactlyInAnyOrder("t1", "t2", "t3");
    assertThat(o.x(o.row("t1", 1))).isEqualTo(12);
    assertThat(o.row("t1", 2)).as("not half of one track and half of another").isNegative();
    assertThat(set.notes())
        .extracting(Note::toString)
        .anyMatch(n -> n.contains("1 tracker is in both a.csv and b.csv"));
  }

  @Test
  void oneFileAloneSaysNothing() throws IOException {
    ReceivedSet set = received(file("a.csv", "tracker,frame,x,y\nt1,1,10,20\n"));
    assertThat(set.shot("s", SIZED).observations().size()).isEqualTo(1);
    assertThat(set.notes()).extracting(Note::toString).noneMatch(n -> n.contains("2D tracks"));
  }
}
