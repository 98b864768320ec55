package flarvo.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.plate.AlphaChange;
import flarvo.plate.MovieUnpacker;
import flarvo.plate.PlateFinder;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.plate.remap.SequenceName;
import flarvo.plate.tag.Alpha;
import flarvo.plate.tag.PlateTags;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Inset;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.stage.Staging;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Sequences, movies and animated pictures as they lie on disk. */
@Tag("numeric")
class RenderJobTest {

  @TempDir private Path dir;

  private final Shot shot = small(TestShots.walk(6, 24, 3));

  /** A quarter of the size each way: the film stays, and pixels grow. */
  private static Shot small(Shot s) {
    return new Shot(
        s.name(),
        PictureSize.of(480, 270),
        s.rate(),
        s.frames(),
        s.frames().first(),
        s.cameras(),
        s.trackers(),
        s.observations(),
        s.plates(),
        s.meshes(),
        s.level());
  }

  private final Staging staging =
      Staging.NONE.withGauges(
          List.of(
              new Gauge(
                  "crate",
                  Gauge.Kind.CRATE,
                  shot.trackers().get(0).position(0),
                  0.5,
                  0.2,
                  Optional.empty())));

  private RenderScene scene() {
    return RenderScene.of(shot, staging);
  }

  private Optional<SequenceName> name(String pattern) {
    return Optional.of(SequenceName.parse(dir.resolve(pattern)));
  }

  /** Plates of one colour that rises with the frames. */
  private PlateSequence plates() {
    List<String> channels = List.of("R", "G", "B");
    for (int f = shot.frames().first(); f <= shot.frames().last(); f++) {
      Raster r =
          Raster.empty(shot.picture().width(), shot.picture().height(), channels, SampleKind.BYTE);
      Arrays.fill(r.values(), 0.4f);
      RasterWriter.write(r, dir.resolve("plates/p." + f + ".png"));
    }
    return PlateFinder.find(dir.resolve("plates")).get(0);
  }

  private RenderJob job(
      Optional<PlateSequence> plates, Optional<PlateSequence> keyed, int overscan) {
    return new RenderJob(
        scene(),
        RenderLook.USUAL,
        plates,
        keyed,
        true,
        overscan,
        name("out/w.####.png"),
        name("out/p.####.exr"));
  }

  @Test
  void picturesAndPassesAreWrittenForEveryFrame() {
    RenderJob j = job(Optional.of(plates()), Optional.empty(), 0);
    RenderJob.Outcome o = j.run(shot.frames(), 2, Progress.NONE);
    assertThat(o.failed()).isEmpty();
    assertThat(o.made()).hasSize(6);
    assertThat(j.files(shot.frames())).hasSize(12).allMatch(Files::exists);
    Raster passes = RasterReader.read(dir.resolve("out/p.1003.exr"));
    assertThat(passes.channels()).containsExactlyInAnyOrderElementsOf(FramePasses.CHANNELS);
    Raster w = RasterReader.read(dir.resolve("out/w.1003.png"));
    int a = passes.channel("A");
    int plain = 0;
    for (int y = 0; y < w.height(); y += 7) {
      for (int x = 0; x < w.width(); x += 7) {
        if (passes.at(x, y, a) == 0 && passes.at(x, y, passes.channel("shadow.A")) == 0) {
          plain += Math.abs(w.at(x, y, 0) - 0.4) < 0.003 ? 1 : 0;
        }
      }
    }
    assertThat(plain).isGreaterThan(w.width() * w.height() / 49 / 2); // the plate as it was
  }

  @Test
  void trackersAreMarkedWhereTheCameraSeesThem() {
    job(Optional.of(plates()), Optional.empty(), 0)
        .run(new FrameRange(1002, 1002), 1, Progress.NONE);
    Raster w = RasterReader.read(dir.resolve("out/w.1002.png"));
    Pinhole p = new Pinhole(scene().shot().camera().orElseThrow(), shot.picture()).at(1002);
    double[] px = new double[3];
    int seen = 0;
    for (TrackerSet t : scene().shot().trackers()) {
      for (int i = 0; i < t.size(); i++) {
        p.project(t, i, px);
        boolean in = px[2] > 0 && px[0] > 8 && px[1] > 8;
        if (in && px[0] < w.width() - 8 && px[1] < w.height() - 8) {
          seen++;
          double rim = 1;
          for (int k = 0; k < 16; k++) {
            double angle = k * Math.PI / 8;
            int x = (int) (px[0] + 3.2 * Math.cos(angle));
            int y = (int) (px[1] + 3.2 * Math.sin(angle));
            rim = Math.min(rim, w.at(x, y, 0));
          }
          assertThat(rim).as(t.names().get(i)).isLessThan(0.3);
        }
      }
    }
    assertThat(seen).isGreaterThan(3);
  }

