package flarvo.format.abc;

import flarvo.format.ByteCursor;
import flarvo.format.ByteSource;
import flarvo.format.ReadLimits;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Objects of an archive.
 *
 * <pre>
 *   root   = version  library  object  metadata  samplings  shared metadata
 *   object = properties  child{n}  headers
 *   header = nameLength:uint32 name meta:uint8 [ length:uint32 text ]     and 32 bytes of digests
 * </pre>
 */
final class AbcArchive {

  private static final int META_INLINE = 0xFF;
  private static final int DIGESTS = 32;

  final ReadLimits limits;
  final List<AbcSampling> samplings;
  final Map<String, String> metadata;
  private final OgawaFile file;
  private final OgawaFile.Group root;
  private final List<Map<String, String>> shared = new ArrayList<>();

  AbcArchive(ByteSource in, ReadLimits limits) {
    this.limits = limits;
    file = new OgawaFile(in);
    root = file.root();
    if (root.size() < 6) {
      throw in.garbled(8, "the archive's root is incomplete");
    }
    metadata = pairs(text(root.data(3)));
    samplings = AbcSampling.read(root.data(4));
    if (samplings.isEmpty()) {
      throw in.garbled(root.at(), "the archive has no times of samples");
    }
    shared.add(Map.of());
    ByteSource data = root.data(5);
    ByteCursor c = data.at(0);
    while (c.position() < data.size()) {
      int length = c.u8();
      shared.add(pairs(c.text(length)));
    }
  }

  private static String text(ByteSource data) {
    return data.text(0, data.size());
  }

  /** {@code key=value;key=value}. */
  private static Map<String, String> pairs(String text) {
    Map<String, String> out = new LinkedHashMap<>();
    for (String pair : text.split(";")) {
      int equals = pair.indexOf('=');
      if (equals > 0) {
        out.put(pair.substring(0, equals), pair.substring(equals + 1));
      }
    }
    return out;
  }

  OgawaFile.Group empty() {
    return file.new Group(0);
  }

  AbcObject object() {
    return new AbcObject("", "/", metadata, root.group(2));
  }

  /** One object; its children are read when they are asked for. */
  final class AbcObject {
    final String name;
    final String path;
    final Map<String, String> metadata;
    private final OgawaFile.Group group;

    AbcObject(String name, String path, Map<String, String> metadata, OgawaFile.Group group) {
      this.name = name;
      this.path = path;
      this.metadata = metadata;
      this.group = group;
    }

    /** Such as {@code AbcGeom_Camera_v1}; empty where there is none. */
    String schema() {
      return metadata.getOrDefault("schema", "");
    }

    AbcCompound properties() {
      return new AbcCompound(AbcArchive.this, group.isGroup(0) ? group.group(0) : empty());
    }

    List<AbcObject> children() {
      int last = group.size() - 1;
      List<AbcObject> out = new ArrayList<>();
      if (last < 0 || !group.isData(last)) {
        return out;
      }
      ByteSource data = group.data(last);
      int end = data.size() - DIGESTS;
      ByteCursor c = data.at(0);
      while (c.position() < end) {
        String childName = c.text(c.count32(1));
        int meta = c.u8();
        Map<String, String> m;
        if (meta == META_INLINE) {
          m = pairs(c.text(c.count32(1)));
        } else if (meta < shared.size()) {
          m = shared.get(meta);
        } else {
          throw c.garbled("metadata " + meta + " of " + shared.size() + " is meant");
        }
        String childPath = (path.equals("/") ? "/" : path + "/") + childName;
        out.add(new AbcObject(childName, childPath, m, group.group(1 + out.size())));
      }
      return out;
    }
  }
}
