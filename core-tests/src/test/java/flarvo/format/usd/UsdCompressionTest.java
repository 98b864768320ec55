package flarvo.format.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class UsdCompressionTest {

  @Property(tries = 300)
  void integersComeBack(@ForAll @Size(max = 400) int[] values) throws Exception {
    byte[] packed = UsdCompression.packInts(values);
    assertThat(UsdCompression.unpackInts(packed, values.length)).isEqualTo(values);
  }

  @Property(tries = 100)
  void blocksComeBack(@ForAll @Size(max = 3000) byte[] plain) throws Exception {
    assertThat(UsdCompression.unpack(UsdCompression.pack(plain), plain.length)).isEqualTo(plain);
  }

  /** Written out by hand from the layout: common step 1, then one step of each width. */
  @Test
  void theLayoutIsAsDescribed() throws Exception {
    byte[] plain = {
      1,
      0,
      0,
      0, // the common difference
      (byte) 0b11_10_01_00, // common, one byte, two bytes, four bytes
      5, // +5
      0,
      1, // +256
      0,
      0,
      1,
      0 // +65536
    };
    int[] v = UsdCompression.unpackInts(UsdCompression.pack(plain), 4);
    assertThat(v).containsExactly(1, 6, 262, 65798);
    byte[] wide = {2, 0, 0, 0, 0, 0, 0, 0, 0b01_00, (byte) 0xFF, (byte) 0xFF};
    assertThat(UsdCompression.unpackLongs(UsdCompression.pack(wide), 2)).containsExactly(2L, 1L);
  }

  @Test
  void claimsThatCannotBeAreRefusedBeforeTheyCostMemory() {
    byte[] tiny = UsdCompression.pack(new byte[64]);
    assertThatThrownBy(() -> UsdCompression.unpackInts(tiny, 4_000_000))
        .isInstanceOf(UsdCompression.Garbled.class);
    assertThatThrownBy(() -> UsdCompression.unpack(new byte[0], 10))
        .isInstanceOf(UsdCompression.Garbled.class);
    Random r = new Random(3);
    byte[] noise = new byte[200];
    for (int i = 0; i < 2000; i++) {
      r.nextBytes(noise);
      try {
        UsdCompression.unpackInts(noise, r.nextInt(5000));
      } catch (UsdCompression.Garbled expected) {
        assertThat(expected.getMessage()).isNotBlank();
      }
    }
  }
}
