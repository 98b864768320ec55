package flarvo.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SimilarityFitTest {

  private static List<Vec3> cloud(Random r, int n) {
    List<Vec3> out = new ArrayList<>();
    for (int i = 0; i < n; i++) {
      out.add(new Vec3(r.nextGaussian(), 3 * r.nextGaussian(), r.nextGaussian()));
    }
    return out;
  }

  @Test
  void exactPairsGiveTheSimilarityBack() {
    for (int seed = 0; seed < 50; seed++) {
      Random r = new Random(seed);
      Similarity truth =
          new Similarity(
              0.1 + 5 * r.nextDouble(),
              TestShots.randomRotation(r),
              new Vec3(3, -2, r.nextDouble()));
      List<Vec3> from = cloud(r, 3 + seed % 10);
      Similarity s = SimilarityFit.of(from, from.stream().map(truth::apply).toList(), null);
      for (Vec3 p : from) {
        assertThat(s.apply(p).minus(truth.apply(p)).length()).isLessThan(1e-9);
      }
    }
  }

  @Test
  void aThirdOfWrongPairsHardlyMovesTheRobustOne() {
    Random r = new Random(3);
    Similarity truth = new Similarity(2, TestShots.randomRotation(r), new Vec3(1, 2, 3));
    List<Vec3> from = cloud(r, 60);
    List<Vec3> to = new ArrayList<>();
    for (int i = 0; i < from.size(); i++) {
      Vec3 noise = new Vec3(r.nextGaussian(), r.nextGaussian(), r.nextGaussian());
      to.add(truth.apply(from.get(i)).plus(noise.times(i % 3 == 0 ? 4 : 0.001)));
    }
    Similarity s = SimilarityFit.robust(from, to);
    assertThat(s.scale()).isCloseTo(2, within(0.02));
    assertThat(s.rotation().angleTo(truth.rotation())).isLessThan(0.01);
  }

  @Test
  void oneplaceAndDifferentLengthsAreRefused() {
    List<Vec3> same = List.of(new Vec3(1, 1, 1), new Vec3(1, 1, 1));
    assertThatThrownBy(() -> SimilarityFit.of(same, same, null))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> SimilarityFit.of(same, same.subList(0, 1), null))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
