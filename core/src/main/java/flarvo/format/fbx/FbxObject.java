package flarvo.format.fbx;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** An object of the scene with its properties, its curves and what it is connected to. */
final class FbxObject {

  final long id;
  final String kind;
  final String name;
  final String subclass;
  final FbxNode node;
  final Map<String, FbxNode> properties = new LinkedHashMap<>();
  final List<FbxObject> children = new ArrayList<>();
  final Map<String, FbxCurve> curves = new LinkedHashMap<>(); // "Lcl Rotation|0" for x, and so on

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
    return properties.containsKey(property)
        || curves.keySet().stream().anyMatch(k -> k.startsWith(property + "|"));
  }

  /** A component of a property at a time: its curve, else its fixed value, else the default. */
  double at(String property, int component, double otherwise, double tick) {
    FbxCurve c = curves.get(property + "|" + component);
    if (c != null) {
      return c.at(tick);
    }
    FbxNode p = properties.get(property);
    double v = p == null ? Double.NaN : p.number(4 + component);
    return Double.isNaN(v) ? otherwise : v;
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
