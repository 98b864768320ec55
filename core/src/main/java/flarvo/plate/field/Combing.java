package flarvo.plate.field;

import flarvo.plate.PlateLuma;
import flarvo.scene.Luma;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.work.Progress;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.function.IntFunction;

/**
 * Measures whether lines that lie beside each other are of two moments. How far lines stick out
 * from their neighbours is summed up over what moves, three times: within a frame, and within the
 * two frames that its fields make with those of the next. In a progressive film both of these comb
 * alike, and more than the frame. In an interlaced one the frame combs as it should not, and one of
 * the two much less than the other: its fields follow each other at once, those of the other lie
 * three apart.
 */
public final class Combing {

  private static final int STRETCHES = 4;
  private static final int FRAMES_A_STRETCH = 5;

  /** Even, so that a block holds as many lines of either field. */
  private static final int BLOCK = 16;

  /** Mean change of a block from frame to frame, of 255, from which it counts as moving. */
  private static final double MOVES = 3;

  private static final int FEWEST_BLOCKS = 4;

  /**
   * Combing to neighbours over combing to the lines next but one. Detail of a picture has about a
   * half of it, and grain alone as much.
   */
  private static final double MAY_COMB = 0.85;

  /** Nothing but fields, or stripes of less than three lines, has so much. */
  private static final double COMBS = 2;

  /** The wrong order of fields combs more than the right one by this factor. */
  private static final double ORDER = 1.2;

  private int looked;
  private int moving;
  private int combed;
  private int upper;
  private int lower;

  private Combing() {}

  /** Looks at some frames in a row, in a few places of the sequence. */
  public static Interlacing of(PlateSequence plates, Progress progress) {
    return of(frames(plates), f -> PlateLuma.of(plates, f), progress);
  }

  /** The same of several sequences; proxies, whose lines are no longer those of a camera, not. */
  public static Map<PlateSequence, Interlacing> of(List<PlateSequence> plates, Progress progress) {
    Map<PlateSequence, Interlacing> out = new LinkedHashMap<>();
    for (PlateSequence p : plates) {
      if (p.role() != PlateRole.PROXY) {
        out.put(p, of(p, progress.part(out.size(), plates.size())));
      }
    }
    return out;
  }

  private static TreeSet<Integer> frames(PlateSequence p) {
    TreeSet<Integer> out = new TreeSet<>();
    int n = p.frames().count();
    for (int s = 0; s < STRETCHES; s++) {
      int from =
          p.frames().first()
              + (int) Math.max(0, Math.round((n - FRAMES_A_STRETCH) * s / (STRETCHES - 1.0)));
      for (int i = 0; i < FRAMES_A_STRETCH && from + i <= p.frames().last(); i++) {
        out.add(from + i);
      }
    }
    return out;
  }

  /**
   * The same of any pictures.
   *
   * @param frames to look at, rising
   * @param plates brightness by frame; empty where one is missing
   */
  static Interlacing of(
      TreeSet<Integer> frames, IntFunction<Optional<Luma>> plates, Progress progress) {
    Combing c = new Combing();
    Luma before = null;
    int at = Integer.MIN_VALUE;
    int done = 0;
    for (int f : frames) {
      progress.step(done++, frames.size());
      Luma now = plates.apply(f).orElse(null);
      boolean pair =
          now != null
              && before != null
              && at == f - 1
              && now.width() == before.width()
              && now.height() == before.height();
      if (pair) {
        c.pair(before, now);
      }
      before = now;
      at = f;
    }
    int votes = c.upper + c.lower;
    Optional<FieldOrder> order = Optional.empty();
    if (votes > 0 && Math.max(c.upper, c.lower) >= 2.0 / 3 * votes) {
      order = Optional.of(c.upper > c.lower ? FieldOrder.UPPER : FieldOrder.LOWER);
    }
    return Interlacing.of(c.looked, c.moving, c.combed, order);
  }

  /** One frame, by what moves to the next. */
  private void pair(Luma a, Luma b) {
    looked++;
    int blocks = 0;
    double frame = 0;
    double apart = 0;
    double upperFirst = 0;
    double lowerFirst = 0;
    for (int y = 2; y + BLOCK + 2 <= a.height(); y += BLOCK) {
      for (int x = 0; x + BLOCK <= a.width(); x += BLOCK) {
        if (change(a, b, x, y) >= MOVES) {
          blocks++;
          frame += combs(a, a, x, y, 1);
          apart += combs(a, a, x, y, 2);
          // Lines of even number are the upper field.
          upperFirst += combs(b, a, x, y, 1);
          lowerFirst += combs(a, b, x, y, 1);
        }
      }
    }
    if (blocks < FEWEST_BLOCKS) {
      return;
    }
    moving++;
    boolean upperIs = lowerFirst > ORDER * upperFirst;
    boolean lowerIs = upperFirst > ORDER * lowerFirst;
    if (frame > COMBS * apart || frame > MAY_COMB * apart && (upperIs || lowerIs)) {
      combed++;
      upper += upperIs ? 1 : 0;
      lower += lowerIs ? 1 : 0;
    }
  }

  private static double change(Luma a, Luma b, int x0, int y0) {
    float sum = 0;
    for (int y = y0; y < y0 + BLOCK; y++) {
      int at = y * a.width();
      for (int x = x0; x < x0 + BLOCK; x++) {
        sum += Math.abs(a.luma()[at + x] - b.luma()[at + x]);
      }
    }
    return sum / (BLOCK * BLOCK);
  }

  /**
   * How far a line sticks out from those above and below it, mean of the products of differences of
   * one sign.
   *
   * @param even picture that lines of even number are taken from
   * @param odd picture that the others are taken from
   * @param apart lines to those that it is compared with
   */
  private static double combs(Luma even, Luma odd, int x0, int y0, int apart) {
    float sum = 0;
    int w = even.width();
    for (int y = y0; y < y0 + BLOCK; y++) {
      float[] own = (y & 1) == 0 ? even.luma() : odd.luma();
      float[] other = (y + apart & 1) == 0 ? even.luma() : odd.luma();
      int end = y * w + x0 + BLOCK;
      int step = apart * w;
      for (int at = y * w + x0; at < end; at++) {
        float v = own[at];
        float product = (other[at - step] - v) * (other[at + step] - v);
        sum += product > 0 ? product : 0;
      }
    }
    return sum / (BLOCK * BLOCK);
  }
}
