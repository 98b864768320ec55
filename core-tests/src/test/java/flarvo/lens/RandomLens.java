package flarvo.lens;

import java.util.List;
import java.util.Random;

/** Lenses as they are on sets, of every model. */
final class RandomLens {

  private static final List<Normalisation> UNITS = List.of(Normalisation.values());

  private RandomLens() {}

  static Lens of(LensModel model, Random r) {
    double[] k =
        switch (model) {
          case BROWN_CONRADY ->
              new double[] {
                u(r, 0.15),
                u(r, 0.06),
                u(r, 0.004),
                u(r, 0.004),
                u(r, 0.03),
                u(r, 0.05),
                u(r, 0.02),
                u(r, 0.005)
              };
          case RADIAL -> new double[] {u(r, 0.12), u(r, 0.04), u(r, 0.01), u(r, 0.003)};
          case DIVISION -> new double[] {u(r, 0.15), u(r, 0.03)};
          case FISHEYE -> new double[] {u(r, 0.05), u(r, 0.02), u(r, 0.005), u(r, 0.001)};
          case ANAMORPHIC ->
              new double[] {
                1 + u(r, 0.02),
                u(r, 0.03),
                u(r, 0.06),
                u(r, 0.06),
                u(r, 0.02),
                u(r, 0.02),
                u(r, 0.02),
                u(r, 0.06),
                u(r, 0.06),
                u(r, 0.02),
                u(r, 0.02),
                u(r, 0.02)
              };
        };
    Normalisation n =
        model == LensModel.FISHEYE
            ? Normalisation.FOCAL_LENGTH
            : UNITS.get(r.nextInt(UNITS.size()));
    return new Lens(
        model.make(k), n, 0.5 + u(r, 0.03), 0.5 + u(r, 0.03), 0.7 + 0.9 * r.nextDouble());
  }

  private static double u(Random r, double most) {
    return most * (2 * r.nextDouble() - 1);
  }
}
