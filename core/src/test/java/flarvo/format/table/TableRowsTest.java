package flarvo.format.table;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.StringWriter;
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
      StringWriter out = new StringWriter();
      TableRows rows = new TableRows(out);
      rows.cell(name.toString()).cell(i).cell(0.1 * i).end();
      rows.cell("next").cell(name.toString()).cell(-1.5).end();
      try (CSVParser p = CSVParser.parse(out.toString(), CSVFormat.RFC4180)) {
        CSVRecord[] read = p.getRecords().toArray(CSVRecord[]::new);
        assertThat(read).hasSize(2);
        assertThat(read[0]).containsExactly(name.toString(), "" + i, "" + 0.1 * i);
        assertThat(read[1]).containsExactly("next", name.toString(), "-1.5");
      }
    }
  }
}
