package flarvo.format.usd;

import flarvo.format.ByteSink;
import flarvo.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * {@link UsdLayer} to a crate of version 0.8; {@link UsdCrateTables} and {@link UsdCrateValues}
 * show the layout. Equal values, times and sets of fields are stored once.
 */
final class UsdCrateWriter {

  private static final int ATTRIBUTE = 1;
  private static final int PRIM = 6;
  private static final int PSEUDO_ROOT = 7;
  private static final int RELATIONSHIP = 8;
  private static final int HEADER = 88;

  private static final long ARRAY = 1L << 63;
  private static final long INLINED = 1L << 62;

  private final UsdLayer layer;
  private final Progress progress;
  private final ByteSink out = new ByteSink();
  private final Map<String, Integer> tokens = new LinkedHashMap<>();
  private final List<Integer> strings = new ArrayList<>();
  private final Map<String, Integer> stringOf = new HashMap<>();
  private final Map<Long, Map<Integer, Integer>> fieldOf = new HashMap<>();
  private final List<Integer> fieldTokens = new ArrayList<>();
  private final List<Long> fieldValues = new ArrayList<>();
  private final Map<List<Integer>, Integer> fieldSetOf = new HashMap<>();
  private final List<Integer> fieldSets = new ArrayList<>();
  private final List<Integer> pathTokens = new ArrayList<>();
  private final List<Integer> pathJumps = new ArrayList<>();
  private final Map<String, Integer> pathOf = new HashMap<>();
  private final List<int[]> specs = new ArrayList<>();
  private final Map<String, List<Runnable>> byName = new LinkedHashMap<>();
  private final Map<Object, Long> stored = new HashMap<>();

  UsdCrateWriter(UsdLayer layer, Progress progress) {
    this.layer = layer;
    this.progress = progress;
    token(";-)"); // keeps 0 free: a property's token is stored negated
  }

  ByteSink write() {
    out.zeros(HEADER);
    paths();
    root();
    for (UsdPrim p : layer.roots) {
      prim(p);
    }
    byName.values().forEach(all -> all.forEach(Runnable::run));
    List<Object[]> sections = new ArrayList<>();
    section(sections, "TOKENS", this::tokens);
    section(sections, "STRINGS", this::strings);
    section(sections, "FIELDS", this::fields);
    section(
        sections,
        "FIELDSETS",
        () -> {
          out.i64(fieldSets.size());
          ints(fieldSets);
        });
    section(sections, "PATHS", this::pathTable);
    section(sections, "SPECS", this::specs);
    int contents = out.position();
    out.i64(sections.size());
    for (Object[] s : sections) {
      out.bytes(Arrays.copyOf(((String) s[0]).getBytes(StandardCharsets.US_ASCII), 16));
      out.i64((int) s[1]);
      out.i64((int) s[2]);
    }
    byte[] magic = UsdCrateTables.MAGIC.getBytes(StandardCharsets.US_ASCII);
    for (int i = 0; i < 2; i++) {
      out.put32(
          4 * i,
          java.nio.ByteBuffer.wrap(magic, 4 * i, 4)
              .order(java.nio.ByteOrder.LITTLE_ENDIAN)
              .getInt());
    }
    out.put64(8, 8 << 8); // 0.8.0
    out.put64(16, contents);
    return out;
  }

  private void section(List<Object[]> sections, String name, Runnable body) {
    int start = out.position();
    body.run();
    sections.add(new Object[] {name, start, out.position() - start});
  }

  private int token(String s) {
    return tokens.computeIfAbsent(s, k -> tokens.size());
  }

  private int string(String s) {
    return stringOf.computeIfAbsent(
        s,
        k -> {
          strings.add(token(s));
          return strings.size() - 1;
        });
  }

  // ---- paths: a node, then its children, then its siblings

  private void paths() {
    pathTokens.add(0);
    pathJumps.add(layer.roots.isEmpty() ? -2 : -1);
    pathOf.put("/", 0);
    children(layer.roots, List.of(), "/");
  }