  /** Overscan shows more and moves nothing: the middle of the larger picture is the smaller one. */
  @Test
  void overscanAddsPixelsAroundThePicture() {
    job(Optional.empty(), Optional.empty(), 0).run(new FrameRange(1001, 1001), 1, Progress.NONE);
    Raster small = RasterReader.read(dir.resolve("out/p.1001.exr"));
    job(Optional.empty(), Optional.empty(), 40).run(new FrameRange(1001, 1001), 1, Progress.NONE);
    Raster large = RasterReader.read(dir.resolve("out/p.1001.exr"));
    assertThat(large.width()).isEqualTo(small.width() + 80);
    assertThat(large.height()).isEqualTo(small.height() + 80);
    int id = small.channel("id.I");
    int alpha = small.channel("A");
    int differ = 0;
    for (int y = 0; y < small.height(); y++) {
      for (int x = 0; x < small.width(); x++) {
        differ += small.at(x, y, id) == large.at(x + 40, y + 40, id) ? 0 : 1;
        differ += Math.abs(small.at(x, y, alpha) - large.at(x + 40, y + 40, alpha)) < 0.1 ? 0 : 1;
      }
    }
    assertThat(differ).isLessThan(4); // samples on an edge, by rounding
  }

  /** Over plates with overscan the camera sees more by itself: the same as what was asked for. */
  @Test
  void platesWithOverscanAreDrawnOverInTheirOwnSize() {
    job(Optional.empty(), Optional.empty(), 40).run(new FrameRange(1001, 1001), 1, Progress.NONE);
    Raster asked = RasterReader.read(dir.resolve("out/p.1001.exr"));
    Raster plate = Raster.empty(560, 350, List.of("R", "G", "B"), SampleKind.BYTE);
    RasterWriter.write(plate, dir.resolve("wide/p.1001.png"));
    RasterWriter.write(plate, dir.resolve("wide/p.1002.png"));
    PlateSequence wide = PlateFinder.find(dir.resolve("wide")).get(0).around(shot.picture());
    job(Optional.of(wide), Optional.empty(), 0).run(new FrameRange(1001, 1001), 1, Progress.NONE);
    Raster own = RasterReader.read(dir.resolve("out/p.1001.exr"));
    assertThat(own.values()).isEqualTo(asked.values());
    assertThat(RasterReader.read(dir.resolve("out/w.1001.png")).width()).isEqualTo(560);
    // Larger plates that nobody said it of: the picture is taken to lie in their middle.
    PlateSequence received = PlateFinder.find(dir.resolve("wide")).get(0);
    job(Optional.of(received), Optional.empty(), 0)
        .run(new FrameRange(1001, 1001), 1, Progress.NONE);
    assertThat(RasterReader.read(dir.resolve("out/p.1001.exr")).values()).isEqualTo(asked.values());
  }

  /** Plates of a part off the centre are drawn over as that part of the whole. */
  @Test
  void aPartIsDrawnWhereItLies() {
    FrameRange one = new FrameRange(1001, 1001);
    job(Optional.empty(), Optional.empty(), 0).run(one, 1, Progress.NONE);
    Raster whole = RasterReader.read(dir.resolve("out/p.1001.exr"));
    Raster plate = Raster.empty(200, 150, List.of("R", "G", "B"), SampleKind.BYTE);
    RasterWriter.write(plate, dir.resolve("part/p.1001.png"));
    RasterWriter.write(plate, dir.resolve("part/p.1002.png"));
    PlateSequence part =
        PlateFinder.find(dir.resolve("part")).get(0).around(new Inset(shot.picture(), -170, -60));
    job(Optional.of(part), Optional.empty(), 0).run(one, 1, Progress.NONE);
    Raster cut = RasterReader.read(dir.resolve("out/p.1001.exr"));
    int n = whole.channels().size();
    int drawn = 0;
    int off = 0;
    for (int y = 0; y < 150; y++) {
      for (int x = 0; x < 200; x++) {
        for (int c = 0; c < n; c++) {
          float w = whole.at(x + 170, y + 60, c);
          drawn += w != 0 ? 1 : 0;
          off += Math.abs(cut.at(x, y, c) - w) > 0.002f * Math.max(1, Math.abs(w)) ? 1 : 0;
        }
      }
    }
    // At an edge the last digit may decide which side a ray falls on.
    assertThat(drawn).isGreaterThan(1000);
    assertThat(off).isLessThan(drawn / 100);
  }

