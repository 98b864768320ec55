package flarvo.plate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.HostileFiles;
import flarvo.receive.Fact;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import flarvo.scene.Rate;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Movies written here chunk by chunk, so that their rate and pictures are known. */
class MovieTest {

  private static final int FRAMES = 4;
  private static final int W = 32;
  private static final int H = 16;

  @TempDir private Path dir;

  /** Picture n is grey, 20 steps brighter each. */
  private static byte[] jpeg(int n) throws IOException {
    BufferedImage i = new BufferedImage(W, H, BufferedImage.TYPE_INT_RGB);
    int v = 40 + 20 * n;
    for (int p = 0; p < W * H; p++) {
      i.setRGB(p % W, p / W, v << 16 | v << 8 | v);
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ImageIO.write(i, "jpeg", out);
    return out.toByteArray();
  }

  private static byte[] chunk(String name, byte[]... parts) {
    int n = 0;
    for (byte[] p : parts) {
      n += p.length;
    }
    ByteBuffer b = ByteBuffer.allocate(8 + n + (n & 1)).order(ByteOrder.LITTLE_ENDIAN);
    b.put(name.getBytes(StandardCharsets.US_ASCII)).putInt(n);
    for (byte[] p : parts) {
      b.put(p);
    }
    return b.array();
  }

  private static byte[] ascii(String s) {
    return s.getBytes(StandardCharsets.US_ASCII);
  }

  /** The oldest container there is: a list of JPEG pictures, and the rate as a fraction. */
  static byte[] movie(int rate, int scale) throws IOException {
    List<byte[]> pictures = new ArrayList<>();
    for (int n = 0; n < FRAMES; n++) {
      pictures.add(jpeg(n));
    }
    return movie("MJPG", W, H, rate, scale, pictures);
  }

  private static byte[] movie(
      String packing, int w, int h, int rate, int scale, List<byte[]> frames) throws IOException {
    ByteBuffer main = ByteBuffer.allocate(56).order(ByteOrder.LITTLE_ENDIAN);
    main.putInt(1_000_000 * scale / rate).putInt(0).putInt(0).putInt(0x10);
    main.putInt(frames.size()).putInt(0).putInt(1).putInt(0).putInt(w).putInt(h);
    ByteBuffer stream = ByteBuffer.allocate(56).order(ByteOrder.LITTLE_ENDIAN);
    stream.put(ascii("vids" + packing)).putInt(0).putInt(0).putInt(0);
    stream.putInt(scale).putInt(rate).putInt(0).putInt(frames.size()).putInt(0).putInt(-1);
    ByteBuffer format = ByteBuffer.allocate(40).order(ByteOrder.LITTLE_ENDIAN);
    format.putInt(40).putInt(w).putInt(h).putShort((short) 1).putShort((short) 24);
    format.put(ascii(packing)).putInt(w * h * 3);
    List<byte[]> pictures = new ArrayList<>();
    ByteBuffer index = ByteBuffer.allocate(16 * frames.size()).order(ByteOrder.LITTLE_ENDIAN);
    int at = 4;
    for (byte[] f : frames) {
      byte[] c = chunk("00dc", f);
      pictures.add(c);
      index.put(ascii("00dc")).putInt(0x10).putInt(at).putInt(c.length - 8);
      at += c.length;
    }
    ByteArrayOutputStream movi = new ByteArrayOutputStream();
    movi.write(ascii("movi"));
    for (byte[] p : pictures) {
      movi.write(p);
    }
    return chunk(
        "RIFF",
        ascii("AVI "),
        chunk(
            "LIST",
            ascii("hdrl"),
            chunk("avih", main.array()),
            chunk(
                "LIST",
                ascii("strl"),
                chunk("strh", stream.array()),
                chunk("strf", format.array()))),
        chunk("LIST", movi.toByteArray()),
        chunk("idx1", index.array()));
  }

  /** One colour as luma and differences of it, by weights of red and blue; 16 to 235. */
  private static byte[] planes(int w, int h, double[] rgb, double kr, double kb) {
    double y = kr * rgb[0] + (1 - kr - kb) * rgb[1] + kb * rgb[2];
    byte[] out = new byte[w * h * 3 / 2];
    Arrays.fill(out, 0, w * h, (byte) Math.round(16 + 219 * y));
    Arrays.fill(out, w * h, w * h * 5 / 4, (byte) Math.round(128 + 112 * (rgb[2] - y) / (1 - kb)));
    Arrays.fill(
        out, w * h * 5 / 4, out.length, (byte) Math.round(128 + 112 * (rgb[0] - y) / (1 - kr)));
    return out;
  }

  /** Movies that do not state their colours have those of HD from 720 lines on (BT.709, BT.601). */
  @Test
  void coloursAreThoseOfTheMoviesSize() throws IOException {
    double[][] colours = {{0.8, 0.2, 0.1}, {0.1, 0.7, 0.3}, {0.2, 0.3, 0.9}, {0.5, 0.5, 0.5}};
    for (int[] size : new int[][] {{1280, 720}, {720, 576}}) {
      boolean hd = size[1] == 720;
      List<byte[]> frames = new ArrayList<>();
      for (double[] c : colours) {
        frames.add(planes(size[0], size[1], c, hd ? 0.2126 : 0.299, hd ? 0.0722 : 0.114));
      }
      Path file =
          Files.write(
              dir.resolve("c" + size[1] + ".avi"), movie("I420", size[0], size[1], 25, 1, frames));
      PlateSequence p = intake(file).plates().get(0);
      for (int n = 0; n < colours.length; n++) {
        int argb = PlateReader.read(p, 1001 + n).argb()[100 * size[0] + 100];
        for (int c = 0; c < 3; c++) {
          assertThat((argb >> 16 - 8 * c & 255) / 255.0)
              .as("%d lines, colour %d, channel %d", size[1], n, c)
              .isCloseTo(colours[n][c], within(0.012));
        }
      }
    }
  }

  private ReceivedSet intake(Path file) {
    return new ShotIntake()
        .add(file, IntakeOptions.NONE, Progress.NONE)
        .received(IntakeOptions.NONE);
  }

  @Test
  void aMovieBecomesASequenceWithItsTrueRate() throws IOException {
    Path file = Files.write(dir.resolve("clip.avi"), movie(24000, 1001));
    ReceivedSet set = intake(file);
    PlateSequence p = set.plates().get(0);
    assertThat(p.pattern()).isEqualTo("clip.####.png");
    assertThat(p.frames()).isEqualTo(new FrameRange(1001, 1000 + FRAMES));
    assertThat(p.size()).isEqualTo(PictureSize.of(W, H));
    for (int n = 0; n < FRAMES; n++) {
      int grey = PlateReader.read(p, 1001 + n).argb()[W * H / 2 + W / 2] >> 8 & 255;
      assertThat(grey).as("picture %d", n).isBetween(40 + 20 * n - 3, 40 + 20 * n + 3);
    }
    assertThat(set.logs().get(0).claims())
        .filteredOn(c -> c.fact().equals(Fact.RATE))
        .extracting(c -> (Object) c.value().orElseThrow())
        .containsExactly(Rate.NTSC_24);
    // Asked again, it is there already.
    Path log = set.logs().get(0).path();
    var written = Files.getLastModifiedTime(p.file(1001));
    assertThat(intake(file).logs().get(0).path()).isEqualTo(log);
    assertThat(Files.getLastModifiedTime(p.file(1001))).isEqualTo(written);
    // Another movie of that name may not take its place unseen, be it of the same size.
    byte[] same = Files.readAllBytes(file);
    same[same.length / 2] ^= 1;
    Files.write(file, same);
    Files.setLastModifiedTime(file, FileTime.fromMillis(1_000_000_000_000L));
    assertThatThrownBy(() -> intake(file)).hasMessageContaining("an earlier state of this movie");
    Files.write(file, movie(25, 1));
    Files.write(file, new byte[] {0}, java.nio.file.StandardOpenOption.APPEND);
    assertThatThrownBy(() -> intake(file))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("already");
  }

  @Test
  void ratesAreExact() throws IOException {
    for (int[] r : new int[][] {{25, 1}, {30000, 1001}, {60000, 1001}, {24, 1}}) {
      Path file = Files.write(dir.resolve("r" + r[0] + ".avi"), movie(r[0], r[1]));
      Movie m = Movie.unpack(file, "avi", dir.resolve("m%d.png"), 1, Progress.NONE);
      assertThat(m.rate()).contains(new Rate(r[0], r[1]));
      assertThat(m.frames()).isEqualTo(FRAMES);
      assertThat(m.uneven()).isZero();
    }
  }

  /** Into a sequence of any name; what is half done has no name yet. */
  @Test
  void aMovieIsUnpackedUnderAName() throws IOException {
    Path file = Files.write(dir.resolve("clip.avi"), movie(24000, 1001));
    Path folder = dir.resolve("new/plates");
    Movie m = MovieUnpacker.into(file, folder, "take%3.", 5, 11, Progress.NONE);
    assertThat(m.frames()).isEqualTo(FRAMES);
    assertThat(m.rate()).contains(Rate.NTSC_24);
    assertThat(m.uneven()).isZero();
    PlateSequence p = PlateFinder.find(folder).get(0);
    assertThat(p.pattern()).isEqualTo("take%3.#####.png");
    assertThat(p.frames()).isEqualTo(new FrameRange(11, 10 + FRAMES));
    // Once more over the same pictures; a movie that is broken leaves them as they are.
    MovieUnpacker.into(file, folder, "take%3.", 5, 11, Progress.NONE);
    Path bad = Files.write(dir.resolve("bad.avi"), Arrays.copyOf(movie(25, 1), 400));
    assertThatThrownBy(() -> MovieUnpacker.into(bad, folder, "take%3.", 5, 11, Progress.NONE))
        .isInstanceOf(InputError.class);
    assertThatThrownBy(() -> MovieUnpacker.into(p.file(11), folder, "x.", 4, 1, Progress.NONE))
        .hasMessageContaining("not a movie");
    try (Stream<Path> left = Files.list(folder)) {
      assertThat(left).hasSize(FRAMES);
    }
  }

  @Test
  void aMovieThatIsStoppedLeavesNothing() throws IOException {
    Path file = Files.write(dir.resolve("clip.avi"), movie(25, 1));
    Progress impatient =
        new Progress() {
          @Override
          public void at(long done, long total) {}

          @Override
          public boolean isCancelled() {
            return true;
          }
        };
    assertThatThrownBy(() -> new ShotIntake().add(file, IntakeOptions.NONE, impatient))
        .isInstanceOf(Cancelled.class);
    try (Stream<Path> left = Files.list(dir)) {
      assertThat(left).containsExactly(file);
    }
  }

  @Test
  void whatIsNoMovieIsAnErrorAndLeavesNothing() throws IOException {
    Path playlist = dir.resolve("list.mov");
    Files.writeString(playlist, "\0\0\0\u0018ftyp#EXTM3U\nhttp://nowhere/a.ts\n".repeat(3));
    assertThatThrownBy(() -> intake(playlist))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(playlist.toString());
  }

  /**
   * Cut off at 200 places, then garbled 1,500 times ({@code -Dflarvo.movies=N}: N times); what can
   * still be seen may be kept.
   */
  @Test
  void brokenMoviesAreErrorsOrLeaveWhatCanBeSeen() throws IOException {
    byte[] whole = movie(25, 1);
    Random r = new Random(4);
    Path file = dir.resolve("bad.avi");
    Path frames = dir.resolve("bad_frames");
    for (int i = 0; i < 200 + Integer.getInteger("flarvo.movies", 1_500); i++) {
      byte[] bad =
          i < 200 ? Arrays.copyOf(whole, 16 + (whole.length - 16) * i / 200) : whole.clone();
      for (int k = 0; i >= 200 && k < 1 + i % 30; k++) {
        bad[16 + r.nextInt(bad.length - 16)] = (byte) r.nextInt(256);
      }
      HostileFiles.write(file, bad);
      // Where a decoder fell over the one before, the next has to start first.
      if (seconds(file, frames) > 10) {
        assertThat(seconds(file, frames)).as("movie %d", i).isLessThan(10);
      }
    }
  }

  private double seconds(Path file, Path frames) throws IOException {
    long begun = System.nanoTime();
    try {
      intake(file);
      assertThat(frames).isDirectory();
    } catch (InputError expected) {
      assertThat(expected.getMessage()).contains(file.toString()).doesNotContain("\n");
      assertThat(frames).doesNotExist();
    }
    remove(frames);
    return (System.nanoTime() - begun) / 1e9;
  }

  private static void remove(Path folder) throws IOException {
    if (Files.exists(folder)) {
      try (Stream<Path> inside = Files.list(folder)) {
        for (Path p : inside.toList()) {
          Files.delete(p);
        }
      }
      Files.delete(folder);
    }
  }
}
