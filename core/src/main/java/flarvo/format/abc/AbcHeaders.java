package flarvo.format.abc;

import flarvo.format.ByteSink;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;

/** Headers of objects and properties, and the metadata they share by number. */
final class AbcHeaders {

  /** Counts and lengths are all stored in 32 bits. */
  private static final int WIDE = 2 << 2;

  private static final int DIGESTS = 32;

  private final Map<String, Integer> shared = new LinkedHashMap<>();

  private int number(String metadata) {
    return shared.computeIfAbsent(metadata, m -> shared.size() + 1); // 0 is none
  }

  byte[] shared() {
    ByteSink b = new ByteSink(256);
    shared
        .keySet()
        .forEach(
            m -> {
              byte[] text = m.getBytes(StandardCharsets.UTF_8);
              b.u8(text.length);
              b.bytes(text);
            });
    return b.toBytes();
  }

  Objects objects() {
    return new Objects();
  }

  Properties properties() {
    return new Properties();
  }

  /** Headers of an object's children. */
  final class Objects {
    private final ByteSink b = new ByteSink(256);

    void add(String name, String schema, String property) {
      byte[] text = name.getBytes(StandardCharsets.UTF_8);
      b.i32(text.length);
      b.bytes(text);
      b.u8(number("schema=" + schema + ";schemaObjTitle=" + schema + ":" + property));
    }

    byte[] bytes() {
      b.zeros(DIGESTS);
      return b.toBytes();
    }
  }

  /** Headers of a compound's properties. */
  final class Properties {
    private final ByteSink b = new ByteSink(256);

    void compound(String name, String schema) {
      b.i32(WIDE | number("schema=" + schema) << 20);
      name(name);
    }

    /** One without metadata. */
    void compound(String name) {
      b.i32(WIDE);
      name(name);
    }

    /**
     * @param sampling by number; 0 for what never changes
     */
    void scalar(String name, AbcPod pod, int extent, int samples, int sampling) {
      boolean changes = samples > 1;
      int bits = 1 | WIDE | pod.number << 4 | extent << 12;
      bits |= changes ? 0x200 : 0x800;
      bits |= sampling > 0 ? 0x100 : 0;
      b.i32(bits | 0x400); // every sample has the same size
      b.i32(samples);
      if (changes) {
        b.i32(1);
        b.i32(samples - 1);
      }
      if (sampling > 0) {
        b.i32(sampling);
      }
      name(name);
    }

    /** An array that never changes. */
    void array(String name, AbcPod pod, int extent) {
      b.i32(2 | WIDE | pod.number << 4 | extent << 12 | 0x800 | 0x400);
      b.i32(1);
      name(name);
    }

    /** An array with one value a corner of a face, as geometry parameters are told by. */
    void perCorner(String name, int extent, String interpretation) {
      String metadata =
          "arrayExtent=1;geoScope=fvr;interpretation="
              + interpretation
              + ";isGeomParam=true;podExtent="
              + extent
              + ";podName=float32_t";
      b.i32(
          2
              | WIDE
              | AbcPod.FLOAT32.number << 4
              | extent << 12
              | 0x800
              | 0x400
              | number(metadata) << 20);
      b.i32(1);
      name(name);
    }

    private void name(String name) {
      byte[] text = name.getBytes(StandardCharsets.UTF_8);
      b.i32(text.length);
      b.bytes(text);
    }

    byte[] bytes() {
      return b.toBytes();
    }
  }
}
