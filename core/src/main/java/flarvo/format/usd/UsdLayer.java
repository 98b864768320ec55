package flarvo.format.usd;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** One layer: its own metadata and its root prims. */
final class UsdLayer {
  final Map<String, Object> metadata = new LinkedHashMap<>();
  final List<UsdPrim> roots = new ArrayList<>();
}
