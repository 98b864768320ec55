package flarvo.format.abc;

import flarvo.format.ByteSink;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HashMap;
import java.util.Map;

/** Writes a container from the leaves to the root: what a group holds is written before it. */
final class OgawaSink {

  private static final byte[] NO_DIGEST = {};

  private final ByteSink out = new ByteSink();
  private final Map<String, Long> samples = new HashMap<>();

  OgawaSink() {
    out.bytes(OgawaFile.MAGIC.getBytes(StandardCharsets.US_ASCII));
    out.u8(0);
    out.bytes(new byte[] {0, 1});
    out.i64(0);
  }

  /** The child that stands for some bytes. */
  long data(byte[] bytes) {
    return data(NO_DIGEST, bytes);
  }

  private long data(byte[] digest, byte[] bytes) {
    if (digest.length + bytes.length == 0) {
      return OgawaFile.DATA;
    }
    long at = out.position();
    out.i64((long) digest.length + bytes.length);
    out.bytes(digest);
    out.bytes(bytes);
    return OgawaFile.DATA | at;
  }

  /** A sample: a digest of itself and its kind, then its bytes; equal ones are stored once. */
  long sample(AbcPod pod, int extent, byte[] bytes) {
    MessageDigest md5;
    try {
      md5 = MessageDigest.getInstance("MD5");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has it", e);
    }
    md5.update((byte) pod.number);
    md5.update((byte) extent);
    byte[] digest = md5.digest(bytes);
    String key = new String(digest, StandardCharsets.ISO_8859_1) + bytes.length;
    return samples.computeIfAbsent(key, k -> data(digest, bytes));
  }

  long group(long... children) {
    if (children.length == 0) {
      return 0;
    }
    long at = out.position();
    out.i64(children.length);
    for (long c : children) {
      out.i64(c);
    }
    return at;
  }

  /** Marks the file as whole. */
  ByteSink finish(long root) {
    out.put64(8, root);
    byte[] head = OgawaFile.MAGIC.getBytes(StandardCharsets.US_ASCII);
    out.put32(4, head[4] & 0xFF | OgawaFile.FROZEN << 8 | 1 << 24);
    return out;
  }
}
