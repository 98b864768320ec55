package flarvo.plate.remap;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.lens.BrownConrady;
import flarvo.lens.Direction;
import flarvo.lens.Fisheye;
import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.Normalisation;
import flarvo.lens.RadialPolynomial;
import flarvo.scene.PictureSize;
import java.util.List;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** A map of a known lens, turned round, against the lens itself. */
@Tag("numeric")
class MapInverseTest {

  private static final PictureSize SIZE = PictureSize.of(480, 270);

  private static final List<Lens> LENSES =
      List.of(
          Lens.centred(new RadialPolynomial(0.062, 0.014, 0, 0)),
          Lens.centred(new BrownConrady(-0.22, 0.05, 0, 0, 0, 0, 0.002, -0.001)),
          new Lens(new Fisheye(0.05, -0.01, 0, 0), Normalisation.FOCAL_LENGTH, 0.52, 0.48, 0.7));

  @ParameterizedTest
  @EnumSource
  void aMapTurnedRoundIsTheLensTheOtherWay(Direction does) {
    for (Lens lens : LENSES) {
      LensMapper mapper = lens.on(SIZE);
      Overscan wide = new Overscan(SIZE, 620, 370);
      boolean undistorts = does == Direction.ORIGINAL_TO_UNDISTORTED;
      PictureSize had = undistorts ? SIZE : wide.size();
      PositionGrid forward = PositionGrid.of(mapper, does, wide);
      // As a file holds it: shares of the picture, as 32 bit floats, from the bottom.
      PositionGrid read =
          PositionGrid.of(
              forward.map(had.width(), had.height(), true), had.width(), had.height(), true);
      PositionGrid back = MapInverse.of(read, had.width(), had.height());
      Direction other =
          undistorts ? Direction.UNDISTORTED_TO_ORIGINAL : Direction.ORIGINAL_TO_UNDISTORTED;
      PositionGrid truth = PositionGrid.of(mapper, other, wide);
      double worst = 0;
      int inside = 0;
      int found = 0;
      double[] a = new double[2];
      double[] b = new double[2];
      for (int y = 0; y < truth.height(); y++) {
        for (int x = 0; x < truth.width(); x++) {
          truth.at(x, y, a);
          back.at(x, y, b);
          boolean covered =
              a[0] > 0.5
                  && a[1] > 0.5
                  && a[0] < forward.width() - 0.5
                  && a[1] < forward.height() - 0.5;
          inside += covered ? 1 : 0;
          if (covered && !Double.isNaN(b[0])) {
            found++;
            // In the outermost pixels a map goes on as it ends.
            boolean inner =
                Math.min(a[0], a[1]) > 2
                    && a[0] < forward.width() - 2
                    && a[1] < forward.height() - 2;
            worst = Math.max(worst, Math.hypot(a[0] - b[0], a[1] - b[1]) / (inner ? 1 : 10));
          }
        }
      }
      assertThat(inside).isGreaterThan(SIZE.width() * SIZE.height() / 3);
      assertThat(found).as(lens.toString()).isEqualTo(inside);
      assertThat(worst).as(lens.toString()).isLessThan(1e-3);
    }
  }
}
