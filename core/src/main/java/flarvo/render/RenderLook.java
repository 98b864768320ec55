package flarvo.render;

import flarvo.report.InputError;
import flarvo.scene.Vec3;
import java.util.Set;

/**
 * How a scene is drawn.
 *
 * @param light direction to the light in the world, over the horizon; of any length
 * @param holdouts names of what cuts away what is behind it and is not drawn itself
 */
public record RenderLook(Vec3 light, Set<String> holdouts) {

  /** Light high from the left, behind the camera of a shot that looks along −z; no holdouts. */
  public static final RenderLook USUAL = new RenderLook(new Vec3(-0.5, 1, 0.4), Set.of());

  public RenderLook {
    if (!(light.y() > 0) || !Double.isFinite(light.length())) {
      throw InputError.words(
          "the light comes from under the ground",
          "Give a direction with y above zero; if the level was changed after the light was set, set"
              + " it again on Proof");
    }
    holdouts = Set.copyOf(holdouts);
  }
}
