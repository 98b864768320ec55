package flarvo.format.usd;

import flarvo.format.ByteSource;
import flarvo.format.ReadLimits;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Crate to {@link UsdLayer}. */
final class UsdCrateParser {

  private static final int ATTRIBUTE = 1;
  private static final int PRIM = 6;
  private static final int PSEUDO_ROOT = 7;
  private static final int RELATIONSHIP = 8;
  private static final int VARIANT = 10;

  /** Prims inside prims. */
  private static final int DEEPEST = 512;

  /** Names of metadata in text for those of a crate's fields. */
  private static final Map<String, String> TEXT_NAMES =
      Map.of(
          "inheritPaths", "inherits",
          "variantSelection", "variants",
          "variantSetNames", "variantSets");

  private final UsdCrateTables tables;
  private final UsdCrateValues values;
  private final Progress progress;
  private final int[] specOfPath;
  private final UsdPrim[] primOfPath;
  private final UsdLayer layer = new UsdLayer();

  UsdCrateParser(ByteSource in, ReadLimits limits, Progress progress) {
    this.tables = new UsdCrateTables(in, limits);
    this.values = new UsdCrateValues(tables, limits);
    this.progress = progress;
    this.specOfPath = new int[tables.pathParents.length];
    this.primOfPath = new UsdPrim[tables.pathParents.length];
    java.util.Arrays.fill(specOfPath, -1);
  }

  UsdLayer parse() {
    for (int s = 0; s < tables.specPaths.length; s++) {
      int p = tables.specPaths[s];
      if (p < 0 || p >= specOfPath.length || specOfPath[p] >= 0) {
        throw tables.garbled(0, "spec " + s + " has no path of its own");
      }
      specOfPath[p] = s;
    }
    for (int s = 0; s < tables.specPaths.length; s++) {
      progress.step(0, 0);
      int path = tables.specPaths[s];
      switch (tables.specKinds[s]) {
        case PSEUDO_ROOT -> root(fields(s));
        case PRIM, VARIANT -> prim(path, 0);
        case ATTRIBUTE -> attribute(s, path);
        case RELATIONSHIP -> relationship(s, path);
        default -> {}
      }
    }
    order(layer.roots, layer.metadata.remove("primChildren"));
    return layer;
  }

  /** Field names and the bits of their values. */
  private Map<String, Long> fields(int spec) {
    Map<String, Long> out = new LinkedHashMap<>();
    int[] sets = tables.fieldSets;
    for (int i = tables.specFieldSets[spec]; ; i++) {
      if (i < 0 || i >= sets.length) {
        throw tables.garbled(0, "the fields of spec " + spec + " have no end");
      }
      int f = sets[i];
      if (f == -1) {
        return out;
      }
      if (f < 0 || f >= tables.fieldTokens.length) {
        throw tables.garbled(0, "spec " + spec + " has field " + f + ", which is none");
      }
      out.put(tables.token(tables.fieldTokens[f], tables.in.at(0)), tables.fieldValues[f]);
    }
  }

  private void root(Map<String, Long> fields) {
    List<?> files = List.of();
    List<?> offsets = List.of();
    for (Map.Entry<String, Long> e : fields.entrySet()) {
      Object v = values.value(e.getValue());
      switch (e.getKey()) {
        case "subLayers" -> files = v instanceof List<?> l ? l : List.of();
        case "subLayerOffsets" -> offsets = v instanceof List<?> l ? l : List.of();
        default -> layer.metadata.put(e.getKey(), v);
      }
    }
    List<Object> sublayers = new ArrayList<>();
    for (int i = 0; i < files.size(); i++) {
      double[] time = {0, 1};
      if (i < offsets.size()) {
        if (!(offsets.get(i) instanceof double[] t)) {
          throw tables.garbled(0, "the offset of sublayer " + i + " is none");
        }
        time = t;
      }
      sublayers.add(new UsdAsset(String.valueOf(files.get(i)), "", time[0], time[1]));
    }
    if (!sublayers.isEmpty()) {
      layer.metadata.put("subLayers", sublayers);
    }
  }

  private UsdPrim prim(int path, int depth) {
    if (primOfPath[path] != null) {
      return primOfPath[path];
    }
    int spec = specOfPath[path];
    int parentPath = tables.pathParents[path];
    if (spec < 0 || parentPath < 0 || depth > DEEPEST) {
      throw tables.garbled(
          0, depth > DEEPEST ? "prims are nested too deep" : "a prim hangs in the air");
    }
    boolean atRoot = tables.pathElements[parentPath] == UsdCrateTables.Element.ROOT;
    UsdPrim parent = atRoot ? null : prim(parentPath, depth + 1);
    String token = tables.tokens[tables.pathTokens[path]];
    Map<String, Long> fields = fields(spec);
    UsdPrim prim;
    if (tables.specKinds[spec] == VARIANT) {
      prim = variant(parent, token);
    } else {
      prim =
          new UsdPrim(
              specifier(fields.get("specifier")),
              typeName(fields),
              token,
              parent == null ? "/" : parent.path);
      (parent == null ? layer.roots : parent.children).add(prim);
    }
    for (Map.Entry<String, Long> e : fields.entrySet()) {
      switch (e.getKey()) {
        case "specifier", "typeName", "properties", "variantChildren", "variantSetChildren" -> {}
        default ->
            prim.metadata.put(
                TEXT_NAMES.getOrDefault(e.getKey(), e.getKey()), metadata(e.getValue()));
      }
    }
    primOfPath[path] = prim;
    return prim;
  }

