package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.convention.Dialect;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.work.Progress;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Small files that stand for more than memory holds are refused before they fill it. */
class TooManyTest {

  private static final ReadLimits FEW =
      new ReadLimits(1 << 20, 64, 1000, 100_000, 1000, 10, Reach.BESIDE, false);

  @TempDir private Path dir;

  /** 400 nodes show one mesh of 300 points, of which the file has no number: all are 0. */
  @Test
  void aMeshShownByManyNodesCountsForEach() throws IOException {
    Path file = dir.resolve("a.gltf");
    String nodes =
        IntStream.range(0, 400).mapToObj(i -> "{\"mesh\":0}").collect(Collectors.joining(","));
    String numbers = IntStream.range(0, 400).mapToObj(i -> "" + i).collect(Collectors.joining(","));
    Files.writeString(
        file,
        "{\"asset\":{\"version\":\"2.0\"},\"scene\":0,\"scenes\":[{\"nodes\":["
            + numbers
            + "]}],\"nodes\":["
            + nodes
            + "],\"meshes\":[{\"primitives\":[{\"attributes\":{\"POSITION\":0},\"mode\":0}]}],"
            + "\"accessors\":[{\"componentType\":5126,\"count\":300,\"type\":\"VEC3\"}]}");
    assertThatThrownBy(() -> read(file))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(file.toString())
        .hasMessageContaining("more than 1000 points");
  }

  @Test
  void pointsOfALayerAreCounted() throws IOException {
    Path file = dir.resolve("a.usda");
    String points =
        IntStream.range(0, 1001)
            .mapToObj(i -> "(0, 0, " + i + ")")
            .collect(Collectors.joining(","));
    Files.writeString(
        file, "#usda 1.0\ndef Points \"p\"\n{\n    point3f[] points = [" + points + "]\n}\n");
    assertThatThrownBy(() -> read(file))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("more than 1000 points");
  }

  private static FileScene read(Path file) {
    return Formats.recognise(file).read(file, Dialect.CANONICAL, FEW, Progress.NONE);
  }

  @Test
  void aTableWithANameInEveryRowIsRefused() throws IOException {
    Path ours = rows("tracker,frame,x,y", ',');
    assertThatThrownBy(() -> ShotIntake.of(List.of(ours), Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("more than 1000000 trackers");

    Path foreign = rows("name;frame;x;y", ';');
    assertThat(ShotIntake.of(List.of(foreign), Progress.NONE).received(IntakeOptions.NONE).notes())
        .anyMatch(n -> n.text().contains("more than 1000000 trackers"));
  }

  private Path rows(String head, char between) throws IOException {
    Path file = dir.resolve("rows.csv");
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      out.write(head + "\n");
      for (int i = 0; i <= Observations.MOST_TRACKERS; i++) {
        out.write("t" + i + between + "1" + between + "2" + between + "3\n");
      }
    }
    return file;
  }
}
