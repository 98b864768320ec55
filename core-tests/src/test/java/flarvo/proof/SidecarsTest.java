package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.Part;
import flarvo.dispatch.Sidecars;
import flarvo.format.Formats;
import flarvo.lens.BrownConrady;
import flarvo.lens.Distortion;
import flarvo.lens.Lens;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.motion.Framing;
import flarvo.motion.Recast;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.receive.ReceivedFile;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What lies beside a delivery: sent whole, read from disk, and proven wrong where it is. */
class SidecarsTest {

  private static final PictureSize PICTURE = PictureSize.of(480, 270);
  private static final PictureSize LARGE = PictureSize.of(529, 298); // odd: half a pixel
  private static final LensTrack LENS = LensTrack.of(Lens.centred(brown(-0.08)));

  @TempDir private Path dir;

  private static Distortion brown(double k1) {
    return new BrownConrady(k1, 0.01, 0.002, -0.001, 0, 0, 0, 0);
  }

  private static LensTrack breathing() {
    TreeMap<Integer, Distortion> keys = new TreeMap<>();
    keys.put(1001, brown(-0.08));
    keys.put(1003, brown(-0.05));
    return new LensTrack(LENS.base(), keys);
  }

  private static Shot bare() {
    Shot s = TestShots.walkFrom(1001, 3, 30, 5);
    return new Shot(
        s.name(),
        PICTURE,
        s.rate(),
        s.frames(),
        s.sourceFirstFrame(),
        s.cameras(),
        s.trackers(),
        s.observations(),
        s.plates(),
        s.level());
  }

  private PlateSequence plates(PlateRole role, PictureSize size) {
    Path folder = dir.resolve(role.word());
    return new PlateSequence(folder, "p.", 4, ".exr", bare().frames(), List.of(), size, role)
        .around(PICTURE);
  }

  private Shot shot() {
    return bare()
        .withPlates(
            List.of(plates(PlateRole.UNDISTORTED, LARGE), plates(PlateRole.ORIGINAL, PICTURE)));
  }

  /** Bytes of no picture: they are copied, not read. */
  @BeforeEach
  void writePlates() throws IOException {
    Random r = new Random(3);
    for (PlateSequence p : shot().plates()) {
      Files.createDirectories(p.folder());
      for (int f = 1001; f <= 1003; f++) {
        byte[] bytes = new byte[5000 + f];
        r.nextBytes(bytes);
        Files.write(p.file(f), bytes);
      }
    }
  }

  private static Delivery delivery(Part... more) {
    Dialect d = Dialects.shipped().get("engine-zup-left-cm");
    Contents c = Contents.CAMERA_AND_TRACKERS;
    for (Part p : more) {
      c = c.with(p, true);
    }
    return new Delivery("d", d, Formats.byId("usd-text"), c, "d.usda");
  }

  private static final Part[] ALL = {Part.LENS, Part.MAPS, Part.PLATES};

  private Path file() {
    return dir.resolve("out").resolve("d.usda");
  }

  private ProofReport send(Outgoing from, Delivery d) {
    return Handover.send(from, d, file(), 0.001, List.of(), Progress.NONE).proof();
  }

  private ProofReport prove(Outgoing from, Delivery d) {
    return Handover.prove(from, d, file(), 0.001, List.of(), Progress.NONE);
  }

  private static List<String> failed(ProofReport r) {
    return r.checks().stream().filter(c -> !c.holds()).map(Check::name).toList();
  }

  private List<String> written() throws IOException {
    if (!Files.exists(file().getParent())) {
      return List.of();
    }
    try (Stream<Path> all = Files.walk(file().getParent())) {
      return all.filter(Files::isRegularFile)
          .map(p -> file().getParent().relativize(p).toString().replace('\\', '/'))
          .sorted()
          .toList();
    }
  }

  @Test
  void everythingLiesBesideTheFileUnderItsFrameNumbers() throws IOException {
    Outgoing from = new Outgoing(shot(), Optional.of(breathing()));
    Delivery d = delivery(ALL);
    ProofReport r = send(from, d);
    assertThat(failed(r)).isEmpty();
    assertThat(r.checks())
        .extracting(Check::name)
        .contains("lensSheet", "distortionMaps", "plateCopies");
    // The recipient's first frame is 0.
    assertThat(written())
        .containsExactly(
            "d.usda",
            "d_lens.json",
            "d_plates/p.0000.exr",
            "d_plates/p.0001.exr",
            "d_plates/p.0002.exr",
            "d_redistort.0000.exr",
            "d_redistort.0001.exr",
            "d_redistort.0002.exr",
            "d_undistort.0000.exr",
            "d_undistort.0001.exr",
            "d_undistort.0002.exr");
    assertThat(LensSheet.read(dir.resolve("out/d_lens.json")).track().at(1))
        .isEqualTo(breathing().at(1002));
    assertThat(r.losses().toString()).contains("1001 is 0", "G from the bottom");
    // Proven later, the same is said.
    assertThat(prove(from, d).losses()).containsAll(r.losses());
    // The file names the copies, and from there they are found.
    String mentioned =
        ReceivedFile.read(file(), Optional.of(d.dialect()), Progress.NONE)
            .scene()
            .plate()
            .orElseThrow()
            .path();
    assertThat(file().resolveSibling(mentioned.replace("####", "0002"))).exists();
  }

