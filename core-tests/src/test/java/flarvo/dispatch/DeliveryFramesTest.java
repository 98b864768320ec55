package flarvo.dispatch;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialects;
import flarvo.format.Formats;
import flarvo.motion.Recast;
import flarvo.motion.Retime;
import flarvo.scene.Fraction;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import java.util.Optional;
import java.util.function.IntFunction;
import org.junit.jupiter.api.Test;

class DeliveryFramesTest {

  private static final FrameRange ALL = new FrameRange(1001, 1020);

  private static IntFunction<Optional<Fraction>> of(Extract e) {
    Delivery d =
        new Delivery(
            "d",
            Dialects.shipped().get("anim-zup-m"), // its first frame is 1
            Formats.byId("usd-text"),
            Contents.CAMERA,
            e,
            "d.usda");
    return DeliveryFrames.of(d, ALL, Rate.FPS_24);
  }

  @Test
  void framesThatAreLeftOffMoveTheFirst() {
    IntFunction<Optional<Fraction>> f = of(Extract.WHOLE.leavingOff(8, 2));
    assertThat(f.apply(1009)).contains(Fraction.of(1));
    assertThat(f.apply(1018)).contains(Fraction.of(10));
    assertThat(f.apply(1008)).isEmpty();
    assertThat(f.apply(1019)).isEmpty();
    assertThat(of(Extract.WHOLE).apply(1020)).contains(Fraction.of(20));
    assertThat(of(Extract.WHOLE.leavingOff(20, 0)).apply(1010)).isEmpty();
  }

  @Test
  void framesThatAreAddedMoveTheFirst() {
    IntFunction<Optional<Fraction>> f = of(Extract.WHOLE.leavingOff(-8, -2));
    assertThat(f.apply(1001)).contains(Fraction.of(9));
    assertThat(f.apply(1020)).contains(Fraction.of(28));
  }

  @Test
  void aRetimeIsReadBackwards() {
    Recast slow =
        Recast.NONE.withRetime(
            Optional.of(new Retime(5, new double[] {1010, 1009.5, 1009, 1009, 1004})));
    IntFunction<Optional<Fraction>> f = of(Extract.WHOLE.recast(slow));
    assertThat(f.apply(1010)).contains(Fraction.of(1));
    assertThat(f.apply(1009)).contains(Fraction.of(3));
    assertThat(f.apply(1004)).contains(Fraction.of(5));
    assertThat(f.apply(1005)).isEmpty();
  }
}
