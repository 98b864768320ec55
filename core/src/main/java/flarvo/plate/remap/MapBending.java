package flarvo.plate.remap;

import flarvo.lens.Direction;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import java.nio.file.Path;

/**
 * Through a distortion map that was received, as it is; against its direction it is inverted.
 *
 * @param file the map; with {@code #} in its name, one of each frame
 * @param does what the map does, from the picture that is had to the picture that it makes
 * @param bottom whether its second channel counts from the bottom
 */
public record MapBending(Path file, Direction does, boolean bottom) implements Bending {

  /** The map of a frame. */
  public Path file(int frame) {
    return isPerFrame() ? SequenceName.parse(file).file(frame) : file;
  }

  private boolean isPerFrame() {
    return String.valueOf(file.getFileName()).contains("#");
  }

  @Override
  public Object at(int frame) {
    return file(frame);
  }

  @Override
  public String how(int frame) {
    return "map " + Stamp.identity(file(frame)) + " " + does + (bottom ? " bottom" : " top");
  }

  /** Size of the picture that a frame's map makes, which is its own. */
  public PictureSize size(int frame) {
    Raster map = read(file(frame));
    return PictureSize.of(map.width(), map.height());
  }

  /**
   * Reads a map as it was received.
   *
   * @throws InputError when it cannot be one
   */
  public static Raster read(Path map) {
    Raster r = RasterReader.read(map);
    if (!r.kind().isFloating()) {
      throw new InputError(
          map.toString(), "", "a map needs floating numbers", "Request it as float OpenEXR");
    }
    if (r.channels().size() < 2) {
      throw new InputError(
          map.toString(), "", "a map needs two channels, and this has one", "Is it a map?");
    }
    return r;
  }

  @Override
  public PositionGrid grid(int frame, Direction direction, Overscan overscan) {
    Raster map = read(file(frame));
    PictureSize straight = overscan.size();
    PictureSize bent = overscan.original();
    boolean undistorts = does == Direction.ORIGINAL_TO_UNDISTORTED;
    PictureSize made = undistorts ? straight : bent;
    PictureSize had = undistorts ? bent : straight;
    if (map.width() != made.width() || map.height() != made.height()) {
      throw new InputError(
          file(frame).toString(),
          "",
          "the map is "
              + map.width()
              + "x"
              + map.height()
              + ", and the picture it makes "
              + made.width()
              + "x"
              + made.height(),
          "Check --direction, and the size of the " + (undistorts ? "undistorted" : "original"));
    }
    PositionGrid forward = PositionGrid.of(map, had.width(), had.height(), bottom);
    if (isUpsideDown(forward)) {
      throw new InputError(
          file(frame).toString(),
          "",
          "read from the " + (bottom ? "bottom" : "top") + ", the map turns pictures upside down",
          "Give --origin " + (bottom ? "top" : "bottom"));
    }
    return direction == does ? forward : MapInverse.of(forward, had.width(), had.height());
  }

  /**
   * Whether a map's second channel counts from the bottom: read the other way it would turn
   * pictures upside down.
   *
   * @param had size of the picture that the map is applied to
   */
  public static boolean countsFromBottom(Raster map, PictureSize had) {
    return !isUpsideDown(PositionGrid.of(map, had.width(), had.height(), true));
  }

  /** No lens does that; a map whose second channel counts from the other side does. */
  private static boolean isUpsideDown(PositionGrid g) {
    double[] above = new double[2];
    double[] below = new double[2];
    int x = g.width() / 2;
    g.at(x, g.height() / 4, above);
    g.at(x, 3 * g.height() / 4, below);
    return below[1] < above[1];
  }
}
