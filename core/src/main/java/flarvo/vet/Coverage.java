package flarvo.vet;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.List;

/**
 * Which parts of the picture hold trackers, frame by frame. The picture is cut into {@value
 * #ACROSS} by {@value #DOWN} fields, counted from the top left.
 */
public final class Coverage {

  public static final int ACROSS = 6;
  public static final int DOWN = 4;

  private final FrameRange frames;
  private final int[] fields; // one bit a field

  private Coverage(FrameRange frames, int[] fields) {
    this.frames = frames;
    this.fields = fields;
  }

  static Coverage of(Shot shot) {
    FrameRange frames = shot.camera().orElseThrow().frames();
    int[] fields = new int[frames.count()];
    Observations o = shot.observations();
    double w = shot.picture().width() / (double) ACROSS;
    double h = shot.picture().height() / (double) DOWN;
    for (TrackerSet t : shot.trackers()) {
      for (String name : t.names()) {
        for (int row = o.firstRow(name); row >= 0 && row < o.endRow(name); row++) {
          int column = (int) Math.floor(o.x(row) / w);
          int line = (int) Math.floor(o.y(row) / h);
          boolean inside = column >= 0 && column < ACROSS && line >= 0 && line < DOWN;
          if (inside && frames.contains(o.frame(row))) {
            fields[o.frame(row) - frames.first()] |= 1 << (line * ACROSS + column);
          }
        }
      }
    }
    return new Coverage(frames, fields);
  }

  /** A field, by its place from the top left, that holds no tracker in a run of frames. */
  public record Hole(int column, int line, FrameRange frames) {
    /** Where it is, in words such as {@code upper left}. */
    public String where() {
      String side = column < ACROSS / 3 ? "left" : column >= ACROSS - ACROSS / 3 ? "right" : "";
      String height = line < DOWN / 2 ? "upper" : "lower";
      return side.isEmpty() ? height + " middle" : height + " " + side;
    }
  }

  /** Whether a field holds a tracker at a frame. */
  public boolean holds(int column, int line, int frame) {
    return frames.contains(frame)
        && (fields[frame - frames.first()] >> (line * ACROSS + column) & 1) != 0;
  }

  /** Share of the fields that hold a tracker at a frame, 0 to 1. */
  public double share(int frame) {
    return frames.contains(frame)
        ? Integer.bitCount(fields[frame - frames.first()]) / (double) (ACROSS * DOWN)
        : 0;
  }

  /** Mean of the shares of all frames. */
  public double meanShare() {
    double sum = 0;
    for (int f : fields) {
      sum += Integer.bitCount(f);
    }
    return sum / fields.length / (ACROSS * DOWN);
  }

  /** Longest empty run of every field that is empty at least so long, the longest first. */
  public List<Hole> holes(int atLeast) {
    List<Hole> out = new ArrayList<>();
    for (int line = 0; line < DOWN; line++) {
      for (int column = 0; column < ACROSS; column++) {
        int best = 0;
        int bestFirst = 0;
        int run = 0;
        for (int f = frames.first(); f <= frames.last(); f++) {
          run = holds(column, line, f) ? 0 : run + 1;
          if (run > best) {
            best = run;
            bestFirst = f - run + 1;
          }
        }
        if (best >= Math.max(1, atLeast)) {
          out.add(new Hole(column, line, new FrameRange(bestFirst, bestFirst + best - 1)));
        }
      }
    }
    out.sort((a, b) -> Integer.compare(b.frames().count(), a.frames().count()));
    return out;
  }
}
