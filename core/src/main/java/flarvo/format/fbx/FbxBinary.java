package flarvo.format.fbx;

/**
 * The binary container.
 *
 * <pre>
 *   file   = magic[23] version:uint32 record* null footer
 *   record = end count bytes nameLength:uint8 name value{count} [ record* null ]
 *            end, count and bytes are 32 bits wide before version 7500 and 64 from there on
 *   null   = a record of zeros
 *   value  = 'Y' int16 | 'C' 'B' byte | 'I' int32 | 'F' float | 'D' double | 'L' int64
 *          | 'S' 'R' length:uint32 bytes
 *          | 'f' 'd' 'l' 'i' 'b' 'c' length:uint32 packed:uint32 bytes:uint32 data
 * </pre>
 */
final class FbxBinary {

  static final byte[] MAGIC = magic();

  static final int HEADER = 27;

  /** From this version on, offsets and counts are 64 bits wide. */
  static final int WIDE_FROM = 7500;

  private FbxBinary() {}

  private static byte[] magic() {
    String text = "Kaydara FBX Binary  \0\u001a\0";
    byte[] b = new byte[text.length()];
    for (int i = 0; i < b.length; i++) {
      b[i] = (byte) text.charAt(i);
    }
    return b;
  }

  static boolean recognises(byte[] head) {
    return head.length >= MAGIC.length
        && java.util.Arrays.equals(head, 0, MAGIC.length, MAGIC, 0, MAGIC.length);
  }
}
