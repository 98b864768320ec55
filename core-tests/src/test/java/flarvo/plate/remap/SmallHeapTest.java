package flarvo.plate.remap;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.lens.Direction;
import flarvo.lens.Lens;
import flarvo.lens.LensTrack;
import flarvo.lens.RadialPolynomial;
import flarvo.plate.PlateFinder;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import flarvo.work.Progress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Pictures of many channels by many workers, in a process that has memory for one or two of them.
 */
class SmallHeapTest {

  private static final PictureSize SIZE = PictureSize.of(768, 432);
  private static final int WORKERS = 12;

  @TempDir Path dir;

  /** What runs in the process: all frames of a folder into another. */
  public static void main(String[] args) {
    PlateSequence source = PlateFinder.find(Path.of(args[0])).get(0);
    RemapOptions options =
        new RemapOptions(
            Bending.of(LensTrack.of(Lens.centred(new RadialPolynomial(0.1, 0, 0, 0)))),
            Direction.ORIGINAL_TO_UNDISTORTED,
            Overscan.none(SIZE),
            Filter.BILINEAR,
            Light.ENCODED,
            1,
            Optional.empty());
    SequenceName target = SequenceName.parse(Path.of(args[1], "b.####.exr"));
    SequenceRemap.Outcome o =
        SequenceRemap.run(source, target, options, source.frames(), WORKERS, Progress.NONE);
    System.out.println("made " + o.made().size());
    o.failed().values().forEach(System.out::println);
  }

  private String run(String heap) throws Exception {
    return run(heap, "");
  }

  private String run(String heap, String options) throws Exception {
    Path in = Files.createDirectories(dir.resolve("in"));
    Path first = in.resolve("a.0001.exr");
    RasterWriter.write(
        TestPicture.of(
            SIZE.width(),
            SIZE.height(),
            List.of("R", "G", "B", "A", "x.X", "x.Y", "x.Z", "z.Z"),
            SampleKind.HALF),
        first);
    for (int f = 2; f <= WORKERS; f++) {
      Files.copy(first, in.resolve(String.format("a.%04d.exr", f)));
    }
    Path said = dir.resolve("said.txt");
    ProcessBuilder p =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx" + heap,
                "-cp",
                System.getProperty("java.class.path"),
                SmallHeapTest.class.getName(),
                in.toString(),
                dir.resolve("out").toString())
            .redirectErrorStream(true)
            .redirectOutput(said.toFile());
    if (!options.isEmpty()) {
      p.environment().put("JAVA_TOOL_OPTIONS", options);
    }
    assertThat(p.start().waitFor(4, TimeUnit.MINUTES)).isTrue();
    return Files.readString(said, StandardCharsets.UTF_8);
  }

  @Test
  void manyWorkersNeedNoMoreMemoryThanFew() throws Exception {
    // A frame is 10 MB of numbers and takes up to 7 times that; twelve at once would be 0.8 GB.
    assertThat(run("160m")).startsWith("made 12\n").hasLineCount(1);
  }

  /** What is meant for our process speaks on its standard output, where a decoder answers. */
  @Test
  void optionsOfTheProcessDoNotReachItsDecoders() throws Exception {
    assertThat(run("300m", "-Xlog:gc*:stdout")).contains("[gc", "made 12\n");
  }

  @Test
  void whereNotEvenOneFitsEachIsNamed() throws Exception {
    assertThat(run("100m"))
        .startsWith("made 0\n")
        .contains("a.0007.exr", "of memory", "FLARVO_JAVA_OPTIONS=-Xmx")
        .hasLineCount(1 + WORKERS);
  }
}
