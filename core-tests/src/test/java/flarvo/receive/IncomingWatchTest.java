package flarvo.receive;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.receive.IncomingWatch.Arrival;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class IncomingWatchTest {

  @TempDir private Path dir;

  private Path write(String name, String text) throws IOException {
    Path f = dir.resolve(name);
    Files.createDirectories(f.getParent());
    return Files.writeString(f, text);
  }

  @ParameterizedTest
  @CsvSource({
    "solve_v001.usda, solve_v002.usda",
    "solve_v9.usda, solve_v10.usda",
    "s.V03.fbx, s.V04.fbx",
    "v001/solve.usda, v002/solve.usda",
    "v001/out/solve.usda, v003/out/solve.usda",
    "v001/solve_v001.usda, v002/solve_v002.usda",
    "v1/solve_v001.usda, v2/solve_v002.usda",
    "mer_v001_solve/a.usda, mer_v002_solve/a.usda",
  })
  void newerVersionsAreFoundByName(String old, String newer) throws IOException {
    Path from = write(old, "a");
    Path to = write(newer, "b");
    assertThat(NewerVersion.of(from)).contains(to);
    assertThat(NewerVersion.of(to)).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({
    "solve_v002.usda, solve_v001.usda",
    "solve_v001.usda, solve_v002.fbx",
    "solve_v001.usda, other_v002.usda",
    "solve_v001.usda, solve_v002b.usda",
    "solve.usda, solve2.usda",
    "rev001.usda, rev002.usda",
    "v001/solve.usda, v002/other.usda",
    "v001/solve_v003.usda, v002/solve_v004.usda",
    "solve_v001.usda, solve_v99999999.usda",
  })
  void otherFilesAreNone(String old, String other) throws IOException {
    Path from = write(old, "a");
    write(other, "b");
    assertThat(NewerVersion.of(from)).isEmpty();
  }

  @Test
  void theNewestIsTaken() throws IOException {
    Path from = write("solve_v001.usda", "a");
    write("solve_v002.usda", "b");
    Path last = write("solve_v010.usda", "c");
    Files.createDirectories(dir.resolve("solve_v011.usda")); // a folder is no file
    assertThat(NewerVersion.of(from)).contains(last);
  }

  @Test
  void whatComesIsToldWhenItHasComeToRest() throws IOException {
    Path a = write("a_v001.usda", "one");
    Path b = write("tracks.csv", "two");
    IncomingWatch watch = new IncomingWatch(List.of(a, b));
    assertThat(watch.look()).isEmpty();
    Path newer = write("a_v002.usda", "begin");
    assertThat(watch.look()).isEmpty(); // seen once: it may still grow
    write("a_v002.usda", "begin and end");
    assertThat(watch.look()).isEmpty();
    assertThat(watch.look()).containsExactly(new Arrival(a, newer));
    assertThat(watch.look()).as("until somebody answers").hasSize(1);
    watch.dismiss(watch.look());
    assertThat(watch.look()).isEmpty();

    Files.setLastModifiedTime(b, FileTime.fromMillis(1_000_000));
    watch.look();
    assertThat(watch.look()).containsExactly(new Arrival(b, b));
    assertThat(watch.look().get(0).isNewVersion()).isFalse();
    // A newer one still is told for the file that came, whatever was dismissed.
    Path third = write("a_v003.usda", "third");
    watch.look();
    assertThat(watch.look()).containsExactlyInAnyOrder(new Arrival(b, b), new Arrival(a, third));
  }

  @Test
  void whatIsGoneOrEmptyIsNotOffered() throws IOException {
    Path a = write("a_v001.usda", "one");
    IncomingWatch watch = new IncomingWatch(List.of(a));
    write("a_v002.usda", "");
    watch.look();
    assertThat(watch.look()).isEmpty();
    Files.delete(dir.resolve("a_v002.usda"));
    Files.delete(a);
    watch.look();
    assertThat(watch.look()).isEmpty();
  }
}