  /** In front of what is drawn where its alpha says, and the plate behind both. */
  @Test
  void aKeyedPlateLiesOverWhatIsDrawn() {
    FrameRange one = new FrameRange(1001, 1001);
    PlateSequence plates = plates();
    withoutTrackers(plates, Optional.empty()).run(one, 1, Progress.NONE);
    Raster bare = RasterReader.read(dir.resolve("out/w.1001.png"));
    int w = bare.width();
    // Half of it white at half alpha, the rest cut away; what is cut away has a colour all the
    // same.
    Raster keyed = Raster.empty(w, bare.height(), List.of("R", "G", "B", "A"), SampleKind.BYTE);
    Arrays.fill(keyed.values(), 1);
    for (int i = 3; i < keyed.values().length; i += 4) {
      keyed.values()[i] = i / 4 % w < w / 2 ? 128 / 255f : 0;
    }
    Raster straight = keyed.with(PlateTags.NONE.with(Alpha.STRAIGHT));
    Raster multiplied = AlphaChange.to(Alpha.MULTIPLIED, straight);
    over(bare, plates, "png", straight);
    over(bare, plates, "tif", straight);
    over(bare, plates, "tif", multiplied);
    over(bare, plates, "exr", multiplied.as(SampleKind.HALF));
    // A keyed plate without alpha would cover everything.
    RenderJob.Outcome none =
        job(Optional.of(plates), Optional.of(plates), 0).run(one, 1, Progress.NONE);
    assertThat(none.failed().get(1001)).contains("the keyed plate has no alpha");
  }

  private void over(Raster bare, PlateSequence plates, String format, Raster keyed) {
    Path folder = dir.resolve("keyed " + format + keyed.tags().alpha());
    RasterWriter.write(keyed, folder.resolve("k.1001." + format));
    RasterWriter.write(keyed, folder.resolve("k.1002." + format));
    PlateSequence over = PlateFinder.find(folder).get(0);
    FrameRange one = new FrameRange(1001, 1001);
    withoutTrackers(plates, Optional.of(over)).run(one, 1, Progress.NONE);
    Raster mixed = RasterReader.read(dir.resolve("out/w.1001.png"));
    double a = 128 / 255.0;
    int w = bare.width();
    for (int y = 0; y < bare.height(); y += 5) {
      for (int x = 0; x < w; x += 5) {
        double was = linear(bare.at(x, y, 0));
        double expected = x < w / 2 ? a + (1 - a) * was : was;
        assertThat(linear(mixed.at(x, y, 0))).isCloseTo(expected, within(0.01));
      }
    }
    assertThat(mixed.at(w / 4, 2, 0)).isGreaterThan(bare.at(w / 4, 2, 0) + 0.2f);
  }

  private RenderJob withoutTrackers(PlateSequence plates, Optional<PlateSequence> keyed) {
    return new RenderJob(
        scene(),
        RenderLook.USUAL,
        Optional.of(plates),
        keyed,
        false,
        0,
        name("out/w.####.png"),
        Optional.empty());
  }

