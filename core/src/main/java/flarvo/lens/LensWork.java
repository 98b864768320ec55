package flarvo.lens;

import flarvo.lens.fit.StraightLine;
import java.util.ArrayList;
import java.util.List;

/**
 * What was decided of a shot's lens.
 *
 * @param lines straight in the world, traced over the original plates
 */
public record LensWork(LensChoice choice, List<StraightLine> lines) {

  /** Nothing decided. */
  public static final LensWork NONE = new LensWork(new LensChoice.Received(""), List.of());

  public LensWork {
    lines = List.copyOf(lines);
  }

  /** The same lines with another lens. */
  public LensWork with(LensChoice c) {
    return new LensWork(c, lines);
  }

  /** With a line more, or another in place of the one of its name. */
  public LensWork with(StraightLine line) {
    List<StraightLine> all = new ArrayList<>(without(line.name()).lines);
    all.add(line);
    return new LensWork(choice, all);
  }

  /** Without the line of a name. */
  public LensWork without(String line) {
    return new LensWork(choice, lines.stream().filter(l -> !l.name().equals(line)).toList());
  }

  /** Whether there is a line of a name. */
  public boolean has(String line) {
    return lines.stream().anyMatch(l -> l.name().equals(line));
  }
}
