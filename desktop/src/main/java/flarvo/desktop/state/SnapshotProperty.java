package flarvo.desktop.state;

import java.util.function.Function;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectPropertyBase;

/**
 * One value of the newest snapshot. Several of them always speak of the same snapshot, whichever
 * tells its listeners first.
 */
public final class SnapshotProperty<T> extends ReadOnlyObjectPropertyBase<T> {

  private final ReadOnlyObjectProperty<Snapshot> now;
  private final Function<Snapshot, T> part;

  @SuppressWarnings("ReferenceEquality") // values that are carried over are the same objects
  public SnapshotProperty(ReadOnlyObjectProperty<Snapshot> now, Function<Snapshot, T> part) {
    this.now = now;
    this.part = part;
    now.addListener(
        (o, a, b) -> {
          if (part.apply(a) != part.apply(b)) {
            fireValueChangedEvent();
          }
        });
  }

  @Override
  public T get() {
    return part.apply(now.get());
  }

  @Override
  public Object getBean() {
    return null;
  }

  @Override
  public String getName() {
    return "";
  }
}