  /** The picture that a map makes of straight coordinates is what the lens says, seen from afar. */
  @Test
  void aMapIsWhatTheLensDoes() {
    send(new Outgoing(shot(), Optional.of(LENS)), delivery(Part.MAPS));
    Raster un = RasterReader.read(dir.resolve("out/d_undistort.exr"));
    assertThat(un.width()).isEqualTo(LARGE.width());
    assertThat(un.height()).isEqualTo(LARGE.height());
    int x = 75;
    int y = 250;
    int i = un.channels().size() * (y * un.width() + x);
    double[] p = new double[2];
    LENS.base().on(PICTURE).toOriginal(x + 0.5 - 24.5, y + 0.5 - 14, p);
    assertThat(un.values()[i + un.channel("R")] * 480).isCloseTo((float) p[0], within(0.001f));
    assertThat(270 - un.values()[i + un.channel("G")] * 270)
        .isCloseTo((float) p[1], within(0.001f));
  }

  /** Smaller pictures of the same are no cut: the maps are of the shot's picture. */
  @Test
  void proxiesMakeNoOverscan() {
    PlateSequence p = shot().plates().get(0);
    PlateSequence half =
        new PlateSequence(
            p.folder(),
            "p.",
            4,
            ".exr",
            p.frames(),
            List.of(),
            PictureSize.of(240, 135),
            PlateRole.UNDISTORTED);
    Outgoing from = new Outgoing(bare().withPlates(List.of(half)), Optional.of(LENS));
    assertThat(Sidecars.of(from, delivery(Part.MAPS), file()).overscan().size()).isEqualTo(PICTURE);
  }

  private static org.assertj.core.data.Offset<Float> within(float px) {
    return org.assertj.core.api.Assertions.within(px);
  }

  @Test
  void whatIsDamagedOnDiskDoesNotHold() throws IOException {
    Outgoing from = new Outgoing(shot(), Optional.of(LENS));
    Delivery d = delivery(ALL);
    assertThat(failed(send(from, d))).isEmpty();

    Path sheet = dir.resolve("out/d_lens.json");
    String text = Files.readString(sheet);
    Files.writeString(sheet, text.replace("-0.08", "-0.080001"));
    assertThat(failed(prove(from, d))).containsExactly("lensSheet");
    Files.delete(sheet);
    assertThat(failed(prove(from, d))).containsExactly("lensSheet");
    Files.writeString(sheet, text);

    for (String name : List.of("d_undistort.exr", "d_redistort.exr")) {
      Path map = dir.resolve("out").resolve(name);
      byte[] was = Files.readAllBytes(map);
      for (int fault = 0; fault < 4; fault++) {
        spoil(map, fault);
        assertThat(failed(prove(from, d))).as(name + fault).containsExactly("distortionMaps");
        Files.write(map, was);
      }
      Files.delete(map);
      assertThat(failed(prove(from, d))).containsExactly("distortionMaps");
      Files.write(map, was);
    }

    Path copy = dir.resolve("out/d_plates/p.0001.exr");
    byte[] bytes = Files.readAllBytes(copy);
    byte[] other = bytes.clone();
    other[4000] ^= 1;
    Files.write(copy, other);
    assertThat(failed(prove(from, d))).containsExactly("plateCopies");
    Files.write(copy, List.of().toString().getBytes(java.nio.charset.StandardCharsets.UTF_8));
    assertThat(failed(prove(from, d))).containsExactly("plateCopies");
    Files.delete(copy);
    assertThat(failed(prove(from, d))).containsExactly("plateCopies");
    Files.write(copy, bytes);
    assertThat(failed(prove(from, d))).isEmpty();
  }

  /** A shorter delivery over a longer one: whoever reads the sequence would read too much. */
  @Test
  void framesOfAnEarlierDeliveryAreNoticed() throws IOException {
    Outgoing from = new Outgoing(shot(), Optional.of(breathing()));
    Delivery d = delivery(ALL);
    assertThat(failed(send(from, d))).isEmpty();
    Delivery shorter = d.withExtract(d.extract().leavingOff(0, 1));
    ProofReport r = send(from, shorter);
    assertThat(failed(r)).containsExactly("noStrays");
    assertThat(r.checks().toString()).contains("3 of another delivery, such as p.0002.exr");
    Files.delete(dir.resolve("out/d_redistort.0002.exr"));
    Files.delete(dir.resolve("out/d_undistort.0002.exr"));
    Files.delete(dir.resolve("out/d_plates/p.0002.exr"));
    assertThat(failed(prove(from, shorter))).isEmpty();
    // Other people's files are nobody's strays.
    Files.writeString(dir.resolve("out/d_plates/readme.txt"), "x");
    Files.writeString(dir.resolve("out/e_undistort.0009.exr"), "x");
    assertThat(failed(prove(from, shorter))).isEmpty();
  }

