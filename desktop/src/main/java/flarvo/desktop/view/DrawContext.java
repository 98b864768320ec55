package flarvo.desktop.view;

import flarvo.desktop.theme.Palette;
import flarvo.scene.WorldShot;

/**
 * What a layer draws with and a tool works in.
 *
 * @param shot in the canonical world
 * @param at where the picture lies; null in Space
 * @param world the world as it is shown now; null where there is no camera at this frame
 * @param reach a length in metres that suits what is in view, for things drawn into the world
 * @param bend from the undistorted picture to the plate that is shown
 * @param shownPlate of this frame, with its overscan; null while it is not here, and in Space
 */
public record DrawContext(
    Palette palette,
    WorldShot shot,
    int frame,
    double width,
    double height,
    Placed at,
    Projector world,
    double reach,
    Bend bend,
    javafx.scene.image.Image shownPlate) {

  /** The same with the picture so far to the right. */
  DrawContext movedRight(double by) {
    Placed there = new Placed(at.left() + by, at.top(), at.scale());
    Projector to =
        world == null
            ? null
            : new Projector(world.pinhole(), world.eye(), there.left(), there.top(), there.scale());
    return new DrawContext(palette, shot, frame, width, height, there, to, reach, bend, shownPlate);
  }
}
