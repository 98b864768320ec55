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

  final Specifier specifier;
  final String type;
  final String name;
  final String path;
  final Map<String, Object> metadata = new LinkedHashMap<>();
  final Map<String, UsdAttribute> attributes = new LinkedHashMap<>();
  final List<UsdPrim> children = new ArrayList<>();

  UsdPrim(Specifier specifier, String type, String name, String parentPath) {
    this.specifier = specifier;
    this.type = type;
    this.name = name;
    this.path = parentPath.equals("/") ? "/" + name : parentPath + "/" + name;
  }

  Optional<UsdAttribute> attribute(String attributeName) {
    return Optional.ofNullable(attributes.get(attributeName)).filter(UsdAttribute::hasValue);
  }
}
