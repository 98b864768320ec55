package flarvo.trace;

import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import java.util.List;
import java.util.Objects;
import java.util.Optional;

/**
 * Something flat that was drawn and followed.
 *
 * @param plates over which it was drawn
 * @param shape in pixels of the shot's picture, its four corners on the frames on which they were
 *     drawn
 * @param path the tracks of corners and centre, where they are in the picture; see {@link
 *     PlaneFollow#tracks}
 */
public record PlaneFeature(PlateRole plates, MaskShape shape, Observations path) {

  public PlaneFeature {
    Objects.requireNonNull(plates);
    Objects.requireNonNull(shape);
    Objects.requireNonNull(path);
  }

  /** Its name, which those of its tracks begin with. */
  public String name() {
    return shape.name();
  }

  /** Its corners on a frame, x and y of each; empty where one is not in the picture. */
  public Optional<double[]> corners(int frame) {
    List<String> names = PlaneFollow.tracks(name());
    double[] out = new double[2 * Quad.CORNERS];
    for (int i = 0; i < Quad.CORNERS; i++) {
      int row = path.row(names.get(i), frame);
      if (row < 0) {
        return Optional.empty();
      }
      out[2 * i] = path.x(row);
      out[2 * i + 1] = path.y(row);
    }
    return Optional.of(out);
  }
}
