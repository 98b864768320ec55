package flarvo.decision;

import flarvo.lens.Direction;
import flarvo.lens.Lens;
import flarvo.lens.LensModel;
import flarvo.lens.LensTrack;
import flarvo.lens.Normalisation;
import flarvo.lens.fit.LensConversion;
import flarvo.plate.Raster;
import flarvo.plate.remap.MapBending;
import flarvo.plate.remap.MapFit;
import flarvo.plate.remap.Overscan;
import flarvo.plate.remap.PositionGrid;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.work.Progress;

/** Fits a shot's lens to a distortion map that was received. */
final class MapLens {

  private MapLens() {}

  /**
   * The lens of a map over the shot's original plates, its centre of distortion found too.
   *
   * @throws InputError when the file is no map, is of another size, or the camera is missing that a
   *     fisheye needs
   */
  static Outcome.MapLens of(PlateDecision.FitMap d, ShotState s, Progress progress) {
    PictureSize picture = original(s);
    Raster map = MapBending.read(d.map());
    boolean straight = d.makes() == Direction.ORIGINAL_TO_UNDISTORTED;
    Overscan overscan =
        straight ? new Overscan(picture, map.width(), map.height()) : undistorted(s, picture);
    PictureSize had = straight ? picture : overscan.size();
    boolean bottom = MapBending.countsFromBottom(map, had);
    PositionGrid grid = PositionGrid.of(map, had.width(), had.height(), bottom);
    MapFit fit =
        MapFit.of(
            grid, d.makes(), overscan, LensConversion.fitting(start(d.model(), s), true), progress);
    return new Outcome.MapLens(LensTrack.of(fit.lens()), fit.maxPx(), fit.rmsPx(), fit.cover());
  }

  private static PictureSize original(ShotState s) {
    return s.shot().plate(PlateRole.ORIGINAL).map(PlateSequence::size).orElse(s.shot().picture());
  }

  /** The picture that a redistorting map is applied to: the undistorted plates, where there are. */
  private static Overscan undistorted(ShotState s, PictureSize picture) {
    return s.shot()
        .plate(PlateRole.UNDISTORTED)
        .map(p -> Overscan.of(picture, p))
        .orElse(Overscan.none(picture));
  }

  /**
   * Where fitting a model begins.
   *
   * @throws InputError for a fisheye without a camera: it is counted in focal lengths
   */
  static Lens start(LensModel model, ShotState s) {
    if (model != LensModel.FISHEYE) {
      return new Lens(model.neutral(), Normalisation.HALF_WIDTH, 0.5, 0.5, Double.NaN);
    }
    double focal =
        s.shot()
            .camera()
            .map(c -> c.optics().at(c.frames().first()))
            .map(o -> o.focalLengthMm() / o.filmWidthMm())
            .orElseThrow(
                () ->
                    InputError.words(
                        "a fisheye needs the focal length, and the shot has no camera",
                        "Fit another model"));
    return new Lens(model.neutral(), Normalisation.FOCAL_LENGTH, 0.5, 0.5, focal);
  }
}
