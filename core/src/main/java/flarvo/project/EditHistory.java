package flarvo.project;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;

/**
 * States behind and ahead of the present one. States share their data, so keeping them is cheap.
 */
public final class EditHistory {

  private static final int DEEPEST = 500;

  private record Step(ShotState before, ShotEdit edit) {}

  private final Deque<Step> done = new ArrayDeque<>();
  private final Deque<Step> undone = new ArrayDeque<>();
  private ShotState present;

  public EditHistory(ShotState start) {
    present = start;
  }

  public ShotState present() {
    return present;
  }

  public ShotState apply(ShotEdit edit) {
    ShotState next = edit.apply(present);
    done.push(new Step(present, edit));
    if (done.size() > DEEPEST) {
      done.removeLast();
    }
    undone.clear();
    present = next;
    return present;
  }

  public Optional<String> undoTitle() {
    return Optional.ofNullable(done.peek()).map(s -> s.edit.title());
  }

  public Optional<String> redoTitle() {
    return Optional.ofNullable(undone.peek()).map(s -> s.edit.title());
  }

  /** Nothing happens where nothing is to be undone. */
  public ShotState undo() {
    if (!done.isEmpty()) {
      Step s = done.pop();
      undone.push(s);
      present = s.before;
    }
    return present;
  }

  public ShotState redo() {
    if (!undone.isEmpty()) {
      Step s = undone.pop();
      done.push(s);
      present = s.edit.apply(s.before);
    }
    return present;
  }
}
