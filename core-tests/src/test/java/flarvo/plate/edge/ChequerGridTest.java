package flarvo.plate.edge;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.LensModel;
import flarvo.lens.Normalisation;
import flarvo.lens.RadialPolynomial;
import flarvo.lens.fit.LensEstimate;
import flarvo.lens.fit.LensFit;
import flarvo.lens.fit.LensFitOptions;
import flarvo.lens.fit.StraightLine;
import flarvo.scene.Luma;
import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.function.DoubleBinaryOperator;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** A chequer board filmed at a slant through a known lens. */
@Tag("numeric")
class ChequerGridTest {

  private static final int W = 960;
  private static final int H = 540;
  private static final int FINE = 4;
  private static final PictureSize SIZE = PictureSize.of(W, H);
  private static final LensMapper LENS =
      new Lens(new RadialPolynomial(0.062, 0.014, 0, 0), Normalisation.HALF_WIDTH, 0.5, 0.5, 1)
          .on(SIZE);

  /** From the undistorted picture to the board: a homography, fields of one unit. */
  private record Slant(double[] h) {

    double[] at(double x, double y) {
      double w = h[6] * x + h[7] * y + 1;
      return new double[] {(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w};
    }
  }

  private static Luma filmed(Slant board, int columns, int rows, long seed) {
    DoubleBinaryOperator world =
        (x, y) -> {
          double[] b = board.at(x, y);
          boolean on = b[0] > 0 && b[1] > 0 && b[0] < columns && b[1] < rows;
          boolean black = on && Math.floorMod((int) b[0] + (int) b[1], 2) == 0;
          return black ? 40 : on ? 200 : 150;
        };
    return Filmed.of(LENS, world, FINE, seed, 2);
  }

  private static final List<Slant> BOARDS =
      List.of(
          new Slant(new double[] {0.0135, 0.001, -0.6, -0.0006, 0.0135, -0.2, 0.0001, 0.0002}),
          new Slant(new double[] {0.0131, -0.0012, -0.1, 0.0009, 0.0133, -0.5, -0.0002, 0.0001}),
          new Slant(new double[] {0.0128, 0.0002, -0.4, 0.0003, 0.013, -0.3, 0.00015, -0.0002}));

  @Test
  void cornersAreFoundWhereTheyAre() {
    List<ChequerGrid> found = ChequerGrid.in(filmed(BOARDS.get(0), 11, 6, 1));
    assertThat(found).hasSize(1);
    ChequerGrid g = found.get(0);
    assertThat(List.of(g.rows(), g.columns())).containsExactlyInAnyOrder(5, 10);
    double[] p = new double[2];
    double dx = 0;
    double dy = 0;
    for (int i = 0; i < g.rows() * g.columns(); i++) {
      LENS.toUndistorted(g.xy()[2 * i], g.xy()[2 * i + 1], p);
      double[] b = BOARDS.get(0).at(p[0], p[1]);
      // A field is about 75 pixels: a thousandth of it is less than a tenth of a pixel.
      assertThat(Math.abs(b[0] - Math.rint(b[0]))).isLessThan(0.004);
      assertThat(Math.abs(b[1] - Math.rint(b[1]))).isLessThan(0.004);
      dx += (b[0] - Math.rint(b[0])) / (g.rows() * g.columns());
      dy += (b[1] - Math.rint(b[1])) / (g.rows() * g.columns());
    }
    assertThat(Math.hypot(dx, dy)).as("no offset of all corners together").isLessThan(0.001);
  }

  /** Three frames of a board give the lens within 0.3 px over the whole picture. */
  @Test
  void boardsGiveTheLens() {
    List<StraightLine> lines = new ArrayList<>();
    for (int i = 0; i < BOARDS.size(); i++) {
      lines.addAll(ChequerGrid.in(filmed(BOARDS.get(i), 11, 6, i)).get(0).lines("b", i));
    }
    LensEstimate e =
        LensFit.withoutStrays(
            lines,
            SIZE,
            LensFitOptions.usual(LensModel.RADIAL, Normalisation.HALF_WIDTH, Double.NaN),
            Progress.NONE);
    LensMapper found = e.lens().on(SIZE);
    double most = 0;
    double[] p = new double[2];
    double[] q = new double[2];
    for (int y = 0; y <= H; y += 30) {
      for (int x = 0; x <= W; x += 30) {
        LENS.toOriginal(x, y, p);
        found.toOriginal(x, y, q);
        most = Math.max(most, Math.hypot(p[0] - q[0], p[1] - q[1]));
      }
    }
    assertThat(e.strays()).isEmpty();
    assertThat(most).isLessThan(0.3).isLessThan(e.worstPx());
  }

  @Test
  void aPictureWithoutABoardHasNone() {
    assertThat(ChequerGrid.in(new Luma(W, H, new float[W * H]))).isEmpty();
    float[] noise = new float[W * H];
    Random r = new Random(2);
    for (int i = 0; i < noise.length; i++) {
      noise[i] = 255 * r.nextFloat();
    }
    assertThat(ChequerGrid.in(new Luma(W, H, noise))).isEmpty();
  }
}
