package flarvo.format.fbx;

import java.util.ArrayList;
import java.util.List;

/**
 * An animation layer: how what it says meets what the layers below say.
 *
 * @param source the object of the file; null for the one layer of a file without any
 * @param lowest replaces the fixed value, whatever its mode and weight
 * @param counts it is not muted, and no other layer is soloed in its place
 * @param rotationAsWhole rotations are composed; otherwise the angles are mixed one by one
 * @param scaleAsFactor scales multiply; otherwise they add
 */
record FbxLayer(
    FbxObject source,
    boolean lowest,
    boolean counts,
    Mode mode,
    boolean rotationAsWhole,
    boolean scaleAsFactor) {

  /** By the number that the file stores. */
  enum Mode {
    /** On top of the layers below, by the layer's weight. */
    ADDITIVE,
    /** In their place; the weight does not count. */
    OVERRIDE,
    /** In their place by the layer's weight, through which the rest of them shows. */
    PASS_THROUGH
  }

  static final FbxLayer ONLY = new FbxLayer(null, true, true, Mode.ADDITIVE, true, true);

  /** Weights from here on are whole ones. */
  private static final double WHOLE = 0.99999;

  /** The layers of one stack, the lowest first. */
  static List<FbxLayer> of(List<FbxObject> sources) {
    boolean soloed = sources.stream().anyMatch(o -> o.number("Solo", 0) != 0);
    List<FbxLayer> layers = new ArrayList<>();
    for (FbxObject o : sources) {
      boolean counts = o.number("Mute", 0) == 0 && (!soloed || o.number("Solo", 0) != 0);
      int stored = (int) o.number("BlendMode", 0);
      layers.add(
          new FbxLayer(
              o,
              layers.isEmpty(),
              counts,
              stored >= 0 && stored < Mode.values().length ? Mode.values()[stored] : Mode.OVERRIDE,
              o.number("RotationAccumulationMode", 0) == 0,
              o.number("ScaleAccumulationMode", 0) == 0));
    }
    return layers;
  }

  /** From 0 to 1; it may be animated. */
  double weight(double tick) {
    double w = source == null ? 1 : source.at("Weight", 0, 100, tick) / 100;
    return w > WHOLE ? 1 : Math.max(0, w);
  }
}
