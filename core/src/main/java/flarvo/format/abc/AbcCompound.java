package flarvo.format.abc;

import flarvo.format.ByteCursor;
import flarvo.format.ByteSource;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;

/**
 * Properties by name. Their headers lie in the group's last child:
 *
 * <pre>
 *   header = bits:uint32 [samples [first last] [sampling]] nameLength name [metaLength meta]
 *            bits 0–1 kind, 2–3 width of the counts, 4–7 plain data, 8 has a sampling,
 *            9 has first and last changed sample, 11 constant, 12–19 extent, 20–27 meta by number
 * </pre>
 */
final class AbcCompound {

  private static final String VALUES = ".vals";
  private static final String INDICES = ".indices";
  private static final int META_INLINE = 0xFF;

  private record Header(int index, AbcProperty property) {}

  private final AbcArchive archive;
  private final OgawaFile.Group group;
  private final Map<String, Header> headers = new LinkedHashMap<>();

  AbcCompound(AbcArchive archive, OgawaFile.Group group) {
    this.archive = archive;
    this.group = group;
    if (group.size() > 0 && group.isData(group.size() - 1)) {
      read(group.data(group.size() - 1));
    }
  }

  private void read(ByteSource data) {
    ByteCursor c = data.at(0);
    for (int index = 0; c.position() < data.size(); index++) {
      int at = c.position();
      int bits = c.i32();
      int kind = bits & 3;
      int width = bits >> 2 & 3;
      AbcProperty property = null;
      int samples = 0;
      int first = 0;
      int last = 0;
      int sampling = 0;
      if (kind != 0) {
        samples = count(c, width);
        if ((bits & 0x200) != 0) {
          first = count(c, width);
          last = count(c, width);
        } else if ((bits & 0x800) == 0) {
          first = 1;
          last = samples - 1;
        }
        sampling = (bits & 0x100) != 0 ? count(c, width) : 0;
      }
      int length = count(c, width);
      data.check(c.position(), length);
      String name = c.text(length);
      if ((bits >>> 20 & META_INLINE) == META_INLINE) {
        c.skip(count(c, width));
      }
      if (kind != 0) {
        AbcPod pod = AbcPod.of(bits >> 4 & 15);
        if (pod == null || sampling >= archive.samplings.size() || last < first && samples > 1) {
          throw data.garbled(at, "the property " + name + " makes no sense");
        }
        property =
            new AbcProperty(
                name,
                kind != 1,
                pod,
                bits >> 12 & 0xFF,
                samples,
                first,
                last,
                archive.samplings.get(sampling),
                index < group.size() - 1 && group.isGroup(index)
                    ? group.group(index)
                    : archive.empty(),
                archive.limits.mostNumbers());
      }
      headers.putIfAbsent(name, new Header(index, property));
    }
  }

  private static int count(ByteCursor c, int width) {
    long v = width == 0 ? c.u8() : width == 1 ? c.u16() : c.u32();
    if (v > Integer.MAX_VALUE || width > 2) {
      throw c.garbled("a count of " + v + " is claimed");
    }
    return (int) v;
  }

  /** A property with at least one sample. */
  Optional<AbcProperty> property(String name) {
    return Optional.ofNullable(headers.get(name)).map(Header::property).filter(p -> p.samples > 0);
  }

  /** The first sample, also where it is stored as values and the indices of those that are used. */
  Optional<double[]> numbers(String name) {
    Optional<AbcProperty> plain = property(name);
    if (plain.isPresent()) {
      return plain.map(p -> p.numbers(0));
    }
    Optional<AbcProperty> values = compound(name).flatMap(c -> c.property(VALUES));
    if (values.isEmpty()) {
      return Optional.empty();
    }
    double[] v = values.get().numbers(0);
    int each = Math.max(1, values.get().extent);
    int[] indices = indices(name, v.length / each);
    long room = (long) indices.length * each;
    if (room > archive.limits.mostNumbers()) {
      throw values.get().garbled(name + " claims " + room + " numbers");
    }
    double[] out = new double[(int) room];
    for (int i = 0; i < indices.length; i++) {
      System.arraycopy(v, indices[i] * each, out, i * each, each);
    }
    return Optional.of(out);
  }

  /** The same for texts. */
  Optional<List<String>> texts(String name) {
    Optional<AbcProperty> plain = property(name).filter(p -> p.pod == AbcPod.STRING);
    if (plain.isPresent()) {
      return plain.map(p -> p.texts(0));
    }
    Optional<AbcProperty> values =
        compound(name).flatMap(c -> c.property(VALUES)).filter(p -> p.pod == AbcPod.STRING);
    if (values.isEmpty()) {
      return Optional.empty();
    }
    List<String> v = values.get().texts(0);
    List<String> out = new ArrayList<>();
    for (int i : indices(name, v.size())) {
      out.add(v.get(i));
    }
    return Optional.of(out);
  }

  /** Each within the values; without indices every value is used once. */
  private int[] indices(String name, int values) {
    Optional<AbcProperty> p = compound(name).flatMap(c -> c.property(INDICES));
    if (p.isEmpty()) {
      return IntStream.range(0, values).toArray();
    }
    double[] d = p.get().numbers(0);
    int[] out = new int[d.length];
    for (int i = 0; i < d.length; i++) {
      if (!(d[i] >= 0 && d[i] < values)) {
        throw p.get().garbled(name + " has " + values + " values and asks for number " + d[i]);
      }
      out[i] = (int) d[i];
    }
    return out;
  }

  Optional<AbcCompound> compound(String name) {
    Header h = headers.get(name);
    return h == null || h.property != null
        ? Optional.empty()
        : Optional.of(new AbcCompound(archive, group.group(h.index)));
  }
}
