package flarvo.plate.edge;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.LensModel;
import flarvo.lens.Normalisation;
import flarvo.lens.RadialPolynomial;
import flarvo.lens.fit.LensEstimate;
import flarvo.lens.fit.LensFit;
import flarvo.lens.fit.LensFitOptions;
import flarvo.lens.fit.StraightLine;
import flarvo.report.InputError;
import flarvo.scene.Luma;
import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.function.DoubleBinaryOperator;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Edges of a made picture, whose true places are known. */
@Tag("numeric")
class EdgeTraceTest {

  private static final int W = 640;
  private static final int H = 360;
  private static final int FINE = 8;

  /** A panel's edges, straight in the world: x or y of each in the undistorted picture. */
  private static final double[] ACROSS = {40.3, 150.7, 280.2, 395.9, 505.4, 600.1};

  private static final double[] DOWN = {30.6, 112.3, 201.8, 268.5, 333.9};

  private static final Lens LENS = Lens.centred(new RadialPolynomial(0.07, 0.012, 0, 0));
  private static final LensMapper MAPPER = LENS.on(PictureSize.of(W, H));

  /** Panels that alternate in brightness, seen through the lens, averaged over each pixel. */
  private static Luma panels(long seed, double noise) {
    return picture(
        (x, y) -> (before(ACROSS, x) + before(DOWN, y)) % 2 == 0 ? 70 : 175, seed, noise);
  }

  private static Luma picture(DoubleBinaryOperator world, long seed, double noise) {
    return Filmed.of(MAPPER, world, FINE, seed, noise);
  }

  private static int before(double[] edges, double v) {
    int n = 0;
    for (double e : edges) {
      n += v > e ? 1 : 0;
    }
    return n;
  }

  /** A place on the original of one in the undistorted picture. */
  private static double[] seen(double x, double y) {
    double[] p = new double[2];
    assertThat(MAPPER.toOriginal(x, y, p)).isTrue();
    return p;
  }

  /** Distances of traced points from the true edge, in undistorted pixels: RMS and largest. */
  private static double[] errors(double[] xy, double edge, boolean upright) {
    double[] p = new double[2];
    double s = 0;
    double most = 0;
    for (int i = 0; i < xy.length; i += 2) {
      MAPPER.toUndistorted(xy[i], xy[i + 1], p);
      double d = Math.abs(p[upright ? 0 : 1] - edge);
      s += d * d;
      most = Math.max(most, d);
    }
    return new double[] {Math.sqrt(2 * s / xy.length), most};
  }

  /** The panels change over from cell to cell, so that an edge is bright on either side in turn. */
  @Test
  void anEdgeIsFoundToAFractionOfAPixel() {
    Luma l = panels(3, 2);
    Random r = new Random(5);
    for (double edge : ACROSS) {
      for (int k = 0; k + 1 < DOWN.length; k++) {
        double[] a = seen(edge, DOWN[k] + 6);
        double[] b = seen(edge, DOWN[k + 1] - 6);
        double[] xy = EdgeTrace.between(l, a[0] + off(r), a[1], b[0] + off(r), b[1]);
        assertThat(xy.length / 2).isGreaterThan(10);
        double[] e = errors(xy, edge, true);
        assertThat(e[0]).as("edge %s, part %d", edge, k).isLessThan(0.1);
        assertThat(e[1]).isLessThan(0.4);
      }
    }
  }

  /** A click beside the edge. */
  private static double off(Random r) {
    return 8 * r.nextDouble() - 4;
  }

  /** Across the whole picture the edge bows far from its chord. */
  @Test
  void aLongEdgeIsFollowedAlongItsBow() {
    Luma l = picture((x, y) -> y < 26 ? 60 : 150, 1, 0);
    double[] a = seen(30, 26);
    double[] b = seen(600, 26);
    double[] middle = seen(320, 26);
    assertThat(Math.abs(middle[1] - (a[1] + b[1]) / 2)).as("bow").isGreaterThan(5);
    double[] xy = EdgeTrace.between(l, a[0], a[1] + 2, b[0], b[1] - 2);
    assertThat(xy.length / 2).isGreaterThan(120);
    assertThat(errors(xy, 26, false)[0]).isLessThan(0.07);
    assertThat(errors(xy, 26, false)[1]).isLessThan(0.2);
  }

  /** A post stands before the edge: what is hidden is left out, the rest is right. */
  @Test
  void whatIsHiddenIsLeftOut() {
    Luma l = panels(7, 1);
    double[] a = seen(44, DOWN[1]);
    double[] b = seen(146, DOWN[1]);
    float[] luma = l.luma().clone();
    for (int y = 0; y < H; y++) {
      for (int x = 85; x < 104; x++) {
        luma[y * W + x] = x < 94 ? 20 : 230;
      }
    }
    double[] xy = EdgeTrace.between(new Luma(W, H, luma), a[0], a[1], b[0], b[1]);
    assertThat(errors(xy, DOWN[1], false)[1]).isLessThan(0.6);
    assertThat(xy.length / 2).isBetween(12, 24);
  }

  @Test
  void withoutAnEdgeItIsSaid() {
    Luma flat = new Luma(W, H, new float[W * H]);
    assertThatThrownBy(() -> EdgeTrace.between(flat, 100, 100, 300, 120))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no edge was found");
    assertThatThrownBy(() -> EdgeTrace.between(flat, 100, 100, 110, 100))
        .hasMessageContaining("too near");
    Luma l = panels(3, 2);
    assertThatThrownBy(() -> EdgeTrace.between(l, -50, -50, -10, -20))
        .hasMessageContaining("no edge was found");
  }

  /** Two clicks a line, eleven lines on two frames: the lens within 0.3 px over the picture. */
  @Test
  void tracedEdgesGiveTheLens() {
    Luma upright = picture((x, y) -> before(ACROSS, x) % 2 == 0 ? 70 : 175, 11, 3);
    Luma level = picture((x, y) -> before(DOWN, y) % 2 == 0 ? 70 : 175, 12, 3);
    List<StraightLine> lines = new ArrayList<>();
    for (double edge : ACROSS) {
      lines.add(line("v", lines.size(), upright, seen(edge, 15), seen(edge, H - 15)));
    }
    for (double edge : DOWN) {
      lines.add(line("h", lines.size(), level, seen(25, edge), seen(W - 25, edge)));
    }
    LensEstimate e =
        LensFit.of(
            lines,
            PictureSize.of(W, H),
            LensFitOptions.usual(LensModel.RADIAL, Normalisation.HALF_WIDTH, Double.NaN),
            Progress.NONE);
    LensMapper found = e.lens().on(PictureSize.of(W, H));
    double most = 0;
    double[] p = new double[2];
    double[] q = new double[2];
    for (int y = 0; y <= H; y += 20) {
      for (int x = 0; x <= W; x += 20) {
        MAPPER.toOriginal(x, y, p);
        found.toOriginal(x, y, q);
        most = Math.max(most, Math.hypot(p[0] - q[0], p[1] - q[1]));
      }
    }
    assertThat(e.residualPx()).isLessThan(0.15);
    assertThat(e.worstPx()).isGreaterThan(most);
    assertThat(most).isLessThan(0.3);
  }

  private static StraightLine line(String name, int n, Luma l, double[] a, double[] b) {
    return new StraightLine(name + n, 1, EdgeTrace.between(l, a[0], a[1], b[0], b[1]));
  }
}