  /** The sRGB formula, written out once more. */
  private static double linear(double v) {
    return v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4);
  }

  private Path small() {
    Raster r = Raster.empty(64, 36, List.of("R", "G", "B", "A"), SampleKind.BYTE);
    RasterWriter.write(r, dir.resolve("small/s.1001.png"));
    RasterWriter.write(r, dir.resolve("small/s.1002.png"));
    return dir.resolve("small");
  }

  @Test
  void aFrameWithoutPlateIsNamedAndTheRestIsMade() throws IOException {
    PlateSequence p = plates();
    Files.delete(dir.resolve("plates/p.1004.png"));
    RenderJob.Outcome o =
        job(Optional.of(p), Optional.empty(), 0).run(shot.frames(), 2, Progress.NONE);
    assertThat(o.made()).containsExactly(1001, 1002, 1003, 1005, 1006);
    assertThat(o.failed()).containsOnlyKeys(1004);
    assertThat(dir.resolve("out/w.1004.png")).doesNotExist();
  }

  @Test
  void framesOutsideAndEmptyJobsAreRefused() {
    RenderJob j = job(Optional.empty(), Optional.empty(), 0);
    assertThatThrownBy(() -> j.run(new FrameRange(1001, 1007), 1, Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("1001-1007");
    assertThatThrownBy(
            () ->
                new RenderJob(
                        scene(),
                        RenderLook.USUAL,
                        Optional.empty(),
                        Optional.empty(),
                        true,
                        0,
                        Optional.empty(),
                        Optional.empty())
                    .run(shot.frames(), 1, Progress.NONE))
        .hasMessageContaining("nothing to render");
    PlateSequence small = PlateFinder.find(small()).get(0);
    assertThatThrownBy(() -> job(Optional.empty(), Optional.of(small), 0))
        .hasMessageContaining("the keyed plates are 64x36");
    assertThatThrownBy(() -> new RenderLook(new Vec3(1, 0, 0), java.util.Set.of()))
        .hasMessageContaining("under the ground");
  }

  @Test
  void itCanBeCancelled() {
    Progress stop =
        new Progress() {
          @Override
          public void at(long done, long total) {}

          @Override
          public boolean isCancelled() {
            return true;
          }
        };
    assertThatThrownBy(() -> job(Optional.empty(), Optional.empty(), 0).run(shot.frames(), 2, stop))
        .isInstanceOf(Cancelled.class);
    assertThat(dir.resolve("out/w.1001.png")).doesNotExist();
  }

  @Test
  void aMovieAndAnAnimatedPictureAreMadeOfThem() throws IOException {
    RenderJob j = job(Optional.of(plates()), Optional.empty(), 0);
    j.run(shot.frames(), 2, Progress.NONE);
    List<Path> pictures = new ArrayList<>();
    for (int f = 1001; f <= 1006; f++) {
      pictures.add(j.witness().orElseThrow().file(f));
    }
    Path movie = dir.resolve("m/w.mp4");
    Previews.movie(pictures, Rate.NTSC_24, movie, Progress.NONE);
    byte[] head = Arrays.copyOf(Files.readAllBytes(movie), 64);
    assertThat(MovieUnpacker.isMovie(head)).isTrue();
    MovieUnpacker.Unpacked u = MovieUnpacker.unpack(movie, head, Progress.NONE);
    assertThat(u.log()).content().contains("24000/1001");
    PlateSequence back = PlateFinder.find(u.folder()).get(0);
    assertThat(back.frames().count()).isEqualTo(6);
    assertThat(back.size().width()).isEqualTo(Math.min(960, shot.picture().width()));
    Path gif = dir.resolve("m/w.gif");
    Previews.animation(pictures, Rate.NTSC_24, gif, Progress.NONE);
    ImageReader reader = ImageIO.getImageReadersByFormatName("gif").next();
    try (ImageInputStream in = ImageIO.createImageInputStream(gif.toFile())) {
      reader.setInput(in);
      assertThat(reader.getNumImages(true)).isEqualTo(6);
      BufferedImage first = reader.read(0);
      assertThat(first.getWidth()).isEqualTo(Math.min(480, shot.picture().width()));
    } finally {
      reader.dispose();
    }
    // Like every file, it follows the user's mask and not a temporary file's rights.
    assertThat(Files.getPosixFilePermissions(gif))
        .isEqualTo(Files.getPosixFilePermissions(pictures.get(0)));
    assertThatThrownBy(
            () -> Previews.movie(pictures, Rate.FPS_24, dir.resolve("x.avi"), Progress.NONE))
        .hasMessageContaining(".mp4");
    assertThatThrownBy(() -> Previews.movie(List.of(), Rate.FPS_24, movie, Progress.NONE))
        .hasMessageContaining("no picture");
  }
}
