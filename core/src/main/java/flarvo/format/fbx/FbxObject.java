package flarvo.format.fbx;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** An object of the scene with its properties, its curves and what it is connected to. */
final class FbxObject {

  final long id;
  final String kind;
  final String name;
  final String subclass;
  final FbxNode node;
  final Map<String, FbxNode> properties = new LinkedHashMap<>();
  final List<FbxObject> children = new ArrayList<>();
  final Map<String, FbxAnimated> animated = new LinkedHashMap<>();

  /** Models that a property points to, such as what a camera looks at. */
  final Map<String, FbxObject> links = new LinkedHashMap<>();

  FbxObject parent;

  FbxObject(long id, String kind, String name, String subclass, FbxNode node) {
    this.id = id;
    this.kind = kind;
    this.name = name;
    this.subclass = subclass;
    this.node = node;
  }

  boolean has(String property) {
    return properties.containsKey(property) || animated.containsKey(property);
  }

  /** A component of a property at a time: animated, else its fixed value, else the default. */
  double at(String property, int component, double otherwise, double tick) {
    FbxAnimated a = animated.get(property);
    return a == null ? fixed(property, component, otherwise) : a.at(component, otherwise, tick);
  }

  /** A component of a property where nothing animates it. */
  double fixed(String property, int component, double otherwise) {
    FbxNode p = properties.get(property);
    double v = p == null ? Double.NaN : p.number(4 + component);
    return Double.isNaN(v) ? otherwise : v;
  }

  /** Adds the ticks of all keys that move this object. */
  void collectKeys(Set<Double> ticks) {
    animated.values().forEach(a -> a.collectKeys(ticks));
  }

  double number(String property, double otherwise) {
    FbxNode p = properties.get(property);
    double v = p == null ? Double.NaN : p.number(4);
    return Double.isNaN(v) ? otherwise : v;
  }

  Optional<String> text(String property) {
    return Optional.ofNullable(properties.get(property)).map(p -> p.text(4));
  }
}
