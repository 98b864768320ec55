package flarvo.vet.resolve;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import boofcv.abst.geo.EstimateNofEpipolar;
import boofcv.factory.geo.EnumEssential;
import boofcv.factory.geo.FactoryMultiView;
import boofcv.struct.geo.AssociatedPair;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.ddogleg.struct.DogArray;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;
import org.ejml.dense.row.NormOps_DDRM;
import org.junit.jupiter.api.Test;

class FivePointTest {

  private final Random chance = new Random(20);
  private DMatrixRMaj truth;

  private Vec3 some(double size) {
    return new Vec3(chance.nextGaussian(), chance.nextGaussian(), chance.nextGaussian())
        .times(size);
  }

  /** Five points before two cameras that look along +Z. */
  private List<AssociatedPair> points() {
    Rotation turn = Rotation.about(some(1).normalized(), 0.5 * chance.nextDouble());
    Vec3 t = some(1);
    double[] r = turn.toRows();
    DMatrixRMaj cross =
        new DMatrixRMaj(3, 3, true, 0, -t.z(), t.y(), t.z(), 0, -t.x(), -t.y(), t.x(), 0);
    truth = new DMatrixRMaj(3, 3);
    CommonOps_DDRM.mult(cross, new DMatrixRMaj(3, 3, true, r), truth);
    List<AssociatedPair> out = new ArrayList<>();
    while (out.size() < 5) {
      Vec3 p = new Vec3(2 * chance.nextGaussian(), 2 * chance.nextGaussian(), 6).plus(some(0.8));
      Vec3 q = turn.apply(p).plus(t);
      if (p.z() > 1 && q.z() > 1) {
        out.add(new AssociatedPair(p.x() / p.z(), p.y() / p.z(), q.x() / q.z(), q.y() / q.z()));
      }
    }
    return out;
  }

  private static DMatrixRMaj unit(DMatrixRMaj m) {
    DMatrixRMaj u = m.copy();
    NormOps_DDRM.normalizeF(u);
    return u;
  }

  /** Whatever scale and sign they have. */
  private static double difference(DMatrixRMaj a, DMatrixRMaj b) {
    DMatrixRMaj sum = new DMatrixRMaj(3, 3);
    CommonOps_DDRM.add(unit(a), unit(b), sum);
    DMatrixRMaj less = new DMatrixRMaj(3, 3);
    CommonOps_DDRM.subtract(unit(a), unit(b), less);
    return Math.min(NormOps_DDRM.normF(sum), NormOps_DDRM.normF(less));
  }

  private static double nearest(DMatrixRMaj m, DogArray<DMatrixRMaj> all) {
    return all.toList().stream().mapToDouble(s -> difference(m, s)).min().orElse(9);
  }

  @Test
  void theTruthIsAmongWhatIsFound() {
    int hit = 0;
    FivePoint solver = new FivePoint();
    DogArray<DMatrixRMaj> found = new DogArray<>(() -> new DMatrixRMaj(3, 3));
    for (int turn = 0; turn < 1_000; turn++) {
      hit += solver.process(points(), found) && nearest(truth, found) < 1e-6 ? 1 : 0;
      assertThat(found.size).isLessThanOrEqualTo(10);
    }
    assertThat(hit).isGreaterThan(990);
  }

  @Test
  void allThatIsFoundAgreesWithThePointsAndIsEssential() {
    FivePoint solver = new FivePoint();
    DogArray<DMatrixRMaj> found = new DogArray<>(() -> new DMatrixRMaj(3, 3));
    int sound = 0;
    int all = 0;
    for (int turn = 0; turn < 300; turn++) {
      List<AssociatedPair> p = points();
      solver.process(p, found);
      for (DMatrixRMaj m : found.toList()) {
        DMatrixRMaj u = unit(m);
        for (AssociatedPair a : p) {
          assertThat(constraint(u, a)).isCloseTo(0, within(1e-9));
        }
        all++;
        sound += Math.abs(CommonOps_DDRM.det(u)) < 1e-6 && unequal(u) < 1e-5 ? 1 : 0;
      }
    }
    assertThat(sound / (double) all).isGreaterThan(0.99);
  }

  private static double constraint(DMatrixRMaj m, AssociatedPair a) {
    double x = m.get(0, 0) * a.p1.x + m.get(0, 1) * a.p1.y + m.get(0, 2);
    double y = m.get(1, 0) * a.p1.x + m.get(1, 1) * a.p1.y + m.get(1, 2);
    double z = m.get(2, 0) * a.p1.x + m.get(2, 1) * a.p1.y + m.get(2, 2);
    return a.p2.x * x + a.p2.y * y + z;
  }

  /** How far its two singular values differ: of unit size, the trace of (E Eᵀ)² is a half then. */
  private static double unequal(DMatrixRMaj u) {
    DMatrixRMaj s = new DMatrixRMaj(3, 3);
    CommonOps_DDRM.multTransB(u, u, s);
    DMatrixRMaj twice = new DMatrixRMaj(3, 3);
    CommonOps_DDRM.mult(s, s, twice);
    return Math.abs(CommonOps_DDRM.trace(twice) - 0.5);
  }

  /** A library that we did not write finds the same, as often. */
  @Test
  void aLibraryFindsTheSame() {
    FivePoint solver = new FivePoint();
    EstimateNofEpipolar other = FactoryMultiView.essential_N(EnumEssential.NISTER_5);
    DogArray<DMatrixRMaj> ours = new DogArray<>(() -> new DMatrixRMaj(3, 3));
    DogArray<DMatrixRMaj> theirs = new DogArray<>(() -> new DMatrixRMaj(3, 3));
    int total = 0;
    int same = 0;
    for (int turn = 0; turn < 300; turn++) {
      List<AssociatedPair> p = points();
      solver.process(p, ours);
      other.process(p, theirs);
      for (DMatrixRMaj m : theirs.toList()) {
        total++;
        same += nearest(m, ours) < 1e-5 ? 1 : 0;
      }
      for (DMatrixRMaj m : ours.toList()) {
        total++;
        same += nearest(m, theirs) < 1e-5 ? 1 : 0;
      }
    }
    assertThat(total).isGreaterThan(1_000);
    assertThat(same / (double) total).isGreaterThan(0.985);
  }

  /** One point five times, five of a line, and a camera that stands: nothing, or plain numbers. */
  @Test
  void pointsOfNoUseEndInNothingOrInNumbers() {
    FivePoint solver = new FivePoint();
    DogArray<DMatrixRMaj> found = new DogArray<>(() -> new DMatrixRMaj(3, 3));
    List<AssociatedPair> same = new ArrayList<>();
    List<AssociatedPair> line = new ArrayList<>();
    List<AssociatedPair> still = new ArrayList<>();
    for (int i = 0; i < 5; i++) {
      same.add(new AssociatedPair(0.1, 0.2, 0.1, 0.2));
      line.add(new AssociatedPair(0.1 * i, 0, 0.1 * i + 0.05, 0));
      double x = chance.nextGaussian();
      double y = chance.nextGaussian();
      still.add(new AssociatedPair(x, y, x, y));
    }
    for (List<AssociatedPair> points : List.of(same, line, still)) {
      boolean some = solver.process(points, found);
      assertThat(some).isEqualTo(found.size > 0);
      for (DMatrixRMaj m : found.toList()) {
        assertThat(m.data).doesNotContain(Double.NaN);
        assertThat(NormOps_DDRM.normF(m)).isFinite();
      }
    }
    assertThat(solver.process(points(), found)).isTrue(); // and it is none the worse for them
    assertThat(nearest(truth, found)).isLessThan(1e-6);
  }
}
