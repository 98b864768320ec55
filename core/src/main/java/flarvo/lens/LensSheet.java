package flarvo.lens;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.TreeMap;

/**
 * A lens as a JSON file states it; {@code docs/lens.md} describes the document. A sheet of a model
 * that is not known here can be read, but makes no lens.
 *
 * @param normalisation what the coefficients' radius is measured in
 * @param centreX of the distortion, as a share of the picture's width
 * @param centreY of the distortion, as a share of the picture's height, down
 * @param focal focal length over the width of the film back; NaN where the sheet does not say
 * @param frames coefficients that change, by plate frame; those that do not are left out
 */
public record LensSheet(
    Path path,
    String model,
    String normalisation,
    double centreX,
    double centreY,
    double focal,
    Map<String, Double> coefficients,
    NavigableMap<Integer, Map<String, Double>> frames) {

  private static final ObjectMapper MAPPER = new ObjectMapper();
  private static final String ADVICE = "The document is described in docs/lens.md";
  private static final int MOST_FRAMES = 1_000_000;

  public LensSheet {
    coefficients = Collections.unmodifiableMap(new LinkedHashMap<>(coefficients));
    frames = Collections.unmodifiableNavigableMap(new TreeMap<>(frames));
  }

  /** Name of its file. */
  public String fileName() {
    return path.getFileName().toString();
  }

  /** Whether a file may be a lens sheet, by its first bytes. */
  public static boolean recognises(byte[] head) {
    String s = new String(head, StandardCharsets.UTF_8);
    return s.stripLeading().startsWith("{") && s.contains("\"coefficients\"");
  }

  /**
   * Parses a lens sheet.
   *
   * @throws InputError with the member that is wrong
   */
  public static LensSheet read(Path path) {
    JsonNode n;
    try {
      n = MAPPER.readTree(TextSource.read(path, ReadLimits.USUAL));
    } catch (JsonProcessingException e) {
      String place = e.getLocation() == null ? "" : "line " + e.getLocation().getLineNr();
      throw new InputError(path.toString(), place, "not valid JSON", ADVICE, e);
    }
    return of(path, n);
  }

  /**
   * The sheet that a document makes.
   *
   * @param path of the file that the document lies in, for messages
   * @throws InputError with the member that is wrong
   */
  public static LensSheet of(Path path, JsonNode n) {
    Map<String, Double> k = numbers(path, "coefficients", n.path("coefficients"));
    if (!n.path("model").isTextual() || k.isEmpty()) {
      throw new InputError(
          path.toString(), "model", "a model and its coefficients expected", ADVICE);
    }
    return new LensSheet(
        path,
        n.get("model").asText(),
        n.path("normalisation").asText(Normalisation.HALF_WIDTH.code()),
        number(path, "centre", n.path("centre").path(0), 0.5),
        number(path, "centre", n.path("centre").path(1), 0.5),
        number(path, "focalLength", n.path("focalLength"), Double.NaN),
        k,
        frames(path, n.path("frames")));
  }

  private static double number(Path path, String place, JsonNode n, double absent) {
    if (n.isMissingNode()) {
      return absent;
    }
    if (!n.isNumber() || !Double.isFinite(n.asDouble())) {
      throw new InputError(path.toString(), place, "a number expected", ADVICE);
    }
    return n.asDouble();
  }

  private static Map<String, Double> numbers(Path path, String place, JsonNode n) {
    Map<String, Double> k = new LinkedHashMap<>();
    n.properties()
        .forEach(e -> k.put(e.getKey(), number(path, place + "." + e.getKey(), e.getValue(), 0)));
    return k;
  }

  private static NavigableMap<Integer, Map<String, Double>> frames(Path path, JsonNode n) {
    if (n.size() > MOST_FRAMES) {
      throw new InputError(path.toString(), "frames", "more than a million frames", ADVICE);
    }
    NavigableMap<Integer, Map<String, Double>> out = new TreeMap<>();
    for (Map.Entry<String, JsonNode> e : n.properties()) {
      String place = "frames." + e.getKey();
      try {
        out.put(Integer.valueOf(e.getKey()), numbers(path, place, e.getValue()));
      } catch (NumberFormatException x) {
        throw new InputError(path.toString(), place, "a frame number expected", ADVICE, x);
      }
    }
    return out;
  }

  /**
   * The lens that the sheet means.
   *
   * @throws InputError when the model, the normalisation or a coefficient is not known here
   */
  public LensTrack track() {
    LensModel m =
        LensModel.of(model)
            .orElseThrow(
                () ->
                    wrong(
                        "model",
                        "the distortion model '" + model + "' is not known",
                        "Known are " + LensModel.codes()));
    Normalisation unit =
        Normalisation.of(normalisation)
            .orElseThrow(
                () ->
                    wrong(
                        "normalisation",
                        "the normalisation '" + normalisation + "' is not known",
                        ADVICE));
    try {
      Lens base = new Lens(distortion(m, Map.of()), unit, centreX, centreY, focal);
      NavigableMap<Integer, Distortion> keys = new TreeMap<>();
      frames.forEach((f, k) -> keys.put(f, distortion(m, k)));
      return new LensTrack(base, keys);
    } catch (IllegalArgumentException e) {
      throw new InputError(path.toString(), "", e.getMessage(), ADVICE, e);
    }
  }

  private Distortion distortion(LensModel m, Map<String, Double> more) {
    Map<String, Double> all = new LinkedHashMap<>(coefficients);
    all.putAll(more);
    List<String> names = m.coefficients();
    for (String name : all.keySet()) {
      if (!names.contains(name)) {
        throw wrong(
            "coefficients." + name,
            "the model '" + m.code() + "' has no coefficient '" + name + "'",
            "It has " + String.join(", ", names));
      }
    }
    return m.make(names.stream().mapToDouble(n -> all.getOrDefault(n, m.neutral(n))).toArray());
  }

  private InputError wrong(String place, String cause, String advice) {
    return new InputError(path.toString(), place, cause, advice);
  }

  /** The document of a lens; all coefficients, also those that do nothing. */
  public static ObjectNode document(LensTrack track) {
    Lens base = track.base();
    List<String> names = base.distortion().model().coefficients();
    ObjectNode n = MAPPER.createObjectNode();
    n.put("model", base.distortion().model().code());
    n.put("normalisation", base.normalisation().code());
    n.putArray("centre").add(base.centreX()).add(base.centreY());
    if (!Double.isNaN(base.focal())) {
      n.put("focalLength", base.focal());
    }
    put(n.putObject("coefficients"), names, base.distortion().coefficients());
    if (!track.keys().isEmpty()) {
      ObjectNode frames = n.putObject("frames");
      track
          .keys()
          .forEach((f, d) -> put(frames.putObject(String.valueOf(f)), names, d.coefficients()));
    }
    return n;
  }

  private static void put(ObjectNode to, List<String> names, double[] values) {
    for (int i = 0; i < values.length; i++) {
      to.put(names.get(i), values[i]);
    }
  }

  /** The document as text, with a line's end. */
  public static String text(LensTrack track) {
    return document(track).toPrettyString() + "\n";
  }
}
