package flarvo.format.fbx;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.joml.Vector3d;

/** An object of the scene with its properties, its curves and what it is connected to. */
final class FbxObject {

  /** Where a property's own values begin, after its name, its type and two words more. */
  private static final int VALUE = 4;

  final long id;
  final String kind;
  final String name;
  final String subclass;
  final FbxNode node;

  /** Most objects have none of these; a large file has a hundred thousand objects. */
  private List<FbxObject> children = List.of();

  /** Where it was placed last, for what hangs in it. */
  FbxTransform.Placed placed;

  /** As a node of the file's tree, once it was asked for. */
  FbxTreeNode treeNode;

  private Map<String, FbxAnimated> animated = Map.of();
  private Map<String, FbxObject> links = Map.of();

  /** Its own properties, in the file's order; few, and looked for one by one. */
  private final List<FbxNode> properties;

  /** What its class says where it is silent; shared. */
  private final Map<String, FbxNode> template;

  FbxObject parent;

  FbxObject(
      long id,
      String kind,
      String name,
      String subclass,
      FbxNode node,
      Map<String, FbxNode> template) {
    this.id = id;
    this.kind = kind;
    this.name = name;
    this.subclass = subclass;
    this.node = node;
    this.template = template;
    this.properties = node.child("Properties70").map(p -> p.children).orElse(List.of());
  }

  /** A property as it is written, the last where there are several; null where there is none. */
  private FbxNode property(String wanted) {
    int own = FbxRecords.find(properties, wanted);
    return own >= 0 ? properties.get(own) : template.get(wanted);
  }

  boolean has(String property) {
    return animated.containsKey(property)
        || FbxRecords.find(properties, property) >= 0
        || template.containsKey(property);
  }

  List<FbxObject> children() {
    return children;
  }

  /** Whether a model hangs in it. */
  boolean holdsModels() {
    for (FbxObject c : children) {
      if (c.kind.equals("Model")) {
        return true;
      }
    }
    return false;
  }

  void add(FbxObject child) {
    children = ShortList.with(children, child);
  }

  Map<String, FbxAnimated> animated() {
    return animated;
  }

  /** A property that is animated, made where there is none. */
  FbxAnimated animate(String property) {
    if (animated.isEmpty()) {
      animated = new LinkedHashMap<>();
    }
    return animated.computeIfAbsent(property, k -> new FbxAnimated(this, property));
  }

  /** What a property points to, such as what a camera looks at, or a picture on a material. */
  Map<String, FbxObject> links() {
    return links;
  }

  void link(String property, FbxObject to) {
    if (links.isEmpty()) {
      links = new LinkedHashMap<>();
    }
    links.put(property, to);
  }

  /** A component of a property at a time: animated, else its fixed value, else the default. */
  double at(String property, int component, double otherwise, double tick) {
    FbxAnimated a = animated.get(property);
    return a == null ? fixed(property, component, otherwise) : a.at(component, otherwise, tick);
  }

  /**
   * Three components of a property at a time, animated or fixed.
   *
   * @param otherwise for each component of which nothing is said
   */
  Vector3d vector(String property, double otherwise, double tick) {
    FbxAnimated a = animated.get(property);
    if (a != null) {
      Vector3d v = new Vector3d();
      for (int k = 0; k < 3; k++) { // a loop: what is called here is compiled into it once
        v.setComponent(k, a.at(k, otherwise, tick));
      }
      return v;
    }
    return fixed(property, otherwise);
  }

  /** Three components of a property where nothing animates them. */
  Vector3d fixed(String property, double otherwise) {
    Vector3d v = new Vector3d(otherwise);
    int own = FbxRecords.find(properties, property);
    FbxNode shared = own >= 0 ? null : template.get(property);
    if (own >= 0) {
      FbxRecords.vector(properties, own, VALUE, v);
    } else if (shared != null) {
      FbxRecords.vector(shared, VALUE, v);
    }
    return v;
  }

  /** A component of a property where nothing animates it. */
  double fixed(String property, int component, double otherwise) {
    int own = FbxRecords.find(properties, property);
    FbxNode shared = own >= 0 ? null : template.get(property);
    double v = Double.NaN;
    if (own >= 0) {
      v = FbxRecords.number(properties, own, VALUE + component);
    } else if (shared != null) {
      v = shared.number(VALUE + component);
    }
    return Double.isNaN(v) ? otherwise : v;
  }

  /** Adds the ticks of all keys that move this object. */
  void collectKeys(Set<Double> ticks) {
    animated.values().forEach(a -> a.collectKeys(ticks));
  }

  double number(String property, double otherwise) {
    return fixed(property, 0, otherwise);
  }

  Optional<String> text(String property) {
    return Optional.ofNullable(property(property)).map(p -> p.text(VALUE));
  }
}