  private void children(List<UsdPrim> prims, List<String> properties, String parent) {
    int n = prims.size() + properties.size();
    for (int i = 0; i < n; i++) {
      int here = pathTokens.size();
      boolean last = i == n - 1;
      if (i < prims.size()) {
        UsdPrim p = prims.get(i);
        pathTokens.add(token(p.name));
        pathJumps.add(-2);
        pathOf.put(p.path, here);
        children(p.children, properties(p), p.path);
        boolean hasChild = pathTokens.size() > here + 1;
        int size = pathTokens.size() - here;
        pathJumps.set(here, last ? (hasChild ? -1 : -2) : hasChild ? size : 0);
      } else {
        String name = properties.get(i - prims.size());
        pathTokens.add(-token(name));
        pathJumps.add(last ? -2 : 0);
        pathOf.put(parent + "." + name, here);
      }
    }
  }

  private static List<String> properties(UsdPrim p) {
    List<String> names = new ArrayList<>(p.attributes.keySet());
    for (String k : p.metadata.keySet()) {
      if (k.startsWith(UsdTextWriter.REL)) {
        names.add(k.substring(UsdTextWriter.REL.length()));
      }
    }
    return names;
  }

  // ---- specs

  private void root() {
    Map<String, Long> f = new LinkedHashMap<>();
    layer.metadata.forEach(
        (k, v) -> {
          if (v instanceof Double d) {
            f.put(k, number(UsdCrateType.DOUBLE, d));
          } else if (v instanceof Map<?, ?> m) {
            f.put(k, dictionary(m));
          } else {
            f.put(k, inlined(UsdCrateType.TOKEN, token(String.valueOf(v))));
          }
        });
    f.put("primChildren", tokenVector(layer.roots.stream().map(p -> p.name).toList()));
    spec("/", PSEUDO_ROOT, f);
  }

  private void prim(UsdPrim p) {
    progress.step(0, 0);
    Map<String, Long> f = new LinkedHashMap<>();
    f.put("specifier", inlined(UsdCrateType.SPECIFIER, 0));
    f.put("typeName", inlined(UsdCrateType.TOKEN, token(p.type)));
    List<String> properties = properties(p);
    if (!properties.isEmpty()) {
      f.put("properties", tokenVector(properties));
    }
    if (!p.children.isEmpty()) {
      f.put("primChildren", tokenVector(p.children.stream().map(c -> c.name).toList()));
    }
    if (p.metadata.get(UsdPrim.API_SCHEMAS) instanceof List<?> schemas) {
      f.put(UsdPrim.API_SCHEMAS, prepended(schemas));
    }
    spec(p.path, PRIM, f);
    for (UsdAttribute a : p.attributes.values()) {
      later(a.name(), () -> attribute(p, a));
    }
    p.metadata.forEach(
        (k, v) -> {
          if (k.startsWith(UsdTextWriter.REL)) {
            String name = k.substring(UsdTextWriter.REL.length());
            later(name, () -> relationship(p, name, String.valueOf(v)));
          }
        });
    p.children.forEach(this::prim);
  }

  /** Properties of one name lie together: then their numbers rise evenly, and pack to nothing. */
  private void later(String name, Runnable property) {
    byName.computeIfAbsent(name, k -> new ArrayList<>()).add(property);
  }

  private void attribute(UsdPrim p, UsdAttribute a) {
    Map<String, Long> f = new LinkedHashMap<>();
    f.put("typeName", inlined(UsdCrateType.TOKEN, token(a.type())));
    if (UsdTextWriter.isCustom(a)) {
      f.put("custom", inlined(UsdCrateType.BOOL, 1));
    }
    if (UsdTextWriter.UNIFORM.contains(a.name())) {
      f.put("variability", inlined(UsdCrateType.VARIABILITY, 1));
    }
    if (p.metadata.get(UsdPrim.INTERPOLATION + a.name()) instanceof String how) {
      f.put("interpolation", inlined(UsdCrateType.TOKEN, token(how)));
    }
    if (a.isAnimated()) {
      f.put("timeSamples", samples(a));
    } else if (a.hasValue()) {
      f.put("default", value(a.type(), a.value()));
    }
    if (p.metadata.get(UsdPrim.CONNECTION + a.name()) instanceof String source) {
      f.put("connectionPaths", explicitPath(source));
    }
    spec(p.path + "." + a.name(), ATTRIBUTE, f);
  }

