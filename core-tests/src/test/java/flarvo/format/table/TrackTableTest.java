package flarvo.format.table;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.Observations;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** 2D tracks as a table. */
class TrackTableTest {

  @Test
  void placesAreRoundedAsAFormatterWould() {
    Random r = new Random(3);
    Observations.Builder b = new Observations.Builder();
    StringBuilder four = new StringBuilder("tracker,frame,x,y\n");
    StringBuilder six = new StringBuilder("# picture: 960x540\ntracker,frame,x,y\n");
    for (int f = 0; f < 5000; f++) {
      double size = Math.pow(10, r.nextInt(11) - 5);
      double x = (r.nextDouble() - 0.5) * size;
      double y = (r.nextDouble() - 0.5) * size;
      b.add("a", f, x, y);
      four.append(String.format(Locale.ROOT, "a,%d,%s,%s\n", f, f4(x), f4(y)));
      six.append(String.format(Locale.ROOT, "a,%d,%s,%s\n", f, f6(x), f6(y)));
    }
    assertThat(TrackTable.text(b.build())).isEqualTo(four.toString());
    assertThat(TrackTable.exact(b.build(), List.of("picture: 960x540"))).isEqualTo(six.toString());
  }

  private static String f4(double v) {
    return withoutMinusZero(String.format(Locale.ROOT, "%.4f", v));
  }

  private static String f6(double v) {
    return withoutMinusZero(String.format(Locale.ROOT, "%.6f", v));
  }

  private static String withoutMinusZero(String s) {
    return s.matches("-0\\.0*") ? s.substring(1) : s;
  }

  @Test
  void aPlaceFarOffIsANumberStill() {
    Observations.Builder b = new Observations.Builder();
    b.add("a", 1, 1e300, -2.5e17);
    assertThat(TrackTable.text(b.build())).endsWith("a,1,1.0E300,-2.5E17\n");
  }
}
