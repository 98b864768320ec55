package flarvo.suspect;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/**
 * One mix-up, undone.
 *
 * @param cause stable code, such as {@code frame-shift}
 * @param value of it, such as {@code -1}
 * @param cost how much freedom it takes to explain something: of causes that explain alike, the
 *     cheapest is named first
 * @param says what is wrong, as a sentence without its end
 * @param undone what was done to it, such as {@code shifted by -1}; {@code {}} stands for the
 *     value, {@code {back}} for the film back's width that would do the same
 * @param scene the scene under it
 * @param dials values of it that were fitted; none where it has a fixed one
 * @param at where the dials stand
 */
record Change(
    String cause,
    String value,
    double cost,
    String says,
    String undone,
    TriedScene scene,
    List<Dial> dials,
    double[] at) {

  /** One with a fixed value. */
  Change(String cause, String value, double cost, String says, String undone, TriedScene scene) {
    this(cause, value, cost, says, undone, scene, List.of(), new double[0]);
  }

  /** One with values that were fitted. */
  static Change fitted(
      String cause,
      double cost,
      String says,
      String undone,
      TriedScene from,
      List<Dial> dials,
      double... at) {
    TriedScene scene =
        from.with(
            k -> {
              for (int i = 0; i < at.length; i++) {
                dials.get(i).turn(k, at[i]);
              }
            });
    String value = words(cause, dials, at);
    return new Change(cause, value, cost, says, undone, scene, dials, at.clone());
  }

  /** The same with its dials elsewhere. */
  Change refitted(double[] to, TriedScene other) {
    return new Change(cause, words(cause, dials, to), cost, says, undone, other, dials, to);
  }

  /** What was done, with its values. */
  String done() {
    double width = scene.file.filmWidthMm();
    String back =
        at.length == 0
            ? ""
            : String.format(
                Locale.ROOT, "%.2f mm wide in place of %.2f", width / Math.exp(at[0]), width);
    return undone.replace("{}", value).replace("{back}", back);
  }

  private static String words(String cause, List<Dial> dials, double[] at) {
    return Arrays.stream(indices(at))
        .mapToObj(
            i ->
                switch (dials.get(i)) {
                  case ACROSS, DOWN -> String.format(Locale.ROOT, "%.2f", at[i]);
                  case RADIAL -> number(at[i]);
                  // Of the film back; a pixel is as much wider as the back should be, or lower.
                  case BACK, WIDTH -> number(Math.exp(-at[i]));
                  case HEIGHT -> number(Math.exp(cause.equals("pixel-aspect") ? at[i] : -at[i]));
                  default -> number(Math.exp(at[i]));
                })
        .collect(Collectors.joining(" "));
  }

  private static int[] indices(double[] at) {
    int[] out = new int[at.length];
    Arrays.setAll(out, i -> i);
    return out;
  }

  static String number(double v) {
    String s = Math.abs(v) < 0.1 ? "%.6f" : "%.5f";
    return String.format(Locale.ROOT, s, v).replaceAll("\\.?0+$", "");
  }
}