  private void relationship(UsdPrim p, String name, String target) {
    Map<String, Long> f = new LinkedHashMap<>();
    f.put("variability", inlined(UsdCrateType.VARIABILITY, 1));
    f.put("targetPaths", explicitPath(target));
    spec(p.path + "." + name, RELATIONSHIP, f);
  }

  private long explicitPath(String target) {
    long at = out.position();
    out.u8(1 | 2); // an explicit list
    out.i64(1);
    out.i32(pathOf.get(target));
    return rep(UsdCrateType.PATH_LIST_OP, at);
  }

  private long prepended(List<?> names) {
    long at = out.position();
    out.u8(32); // a list of what is put before
    out.i64(names.size());
    names.forEach(n -> out.i32(token(String.valueOf(n))));
    return rep(UsdCrateType.TOKEN_LIST_OP, at);
  }

  private void spec(String path, int kind, Map<String, Long> fields) {
    List<Integer> set = new ArrayList<>();
    fields.forEach((name, rep) -> set.add(field(token(name), rep)));
    int start =
        fieldSetOf.computeIfAbsent(
            set,
            k -> {
              int at = fieldSets.size();
              fieldSets.addAll(k);
              fieldSets.add(-1);
              return at;
            });
    specs.add(new int[] {pathOf.get(path), start, kind});
  }

  private int field(int token, long rep) {
    return fieldOf
        .computeIfAbsent(rep, r -> new HashMap<>())
        .computeIfAbsent(
            token,
            t -> {
              fieldTokens.add(token);
              fieldValues.add(rep);
              return fieldTokens.size() - 1;
            });
  }

  // ---- values

  private static long rep(UsdCrateType type, long payload) {
    return (long) type.number << 48 | payload;
  }

  private static long inlined(UsdCrateType type, int bits) {
    return INLINED | rep(type, bits & 0xFFFFFFFFL);
  }

  private long value(String typeName, Object value) {
    boolean array = typeName.endsWith("[]");
    UsdCrateType type =
        UsdCrateType.of(array ? typeName.substring(0, typeName.length() - 2) : typeName);
    if (type == null) {
      throw new IllegalArgumentException("no crate type for " + typeName);
    }
    if (array) {
      return array(type, value);
    }
    if (value instanceof UsdArray t) {
      return tuple(type, t.numbers());
    }
    if (value instanceof Double d) {
      return number(type, d);
    }
    String s = value instanceof UsdAsset a ? a.path() : String.valueOf(value);
    return inlined(type, type == UsdCrateType.STRING ? string(s) : token(s));
  }

  private long number(UsdCrateType type, double v) {
    if (type == UsdCrateType.FLOAT || (type == UsdCrateType.DOUBLE && v == (float) v)) {
      return inlined(type, Float.floatToRawIntBits((float) v));
    }
    if (type == UsdCrateType.INT) {
      return inlined(type, (int) v);
    }
    return tuple(type, v);
  }

  private long tuple(UsdCrateType type, double... v) {
    if (v.length > 1 && v.length <= 4 && !type.text.startsWith("quat")) {
      int bits = 0;
      boolean small = true;
      for (int i = 0; i < v.length; i++) {
        small &= v[i] == (byte) v[i] && !(v[i] == 0 && 1 / v[i] < 0);
        bits |= ((byte) v[i] & 0xFF) << 8 * i;
      }
      if (small) {
        return inlined(type, bits);
      }
    }
    long at = out.position();
    numbers(type, v);
    return rep(type, at);
  }

