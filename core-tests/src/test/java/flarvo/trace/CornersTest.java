package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Where features are found, and how often they are looked for. */
@Tag("numeric")
class CornersTest {

  private static final int W = 480;
  private static final int H = 360;
  private static final int WANTED = 100;

  /** Between features, where as many as are wanted fill the picture. */
  private static final double SPACING = Math.sqrt((double) W * H / WANTED);

  /** Spots in a part of the picture, the rest is grey. */
  private static Luma wall(int widthOfSpots, int heightOfSpots, int frame) {
    float[] out = new float[W * H];
    for (int y = 0; y < H; y++) {
      for (int x = 0; x < W; x++) {
        boolean spots = x < widthOfSpots && y < heightOfSpots;
        out[y * W + x] = spots ? (float) TracerTest.spots(x - 0.4 * frame, y, 1) : 120;
      }
    }
    return new Luma(W, H, out);
  }

  private static List<Feature> found(Luma l, List<double[]> taken) {
    return new Corners(TraceOptions.USUAL.withFeatures(WANTED), Mask.NONE)
        .beside(Levels.of(1, l), taken);
  }

  private static double nearest(List<Feature> all) {
    double best = Double.POSITIVE_INFINITY;
    for (int i = 0; i < all.size(); i++) {
      for (int j = 0; j < i; j++) {
        Feature a = all.get(i);
        Feature b = all.get(j);
        best = Math.min(best, Math.hypot(a.x() - b.x(), a.y() - b.y()));
      }
    }
    return best;
  }

  @Test
  void whereAllIsDetailTheyFillThePicture() {
    List<Feature> all = found(wall(W, H, 0), List.of());
    assertThat(all).hasSize(WANTED);
    assertThat(nearest(all)).isGreaterThan(0.49 * SPACING);
    int left = (int) all.stream().filter(f -> f.x() < W / 2.0).count();
    assertThat(left).isBetween(WANTED * 4 / 10, WANTED * 6 / 10);
  }

  @Test
  void whereLittleIsDetailTheyStandCloser() {
    List<Feature> all = found(wall(W / 2, H / 2, 0), List.of());
    // Far apart there is room for 25; closely for a hundred and more, of which not all are corners.
    assertThat(all).hasSizeGreaterThan(45);
    assertThat(nearest(all)).isBetween(0.29 * SPACING, 0.5 * SPACING);
    assertThat(all).allMatch(f -> f.x() < W / 2.0 + 1 && f.y() < H / 2.0 + 1);
  }

  @Test
  void whatIsTakenKeepsItsDistanceAndCounts() {
    List<Feature> all = found(wall(W, H, 0), List.of());
    List<double[]> half =
        all.subList(0, WANTED / 2).stream().map(f -> new double[] {f.x(), f.y()}).toList();
    List<Feature> more = found(wall(W, H, 0), half);
    assertThat(more).hasSize(WANTED - half.size());
    for (Feature f : more) {
      assertThat(half).allMatch(p -> Math.hypot(p[0] - f.x(), p[1] - f.y()) > 0.29 * SPACING);
    }
  }

  /** A picture that can never hold as many as are wanted is not searched on every frame. */
  @Test
  void aThinPictureIsSearchedOnEveryFourthFrame() {
    Map<Integer, AtomicInteger> asked = new ConcurrentHashMap<>();
    Mask counting =
        (frame, x, y) -> {
          asked.computeIfAbsent(frame, f -> new AtomicInteger()).incrementAndGet();
          return false;
        };
    FrameRange frames = new FrameRange(1, 17);
    Traced t =
        Tracer.of(
            frames,
            f -> Optional.of(wall(W / 5, H / 4, f)),
            TraceOptions.USUAL.withFeatures(WANTED),
            counting,
            Progress.NONE);
    assertThat(t.observations().names()).hasSizeBetween(10, WANTED / 2);
    // A search asks for each cell of the picture, following for each feature.
    long searched = asked.values().stream().filter(n -> n.get() > 10 * WANTED).count();
    assertThat(searched).isEqualTo(5);
  }
}
