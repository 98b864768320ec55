package flarvo.scene;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Blocks of near neighbours: nothing gets lost, and what is in the picture is never passed over.
 */
class PointBlocksTest {

  private static final PictureSize PICTURE = PictureSize.of(1920, 1080);

  private static double[] cloud(int points, long seed) {
    Random r = new Random(seed);
    return r.doubles(3L * points, -20, 20).toArray();
  }

  private static TrackerSet set(double[] xyz) {
    return TrackerSet.of(
        "s", IntStream.range(0, xyz.length / 3).mapToObj(i -> "t" + i).toList(), xyz);
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 63, 64, 65, 127, 128, 129, 1000, 20_000})
  void everyPointIsInOneBlockAndInItsBall(int points) {
    double[] xyz = cloud(points, points);

    PointBlocks b = PointBlocks.of(xyz);

    boolean[] met = new boolean[points];
    for (int k = 0; k < b.count(); k++) {
      assertThat(b.size(k)).isBetween(1, PointBlocks.SIZE);
      double[] ball = Arrays.copyOfRange(b.balls(), 4 * k, 4 * k + 4);
      for (int i = 0; i < b.size(k); i++) {
        int was = b.original(k, i);
        assertThat(met[was]).isFalse();
        met[was] = true;
        double[] at = {b.x(k)[i], b.y(k)[i], b.z(k)[i]};
        assertThat(at).isEqualTo(Arrays.copyOfRange(xyz, 3 * was, 3 * was + 3));
        double dx = at[0] - ball[0];
        double dy = at[1] - ball[1];
        double dz = at[2] - ball[2];
        assertThat(Math.sqrt(dx * dx + dy * dy + dz * dz)).isLessThanOrEqualTo(ball[3]);
      }
    }
    assertThat(met).doesNotContain(false);
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 1024, 1025, 20_000})
  void everyPointIsInTheWideBallOfItsBlocks(int points) {
    PointBlocks b = PointBlocks.of(cloud(points, points));

    assertThat(b.wide()).hasSize(4 * ((b.count() + 15) / 16));
    for (int k = 0; k < b.count(); k++) {
      double[] ball = Arrays.copyOfRange(b.wide(), 4 * (k / 16), 4 * (k / 16) + 4);
      for (int i = 0; i < b.size(k); i++) {
        double dx = b.x(k)[i] - ball[0];
        double dy = b.y(k)[i] - ball[1];
        double dz = b.z(k)[i] - ball[2];
        assertThat(Math.sqrt(dx * dx + dy * dy + dz * dz)).isLessThanOrEqualTo(ball[3]);
      }
    }
  }

  /** Along a walk through the points, with a range that few of them can widen in the end. */
  @Test
  void theDepthsOfAWalkAreThoseOfEachPointAlone() {
    double[] xyz = cloud(5000, 9);
    TrackerSet t = set(xyz);
    Random r = new Random(10);
    double[] px = new double[3];
    for (boolean inside : new boolean[] {false, true}) {
      double[] range = {Double.MAX_VALUE, 0};
      double[] alone = range.clone();
      for (int n = 0; n < 200; n++) {
        Pinhole p = pinhole(pose(r, 30)).at(1);
        p.widen(t, 0.001, inside, range);
        for (int i = 0; i < t.size(); i++) {
          p.project(t, i, px);
          boolean in = px[0] >= 0 && px[0] <= 1920 && px[1] >= 0 && px[1] <= 1080;
          if (px[2] > 0.001 && (in || !inside)) {
            alone[0] = Math.min(alone[0], px[2]);
            alone[1] = Math.max(alone[1], px[2]);
          }
        }
        assertThat(range).containsExactly(alone[0], alone[1]);
      }
    }
  }

  @Test
  void aLevelIsAppliedToThePointsOnceForAllDeliveries() {
    TrackerSet t = set(cloud(300, 13));
    Similarity level =
        new Similarity(2, Rotation.about(new Vec3(1, 2, 3).normalized(), 1), new Vec3(4, 5, 6));

    TrackerSet a = t.under(level);
    TrackerSet b = t.asCloud(true).under(level);

    assertThat(a.blocks()).isSameAs(b.blocks());
    assertThat(b.isCloud()).isTrue();
    assertThat(a.position(7)).isEqualTo(level.apply(t.position(7)));
    TrackerSet other = t.under(Similarity.IDENTITY);
    assertThat(other.position(7)).isEqualTo(t.position(7));
    assertThat(t.under(level).position(7)).isEqualTo(a.position(7));
  }

  @Test
  void neighboursAreGatheredThoughOnePointIsFarAway() {
    double[] xyz = cloud(20_000, 3);
    xyz[0] = 1e12;

    PointBlocks b = PointBlocks.of(xyz);

    double[] radii = IntStream.range(0, b.count()).mapToDouble(k -> b.balls()[4 * k + 3]).toArray();
    Arrays.sort(radii);
    // A cube of 40 m in 313 blocks: each of 5.9 m, so 5.1 m from its middle to a corner.
    assertThat(radii[b.count() / 2]).isLessThan(6);
    assertThat(radii[b.count() * 9 / 10]).isLessThan(12);
  }

  @Test
  void equalPointsAndSortedOnesTakeNoLonger() {
    double[] same = new double[3 * 300_000];
    double[] line = IntStream.range(0, 900_000).mapToDouble(i -> i).toArray();
    long begun = System.nanoTime();

    PointBlocks a = PointBlocks.of(same);
    PointBlocks b = PointBlocks.of(line);

    assertThat(a.balls()[3]).isLessThan(1e-8);
    assertThat(b.balls()[3]).isLessThan(400);
    assertThat((System.nanoTime() - begun) / 1e9).isLessThan(20); // 0.2 s; quadratic takes minutes
  }

  @Test
  void whatIsNoNumberIsNeverPassedOver() {
    double[] xyz = cloud(300, 5);
    xyz[3 * 100 + 1] = Double.NaN;
    xyz[3 * 200] = Double.POSITIVE_INFINITY;
    PointBlocks b = PointBlocks.of(xyz);
    Pinhole p = pinhole(Pose.IDENTITY).at(1);
    TrackerSet still = set(cloud(1, 1));

    int met = 0;
    for (int k = 0; k < b.count(); k++) {
      for (int i = 0; i < b.size(k); i++) {
        if (b.original(k, i) == 100 || b.original(k, i) == 200) {
          assertThat(p.sight(still, b, k)).isEqualTo(Sight.SOME);
          assertThat(p.faces(still, b, k)).isFalse();
          met++;
        }
      }
    }
    assertThat(met).isEqualTo(2);
  }

  private static Pinhole pinhole(Pose pose) {
    Optics optics = Optics.centred(30, 36, 20.25).withPrincipal(3, -2);
    FrameRange one = new FrameRange(1, 1);
    return new Pinhole(
        new ShotCamera(
            "c", PoseTrack.of(one, f -> pose), OpticsTrack.constant(one, optics), Optional.empty()),
        PICTURE);
  }

  @Test
  void aSetIsGatheredOnceHoweverItIsNamedOrDrawnAndAgainWhereItsPointsMove() {
    TrackerSet t = set(cloud(300, 3));
    assertThat(t.named("other").withMarker(2).asCloud(true).blocks()).isSameAs(t.blocks());
    TrackerSet moved = t.map(p -> p.plus(new Vec3(1, 0, 0)));
    double[] xyz = new double[3 * moved.size()];
    for (int i = 0; i < moved.size(); i++) {
      xyz[3 * i] = moved.x(i);
      xyz[3 * i + 1] = moved.y(i);
      xyz[3 * i + 2] = moved.z(i);
    }
    PointBlocks afresh = PointBlocks.of(xyz);
    assertThat(moved.blocks().x(1)).containsExactly(afresh.x(1)).isNotEqualTo(t.blocks().x(1));
    assertThat(moved.without(java.util.Set.of(moved.names().get(0))).blocks().count())
        .isEqualTo((moved.size() - 1 + PointBlocks.SIZE - 1) / PointBlocks.SIZE);
  }

  /** From 1,000 places, most of them among the points; still and in a group that moves. */
  @Test
  void whatIsSaidOfABlockIsTrueOfEveryPointAndIsSaidOfMostOfThem() {
    TrackerSet still = set(cloud(5000, 7));
    PointBlocks blocks = still.blocks();
    Random r = new Random(8);
    double[] px = new double[3];
    int missed = 0;
    int unseen = 0;
    int whole = 0;
    int inside = 0;
    for (int n = 0; n < 1000; n++) {
      Pinhole p = pinhole(pose(r, 30));
      Pose group = pose(r, 4000 * (n % 3));
      TrackerSet t =
          n % 2 == 0
              ? still
              : still.inGroup(
                  Optional.of(
                      new Group(
                          "g",
                          Optional.empty(),
                          Optional.of(PoseTrack.of(new FrameRange(1, 1), f -> group)))));
      p.at(1);
      for (int b = 0; b < blocks.count(); b++) {
        boolean seen = false;
        boolean all = true;
        boolean front = true;
        for (int i = 0; i < blocks.size(b); i++) {
          p.project(t, blocks.original(b, i), px);
          boolean in = px[0] >= 0 && px[0] <= 1920 && px[1] >= 0 && px[1] <= 1080;
          seen |= in;
          all &= in;
          front &= px[2] > 0;
        }
        Sight sight = p.sight(t, blocks, b);
        assertThat(seen && sight == Sight.NONE).as("block %d from place %d", b, n).isFalse();
        assertThat(!all && sight == Sight.ALL).as("block %d from place %d", b, n).isFalse();
        assertThat(!front && p.faces(t, blocks, b)).as("block %d from place %d", b, n).isFalse();
        missed += sight == Sight.NONE ? 1 : 0;
        unseen += seen ? 0 : 1;
        whole += sight == Sight.ALL ? 1 : 0;
        inside += all ? 1 : 0;
      }
    }
    assertThat(missed).isGreaterThan(unseen * 8 / 10);
    assertThat(inside).isGreaterThan(1000);
    assertThat(whole).isGreaterThan(inside * 6 / 10);
  }

  private static Pose pose(Random r, double reach) {
    return new Pose(
        new Vec3(
            reach * (r.nextDouble() - 0.5),
            reach * (r.nextDouble() - 0.5),
            reach * (r.nextDouble() - 0.5)),
        Rotation.about(
            new Vec3(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()).normalized(),
            6 * r.nextDouble()));
  }
}
