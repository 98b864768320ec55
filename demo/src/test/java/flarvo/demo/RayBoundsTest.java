package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** No ray that meets a box may be turned away; most others should be. */
class RayBoundsTest {

  private final Random chance = new Random(11);

  private double between(double lo, double hi) {
    return lo + (hi - lo) * chance.nextDouble();
  }

  private double[] box() {
    double[] b = new double[6];
    for (int a = 0; a < 3; a++) {
      b[a] = between(a == 1 ? 0 : -6, 5);
      b[a + 3] = b[a] + between(0.05, 2);
    }
    return b;
  }

  private Vec3 within(double[] b) {
    return new Vec3(between(b[0], b[3]), between(b[1], b[4]), between(b[2], b[5]));
  }

  @Test
  void whateverIsSeenOfABoxIsWithinItsBounds() {
    int outside = 0;
    int ahead = 0;
    for (int turn = 0; turn < 2_000; turn++) {
      double[] b = box();
      Vec3 eye = new Vec3(between(-5, 5), between(0.2, 4), between(-5, 5));
      Vec3 axis = new Vec3(between(-1, 1), between(-1, 1), between(-1, 1)).normalized();
      double[] m = Rotation.about(axis, between(-3, 3)).toRows();
      double[] at = {eye.x(), eye.y(), eye.z()};
      RayBounds bounds = RayBounds.seenFrom(at, m, new double[][] {b});
      for (int i = 0; i < 20; i++) {
        Vec3 to = within(b).minus(eye);
        double depth = -(m[2] * to.x() + m[5] * to.y() + m[8] * to.z());
        if (depth <= 0) {
          continue; // behind the eye, where no ray of a picture goes
        }
        double lx = (m[0] * to.x() + m[3] * to.y() + m[6] * to.z()) / depth;
        double ly = (m[1] * to.x() + m[4] * to.y() + m[7] * to.z()) / depth;
        assertThat(bounds.mayMeet(0, lx, ly)).isTrue();
      }
      if (!bounds.mayMeet(0, 1e9, 1e9)) { // else it reaches behind the eye
        ahead++;
        outside += bounds.mayMeet(0, between(-0.6, 0.6), between(-0.4, 0.4)) ? 0 : 1;
      }
    }
    assertThat(ahead).isGreaterThan(500);
    assertThat(outside / (double) ahead).isGreaterThan(0.7);
  }

  @Test
  void whateverCastsAShadowIsWithinItsBounds() {
    int outside = 0;
    for (int turn = 0; turn < 2_000; turn++) {
      double[] b = box();
      double alongX = between(-1, 1);
      double alongZ = between(-1, 1);
      RayBounds bounds = RayBounds.upwards(alongX, alongZ, 0.03, new double[][] {b});
      for (int i = 0; i < 20; i++) {
        Vec3 met = within(b);
        double from = between(0, met.y());
        double up = met.y() - from;
        double x = met.x() - up * (alongX + between(-0.03, 0.03));
        double z = met.z() - up * (alongZ + between(-0.03, 0.03));
        assertThat(bounds.mayMeet(0, x - from * alongX, z - from * alongZ)).isTrue();
      }
      outside += bounds.mayMeet(0, between(-8, 8), between(-8, 8)) ? 0 : 1;
    }
    assertThat(outside).isGreaterThan(1_000);
  }

  @Test
  void aRayOfWhichNothingIsKnownMayMeetAnything() {
    RayBounds bounds = RayBounds.unknown(2);
    assertThat(bounds.mayMeet(0, 0, 0)).isTrue();
    assertThat(bounds.mayMeet(1, 1e9, -1e9)).isTrue();
  }
}
