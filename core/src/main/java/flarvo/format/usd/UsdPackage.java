package flarvo.format.usd;

import flarvo.format.ByteSource;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * A package: a zip archive whose entries are stored plainly, so that each is a part of the file.
 * The first entry is the root layer.
 */
final class UsdPackage {

  private static final int END = 0x06054b50;
  private static final int ENTRY = 0x02014b50;
  private static final int LOCAL = 0x04034b50;
  private static final int END_SIZE = 22;
  private static final int LONGEST_COMMENT = 0xFFFF;

  private final ByteSource in;
  private final Map<String, ByteSource> entries = new LinkedHashMap<>();

  UsdPackage(ByteSource in) {
    this.in = in;
    int end = end();
    int count = in.u16(end + 10);
    long at = in.u32(end + 16);
    for (int i = 0; i < count; i++) {
      in.check(at, 46);
      if (in.i32(at) != ENTRY) {
        throw in.garbled(at, "entry " + i + " of the package is missing");
      }
      int names = in.u16(at + 28);
      String name = in.text(at + 46, names);
      entry(name, at);
      at += 46L + names + in.u16(at + 30) + in.u16(at + 32);
    }
    if (entries.isEmpty()) {
      throw in.garbled(end, "the package is empty");
    }
  }

  private int end() {
    int lowest = Math.max(0, in.size() - END_SIZE - LONGEST_COMMENT);
    for (int at = in.size() - END_SIZE; at >= lowest; at--) {
      if (in.i32(at) == END) {
        return at;
      }
    }
    throw in.error(
        in.size(),
        "the package's table of contents is missing",
        "It was cut off; request a new copy");
  }

  private void entry(String name, long at) {
    int method = in.u16(at + 10);
    int flags = in.u16(at + 8);
    long size = in.u32(at + 24);
    long local = in.u32(at + 42);
    if (name.startsWith("/") || name.contains("\\") || ("/" + name + "/").contains("/../")) {
      throw in.error(
          at, "the entry '" + name + "' climbs out of the package", "Do not trust this file");
    }
    if (name.isEmpty() || name.indexOf('[') >= 0 || name.indexOf(']') >= 0) {
      throw in.garbled(at, "an entry is called '" + name + "', which no layer can name");
    }
    if (name.endsWith("/")) {
      return;
    }
    if (method != 0 || (flags & 1) != 0 || in.u32(at + 20) != size) {
      throw in.error(
          at,
          "the entry '" + name + "' is compressed or locked, which packages may not be",
          "Pack it again without compression");
    }
    in.check(local, 30);
    if (in.i32(local) != LOCAL) {
      throw in.garbled(local, "the entry '" + name + "' is not where the package says");
    }
    long data = local + 30 + in.u16(local + 26) + in.u16(local + 28);
    entries.putIfAbsent(name, in.part(in.file() + "[" + name + "]", data, size));
  }

  String first() {
    return entries.keySet().iterator().next();
  }

  /** Null where there is none. */
  ByteSource get(String name) {
    return entries.get(name);
  }

  static boolean recognises(ByteSource in) {
    return in.size() > 30 && in.i32(0) == LOCAL;
  }

  static boolean recognises(byte[] head) {
    return new String(head, 0, Math.min(4, head.length), StandardCharsets.ISO_8859_1)
        .equals("PK\003\004");
  }
}
