package flarvo.format.usd;

import flarvo.format.ByteCursor;
import flarvo.format.Half;
import flarvo.format.usd.UsdSpline.Beyond;
import flarvo.format.usd.UsdSpline.Knot;
import flarvo.format.usd.UsdSpline.Repeat;
import flarvo.format.usd.UsdSpline.Way;
import java.util.ArrayList;
import java.util.List;

/**
 * A spline as a crate holds it: a count of bytes, then
 *
 * <pre>
 *   byte   bits 0–3 version, 4–5 type of values (1 double, 2 float, 3 half), 7 Hermite
 *   byte   bits 0–2 before, 3–5 after the knots, 6 loops inside
 *   double slope before, slope after: each only where it is sloped
 *   double, double, int, int, double: the loop inside, where there is one: from, to, how often
 *            before and after, offset of values
 *   int    count of knots, and for each
 *     byte bit 0 two values, 1–2 way to the next
 *     double time; value; value before, where there are two; widths of both tangents as doubles,
 *            where they have any; slopes of both
 * </pre>
 *
 * Read off files of the reference library and checked against it ({@code ./flarvo peers}).
 */
final class UsdCrateSpline {

  private static final int SLOPED = 3;
  private static final Way[] WAYS = {Way.BLOCK, Way.HELD, Way.LINEAR, Way.CURVE};

  private UsdCrateSpline() {}

  /** Null for one of a version that is not read. */
  static UsdSpline read(ByteCursor c) {
    c.count64(1);
    int head = c.u8();
    int beyond = c.u8();
    int kind = head >> 4 & 3;
    boolean hermite = (head & 0x80) != 0;
    if ((head & 0xF) != 1 || kind == 0) {
      return null;
    }
    int pre = beyond & 7;
    int post = beyond >> 3 & 7;
    Beyond before = beyond(pre, pre == SLOPED ? c.f64() : 0);
    Beyond after = beyond(post, post == SLOPED ? c.f64() : 0);
    boolean loops = (beyond & 0x40) != 0;
    double from = loops ? c.f64() : 0;
    double to = loops ? c.f64() : 0;
    int timesBefore = loops ? c.i32() : 0;
    int timesAfter = loops ? c.i32() : 0;
    double offset = loops ? c.f64() : 0;
    int count = c.count32(1);
    List<Knot> knots = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      int flags = c.u8();
      double time = c.f64();
      double value = number(kind, c);
      double left = (flags & 1) != 0 ? number(kind, c) : Double.NaN;
      double preWidth = hermite ? 0 : c.f64();
      double postWidth = hermite ? 0 : c.f64();
      double preSlope = number(kind, c);
      double postSlope = number(kind, c);
      knots.add(
          new Knot(
              time, left, value, preWidth, preSlope, postWidth, postSlope, WAYS[flags >> 1 & 3]));
      if (i > 0 && !(time > knots.get(i - 1).time())) {
        throw c.garbled("the knots of a spline are not in order");
      }
    }
    if (knots.isEmpty()) {
      return null;
    }
    UsdSpline read = new UsdSpline(!hermite, before, after, knots);
    try {
      return loops ? read.looped(from, to, timesBefore, timesAfter, offset) : read;
    } catch (IllegalArgumentException e) {
      throw c.garbled(e.getMessage());
    }
  }

  private static Beyond beyond(int how, double slope) {
    return switch (how) {
      case 0 -> Beyond.BLOCK;
      case 2 -> Beyond.LINEAR;
      case SLOPED -> Beyond.sloped(slope);
      case 4 -> Beyond.repeated(Repeat.REPEAT);
      case 5 -> Beyond.repeated(Repeat.RESET);
      case 6 -> Beyond.repeated(Repeat.OSCILLATE);
      default -> Beyond.HELD;
    };
  }

  private static double number(int kind, ByteCursor c) {
    return kind == 1 ? c.f64() : kind == 2 ? c.f32() : Half.toDouble(c.u16());
  }
}
