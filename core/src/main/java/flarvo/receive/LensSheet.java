package flarvo.receive;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;

/**
 * A lens as a JSON file states it; {@code docs/lens.md} describes the document.
 *
 * @param normalisation what the coefficients' radius is measured in
 * @param centreX of the distortion, as a share of the picture's width
 * @param centreY of the distortion, as a share of the picture's height, down
 */
public record LensSheet(
    Path path,
    String model,
    String normalisation,
    double centreX,
    double centreY,
    Map<String, Double> coefficients) {

  private static final ObjectMapper MAPPER = new ObjectMapper();
  private static final String ADVICE = "The document is described in docs/lens.md";

  public LensSheet {
    coefficients = java.util.Collections.unmodifiableMap(new LinkedHashMap<>(coefficients));
  }

  static boolean recognises(byte[] head) {
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
    Map<String, Double> k = new LinkedHashMap<>();
    n.path("coefficients")
        .properties()
        .forEach(
            e -> {
              if (!e.getValue().isNumber() || !Double.isFinite(e.getValue().asDouble())) {
                throw new InputError(
                    path.toString(), "coefficients." + e.getKey(), "a number expected", ADVICE);
              }
              k.put(e.getKey(), e.getValue().asDouble());
            });
    if (!n.path("model").isTextual() || k.isEmpty()) {
      throw new InputError(
          path.toString(), "model", "a model and its coefficients expected", ADVICE);
    }
    return new LensSheet(
        path,
        n.get("model").asText(),
        n.path("normalisation").asText("half-width"),
        n.path("centre").path(0).asDouble(0.5),
        n.path("centre").path(1).asDouble(0.5),
        k);
  }

  List<Claim<?>> claims() {
    String words =
        coefficients.entrySet().stream()
            .map(e -> e.getKey() + " " + String.format(Locale.ROOT, "%.4g", e.getValue()))
            .collect(Collectors.joining(", "));
    return List.of(
        Claim.said(
            Fact.LENS, path.getFileName().toString(), coefficients, words, "model " + model));
  }
}
