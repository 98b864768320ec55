package flarvo.format.table;

import flarvo.format.NumberText;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.stream.IntStream;
import org.apache.commons.csv.CSVFormat;

/** Rows of a table, cell by cell; names are quoted where they must be. */
final class TableRows {

  /** How many rows one core spells at a time. */
  private static final int BLOCK = 1024;

  /** How many blocks are in memory at once. */
  private static final int BLOCKS = 16;

  private final StringBuilder text = new StringBuilder(BLOCK * 64);
  private boolean rowBegun;

  /** Spells one row. */
  @FunctionalInterface
  interface Row {
    /**
     * @param rows to which its cells go, and its end
     * @param i from 0
     */
    void spell(TableRows rows, int i);
  }

  /**
   * Writes rows as UTF-8, in their order; several cores spell them.
   *
   * @param row is asked from several threads
   * @throws flarvo.work.Cancelled when the user asked to stop
   */
  static void write(OutputStream out, int count, Row row, Progress progress) throws IOException {
    int blocks = (count + BLOCK - 1) / BLOCK;
    if (blocks == 1) {
      out.write(block(0, count, row, progress));
      return;
    }
    for (int from = 0; from < blocks; from += BLOCKS) {
      progress.step((long) from * BLOCK, count);
      byte[][] spelt =
          IntStream.range(from, Math.min(blocks, from + BLOCKS))
              .parallel()
              .mapToObj(b -> block(b * BLOCK, Math.min(count, (b + 1) * BLOCK), row, Progress.NONE))
              .toArray(byte[][]::new);
      for (byte[] block : spelt) {
        out.write(block);
      }
    }
  }

  private static byte[] block(int from, int end, Row row, Progress progress) {
    TableRows rows = new TableRows();
    for (int i = from; i < end; i++) {
      progress.step(i, end);
      row.spell(rows, i);
    }
    return rows.toString().getBytes(StandardCharsets.UTF_8);
  }

  TableRows cell(String words) {
    next().append(isPlain(words) ? words : CSVFormat.RFC4180.format(words));
    return this;
  }

  TableRows cell(int v) {
    next().append(v);
    return this;
  }

  TableRows cell(double v) {
    next().append(NumberText.of(v));
    return this;
  }

  TableRows end() {
    text.append('\n');
    rowBegun = false;
    return this;
  }

  /** All rows so far. */
  @Override
  public String toString() {
    return text.toString();
  }

  private StringBuilder next() {
    if (rowBegun) {
      text.append(',');
    }
    rowBegun = true;
    return text;
  }

  private static boolean isPlain(String text) {
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (!(c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '_')) {
        return false;
      }
    }
    return !text.isEmpty() && text.charAt(0) != '_';
  }
}
