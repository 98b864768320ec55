package flarvo.format.table;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.work.Progress;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Random;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.Test;

class TableRowsTest {

  private static final String LETTERS = "aZ09_ ,;\"'\n\r\t#-é木😀";

  /** Whatever a name is, a reader of tables that is not ours finds it again. */
  @Test
  void everyNameIsFoundAgain() throws Exception {
    Random r = new Random(6);
    int[] letters = LETTERS.codePoints().toArray();
    for (int i = 0; i < 5_000; i++) {
      StringBuilder name = new StringBuilder();
      for (int n = r.nextInt(6); n > 0; n--) {
        name.appendCodePoint(letters[r.nextInt(letters.length)]);
      }
      TableRows rows = new TableRows();
      rows.cell(name.toString()).cell(i).cell(0.1 * i).end();
      rows.cell("next").cell(name.toString()).cell(-1.5).end();
      try (CSVParser p = CSVParser.parse(rows.toString(), CSVFormat.RFC4180)) {
        CSVRecord[] read = p.getRecords().toArray(CSVRecord[]::new);
        assertThat(read).hasSize(2);
        assertThat(read[0]).containsExactly(name.toString(), "" + i, "" + 0.1 * i);
        assertThat(read[1]).containsExactly("next", name.toString(), "-1.5");
      }
    }
  }

  /** Several cores spell them, and they stand in their order: at every number that fills blocks. */
  @Test
  void rowsOfSeveralCoresAreTheSame() throws Exception {
    for (int count : new int[] {0, 1, 1023, 1024, 1025, 16 * 1024, 16 * 1024 + 1, 50_000}) {
      TableRows whole = new TableRows();
      for (int i = 0; i < count; i++) {
        whole.cell("木" + i).cell(i).cell(1.0 / i).end();
      }
      ByteArrayOutputStream out = new ByteArrayOutputStream();
      TableRows.write(
          out, count, (r, i) -> r.cell("木" + i).cell(i).cell(1.0 / i).end(), Progress.NONE);
      assertThat(out.toString(StandardCharsets.UTF_8)).isEqualTo(whole.toString());
    }
  }
}
