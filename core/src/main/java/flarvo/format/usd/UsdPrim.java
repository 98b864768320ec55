package flarvo.format.usd;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** A prim as a layer writes it down: nothing composed, nothing evaluated. */
final class UsdPrim {

  /** Whether the layer defines a prim, changes one, or keeps one for inheriting. */
  enum Specifier {
    DEF,
    OVER,
    CLASS
  }

  /** Before an attribute's name: metadata of the prim that say what its values belong to. */
  static final String INTERPOLATION = "interpolation:";

  /** Before an attribute's name: metadata of the prim that say what feeds it. */
  static final String CONNECTION = "connect:";

  /** Name of the metadata that hold the schemas which are applied to a prim. */
  static final String API_SCHEMAS = "apiSchemas";

  final Specifier specifier;
  final String type;
  final String name;
  final String path;
  final Map<String, Object> metadata = new LinkedHashMap<>();
  final Map<String, UsdAttribute> attributes = new LinkedHashMap<>();
  final List<UsdPrim> children = new ArrayList<>();

  /** Set, variant, what it adds; kept apart from the children, for choosing is composition. */
  private final Map<String, Map<String, UsdPrim>> variantSets = new LinkedHashMap<>();

  private Map<String, UsdPrim> byName;

  UsdPrim(Specifier specifier, String type, String name, String parentPath) {
    this.specifier = specifier;
    this.type = type;
    this.name = name;
    this.path = parentPath.equals("/") ? "/" + name : parentPath + "/" + name;
  }

  Optional<UsdAttribute> attribute(String attributeName) {
    return Optional.ofNullable(attributes.get(attributeName)).filter(UsdAttribute::hasValue);
  }

  /** The variants of a set, made where there is none; the caller may add to it. */
  Map<String, UsdPrim> variants(String set) {
    return variantSets.computeIfAbsent(set, s -> new LinkedHashMap<>());
  }

  Map<String, Map<String, UsdPrim>> variantSets() {
    return variantSets;
  }

  List<UsdPrim> allVariants() {
    return variantSets.values().stream().flatMap(m -> m.values().stream()).toList();
  }

  /** A child by its name; the children must not change any more. */
  UsdPrim child(String childName) {
    if (byName == null) {
      byName = new LinkedHashMap<>();
      for (UsdPrim c : children) {
        byName.putIfAbsent(c.name, c);
      }
    }
    return byName.get(childName);
  }
}