  /** Copies help nobody whom the file sends to the plates that they were copied from. */
  @Test
  void aFileThatNamesOtherPlatesThanTheCopiesDoesNotHold() throws IOException {
    Outgoing from = Outgoing.of(shot());
    for (String format : List.of("usd-text", "fbx-text", "scene-json", "usd-crate", "fbx-binary")) {
      Delivery d = delivery(Part.PLATES).withFormat(Formats.byId(format));
      Path file = file().resolveSibling("d" + d.format().extensions().get(0));
      ProofReport r = Handover.send(from, d, file, 0.01, List.of(), Progress.NONE).proof();
      assertThat(failed(r)).as(format).isEmpty();
      if (!format.endsWith("text") && !format.endsWith("json")) {
        continue;
      }
      String text = Files.readString(file);
      assertThat(text).as(format).contains("d_plates/");
      Files.writeString(file, text.replace("d_plates/", "../undistorted/"));
      ProofReport spoiled = Handover.prove(from, d, file, 0.01, List.of(), Progress.NONE);
      assertThat(failed(spoiled)).as(format).containsExactly("plate");
    }
  }

  /** From the top, a hundredth of a pixel off, without points, or with its channels exchanged. */
  private static void spoil(Path map, int fault) {
    Raster r = RasterReader.read(map);
    float[] v = r.values();
    int n = r.channels().size();
    int red = r.channel("R");
    int green = r.channel("G");
    for (int i = 0; i < v.length; i += n) {
      float u = v[i + red];
      float w = v[i + green];
      switch (fault) {
        case 0 -> v[i + green] = 1 - w;
        case 1 -> v[i + red] = u + 0.01f / 480;
        case 2 -> v[i + red] = -1;
        default -> {
          v[i + red] = w;
          v[i + green] = u;
        }
      }
    }
    RasterWriter.write(r, map);
  }

  @Test
  void whatIsNotThereIsSaidAndNotWritten() throws IOException {
    ProofReport r = send(Outgoing.of(bare()), delivery(ALL));
    assertThat(written()).containsExactly("d.usda");
    assertThat(r.losses().stream().filter(n -> n.kind() == Note.Kind.LOST).map(Note::toString))
        .anyMatch(n -> n.contains("no lens of the original plates is known"))
        .anyMatch(n -> n.contains("there are none to copy"));
    // A picture that is cut is no longer the lens's.
    Delivery cut =
        delivery(ALL)
            .withExtract(
                delivery()
                    .extract()
                    .recast(Recast.NONE.withFraming(Optional.of(Framing.crop("48,27,96x54")))));
    Outgoing from = new Outgoing(shot(), Optional.of(LENS));
    assertThat(Sidecars.of(from, cut, file()).files()).isEmpty();
    assertThat(Sidecars.of(from, cut, file()).notes().toString()).contains("own picture and time");
  }

  @Test
  void aFrameThatIsMissingIsCountedAndOneThatCannotBeReadStopsIt() throws IOException {
    Shot s = shot();
    PlateSequence p = s.plates().get(0);
    PlateSequence gap =
        new PlateSequence(
            p.folder(),
            "p.",
            4,
            ".exr",
            p.frames(),
            List.of(1002),
            LARGE,
            p.role(),
            p.facts(),
            p.inner());
    Outgoing from = Outgoing.of(s.withPlates(List.of(gap)));
    ProofReport r = send(from, delivery(Part.PLATES));
    assertThat(failed(r)).isEmpty();
    assertThat(r.losses().toString()).contains("1 of 3 frames have none");
    assertThat(written()).doesNotContain("d_plates/p.0001.exr");

    Files.delete(p.file(1003));
    Files.delete(file());
    assertThatThrownBy(() -> send(Outgoing.of(s), delivery(ALL)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("1003");
    // What was there before stays; what this attempt began is gone, and there is no file.
    assertThat(written()).containsExactly("d_plates/p.0000.exr", "d_plates/p.0002.exr");
  }

  @Test
  void cancelledNothingIsLeft() throws IOException {
    Outgoing from = new Outgoing(shot(), Optional.of(LENS));
    List<Long> asked = new ArrayList<>();
    Progress afterThree =
        new Progress() {
          @Override
          public void at(long done, long total) {
            asked.add(done);
          }

          @Override
          public boolean isCancelled() {
            return asked.size() > 3;
          }
        };
    assertThatThrownBy(
            () -> Handover.send(from, delivery(ALL), file(), 0.001, List.of(), afterThree))
        .isInstanceOf(Cancelled.class);
    assertThat(written()).isEmpty();
  }

  @Test
  void aDeliveryNeedsSomethingInItsFile() {
    assertThatThrownBy(() -> Contents.of(Part.LENS, Part.PLATES))
        .isInstanceOf(IllegalArgumentException.class);
    assertThat(Contents.of(Part.CAMERA, Part.LENS).needs(Part.CAMERA)).isTrue();
    assertThat(Contents.of(Part.CAMERA, Part.LENS).needs(Part.LENS)).isFalse();
  }
}
