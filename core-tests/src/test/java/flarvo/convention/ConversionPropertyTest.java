package flarvo.convention;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Scale;

/** Properties that hold for all poses, however odd; the generator seeks the odd ones. */
class ConversionPropertyTest {

  @Provide
  Arbitrary<Dialect> dialects() {
    return Combinators.combine(
            Arbitraries.of(WorldAxes.all()),
            Arbitraries.of(CameraAxes.all()),
            Arbitraries.of(RotationOrder.values()),
            Arbitraries.doubles().between(1e-4, 1e4).ofScale(6))
        .as(
            (w, c, o, u) ->
                Dialect.CANONICAL
                    .withWorld(w)
                    .withCamera(c)
                    .withRotation(o, AngleUnit.DEGREES)
                    .withUnit(new LinearUnit(u)));
  }

  @Property(tries = 2000)
  void posesComeBack(
      @ForAll("dialects") Dialect d,
      @ForAll @Scale(12) @DoubleRange(min = -5000, max = 5000) double x,
      @ForAll @Scale(12) @DoubleRange(min = -5000, max = 5000) double y,
      @ForAll @Scale(12) @DoubleRange(min = -3.15, max = 3.15) double turn,
      @ForAll @Scale(12) @DoubleRange(min = -1, max = 1) double tilt) {
    Pose p = new Pose(new Vec3(x, y, x - y), Rotation.about(new Vec3(tilt, 1 - tilt, 0.3), turn));
    SpaceChange change = d.spaceChange(PictureSize.of(960, 540));
    Pose back = change.toCanonical(change.toDialect(p));
    assertThat(back.position().minus(p.position()).length())
        .isLessThanOrEqualTo(1e-12 * Math.max(1, p.position().length()));
    assertThat(back.rotation().angleTo(p.rotation())).isLessThan(1e-12);
  }

  @Property(tries = 2000)
  void anglesComposeToTheirRotationEvenAtPoles(
      @ForAll RotationOrder order,
      @ForAll @Scale(12) @DoubleRange(min = -7, max = 7) double a,
      @ForAll @IntRange(min = -4, max = 4) int quarters,
      @ForAll @Scale(12) @DoubleRange(min = -1e-9, max = 1e-9) double near,
      @ForAll @Scale(12) @DoubleRange(min = -7, max = 7) double c) {
    double b = quarters * Math.PI / 2 + near;
    double[] in = new double[3];
    in[order.first] = a;
    in[order.second] = b;
    in[order.third] = c;
    Rotation r = order.compose(in[0], in[1], in[2]);
    double[] out = order.decompose(r, a);
    assertThat(order.compose(out[0], out[1], out[2]).angleTo(r)).isLessThan(1e-12);
    double[] other = order.other(out);
    assertThat(order.compose(other[0], other[1], other[2]).angleTo(r)).isLessThan(1e-12);
  }
}
