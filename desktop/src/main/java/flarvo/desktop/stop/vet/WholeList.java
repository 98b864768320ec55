package flarvo.desktop.stop.vet;

import java.util.List;
import javafx.collections.ListChangeListener;
import javafx.collections.ObservableList;
import javafx.collections.ObservableListBase;

/**
 * A list that is only ever replaced as a whole, which is one change. The toolkit's own list records
 * each of its elements as removed and added, and for 20,000 rows that takes longer than a pulse.
 */
final class WholeList<E> extends ObservableListBase<E> {

  private List<E> all = List.of();

  /** Takes the place of all there was. The list is not copied and must not change any more. */
  void replace(List<E> with) {
    if (all.isEmpty() && with.isEmpty()) {
      return;
    }
    List<E> before = all;
    all = with;
    fireChange(new Replaced<>(this, before));
  }

  @Override
  public E get(int i) {
    return all.get(i);
  }

  @Override
  public int size() {
    return all.size();
  }

  /** All of a list in the place of all that was. */
  private static final class Replaced<E> extends ListChangeListener.Change<E> {
    private static final int[] NONE = {};
    private final List<E> before;
    private boolean ahead = true;

    Replaced(ObservableList<E> list, List<E> before) {
      super(list);
      this.before = before;
    }

    @Override
    public boolean next() {
      boolean was = ahead;
      ahead = false;
      return was;
    }

    @Override
    public void reset() {
      ahead = true;
    }

    @Override
    public int getFrom() {
      return 0;
    }

    @Override
    public int getTo() {
      return getList().size();
    }

    @Override
    public List<E> getRemoved() {
      return before;
    }

    @Override
    protected int[] getPermutation() {
      return NONE;
    }
  }
}
