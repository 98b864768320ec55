package flarvo.vet;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * A feature that was marked by hand after the solve was made, such as a floor mark that a level
 * needs. It stands where its marks' rays meet, has no weight, and never changes the solve.
 *
 * @param marks where it was seen, one a frame, frames rising
 */
public record ExtraPoint(String name, List<Mark> marks) {

  /**
   * @param x canonical pixels of the undistorted plate
   * @param found true where a search put it, false where a hand did
   */
  public record Mark(int frame, double x, double y, boolean found) {
    public Mark {
      if (!Double.isFinite(x) || !Double.isFinite(y)) {
        throw new IllegalArgumentException("a mark at frame " + frame + " is not finite");
      }
    }
  }

  public ExtraPoint {
    if (name.isBlank()) {
      throw new IllegalArgumentException("an extra point needs a name");
    }
    marks = marks.stream().sorted(Comparator.comparingInt(Mark::frame)).toList();
    for (int i = 1; i < marks.size(); i++) {
      if (marks.get(i).frame() == marks.get(i - 1).frame()) {
        throw new IllegalArgumentException(
            name + " is marked twice at frame " + marks.get(i).frame());
      }
    }
  }

  /** With a mark more, or moved. */
  public ExtraPoint with(Mark mark) {
    List<Mark> all = new ArrayList<>(marks);
    all.removeIf(m -> m.frame() == mark.frame());
    all.add(mark);
    return new ExtraPoint(name, all);
  }

  /** The same without its mark at a frame. */
  public ExtraPoint without(int frame) {
    return new ExtraPoint(name, marks.stream().filter(m -> m.frame() != frame).toList());
  }
}
