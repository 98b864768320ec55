package flarvo.lens;

import static flarvo.lens.Direction.ORIGINAL_TO_UNDISTORTED;
import static flarvo.lens.Direction.UNDISTORTED_TO_ORIGINAL;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** The distortion models known here. */
public enum LensModel {
  BROWN_CONRADY(
      "brown-conrady",
      "Brown–Conrady",
      UNDISTORTED_TO_ORIGINAL,
      List.of("k1", "k2", "p1", "p2", "k3", "k4", "k5", "k6"),
      List.of("k1", "k2"),
      k -> new BrownConrady(k[0], k[1], k[2], k[3], k[4], k[5], k[6], k[7])),
  RADIAL(
      "radial-original-to-undistorted",
      "Radial polynomial",
      ORIGINAL_TO_UNDISTORTED,
      List.of("k1", "k2", "k3", "k4"),
      List.of("k1", "k2"),
      k -> new RadialPolynomial(k[0], k[1], k[2], k[3])),
  DIVISION(
      "division",
      "Division",
      ORIGINAL_TO_UNDISTORTED,
      List.of("k1", "k2"),
      List.of("k1", "k2"),
      k -> new Division(k[0], k[1])),
  FISHEYE(
      "fisheye-equidistant",
      "Fisheye (equidistant)",
      UNDISTORTED_TO_ORIGINAL,
      List.of("k1", "k2", "k3", "k4"),
      List.of("k1", "k2"),
      k -> new Fisheye(k[0], k[1], k[2], k[3])),
  ANAMORPHIC(
      "anamorphic",
      "Anamorphic",
      ORIGINAL_TO_UNDISTORTED,
      List.of(
          "squeeze",
          "rotation",
          "a20",
          "a02",
          "a40",
          "a22",
          "a04",
          "b20",
          "b02",
          "b40",
          "b22",
          "b04"),
      List.of("a20", "a02", "b20", "b02", "a40", "a22", "a04", "b40", "b22", "b04"),
      k ->
          new Anamorphic(k[0], k[1], k[2], k[3], k[4], k[5], k[6], k[7], k[8], k[9], k[10], k[11]));

  private final String code;
  private final String title;
  private final Direction closedForm;
  private final List<String> coefficients;
  private final List<String> usual;
  private final Function<double[], Distortion> maker;

  LensModel(
      String code,
      String title,
      Direction closedForm,
      List<String> coefficients,
      List<String> usual,
      Function<double[], Distortion> maker) {
    this.code = code;
    this.title = title;
    this.closedForm = closedForm;
    this.coefficients = coefficients;
    this.usual = usual;
    this.maker = maker;
  }

  /** The name in files and on the command line. */
  public String code() {
    return code;
  }

  /** The name on the screen. */
  public String title() {
    return title;
  }

  public Direction closedForm() {
    return closedForm;
  }

  public List<String> coefficients() {
    return coefficients;
  }

  /** The coefficients that a fit looks for unless others are asked for. */
  public List<String> usual() {
    return usual;
  }

  /** The value of a coefficient that does nothing. */
  public double neutral(String coefficient) {
    return coefficient.equals("squeeze") ? 1 : 0;
  }

  /** How often a coefficient's term is multiplied by the radius, beside the point itself. */
  public int degree(String coefficient) {
    return switch (this) {
      case ANAMORPHIC ->
          coefficient.length() == 3
              ? coefficient.charAt(1) - '0' + (coefficient.charAt(2) - '0')
              : 0;
      case BROWN_CONRADY ->
          coefficient.charAt(0) == 'p' ? 1 : 2 * ((coefficient.charAt(1) - '1') % 3 + 1);
      case RADIAL, DIVISION, FISHEYE -> 2 * (coefficient.charAt(1) - '0');
    };
  }

  /**
   * A distortion of this model.
   *
   * @param values in the order of {@link #coefficients()}, finite
   */
  public Distortion make(double... values) {
    if (values.length != coefficients.size() || !Arrays.stream(values).allMatch(Double::isFinite)) {
      throw new IllegalArgumentException(
          "the model " + code + " has " + coefficients.size() + " finite coefficients");
    }
    return maker.apply(values);
  }

  /** A lens that bends nothing; a fisheye bends even with all coefficients 0. */
  public Distortion neutral() {
    return make(coefficients.stream().mapToDouble(this::neutral).toArray());
  }

  /** The model of a name in files; empty where it is not known. */
  public static Optional<LensModel> of(String code) {
    return Arrays.stream(values()).filter(m -> m.code.equals(code)).findFirst();
  }

  /** All names, for messages. */
  public static String codes() {
    return String.join(", ", Arrays.stream(values()).map(LensModel::code).toList());
  }
}
