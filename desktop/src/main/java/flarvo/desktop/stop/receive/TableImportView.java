package flarvo.desktop.stop.receive;

import flarvo.desktop.stop.Tips;
import flarvo.format.table.ColumnRole;
import flarvo.format.table.TableCells;
import flarvo.format.table.TableColumn;
import flarvo.format.table.TableMapping;
import flarvo.report.InputError;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;

/**
 * The beginning of a table as it is cut into cells, what each column is, and below it what the rows
 * mean to the shot.
 */
public final class TableImportView extends VBox {

  private static final int ROWS = 16;
  private static final int SAMPLES = 7;

  /** Lines of the text that are cut for the picture of the table. */
  private static final int LINES = 60;

  private static final double WIDTH = 150;

  /** Roles that a list shows without scrolling. */
  private static final int MOST_ROLES = 18;

  private final TableImport columns;
  private final Label title = new Label();
  private final Label sum = new Label();
  private final GridPane grid = new GridPane();
  private final VBox sample = new VBox(2);

  public TableImportView(TableImport columns) {
    this.columns = columns;
    getStyleClass().addAll("ledger", "columns");
    setAccessibleText("Columns of a table");
    setId("columns");
    title.getStyleClass().add("panel-title");
    HBox bar = new HBox(title);
    bar.getStyleClass().add("ledger-bar");
    grid.getStyleClass().add("ledger-grid");
    ScrollPane scroll = new ScrollPane(grid);
    scroll.getStyleClass().add("ledger-scroll");
    scroll.setMinHeight(120);
    Label read = new Label("Read as");
    read.getStyleClass().add("panel-title");
    sum.getStyleClass().add("quiet");
    HBox below = new HBox(12, read, sum);
    below.setAlignment(Pos.BASELINE_LEFT);
    below.getStyleClass().add("ledger-bar");
    sample.getStyleClass().add("columns-sample");
    sample.setMinHeight(SAMPLES * 19);
    getChildren().addAll(bar, scroll, below, sample);
    VBox.setVgrow(scroll, javafx.scene.layout.Priority.ALWAYS);
    columns.draft().addListener((o, a, b) -> fill());
    columns.outcome().addListener((o, a, b) -> read());
    fill();
  }

  private void fill() {
    grid.getChildren().clear();
    grid.getColumnConstraints().clear();
    TableMapping m = columns.draft().get();
    TableImport.Table t = columns.table().get();
    if (m == null || t == null) {
      return;
    }
    title.setText("Columns of " + t.path().getFileName());
    TableCells cells;
    try {
      cells = new TableCells(t.path().toString(), beginning(t.text()), m.layout());
    } catch (InputError e) {
      grid.add(new Label(e.reason()), 0, 0);
      return;
    }
    for (int c = 0; c < m.columns().size(); c++) {
      ColumnConstraints wide = new ColumnConstraints(WIDTH);
      wide.setFillWidth(true);
      grid.getColumnConstraints().add(wide);
      grid.add(role(m, c), c, 0);
      String name = c < cells.header().size() ? cells.header().get(c) : "column " + (c + 1);
      Label head = new Label(name);
      head.getStyleClass().add("ledger-head");
      head.setMaxWidth(Double.MAX_VALUE);
      grid.add(head, c, 1);
    }
    for (int r = 0; r < Math.min(ROWS, cells.rows()); r++) {
      List<String> row = cells.row(r);
      for (int c = 0; c < m.columns().size(); c++) {
        grid.add(cell(c < row.size() ? row.get(c) : "", m.columns().get(c)), c, r + 2);
      }
    }
  }

  private static String beginning(String text) {
    int at = 0;
    for (int i = 0; i < LINES && at >= 0; i++) {
      at = text.indexOf('\n', at) + 1;
      if (at == 0) {
        return text;
      }
    }
    return text.substring(0, at);
  }

  private static Node cell(String text, TableColumn column) {
    Label l = new Label(text);
    l.getStyleClass().addAll("number", "ledger-cell");
    if (column.role() == ColumnRole.NONE) {
      l.getStyleClass().add("quiet");
    }
    l.setMaxWidth(Double.MAX_VALUE);
    return l;
  }

  private Node role(TableMapping m, int index) {
    TableColumn column = m.columns().get(index);
    ComboBox<ColumnRole> choice = new ComboBox<>();
    choice.getItems().setAll(ColumnRole.values());
    choice.setConverter(
        new StringConverter<>() {
          @Override
          public String toString(ColumnRole r) {
            return r == null ? "" : r.title();
          }

          @Override
          public ColumnRole fromString(String s) {
            throw new IllegalStateException("the choice is not typed");
          }
        });
    choice.setValue(column.role());
    choice.setId("role-" + index);
    choice.getStyleClass().add("small-field");
    choice.setAccessibleText("What column " + (index + 1) + " holds");
    choice.setVisibleRowCount(MOST_ROLES);
    choice.setMaxWidth(Double.MAX_VALUE);
    choice.setOnAction(e -> set(index, new TableColumn(choice.getValue(), column.negated())));
    HBox.setHgrow(choice, javafx.scene.layout.Priority.ALWAYS);
    ToggleButton sign = new ToggleButton(column.negated() ? "−" : "+");
    sign.setSelected(column.negated());
    sign.setId("sign-" + index);
    sign.setMinWidth(Region.USE_PREF_SIZE);
    sign.getStyleClass().add("small-button");
    sign.setAccessibleText("Turn the sign of column " + (index + 1) + " round");
    Tips.on(sign, "Flip sign");
    sign.setDisable(column.role() == ColumnRole.NONE || column.role() == ColumnRole.TRACKER);
    sign.setOnAction(e -> set(index, new TableColumn(column.role(), sign.isSelected())));
    HBox box = new HBox(2, choice, sign);
    box.getStyleClass().add("columns-role");
    return box;
  }

  private void set(int index, TableColumn column) {
    columns.draft().set(columns.draft().get().withColumn(index, column));
  }

  private void read() {
    sample.getChildren().clear();
    TableImport.Outcome o = columns.outcome().get();
    sum.setText("");
    sum.getStyleClass().remove("over");
    if (o == null) {
      return;
    }
    if (o.file().isEmpty()) {
      sum.getStyleClass().add("over");
      sum.setText(o.why());
      return;
    }
    sum.setText(TableImport.sum(o.file().get().scene()));
    for (String line : TableImport.sample(o.file().get().scene(), SAMPLES)) {
      Label l = new Label(line);
      l.getStyleClass().add("number");
      sample.getChildren().add(l);
    }
  }
}