  private Object metadata(long rep) {
    Object v = values.value(rep);
    // One payload alone is how older crates write them.
    return v instanceof UsdAsset a && UsdCrateValues.type(rep) == UsdCrateType.PAYLOAD
        ? UsdListOp.explicitly(List.of(a))
        : v;
  }

  /** {@code {set=name}} on the prim that has the set. */
  private UsdPrim variant(UsdPrim owner, String token) {
    int equals = token.indexOf('=');
    if (owner == null || !token.startsWith("{") || !token.endsWith("}") || equals < 0) {
      throw tables.garbled(0, "a variant is called " + token);
    }
    String set = token.substring(1, equals);
    String name = token.substring(equals + 1, token.length() - 1);
    UsdPrim body = new UsdPrim(UsdPrim.Specifier.OVER, "", name, owner.path);
    owner.variants(set).put(name, body);
    return body;
  }

  private UsdPrim.Specifier specifier(Long rep) {
    Object v = rep == null ? null : values.value(rep);
    int n = v instanceof Double d ? d.intValue() : 1;
    return n == 0
        ? UsdPrim.Specifier.DEF
        : n == 2 ? UsdPrim.Specifier.CLASS : UsdPrim.Specifier.OVER;
  }

  private String typeName(Map<String, Long> fields) {
    Long rep = fields.get("typeName");
    return rep != null && values.value(rep) instanceof String s ? s : "";
  }

  private void attribute(int spec, int path) {
    int owner = tables.pathParents[path];
    if (owner < 0 || specOfPath[owner] < 0) {
      throw tables.garbled(0, "an attribute hangs in the air");
    }
    int kind = tables.specKinds[specOfPath[owner]];
    if (kind != PRIM && kind != VARIANT) {
      return; // an attribute of a relationship's target
    }
    String name = tables.tokens[tables.pathTokens[path]];
    Map<String, Long> fields = fields(spec);
    String type = typeName(fields);
    Object fixed = null;
    Long stored = fields.get("default");
    if (stored != null) {
      UsdAttribute.Deferred later = () -> values.value(stored);
      fixed = UsdCrateValues.isArray(stored) ? later : values.value(stored);
    }
    Long samples = fields.get("timeSamples");
    UsdAttribute a =
        samples != null && UsdCrateValues.type(samples) == UsdCrateType.TIME_SAMPLES
            ? values.samples(name, type, fixed, samples)
            : UsdAttribute.fixed(name, type, fixed);
    prim(owner, 0).attributes.put(name, a);
    Long how = fields.get("interpolation");
    if (how != null && values.value(how) instanceof String s) {
      prim(owner, 0).metadata.put(UsdPrim.INTERPOLATION + name, s);
    }
    Long source = fields.get("connectionPaths");
    if (source != null && values.value(source) instanceof UsdListOp op) {
      prim(owner, 0).metadata.put(UsdPrim.CONNECTION + name, op);
    }
    Long spline = fields.get("spline");
    if (spline != null && samples == null) {
      UsdSpline read = UsdCrateSpline.read(values.at(spline));
      if (read == null) {
        prim(owner, 0).metadata.put("spline:" + name, "");
      } else {
        prim(owner, 0).attributes.put(name, UsdAttribute.spline(name, type, read));
      }
    }
  }

  private void relationship(int spec, int path) {
    int owner = tables.pathParents[path];
    Long targets = fields(spec).get("targetPaths");
    boolean ofPrim =
        owner >= 0 && specOfPath[owner] >= 0 && tables.specKinds[specOfPath[owner]] == PRIM;
    if (ofPrim && targets != null && values.value(targets) instanceof UsdListOp op) {
      String name = tables.tokens[tables.pathTokens[path]];
      prim(owner, 0).metadata.put(UsdTextWriter.REL + name, op);
    }
  }

  /** Children in the order that the layer gives them, and their children's. */
  private void order(List<UsdPrim> prims, Object names) {
    if (names instanceof List<?> list) {
      Map<String, Integer> rank = new HashMap<>();
      for (Object n : list) {
        rank.putIfAbsent(String.valueOf(n), rank.size());
      }
      prims.sort(
          java.util.Comparator.comparingInt(p -> rank.getOrDefault(p.name, Integer.MAX_VALUE)));
    }
    for (UsdPrim p : prims) {
      order(p.children, p.metadata.remove("primChildren"));
      p.allVariants().forEach(v -> order(v.children, v.metadata.remove("primChildren")));
    }
  }
}
