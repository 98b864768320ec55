package flarvo.plate.remap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.lens.Direction;
import flarvo.lens.Lens;
import flarvo.lens.LensTrack;
import flarvo.lens.RadialPolynomial;
import flarvo.plate.PlateFinder;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Whole sequences: resuming, failing frames, lenses that breathe. */
class SequenceRemapTest {

  private static final PictureSize SIZE = PictureSize.of(96, 54);
  private static final FrameRange FRAMES = new FrameRange(1001, 1008);

  @TempDir Path dir;
  private PlateSequence source;
  private SequenceName target;

  @BeforeEach
  void plates() throws Exception {
    Files.createDirectories(dir.resolve("in"));
    for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
      Raster r = TestPicture.of(96, 54, List.of("R", "G", "B"), SampleKind.BYTE);
      RasterWriter.write(r, dir.resolve("in/a." + f + ".png"));
    }
    source = PlateFinder.find(dir.resolve("in")).get(0);
    target = SequenceName.parse(dir.resolve("out/b.####.png"));
  }

  private static RemapOptions options(double k1) {
    return options(LensTrack.of(Lens.centred(new RadialPolynomial(k1, 0, 0, 0))));
  }

  private static RemapOptions options(LensTrack lens) {
    return new RemapOptions(
        Bending.of(lens),
        Direction.ORIGINAL_TO_UNDISTORTED,
        Overscan.none(SIZE),
        Filter.BICUBIC,
        Light.ENCODED,
        1,
        Optional.empty());
  }

  private SequenceRemap.Outcome run(RemapOptions o) {
    return SequenceRemap.run(source, target, o, FRAMES, 2, Progress.NONE);
  }

  @Test
  void onlyWhatIsMissingOrStaleIsMadeAgain() throws Exception {
    assertThat(run(options(0.1)).made()).hasSize(8);
    assertThat(run(options(0.1)).fresh()).hasSize(8);
    // One gone, one replaced by something else, one whose source changed.
    Files.delete(target.file(1002));
    Files.copy(
        target.file(1001), target.file(1003), java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    Files.setLastModifiedTime(source.file(1005), FileTime.fromMillis(1_000_000));
    assertThat(run(options(0.1)).made()).containsExactly(1002, 1003, 1005);
    assertThat(run(options(0.1)).made()).isEmpty();
    // Another lens, and all of it is stale.
    assertThat(run(options(0.11)).made()).hasSize(8);
  }

  @Test
  void aStampThatWasCutOffCostsOnePicture() throws Exception {
    run(options(0.1));
    String stamp = Files.readString(target.stamp());
    Files.writeString(target.stamp(), stamp.substring(0, stamp.length() - 12));
    assertThat(run(options(0.1)).made()).hasSize(1);
    assertThat(run(options(0.1)).made()).isEmpty();
    // Not one, but whatever stands there: never an error.
    Files.write(target.stamp(), "\0{[[[\n{\"frame\":1001}\n".getBytes(StandardCharsets.UTF_8));
    assertThat(run(options(0.1)).made()).hasSize(8);
  }

  /** Of keyed pictures made before their alpha went from format to format. */
  @Test
  void keyedPicturesOfAnOlderMakeAreStaleAndOthersAreNot() throws Exception {
    run(options(0.1));
    assertThat(Files.readString(target.stamp())).doesNotContain("alpha");
    for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
      Raster keyed = TestPicture.of(96, 54, List.of("R", "G", "B", "A"), SampleKind.BYTE);
      RasterWriter.write(keyed, source.file(f));
    }
    source = PlateFinder.find(dir.resolve("in")).get(0);
    assertThat(run(options(0.1)).made()).hasSize(8);
    assertThat(run(options(0.1)).fresh()).hasSize(8);
    String stamp = Files.readString(target.stamp());
    assertThat(stamp).contains(" same alpha");
    Files.writeString(target.stamp(), stamp.replace(" same alpha", " same"));
    assertThat(run(options(0.1)).made()).hasSize(8);
  }

  @Test
  void aBrokenFrameIsNamedAndTheOthersGoOn() throws Exception {
    Files.write(source.file(1004), new byte[] {1, 2, 3});
    Files.delete(source.file(1006));
    SequenceRemap.Outcome o = run(options(0.1));
    assertThat(o.failed().keySet()).containsExactly(1004, 1006);
    assertThat(o.failed().get(1004)).contains("a.1004.png").contains("not a picture");
    assertThat(o.made()).hasSize(6);
    Files.copy(
        source.file(1003), source.file(1004), java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    Files.copy(source.file(1003), source.file(1006));
    assertThat(run(options(0.1)).made()).containsExactly(1004, 1006);
  }

  @Test
  void aDiskThatRefusesIsAFailureOfEachFrame() throws Exception {
    Files.createDirectories(target.file(1002)); // a folder stands where the picture belongs
    SequenceRemap.Outcome o = run(options(0.1));
    assertThat(o.failed().keySet()).containsExactly(1002);
    try (Stream<Path> all = Files.list(target.folder())) {
      assertThat(all.map(p -> p.getFileName().toString())).noneMatch(n -> n.contains(".part"));
    }
  }

  @Test
  void aLensThatBreathesIsTheLensOfEachFrame() {
    TreeMap<Integer, flarvo.lens.Distortion> keys = new TreeMap<>();
    keys.put(1001, new RadialPolynomial(0, 0, 0, 0));
    keys.put(1008, new RadialPolynomial(0.14, 0, 0, 0));
    Lens base = Lens.centred(new RadialPolynomial(0, 0, 0, 0));
    run(options(new LensTrack(base, keys)));
    Raster still = RasterReader.read(source.file(1001));
    assertThat(RasterReader.read(target.file(1001)).values()).isEqualTo(still.values());
    Raster alone =
        new Remap(
                PositionGrid.of(
                    Lens.centred(new RadialPolynomial(0.06, 0, 0, 0)).on(SIZE),
                    Direction.ORIGINAL_TO_UNDISTORTED,
                    Overscan.none(SIZE)),
                Filter.BICUBIC,
                Light.ENCODED)
            .apply(still);
    Raster made = RasterReader.read(target.file(1004));
    for (int i = 0; i < made.values().length; i++) {
      assertThat(Math.abs(made.values()[i] - alone.values()[i])).isLessThan(0.003f);
    }
  }

  @Test
  void cancellingLeavesWholePicturesOnly() {
    int[] asked = {0};
    Progress soon =
        new Progress() {
          @Override
          public void at(long done, long total) {}

          @Override
          public synchronized boolean isCancelled() {
            return ++asked[0] > 7;
          }
        };
    assertThatThrownBy(() -> SequenceRemap.run(source, target, options(0.1), FRAMES, 2, soon))
        .isInstanceOf(Cancelled.class);
    SequenceRemap.Outcome rest = run(options(0.1));
    assertThat(rest.fresh().size() + rest.made().size()).isEqualTo(8);
    assertThat(rest.made()).isNotEmpty();
  }

  @Test
  void theSourceIsNeverWrittenOver() {
    assertThatThrownBy(
            () ->
                SequenceRemap.run(
                    source,
                    SequenceName.parse(dir.resolve("in/a.####.png")),
                    options(0.1),
                    FRAMES,
                    1,
                    Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("this is the source");
  }
}
