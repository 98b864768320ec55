package flarvo.plate;

import flarvo.plate.tag.Alpha;

/** Colours with and without the alpha that they are multiplied by. */
public final class AlphaChange {

  private AlphaChange() {}

  /**
   * A picture as it is kept where alpha is of a kind. Multiplied, nothing is left of colours where
   * nothing is covered; divided, what is there (light that was added) stays.
   *
   * @return the same picture where its alpha is of that kind already, where it has none, or where
   *     none is wanted
   */
  public static Raster to(Alpha wanted, Raster r) {
    int a = r.channel("A");
    Alpha had = r.tags().alpha();
    if (a < 0 || wanted == had || wanted == Alpha.NONE || had == Alpha.NONE) {
      return r;
    }
    int n = r.channels().size();
    boolean[] colour = new boolean[n];
    for (int c = 0; c < n; c++) {
      colour[c] = isColour(r.channels().get(c));
    }
    float[] v = r.values().clone();
    for (int i = 0; i < v.length; i += n) {
      float covers = v[i + a];
      float by = wanted == Alpha.MULTIPLIED ? covers : covers > 0 ? 1 / covers : 1;
      for (int c = 0; c < n; c++) {
        v[i + c] *= colour[c] ? by : 1;
      }
    }
    return new Raster(r.width(), r.height(), r.channels(), r.kind(), v, r.tags().with(wanted));
  }

  /** One colour that does not depend on alpha. */
  static float straight(float colour, float alpha) {
    return alpha > 0 ? colour / alpha : colour;
  }

  private static boolean isColour(String channel) {
    return channel.equals("R") || channel.equals("G") || channel.equals("B") || channel.equals("Y");
  }
}
