package flarvo.format.usd;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** One layer: its own metadata and its root prims. */
final class UsdLayer {

  /** What the schema says of a layer that gives no rate. */
  static final double FALLBACK_RATE = 24;

  final Map<String, Object> metadata = new LinkedHashMap<>();
  final List<UsdPrim> roots = new ArrayList<>();

  /** Null for a layer that came from no file. */
  UsdPlace place;

  /** For messages. */
  String name = "";

  private Map<String, UsdPrim> byName;

  /** Time codes a second: as stated, else frames a second, else the fallback. */
  double codesPerSecond() {
    for (String key : new String[] {"timeCodesPerSecond", "framesPerSecond"}) {
      if (metadata.get(key) instanceof Double d && d > 0 && Double.isFinite(d)) {
        return d;
      }
    }
    return FALLBACK_RATE;
  }

  /** The prim at an absolute path, through variants nowhere; null where there is none. */
  UsdPrim at(String path) {
    if (byName == null) {
      byName = new LinkedHashMap<>();
      for (UsdPrim p : roots) {
        byName.putIfAbsent(p.name, p);
      }
    }
    String[] parts = path.split("/");
    UsdPrim p = parts.length < 2 ? null : byName.get(parts[1]);
    for (int i = 2; i < parts.length && p != null; i++) {
      p = p.child(parts[i]);
    }
    return p;
  }

  /** Whether it points to other layers or prims, or changes what it does not define. */
  boolean needsComposition() {
    return metadata.get("subLayers") != null
        || metadata.get("relocates") != null
        || metadata.get("layerRelocates") != null
        || anyNeeds(roots);
  }

  private static boolean needs(UsdPrim p) {
    if (p.specifier != UsdPrim.Specifier.DEF
        || !p.variantSets().isEmpty()
        || p.metadata.containsKey("clips")) {
      return true;
    }
    for (String arc : UsdComposer.ARCS) {
      if (p.metadata.containsKey(arc)) {
        return true;
      }
    }
    return anyNeeds(p.children);
  }

  /** Without streams: asked of every prim, they were the longest to compile of a first reading. */
  private static boolean anyNeeds(List<UsdPrim> prims) {
    for (UsdPrim p : prims) {
      if (needs(p)) {
        return true;
      }
    }
    return false;
  }
}
