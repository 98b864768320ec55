package flarvo.stage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.scene.Vec3;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Angles of the light and back, and where they point. */
class SunDirectionTest {

  @Test
  void zeroIsAwayAndAnglesGrowClockwise() {
    assertThat(new SunDirection(0, 45).towards().z()).isNegative();
    assertThat(new SunDirection(90, 45).towards().x()).isPositive();
    assertThat(new SunDirection(180, 45).towards().z()).isPositive();
    assertThat(new SunDirection(-90, 45).towards().x()).isNegative();
    assertThat(new SunDirection(-90, 45).azimuth()).isEqualTo(270);
    assertThat(new SunDirection(0, 90).towards().y()).isCloseTo(1, within(1e-12));
  }

  @Test
  void aDirectionAndItsAnglesAreOne() {
    Random r = new Random(3);
    for (int i = 0; i < 500; i++) {
      Vec3 v = new Vec3(r.nextGaussian(), 0.1 + Math.abs(r.nextGaussian()), r.nextGaussian());
      assertThat(SunDirection.of(v).towards().minus(v.normalized()).length()).isLessThan(1e-12);
    }
  }

  @Test
  void lightFromBelowIsRefused() {
    for (double e : new double[] {0, -10, 91, Double.NaN}) {
      assertThatThrownBy(() -> new SunDirection(10, e))
          .hasMessageContaining("casts no shadow")
          .hasMessageContaining("1 to 90");
    }
    assertThatThrownBy(() -> SunDirection.of(new Vec3(1, -1, 0))).hasMessageContaining("horizon");
  }
}
