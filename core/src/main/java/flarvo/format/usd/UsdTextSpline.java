package flarvo.format.usd;

import flarvo.format.usd.UsdSpline.Beyond;
import flarvo.format.usd.UsdSpline.Knot;
import flarvo.format.usd.UsdSpline.Repeat;
import flarvo.format.usd.UsdSpline.Way;
import java.util.ArrayList;
import java.util.List;

/**
 * A spline as a text layer writes it:
 *
 * <pre>{@code
 * { bezier | hermite, pre: how, post: how, loop: (from, to, before, after, offset),
 *   time: [before &] value; pre (width, slope);
 *   post [none | held | linear | curve] (width, slope); { custom data }, … }
 * }</pre>
 */
final class UsdTextSpline {

  private final UsdTextScanner in;
  private boolean bezier = true;
  private Beyond before = Beyond.HELD;
  private Beyond after = Beyond.HELD;
  private double[] loop;
  private final List<Knot> knots = new ArrayList<>();

  private UsdTextSpline(UsdTextScanner in) {
    this.in = in;
  }

  /** The spline at the scanner's place. */
  static UsdSpline read(UsdTextScanner in, Runnable skipDictionary) {
    UsdTextSpline s = new UsdTextSpline(in);
    in.enter();
    in.expect('{');
    for (in.blank(); in.peek() != '}'; in.blank()) {
      if (in.peek() == ',' || in.peek() == ';') {
        in.skip(1);
      } else if (in.isNumberStart()) {
        s.knot(skipDictionary);
      } else {
        s.word();
      }
    }
    in.skip(1);
    in.leave();
    if (s.knots.isEmpty()) {
      throw in.error("a spline without knots");
    }
    for (int i = 1; i < s.knots.size(); i++) {
      if (!(s.knots.get(i).time() > s.knots.get(i - 1).time())) {
        throw in.error("the knots of a spline are not in order");
      }
    }
    UsdSpline read = new UsdSpline(s.bezier, s.before, s.after, s.knots);
    try {
      double[] l = s.loop;
      return l == null ? read : read.looped(l[0], l[1], (int) l[2], (int) l[3], l[4]);
    } catch (IllegalArgumentException e) {
      throw in.error(e.getMessage());
    }
  }

  private void word() {
    String w = plainWord();
    in.blank();
    switch (w) {
      case "bezier" -> bezier = true;
      case "hermite" -> bezier = false;
      case "pre", "post" -> {
        in.expect(':');
        in.blank();
        Beyond b = beyond();
        before = w.equals("pre") ? b : before;
        after = w.equals("post") ? b : after;
      }
      case "loop" -> {
        in.expect(':');
        in.blank();
        loop = five();
      }
      default -> throw in.error("'" + w + "' is not understood in a spline");
    }
  }

  /** A name alone: here a colon is no part of it. */
  private String plainWord() {
    StringBuilder out = new StringBuilder();
    while (Character.isLetter(in.peek())) {
      out.append(in.peek());
      in.skip(1);
    }
    if (out.length() == 0) {
      throw in.error("a word or a knot expected in a spline");
    }
    return out.toString();
  }

  private double[] five() {
    double[] out = new double[5];
    in.expect('(');
    for (int i = 0; i < out.length; i++) {
      in.blank();
      if (i > 0) {
        in.expect(',');
        in.blank();
      }
      out[i] = in.number();
    }
    in.blank();
    in.expect(')');
    return out;
  }

  private Beyond beyond() {
    String how = plainWord();
    in.blank();
    if (how.equals("sloped")) {
      in.expect('(');
      in.blank();
      double slope = in.number();
      in.blank();
      in.expect(')');
      return Beyond.sloped(slope);
    }
    if (how.equals("loop")) {
      return Beyond.repeated(repeat(plainWord()));
    }
    return switch (how) {
      case "none" -> Beyond.BLOCK;
      case "held" -> Beyond.HELD;
      case "linear" -> Beyond.LINEAR;
      default -> throw in.error("'" + how + "' is no way to go on beyond a spline");
    };
  }

  private Repeat repeat(String word) {
    return switch (word) {
      case "repeat" -> Repeat.REPEAT;
      case "reset" -> Repeat.RESET;
      case "oscillate" -> Repeat.OSCILLATE;
      default -> throw in.error("'" + word + "' is no way to repeat a spline");
    };
  }

  private void knot(Runnable skipDictionary) {
    double time = in.number();
    in.blank();
    in.expect(':');
    in.blank();
    double value = in.number();
    double left = Double.NaN;
    in.blank();
    if (in.peek() == '&') {
      in.skip(1);
      in.blank();
      left = value;
      value = in.number();
    }
    double[] pre = {0, 0};
    double[] post = {0, 0};
    Way next = Way.HELD;
    for (in.blank(); in.peek() == ';'; in.blank()) {
      in.skip(1);
      in.blank();
      if (in.peek() == '{') {
        skipDictionary.run();
        continue;
      }
      boolean isPre = plainWord().equals("pre");
      in.blank();
      if (Character.isLetter(in.peek())) {
        next = way(plainWord());
        in.blank();
      }
      if (in.peek() == '(') {
        double[] tangent = tangent();
        pre = isPre ? tangent : pre;
        post = isPre ? post : tangent;
      }
    }
    knots.add(new Knot(time, left, value, pre[0], pre[1], post[0], post[1], next));
  }

  private Way way(String word) {
    return switch (word) {
      case "none" -> Way.BLOCK;
      case "held" -> Way.HELD;
      case "linear" -> Way.LINEAR;
      case "curve" -> Way.CURVE;
      default -> throw in.error("'" + word + "' is no way from knot to knot");
    };
  }

  /** Width and slope; a Hermite curve's tangent has a slope alone. */
  private double[] tangent() {
    in.expect('(');
    in.blank();
    double first = in.number();
    in.blank();
    double[] out = {0, first};
    if (in.peek() == ',') {
      in.skip(1);
      in.blank();
      out = new double[] {first, in.number()};
      in.blank();
    }
    in.expect(')');
    return out;
  }
}
