package flarvo.format.table;

/**
 * @param negated whether the sign is turned round, as for an axis that points the other way
 */
public record TableColumn(ColumnRole role, boolean negated) {

  public static final TableColumn UNUSED = new TableColumn(ColumnRole.NONE, false);

  /** A role as it stands in files; a leading {@code -} flips the sign. */
  public static TableColumn of(ColumnRole role) {
    return new TableColumn(role, false);
  }
}
