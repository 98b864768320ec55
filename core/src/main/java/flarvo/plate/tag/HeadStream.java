package flarvo.plate.tag;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;

/** Passes bytes on, the first of them changed: a library writes a file, and tags are put in. */
public final class HeadStream extends FilterOutputStream {

  /** What to write in place of the first bytes. */
  public interface Change {
    /** The bytes to write for those. */
    byte[] of(byte[] head) throws IOException;
  }

  private final byte[] head;
  private final Change change;
  private int have;

  /**
   * @param bytes how many are handed to {@code change}; what is written must be longer
   */
  public HeadStream(OutputStream out, int bytes, Change change) {
    super(out);
    this.head = new byte[bytes];
    this.change = change;
  }

  @Override
  public void write(int b) throws IOException {
    write(new byte[] {(byte) b}, 0, 1);
  }

  @Override
  public void write(byte[] b, int from, int length) throws IOException {
    int n = Math.min(length, head.length - have);
    if (n > 0) {
      System.arraycopy(b, from, head, have, n);
      have += n;
      if (have == head.length) {
        out.write(change.of(head.clone()));
      }
    }
    out.write(b, from + Math.max(0, n), length - Math.max(0, n));
  }
}
