package flarvo.lens.fit;

import flarvo.lens.Distortion;
import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.LensModel;
import flarvo.lens.Normalisation;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.util.List;

/** The same lens in other words: exact where it is only counted otherwise, else fitted. */
public final class LensConversion {

  private static final int ACROSS = 33;
  private static final int DOWN = 19;

  private LensConversion() {}

  /**
   * A lens in another model.
   *
   * @param maxPx largest distance between where the two put a pixel of the picture, in original
   *     pixels; 0 where the conversion is exact
   */
  public record Converted(Lens lens, double maxPx) {}

  /**
   * The lens counted in another unit; exact, since each coefficient scales with its degree.
   *
   * @param focal focal length over the width of the film back; NaN where it is not known
   * @throws IllegalArgumentException when the unit is not known, or a fisheye would be counted in
   *     anything but focal lengths
   */
  public static Lens counted(Lens lens, Normalisation in, double focal, PictureSize picture) {
    double f = Double.isNaN(focal) ? lens.focal() : focal;
    Distortion d = lens.distortion();
    LensModel model = d.model();
    double ratio = in.unit(picture, f) / lens.normalisation().unit(picture, lens.focal());
    double[] k = d.coefficients();
    for (int i = 0; i < k.length; i++) {
      k[i] *= Math.pow(ratio, model.degree(model.coefficients().get(i)));
    }
    return new Lens(
        Double.isFinite(ratio) ? model.make(k) : d, in, lens.centreX(), lens.centreY(), f);
  }

  /**
   * The lens in another model, with all of its terms that a picture can tell apart.
   *
   * @throws InputError when the lens folds within the picture
   */
  public static Converted as(Lens lens, LensModel model, PictureSize picture, Progress progress) {
    if (lens.distortion().model() == model) {
      return new Converted(lens, 0);
    }
    LensMapper m = lens.on(picture);
    double[] original = new double[2 * ACROSS * DOWN];
    double[] straight = new double[2 * ACROSS * DOWN];
    double[] p = new double[2];
    for (int i = 0; i < ACROSS * DOWN; i++) {
      double x = picture.width() * (i % ACROSS) / (ACROSS - 1.0);
      double y = picture.height() * (i / ACROSS) / (DOWN - 1.0);
      if (!m.toUndistorted(x, y, p)) {
        throw InputError.words(
            "the lens folds over within the picture",
            "A lens that folds cannot be converted over the whole picture");
      }
      original[2 * i] = x;
      original[2 * i + 1] = y;
      straight[2 * i] = p[0];
      straight[2 * i + 1] = p[1];
    }
    Normalisation unit =
        model == LensModel.FISHEYE ? Normalisation.FOCAL_LENGTH : lens.normalisation();
    Lens start = new Lens(model.neutral(), unit, lens.centreX(), lens.centreY(), lens.focal());
    return ofPairs(original, straight, picture, fitting(start, false), progress);
  }

  /**
   * What is looked for in pairs of points without noise: the usual terms and the higher ones too.
   *
   * @param centre whether the centre of distortion is looked for
   */
  public static LensFitOptions fitting(Lens start, boolean centre) {
    return new LensFitOptions(start, terms(start.distortion().model()), centre);
  }

  private static List<String> terms(LensModel model) {
    return switch (model) {
      case BROWN_CONRADY -> List.of("k1", "k2", "p1", "p2", "k3", "k4");
      case RADIAL, FISHEYE -> model.coefficients();
      case DIVISION -> model.usual();
      case ANAMORPHIC -> model.coefficients();
    };
  }

  /**
   * The lens that takes points of the original picture to points of the undistorted one.
   *
   * @param original x and y of each point in turn
   * @param straight x and y of the same points
   */
  public static Converted ofPairs(
      double[] original,
      double[] straight,
      PictureSize picture,
      LensFitOptions options,
      Progress progress) {
    PairResiduals residuals = new PairResiduals(original, straight, picture);
    LensSolver solver = LensSolver.staged(residuals, options, progress);
    Lens found = solver.unknowns().lens(solver.solved(progress));
    double[] e = new double[residuals.count()];
    residuals.of(found, e);
    double most = 0;
    for (int i = 0; i < e.length; i += 2) {
      most = Math.max(most, Math.hypot(e[i], e[i + 1]));
    }
    return new Converted(found, most);
  }
}
