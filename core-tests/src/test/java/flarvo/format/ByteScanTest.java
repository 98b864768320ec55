package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Random;
import org.junit.jupiter.api.Test;

class ByteScanTest {

  /** Against a search byte by byte, with all kinds of bytes around. */
  @Test
  void findsWhatALoopFinds() {
    Random r = new Random(1);
    for (int n = 0; n < 20_000; n++) {
      byte[] b = new byte[r.nextInt(60)];
      r.nextBytes(b);
      if (b.length > 0 && r.nextBoolean()) {
        b[r.nextInt(b.length)] = '\n';
      }
      int from = r.nextInt(b.length + 1);
      int to = from + r.nextInt(b.length - from + 1);
      int expected = from;
      while (expected < to && b[expected] != '\n') {
        expected++;
      }
      assertThat(ByteScan.find(b, from, to, '\n')).isEqualTo(expected);
    }
  }

  @Test
  void oneByteOver127IsSeenWhereverItStands() {
    for (int length = 1; length < 40; length++) {
      byte[] b = "a".repeat(length).getBytes(StandardCharsets.US_ASCII);
      assertThat(ByteScan.isAscii(b)).isTrue();
      for (int i = 0; i < length; i++) {
        b[i] = (byte) 0x80;
        assertThat(ByteScan.isAscii(b)).isFalse();
        b[i] = 'a';
      }
    }
  }
}
