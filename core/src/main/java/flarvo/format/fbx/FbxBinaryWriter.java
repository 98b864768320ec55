package flarvo.format.fbx;

import flarvo.format.ByteSink;
import flarvo.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.zip.Deflater;

/** Records to the binary container, version 7.5; long arrays are packed. */
final class FbxBinaryWriter {

  private static final int VERSION = 7500;

  /** Shorter arrays are not worth packing, in bytes. */
  private static final int PACK_BEYOND = 128;

  private static final int NULL_RECORD = 25;

  // Fixed marks: readers of old check that the first and the second agree with the date.
  private static final int[] FILE_ID = {
    0x28, 0xb3, 0x2a, 0xeb, 0xb6, 0x24, 0xcc, 0xc2, 0xbf, 0xc8, 0xb0, 0x2a, 0xa9, 0x2b, 0xfc, 0xf1
  };
  private static final String DATE = "1970-01-01 10:00:00:000";
  private static final int[] FOOTER = {
    0xfa, 0xbc, 0xab, 0x09, 0xd0, 0xc8, 0xd4, 0x66, 0xb1, 0x76, 0xfb, 0x83, 0x1c, 0xf7, 0x26, 0x7e
  };
  private static final int[] END = {
    0xf8, 0x5a, 0x8c, 0x6a, 0xde, 0xf5, 0xd9, 0x7e, 0xec, 0xe9, 0x0c, 0xe3, 0x75, 0x8f, 0x29, 0x0b
  };

  /** Bytes from the last record's end to the end of the file, at least. */
  static final int SHORTEST_FOOTER = 16 + 4 + 4 + 120 + 16;

  private final ByteSink out = new ByteSink();
  private final Progress progress;

  FbxBinaryWriter(Progress progress) {
    this.progress = progress;
  }

  ByteSink write(FbxNode root) {
    out.bytes(FbxBinary.MAGIC);
    out.i32(VERSION);
    boolean first = true;
    for (FbxNode n : root.children) {
      record(n);
      if (first) {
        identity();
      }
      first = false;
    }
    out.zeros(NULL_RECORD);
    bytes(FOOTER);
    out.zeros(4);
    out.zeros(16 - out.position() % 16);
    out.i32(VERSION);
    out.zeros(120);
    bytes(END);
    return out;
  }

  private void identity() {
    FbxNode id = new FbxNode("FileId");
    byte[] raw = new byte[FILE_ID.length];
    for (int i = 0; i < raw.length; i++) {
      raw[i] = (byte) FILE_ID[i];
    }
    id.values.add(raw);
    record(id);
    FbxNode date = new FbxNode("CreationTime");
    date.values.add(DATE);
    record(date);
    FbxNode creator = new FbxNode("Creator");
    creator.values.add("Flarvo");
    record(creator);
  }

  private void bytes(int[] b) {
    for (int i : b) {
      out.u8(i);
    }
  }

  private void record(FbxNode n) {
    progress.step(0, 0);
    int start = out.position();
    out.i64(0);
    out.i64(n.values.size());
    out.i64(0);
    byte[] name = n.name.getBytes(StandardCharsets.ISO_8859_1);
    out.u8(name.length);
    out.bytes(name);
    int values = out.position();
    n.values.forEach(this::value);
    out.put64(start + 16, out.position() - values);
    if (n.block) {
      n.children.forEach(this::record);
      out.zeros(NULL_RECORD);
    }
    out.put64(start, out.position());
  }

  private void value(Object v) {
    if (v instanceof Integer i) {
      out.u8('I');
      out.i32(i);
    } else if (v instanceof Long l) {
      out.u8('L');
      out.i64(l);
    } else if (v instanceof Double d) {
      out.u8('D');
      out.f64(d);
    } else if (v instanceof Boolean b) {
      out.u8('C');
      out.u8(b ? 1 : 0);
    } else if (v instanceof FbxName n) {
      string('S', n.binary().getBytes(StandardCharsets.UTF_8));
    } else if (v instanceof String s) {
      string('S', s.getBytes(StandardCharsets.UTF_8));
    } else if (v instanceof byte[] raw) {
      string('R', raw);
    } else {
      array(v);
    }
  }

  private void array(Object v) {
    if (v instanceof long[] a) {
      ByteSink plain = new ByteSink();
      for (long x : a) {
        plain.i64(x);
      }
      array('l', a.length, plain.toBytes());
    } else if (v instanceof int[] a) {
      ByteSink plain = new ByteSink();
      for (int x : a) {
        plain.i32(x);
      }
      array('i', a.length, plain.toBytes());
    } else if (v instanceof float[] a) {
      ByteSink plain = new ByteSink();
      for (float x : a) {
        plain.f32(x);
      }
      array('f', a.length, plain.toBytes());
    } else if (v instanceof double[] a) {
      ByteSink plain = new ByteSink();
      for (double x : a) {
        plain.f64(x);
      }
      array('d', a.length, plain.toBytes());
    } else {
      throw new IllegalArgumentException("no value of this container: " + v);
    }
  }

  private void string(int type, byte[] b) {
    out.u8(type);
    out.i32(b.length);
    out.bytes(b);
  }

  private void array(int type, int length, byte[] plain) {
    out.u8(type);
    out.i32(length);
    boolean pack = plain.length > PACK_BEYOND;
    byte[] data = pack ? deflate(plain) : plain;
    out.i32(pack ? 1 : 0);
    out.i32(data.length);
    out.bytes(data);
  }

  private static byte[] deflate(byte[] plain) {
    Deflater d = new Deflater(Deflater.BEST_SPEED);
    try {
      d.setInput(plain);
      d.finish();
      byte[] buffer = new byte[plain.length + plain.length / 1000 + 64];
      int n = d.deflate(buffer);
      return Arrays.copyOf(buffer, n);
    } finally {
      d.end();
    }
  }
}
