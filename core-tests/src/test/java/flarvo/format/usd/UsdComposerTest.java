package flarvo.format.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.convention.Dialect;
import flarvo.format.ByteSink;
import flarvo.format.FileScene;
import flarvo.format.Formats;
import flarvo.format.Reach;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.zip.CRC32;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Layers put together; the peer check holds the same against the reference library. */
class UsdComposerTest {

  private static final String HEAD =
      "#usda 1.0\n( metersPerUnit = 1\n upAxis = \"Y\"\n timeCodesPerSecond = 24\n"
          + " defaultPrim = \"Solve\" %s)\n";

  private static final String SOLVE =
      HEAD.formatted("")
          + """
          def Xform "Solve" {
            def Camera "cam" {
              float focalLength = 0.35
              float horizontalAperture = 0.36
              float verticalAperture = 0.2
              double3 xformOp:translate.timeSamples = { 10: (1, 0, 0), 20: (11, 0, 0) }
              uniform token[] xformOpOrder = ["xformOp:translate"]
            }
            def Xform "p" {
              double3 xformOp:translate = (1, 2, 3)
              uniform token[] xformOpOrder = ["xformOp:translate"]
            }
          }
          """;

  @TempDir private Path dir;

  private Path write(String name, String text) throws IOException {
    Path f = dir.resolve(name);
    Files.createDirectories(f.getParent());
    return Files.writeString(f, text);
  }

