package flarvo.format.fbx;

import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Connects curves to the properties that they drive, layer by layer. */
final class FbxAnimation {

  private final Map<Long, FbxObject> objects;
  private final Map<Long, Integer> orderOf = new HashMap<>(); // by the number of a layer
  private final List<FbxLayer> layers;
  private final Map<Long, Long> layerOf;
  private final String file;

  /** By the number of its curve node. */
  private final Map<Long, FbxAnimated.Part> parts = new HashMap<>();

  /**
   * @param layers of the chosen stack, the lowest first
   * @param layerOf the layer's number by the curve node's
   */
  FbxAnimation(
      Map<Long, FbxObject> objects, List<FbxLayer> layers, Map<Long, Long> layerOf, String file) {
    this.objects = objects;
    this.layers = layers;
    this.layerOf = layerOf;
    this.file = file;
    for (int i = 0; i < layers.size(); i++) {
      if (layers.get(i).source() != null) {
        orderOf.put(layers.get(i).source().id, i);
      }
    }
  }

  void connect(List<FbxNode> connections) {
    for (FbxNode c : connections) {
      FbxObject node = objects.get(c.whole(1));
      FbxObject target = objects.get(c.whole(2));
      if (node == null
          || target == null
          || !node.kind.equals("AnimationCurveNode")
          || !c.text(0).equals("OP")) {
        continue;
      }
      Integer order = orderOf.isEmpty() ? Integer.valueOf(0) : orderOf.get(layerOf.get(node.id));
      if (order != null && layers.get(order).counts()) {
        String property = c.text(3);
        FbxAnimated.Part part =
            parts.computeIfAbsent(node.id, k -> part(node, property, layers.get(order), order));
        target.animate(property).add(part);
      }
    }
    for (FbxNode c : connections) {
      FbxObject curve = objects.get(c.whole(1));
      FbxAnimated.Part part = parts.get(c.whole(2));
      if (curve != null && part != null && curve.kind.equals("AnimationCurve")) {
        part.curves()[component(c.text(3))] = FbxCurve.read(curve.node, file);
      }
    }
  }

  private static FbxAnimated.Part part(FbxObject node, String property, FbxLayer layer, int order) {
    FbxAnimated.Part part = FbxAnimated.Part.of(layer, order);
    part.fixed()[0] = node.fixed("d|" + property, 0, Double.NaN);
    String[] names = {"X", "Y", "Z"};
    for (int k = 0; k < names.length; k++) {
      double plain = node.fixed(names[k], 0, part.fixed()[k]);
      part.fixed()[k] = node.fixed("d|" + names[k], 0, plain);
    }
    return part;
  }

  private static int component(String channel) {
    return channel.endsWith("|Y") ? 1 : channel.endsWith("|Z") ? 2 : 0;
  }
}
