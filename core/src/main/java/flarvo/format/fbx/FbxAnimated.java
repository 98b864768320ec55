package flarvo.format.fbx;

import flarvo.convention.RotationOrder;
import flarvo.scene.Rotation;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import org.joml.Vector3d;

/**
 * One property that animation layers drive, with up to three components.
 *
 * <p>The lowest layer replaces the property's own value {@code v}; each layer above changes it by
 * what it says, {@code a}, and its weight {@code w}:
 *
 * <pre>
 *   additive       v + w a          scales  v · |a|^w     rotations  v ∘ slerp(1, a, w)
 *   pass-through   (1−w) v + w a            |v|^(1−w)·|a|^w          slerp(v, a, w)
 *   override       a
 * </pre>
 *
 * Where a layer accumulates rotations by channel, or adds scales, the first column counts for them
 * too. Checked against an independent reader of the format ({@code ./flarvo peers}).
 */
final class FbxAnimated {

  private static final int COMPONENTS = 3;

  /** What one layer says: a curve for a component, else a number; NaN for neither. */
  record Part(FbxLayer layer, int order, FbxCurve[] curves, double[] fixed) {

    static Part of(FbxLayer layer, int order) {
      double[] none = {Double.NaN, Double.NaN, Double.NaN};
      return new Part(layer, order, new FbxCurve[COMPONENTS], none);
    }

    private double at(int component, double silent, double tick) {
      FbxCurve c = curves[component];
      double v = c == null ? fixed[component] : c.at(tick);
      return Double.isNaN(v) ? silent : v;
    }
  }

  private final FbxObject owner;
  private final String property;
  private final List<Part> parts = new ArrayList<>();

  FbxAnimated(FbxObject owner, String property) {
    this.owner = owner;
    this.property = property;
  }

  /** Later parts of the same layer take the place of earlier ones. */
  void add(Part part) {
    parts.removeIf(p -> p.order() == part.order());
    parts.add(part);
    parts.sort(Comparator.comparingInt(Part::order));
  }

  void collectKeys(Set<Double> ticks) {
    for (Part p : parts) {
      for (FbxCurve c : p.curves()) {
        if (c != null) {
          for (double t : c.ticks()) {
            ticks.add(t);
          }
        }
      }
      if (!p.layer().lowest() && p.layer().source() != null) {
        FbxAnimated weight = p.layer().source().animated().get("Weight");
        if (weight != null && weight != this) {
          weight.collectKeys(ticks);
        }
      }
    }
  }

  /**
   * A component at a time.
   *
   * @param otherwise where neither the animation nor the property itself states a value
   */
  double at(int component, double otherwise, double tick) {
    double own = owner.fixed(property, component, otherwise);
    // A layer's own weight is not mixed by weights.
    if (parts.get(0).layer().lowest() && parts.size() == 1 || owner.kind.equals("AnimationLayer")) {
      return parts.get(0).at(component, own, tick);
    }
    Vector3d v =
        new Vector3d(
            owner.fixed(property, 0, otherwise),
            owner.fixed(property, 1, otherwise),
            owner.fixed(property, 2, otherwise));
    for (Part p : parts) {
      if (p.layer().lowest()) {
        v.set(p.at(0, v.x, tick), p.at(1, v.y, tick), p.at(2, v.z, tick));
      } else {
        mix(v, p, tick);
      }
    }
    return v.get(component);
  }

  private void mix(Vector3d v, Part p, double tick) {
    FbxLayer layer = p.layer();
    boolean scales = layer.scaleAsFactor() && property.equals("Lcl Scaling");
    boolean turns = layer.rotationAsWhole() && property.equals("Lcl Rotation");
    boolean adds = layer.mode() == FbxLayer.Mode.ADDITIVE;
    double neutral = scales ? 1 : 0;
    Vector3d a =
        new Vector3d(
            p.at(0, adds ? neutral : v.x, tick),
            p.at(1, adds ? neutral : v.y, tick),
            p.at(2, adds ? neutral : v.z, tick));
    if (layer.mode() == FbxLayer.Mode.OVERRIDE) {
      v.set(a);
      return;
    }
    double w = layer.weight(tick);
    if (turns) {
      turn(v, a, w, adds);
      return;
    }
    for (int k = 0; k < COMPONENTS; k++) {
      double rest = adds ? 1 : 1 - w;
      double mixed =
          scales ? power(v.get(k), rest) * power(a.get(k), w) : rest * v.get(k) + w * a.get(k);
      v.setComponent(k, mixed);
    }
  }

  private void turn(Vector3d v, Vector3d a, double w, boolean adds) {
    RotationOrder order = FbxTransform.order(owner);
    Rotation below = rotation(order, v);
    Rotation above = rotation(order, a);
    Rotation mixed = adds ? below.after(Rotation.IDENTITY.slerp(above, w)) : below.slerp(above, w);
    double[] angles = order.decompose(mixed, 0);
    v.set(Math.toDegrees(angles[0]), Math.toDegrees(angles[1]), Math.toDegrees(angles[2]));
  }

  private static Rotation rotation(RotationOrder order, Vector3d degrees) {
    return order.compose(
        Math.toRadians(degrees.x), Math.toRadians(degrees.y), Math.toRadians(degrees.z));
  }

  /** Of the size of a number; its sign stays. */
  private static double power(double v, double exponent) {
    if (exponent <= 0) {
      return 1;
    }
    return exponent >= 1 ? v : Math.signum(v) * Math.pow(Math.abs(v), exponent);
  }
}