  private static FileScene read(Path f) {
    return Formats.recognise(f).read(f, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }

  private static Vec3 camera(FileScene s, int frame) {
    return s.cameras().get(0).camera().poses().at(frame).position();
  }

  @Test
  void aReferenceIsRetimedAndMoved() throws IOException {
    write("parts/solve.usda", SOLVE);
    FileScene s =
        read(
            write(
                "shot.usda",
                HEAD.formatted("")
                    + """
                    def Xform "Shot" (
                      references = @./parts/solve.usda@ (offset = 1000; scale = 0.5)
                    ) {
                      double3 xformOp:translate = (0, 5, 0)
                      uniform token[] xformOpOrder = ["xformOp:translate"]
                    }
                    """));
    assertThat(s.cameras().get(0).camera().frames()).isEqualTo(new FrameRange(1005, 1010));
    assertThat(camera(s, 1005)).isEqualTo(new Vec3(1, 5, 0));
    assertThat(camera(s, 1006)).isEqualTo(new Vec3(3, 5, 0));
    assertThat(s.trackers().get(0).position(0)).isEqualTo(new Vec3(1, 7, 3));
  }

  @Test
  void aLayerOfAnotherRateKeepsItsSeconds() throws IOException {
    write("solve.usda", SOLVE.replace("timeCodesPerSecond = 24", "timeCodesPerSecond = 48"));
    FileScene s =
        read(
            write(
                "shot.usda",
                HEAD.formatted("") + "def Xform \"Shot\" ( references = @./solve.usda@ ) { }"));
    assertThat(s.cameras().get(0).camera().frames()).isEqualTo(new FrameRange(5, 10));
  }

  @Test
  void theStrongerLayerWinsAndABlockedValueIsGone() throws IOException {
    write("weak.usda", SOLVE);
    FileScene s =
        read(
            write(
                "shot.usda",
                HEAD.formatted("subLayers = [ @./weak.usda@ (offset = 100) ]\n")
                    + """
                    over "Solve" {
                      over "cam" { float focalLength = 0.5 float verticalAperture = None }
                      over "p" { double3 xformOp:translate = (7, 8, 9) }
                      over "nothing" { int x = 1 }
                    }
                    """));
    assertThat(s.cameras().get(0).camera().optics().at(110).focalLengthMm())
        .isCloseTo(50, org.assertj.core.api.Assertions.within(1e-5));
    assertThat(s.cameras().get(0).camera().frames()).isEqualTo(new FrameRange(110, 120));
    assertThat(s.trackers().get(0).position(0)).isEqualTo(new Vec3(7, 8, 9));
    assertThat(s.notes().toString()).contains("/Solve/nothing").contains("nothing defines it");
  }

  @Test
  void variantsInheritedClassesAndPayloads() throws IOException {
    write("solve.usda", SOLVE);
    FileScene s =
        read(
            write(
                "shot.usda",
                HEAD.formatted("")
                    + """
                    class Xform "_far" {
                      double3 xformOp:translate = (0, 0, -100)
                      uniform token[] xformOpOrder = ["xformOp:translate"]
                    }
                    def Xform "Shot" (
                      inherits = </_far>
                      variants = { string take = "two" }
                      prepend variantSets = "take"
                    ) {
                      variantSet "take" = {
                        "one" { def Xform "wrong" { double3 xformOp:translate = (0, 0, 0)
                          uniform token[] xformOpOrder = ["xformOp:translate"] } }
                        "two" ( payload = @solve.usda@</Solve> ) { }
                      }
                    }
                    """));
    assertThat(camera(s, 10)).isEqualTo(new Vec3(1, 0, -100));
    assertThat(s.trackerCount()).isEqualTo(1);
  }

  @Test
  void whatTravelledWithoutItsFolderIsFoundBesideTheFile() throws IOException {
    write("solve.usda", SOLVE);
    Path shot =
        write(
            "shot.usda",
            HEAD.formatted("")
                + "def Xform \"Shot\" ( references = @../lib/deep/solve.usda@ ) { }\n"
                + "def Xform \"Gone\" ( references = @./gone.usdc@ ) { }");
    FileScene s = read(shot);
    assertThat(s.cameras()).hasSize(1);
    assertThat(s.notes().toString()).contains("'./gone.usdc' is not beside the file");
  }

  @Test
  void circlesAreRefused() throws IOException {
    write("b.usda", HEAD.formatted("") + "def \"Solve\" ( references = @./a.usda@ ) { }");
    Path a = write("a.usda", HEAD.formatted("") + "def \"Solve\" ( references = @./b.usda@ ) { }");
    assertThatThrownBy(() -> read(a)).isInstanceOf(InputError.class).hasMessageContaining("itself");
    Path sub = write("s.usda", HEAD.formatted("subLayers = [@./s.usda@]\n"));
    assertThatThrownBy(() -> read(sub)).hasMessageContaining("sublayer of itself");
    Path inner =
        write("i.usda", HEAD.formatted("") + "def \"A\" { def \"B\" ( references = </A> ) { } }");
    assertThatThrownBy(() -> read(inner)).hasMessageContaining("itself");
  }

  @Test
  void referencesThatMultiplyEndInAnError() throws IOException {
    StringBuilder s = new StringBuilder(HEAD.formatted(""));
    s.append("def \"L0\" { def \"x\" { } }\n");
    for (int i = 1; i < 40; i++) {
      s.append("def \"L").append(i).append("\" {\n");
      for (String c : new String[] {"a", "b", "c"}) {
        s.append("  def \"")
            .append(c)
            .append("\" ( references = </L")
            .append(i - 1)
            .append("> ) { }\n");
      }
      s.append("}\n");
    }
    Path f = write("bomb.usda", s.toString());
    ReadLimits small = new ReadLimits(1 << 20, 64, 1000, 10_000, 20_000, 10, Reach.BESIDE, false);
    assertThatThrownBy(() -> Formats.recognise(f).read(f, Dialect.CANONICAL, small, Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("multiply");
  }

  /** A plain zip archive of stored entries. */
  private static byte[] zip(Map<String, byte[]> entries) {
    ByteSink out = new ByteSink();
    ByteSink directory = new ByteSink();
    for (Map.Entry<String, byte[]> e : entries.entrySet()) {
      CRC32 crc = new CRC32();
      crc.update(e.getValue());
      int at = out.position();
      int size = e.getValue().length;
      int name = e.getKey().length();
      out.i32(0x04034b50);
      directory.i32(0x02014b50);
      directory.u16(20);
      for (ByteSink b : new ByteSink[] {out, directory}) {
        b.u16(20);
        b.zeros(8);
        b.i32((int) crc.getValue());
        b.i32(size);
        b.i32(size);
        b.u16(name);
        b.u16(0);
      }
      out.text(e.getKey());
      out.bytes(e.getValue());
      directory.zeros(10);
      directory.i32(0);
      directory.put32(directory.position() - 4, at);
      directory.text(e.getKey());
    }
    int start = out.position();
    out.bytes(directory.toBytes());
    out.i32(0x06054b50);
    out.zeros(4);
    out.u16(entries.size());
    out.u16(entries.size());
    out.i32(directory.position());
    out.i32(start);
    out.u16(0);
    return out.toBytes();
  }

  private static byte[] bytes(String s) {
    return s.getBytes(StandardCharsets.UTF_8);
  }

  private static Map<String, byte[]> entries(Object... pairs) {
    Map<String, byte[]> m = new LinkedHashMap<>();
    for (int i = 0; i < pairs.length; i += 2) {
      m.put((String) pairs[i], pairs[i + 1] instanceof byte[] b ? b : bytes((String) pairs[i + 1]));
    }
    return m;
  }

  @Test
  void aPackageHoldsItsPartsAndPackagesMayNest() throws IOException {
    byte[] inner = zip(entries("solve.usda", SOLVE));
    String root = HEAD.formatted("") + "def Xform \"Shot\" ( references = @parts/inner.usdz@ ) { }";
    Path f =
        Files.write(
            dir.resolve("a.usdz"), zip(entries("root.usda", root, "parts/inner.usdz", inner)));
    FileScene s = read(f);
    assertThat(s.cameras()).hasSize(1);
    assertThat(camera(s, 20)).isEqualTo(new Vec3(11, 0, 0));
  }

  @Test
  void pathsThatClimbOutOfAPackageAreRefused() throws IOException {
    write("secret.usda", SOLVE);
    Path climbing =
        Files.write(dir.resolve("c.usdz"), zip(entries("root.usda", SOLVE, "../x.usda", SOLVE)));
    assertThatThrownBy(() -> read(climbing)).hasMessageContaining("climbs out");
    String root = HEAD.formatted("") + "def Xform \"S\" ( references = @../secret.usda@ ) { }";
    Path reaching = Files.write(dir.resolve("r.usdz"), zip(entries("root.usda", root)));
    assertThat(read(reaching).cameras()).isEmpty();
  }

  /** Found by mutation: an entry without a name stood for the package itself. */
  @Test
  void entriesThatNoLayerCanNameAreRefused() throws IOException {
    for (String name : new String[] {"", "a[b].usda"}) {
      Path f = Files.write(dir.resolve("e.usdz"), zip(entries(name, SOLVE)));
      assertThatThrownBy(() -> read(f))
          .isInstanceOf(InputError.class)
          .hasMessageContaining("which no layer can name");
    }
  }

  @Test
  void tenPackagesInsideEachOtherAreTooMany() throws IOException {
    byte[] b = bytes(SOLVE);
    String name = "solve.usda";
    for (int i = 0; i < 10; i++) {
      b = zip(entries(name, b));
      name = "p" + i + ".usdz";
    }
    Path f = Files.write(dir.resolve("n.usdz"), b);
    assertThatThrownBy(() -> read(f)).isInstanceOf(InputError.class).hasMessageContaining("nested");
  }

  /** Eleven files of some 300 bytes that refer to each other eight times each: 8¹¹ prims. */
  @Test
  void referencesThatMultiplyAreRefusedInSeconds() throws IOException {
    for (int k = 0; k < 11; k++) {
      StringBuilder s =
          new StringBuilder("#usda 1.0\n( defaultPrim = \"a\" )\ndef Xform \"a\" {\n");
      for (int i = 0; i < 8; i++) {
        s.append(
            k < 10
                ? " def \"c%d\" ( references = @b%d.usda@ ) { }\n".formatted(i, k + 1)
                : " def Xform \"c%d\" { }\n".formatted(i));
      }
      Files.writeString(dir.resolve("b" + k + ".usda"), s + "}\n");
    }
    org.junit.jupiter.api.Assertions.assertTimeoutPreemptively(
        java.time.Duration.ofSeconds(60),
        () ->
            assertThatThrownBy(
                    () ->
                        new UsdTextFormat()
                            .read(
                                dir.resolve("b0.usda"),
                                Dialect.CANONICAL,
                                ReadLimits.USUAL,
                                Progress.NONE))
                .isInstanceOf(InputError.class)
                .hasMessageContaining("multiply"));
  }
}
