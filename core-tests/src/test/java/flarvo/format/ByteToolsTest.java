package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Every byte passes one checked input. */
class ByteToolsTest {

  @TempDir private Path dir;

  @Test
  void whatIsWrittenIsReadBack() {
    ByteSink out = new ByteSink(1);
    Random r = new Random(4);
    long[] seed = r.longs(500).toArray();
    for (long s : seed) {
      out.u8((int) s);
      out.u16((int) s);
      out.i32((int) s);
      out.i64(s);
      out.f32(Float.intBitsToFloat((int) s & 0x7F7FFFFF));
      out.f64(s / 3.0);
      out.text("ü" + s);
    }
    ByteSource in = ByteSource.of("t", out.toBytes());
    ByteCursor c = in.at(0);
    for (long s : seed) {
      assertThat(c.u8()).isEqualTo((int) s & 0xFF);
      assertThat(c.u16()).isEqualTo((int) s & 0xFFFF);
      assertThat(c.i32()).isEqualTo((int) s);
      assertThat(c.i64()).isEqualTo(s);
      assertThat(c.f32()).isEqualTo(Float.intBitsToFloat((int) s & 0x7F7FFFFF));
      assertThat(c.f64()).isEqualTo(s / 3.0);
      String text = "ü" + s;
      assertThat(c.text(text.getBytes(java.nio.charset.StandardCharsets.UTF_8).length))
          .isEqualTo(text);
    }
    assertThat(c.position()).isEqualTo(in.size());
  }

  @ParameterizedTest
  @CsvSource({
    "-1,1",
    "0,11",
    "10,1",
    "9,2",
    "0,-1",
    "9223372036854775807,1",
    "5,9223372036854775807"
  })
  void nothingOutsideIsEverRead(long at, long length) {
    ByteSource in = ByteSource.of("t", new byte[10]);
    assertThatThrownBy(() -> in.bytes(at, length))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("byte offset");
  }

  @Test
  void countsAreHeldAgainstWhatIsLeft() {
    ByteSink out = new ByteSink();
    out.i64(3);
    out.i64(0);
    out.i64(0);
    ByteSource in = ByteSource.of("t", out.toBytes());
    assertThat(in.at(0).count64(5)).isEqualTo(3);
    assertThatThrownBy(() -> in.at(0).count64(6)).hasMessageContaining("a count of 3 is claimed");
    out.put64(0, -1);
    ByteSource lie = ByteSource.of("t", out.toBytes());
    assertThatThrownBy(() -> lie.at(0).count64(1)).hasMessageContaining("18446744073709551615");
    assertThatThrownBy(() -> lie.at(0).count32(1)).hasMessageContaining("4294967295");
  }

  @Test
  void aPartNamesThePlaceInTheWholeFile() {
    ByteSource part = ByteSource.of("t", new byte[100]).part("t[inner]", 40, 20);
    assertThat(part.size()).isEqualTo(20);
    assertThatThrownBy(() -> part.i32(18))
        .hasMessageContaining("t[inner]")
        .hasMessageContaining("58");
    assertThatThrownBy(() -> part.part("x", 10, 11)).isInstanceOf(InputError.class);
  }

  @Test
  void largeFilesAreMappedAndReadTheSame() throws IOException {
    byte[] b = new byte[(32 << 20) + 100];
    new Random(1).nextBytes(b);
    Path f = Files.write(dir.resolve("large.bin"), b);
    ByteSource in = ByteSource.open(f, ReadLimits.USUAL);
    ByteBuffer same = ByteBuffer.wrap(b).order(ByteOrder.LITTLE_ENDIAN);
    for (int at : new int[] {0, 77, 1 << 20, 32 << 20, b.length - 8}) {
      assertThat(in.i64(at)).isEqualTo(same.getLong(at));
    }
    ReadLimits small = new ReadLimits(1000, 1, 1, 1, 1, 1, Reach.BESIDE, false);
    assertThatThrownBy(() -> ByteSource.open(f, small)).hasMessageContaining("larger than 1000");
    assertThatThrownBy(() -> ByteSource.open(dir, ReadLimits.USUAL)).hasMessageContaining("folder");
  }

  @ParameterizedTest
  @CsvSource({
    "0x3C00,1",
    "0xC000,-2",
    "0x7BFF,65504",
    "0x0001,5.960464477539063E-8",
    "0x3555,0.333251953125",
    "0x0000,0",
    "0x03FF,6.097555160522461E-5"
  })
  void halvesAreWhatTheirBitsSay(String bits, double value) {
    assertThat(Half.toDouble(Integer.decode(bits))).isEqualTo(value);
  }

  @Test
  void halvesOutOfRange() {
    assertThat(Half.toDouble(0x7C00)).isEqualTo(Double.POSITIVE_INFINITY);
    assertThat(Half.toDouble(0xFC00)).isEqualTo(Double.NEGATIVE_INFINITY);
    assertThat(Half.toDouble(0x7C01)).isNaN();
  }
}
