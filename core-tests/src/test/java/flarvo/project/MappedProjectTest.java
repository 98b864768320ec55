package flarvo.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.convention.Dialects;
import flarvo.decision.DecisionHistory;
import flarvo.decision.DecisionLog;
import flarvo.format.table.ColumnRole;
import flarvo.format.table.PixelReading;
import flarvo.format.table.TableColumn;
import flarvo.format.table.TableGuess;
import flarvo.format.table.TableMapping;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A table without a header comes in, is mapped, saved, and understood the next time. */
class MappedProjectTest {

  private static final String CAMERA =
      "# picture: 1920x1080\nframe,tx,ty,tz,rx,ry,rz,focal_mm,film_width_mm,film_height_mm\n"
          + "1,0,1,5,0,0,0,30,24,13.5\n2,0.1,1,5,0,0,0,30,24,13.5\n";
  private static final String TRACKS = "a 1 0.5 0.25\na 2 0.51 0.25\nb 1 0.1 0.9\nb 2 0.1 0.9\n";

  @TempDir private Path dir;

  @BeforeEach
  void files() throws IOException {
    Files.writeString(dir.resolve("camera.csv"), CAMERA);
    Files.writeString(dir.resolve("tracks.txt"), TRACKS);
  }

  private ReceivedSet intake(MappingShelf shelf) {
    return new ShotIntake(shelf::suggest)
        .add(dir.resolve("camera.csv"), IntakeOptions.NONE, Progress.NONE)
        .add(dir.resolve("tracks.txt"), IntakeOptions.NONE, Progress.NONE)
        .received(IntakeOptions.NONE);
  }

  @Test
  void aSavedMappingIsSuggestedForTheNextTableOfItsKind() throws IOException {
    MappingShelf shelf = new MappingShelf(dir.resolve("home"));
    ReceivedSet guessed = intake(shelf);
    assertThat(guessed.unmapped()).isEmpty();
    assertThat(guessed.notes().toString()).contains("by the look of the columns");
    var o = guessed.shot("s", Rulings.NONE).observations();
    assertThat(o.y(o.firstRow("a"))).isEqualTo(0.25 * 1080);
    // y grows upwards, as only somebody who knows the sender can tell.
    TableMapping m = guessed.files().get(1).mapping().orElseThrow().withName("their tracks");
    m = m.withPixels(m.pixels().withOrigin(PixelReading.Origin.BOTTOM_LEFT).withUp(true));
    shelf.save(m, TRACKS);
    assertThat(new MappingShelf(dir.resolve("home")).list()).containsExactly(m);
    ReceivedSet next = intake(new MappingShelf(dir.resolve("home")));
    assertThat(next.notes().toString()).contains("saved mapping 'their tracks'");
    var again = next.shot("s", Rulings.NONE).observations();
    assertThat(again.y(again.firstRow("a"))).isEqualTo(0.75 * 1080);
    assertThat(shelf.suggest("x;y;z\n1;2;3\n")).isEmpty();
    shelf.remove("their tracks");
    assertThat(shelf.list()).isEmpty();
    TableMapping nameless = m.withName(" ");
    assertThatThrownBy(() -> shelf.save(nameless, TRACKS)).isInstanceOf(InputError.class);
    Files.writeString(dir.resolve("home/mappings.json"), "[{\"mapping\": 3");
    assertThat(shelf.list()).isEmpty();
  }

  @Test
  void theMappingLivesInTheProject() {
    ReceivedSet set = intake(new MappingShelf(dir.resolve("home")));
    TableMapping m =
        TableGuess.of(TRACKS)
            .withPicture(Optional.of(PictureSize.of(1920, 1080)))
            .withColumn(2, new TableColumn(ColumnRole.PIXEL_X, true));
    ReceivedSet other =
        set.with(ReceivedFile.read(dir.resolve("tracks.txt"), m, Optional.empty(), Progress.NONE));
    assertThat(other.files()).hasSize(2);
    Path file = dir.resolve("project.json");
    new ProjectFile(file, "p", List.of(ProjectLoader.entryOf(file, "s", other))).save();
    ProjectFile read = ProjectFile.read(file);
    assertThat(read.shots().get(0).mappings()).containsEntry("tracks.txt", m);
    DecisionHistory s =
        new ProjectLoader(read, Dialects.shipped()).open(read.shots().get(0), Progress.NONE);
    var o = s.present().shot().observations();
    assertThat(o.x(o.firstRow("a"))).isEqualTo(-0.5 * 1920);
    ProjectShot stored =
        new ProjectLoader(read, Dialects.shipped()).store(read.shots().get(0), s, List.of());
    assertThat(stored.withLog(DecisionLog.EMPTY)).isEqualTo(read.shots().get(0));
    assertThat(stored.withPaths(dir, p -> "x/" + p).mappings()).containsKey("x/tracks.txt");
  }

  @Test
  void aTableThatNobodyUnderstandsWaits() throws IOException {
    Files.writeString(dir.resolve("tracks.txt"), "1.5 2.5\n3.5 4.5\n");
    ReceivedSet set = intake(new MappingShelf(dir.resolve("home")));
    assertThat(set.unmapped()).containsExactly(dir.resolve("tracks.txt"));
    assertThat(set.notes().toString()).contains("assign its columns");
    assertThat(set.shot("s", Rulings.NONE).observations().isEmpty()).isTrue();
    Path file = dir.resolve("project.json");
    assertThat(ProjectLoader.entryOf(file, "s", set).files()).contains("tracks.txt");
  }
}