  private void numbers(UsdCrateType type, double[] v) {
    for (double d : v) {
      switch (type.entry) {
        case 'f' -> out.f32((float) d);
        case 'i' -> out.i32((int) d);
        case 'd' -> out.f64(d);
        default -> throw new IllegalArgumentException(type + " is not written");
      }
    }
  }

  private long array(UsdCrateType type, Object value) {
    return stored.computeIfAbsent(
        List.of(type, value),
        k -> {
          long at = out.position();
          if (value instanceof List<?> l) {
            out.i64(l.size());
            boolean texts = type == UsdCrateType.STRING;
            l.forEach(o -> out.i32(texts ? string(String.valueOf(o)) : token(String.valueOf(o))));
          } else {
            UsdArray a = (UsdArray) value;
            out.i64(a.count());
            numbers(type, a.numbers());
          }
          return ARRAY | rep(type, at);
        });
  }

  private long tokenVector(List<String> names) {
    return stored.computeIfAbsent(
        names,
        k -> {
          long at = out.position();
          out.i64(names.size());
          names.forEach(n -> out.i32(token(n)));
          return rep(UsdCrateType.TOKEN_VECTOR, at);
        });
  }

  private long dictionary(Map<?, ?> m) {
    long at = out.position();
    out.i64(m.size());
    m.forEach(
        (k, v) -> {
          out.i32(string(String.valueOf(k)));
          out.i64(8); // nothing nested
          out.i64(inlined(UsdCrateType.STRING, string(String.valueOf(v))));
        });
    return rep(UsdCrateType.DICTIONARY, at);
  }

  private long samples(UsdAttribute a) {
    double[] times = a.times();
    List<Double> key = Arrays.stream(times).boxed().toList();
    int start = out.position();
    out.i64(0);
    long timesRep =
        stored.computeIfAbsent(
            key,
            k -> {
              long at = out.position();
              out.i64(times.length);
              for (double t : times) {
                out.f64(t);
              }
              return rep(UsdCrateType.DOUBLE_VECTOR, at);
            });
    out.put64(start, out.position() - start);
    out.i64(timesRep);
    int nested = out.position();
    out.i64(0);
    long[] reps = new long[times.length];
    for (int i = 0; i < reps.length; i++) {
      reps[i] = value(a.type(), a.samples().get(i));
    }
    out.put64(nested, out.position() - nested);
    out.i64(reps.length);
    for (long r : reps) {
      out.i64(r);
    }
    return rep(UsdCrateType.TIME_SAMPLES, start);
  }

  // ---- tables

  private void tokens() {
    ByteSink all = new ByteSink();
    tokens
        .keySet()
        .forEach(
            t -> {
              all.text(t);
              all.u8(0);
            });
    out.i64(tokens.size());
    out.i64(all.position());
    block(all.toBytes());
  }

  private void strings() {
    out.i64(strings.size());
    strings.forEach(out::i32);
  }

  private void fields() {
    out.i64(fieldTokens.size());
    ints(fieldTokens);
    ByteSink values = new ByteSink();
    fieldValues.forEach(values::i64);
    block(values.toBytes());
  }

  private void pathTable() {
    int n = pathTokens.size();
    out.i64(n);
    out.i64(n);
    List<Integer> index = new ArrayList<>(n);
    for (int i = 0; i < n; i++) {
      index.add(i);
    }
    ints(index);
    ints(pathTokens);
    ints(pathJumps);
  }

  private void specs() {
    out.i64(specs.size());
    for (int column = 0; column < 3; column++) {
      int c = column;
      ints(specs.stream().map(s -> s[c]).toList());
    }
  }

  private void ints(List<Integer> values) {
    byte[] packed = UsdCompression.packInts(values.stream().mapToInt(Integer::intValue).toArray());
    out.i64(packed.length);
    out.bytes(packed);
  }

  private void block(byte[] plain) {
    byte[] packed = UsdCompression.pack(plain);
    out.i64(packed.length);
    out.bytes(packed);
  }
}
