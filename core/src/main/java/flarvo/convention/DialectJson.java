package flarvo.convention;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.report.InputError;
import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Function;

/** A dialect as JSON; the schema is described in {@code docs/dialects.md}. */
public final class DialectJson {

  private static final ObjectMapper MAPPER = new ObjectMapper();
  private static final String ADVICE = "Copy a shipped dialect and change it";

  private DialectJson() {}

  /** As {@link #read} takes it. */
  public static ObjectNode write(Dialect d) {
    ObjectNode o = MAPPER.createObjectNode();
    o.put("name", d.name()).put("description", d.description());
    o.putObject("world")
        .put("right", d.world().right().toString())
        .put("up", d.world().up().toString())
        .put("away", d.world().away().toString());
    o.putObject("camera")
        .put("view", d.camera().view().toString())
        .put("up", d.camera().up().toString());
    if (d.pixels().isPresent()) {
      o.putObject("pixelSpace")
          .put("pixelsPerMetre", d.pixels().get().pixelsPerMetre())
          .put("origin", d.pixels().get().origin().word());
    } else {
      o.put("unit", unitText(d.unit()));
    }
    o.putObject("rotation").put("order", d.rotationOrder().name()).put("angles", d.angles().word());
    ObjectNode frames = o.putObject("frames");
    d.frames().firstFrame().ifPresent(f -> frames.put("first", f));
    d.frames().rate().ifPresent(r -> frames.put("rate", r.toString()));
    frames.put("policy", d.frames().policy().word());
    ObjectNode film = o.putObject("film");
    film.putArray("assumedBackMm")
        .add(d.film().assumed().widthMm())
        .add(d.film().assumed().heightMm());
    film.put("backFrom", d.film().policy().word())
        .put("fit", d.film().fit().word())
        .put("shift", d.film().shift().word())
        .put("shiftUnit", d.film().shiftUnit().word());
    ObjectNode defaults = o.putObject("defaults");
    defaults
        .put("rate", d.defaults().rate().toString())
        .put("frames", d.defaults().frames().toString())
        .put("picture", d.defaults().picture().toString())
        .put("unit", unitText(d.defaults().unit()));
    defaults.putArray("clip").add(d.defaults().clip().near()).add(d.defaults().clip().far());
    ArrayNode ignores = defaults.putArray("ignores");
    d.defaults().ignores().stream().sorted().map(SceneSetting::word).forEach(ignores::add);
    return o;
  }

  /**
   * Parses a dialect.
   *
   * @throws InputError with the member that is wrong
   */
  public static Dialect read(String json, String source) {
    try {
      return read(MAPPER.readTree(json), source);
    } catch (JsonProcessingException e) {
      String place = e.getLocation() == null ? "" : "line " + e.getLocation().getLineNr();
      throw new InputError(
          source, place, "not valid JSON (" + e.getOriginalMessage() + ")", ADVICE, e);
    }
  }

  /** Everything but the name may be left out and is then as in {@link Dialect#CANONICAL}. */
  public static Dialect read(JsonNode n, String source) {
    Dialect base = Dialect.CANONICAL;
    Reader r = new Reader(source);
    if (!n.isObject()) {
      throw r.error("", "a dialect is a JSON object", null);
    }
    String name =
        r.text(n, "name").orElseThrow(() -> r.error("name", "a dialect needs a name", null));
    JsonNode world = n.path("world");
    JsonNode camera = n.path("camera");
    JsonNode frames = n.path("frames");
    JsonNode film = n.path("film");
    JsonNode defaults = n.path("defaults");
    WorldAxes axes =
        r.build(
            "world",
            () ->
                new WorldAxes(
                    r.get(world, "right", SignedAxis::parse, base.world().right()),
                    r.get(world, "up", SignedAxis::parse, base.world().up()),
                    r.get(world, "away", SignedAxis::parse, base.world().away())));
    CameraAxes look =
        r.build(
            "camera",
            () ->
                new CameraAxes(
                    r.get(camera, "view", SignedAxis::parse, base.camera().view()),
                    r.get(camera, "up", SignedAxis::parse, base.camera().up())));
    FilmConvention f = base.film();
    double[] back = r.pair(film, "assumedBackMm", f.assumed().widthMm(), f.assumed().heightMm());
    DialectDefaults dd = base.defaults();
    double[] clip = r.pair(defaults, "clip", dd.clip().near(), dd.clip().far());
    Optional<Rate> rate =
        r.text(frames, "rate").map(t -> r.build("frames.rate", () -> Rate.parse(t)));
    return r.build(
        "",
        () ->
            new Dialect(
                name,
                r.text(n, "description").orElse(""),
                axes,
                look,
                r.get(n, "unit", LinearUnit::parse, base.unit()),
                pixels(n.path("pixelSpace"), r),
                r.get(n.path("rotation"), "order", RotationOrder::parse, base.rotationOrder()),
                r.choice(
                    n.path("rotation"),
                    "angles",
                    List.of(AngleUnit.values()),
                    AngleUnit::word,
                    base.angles()),
                new FrameNumbering(
                    frames.hasNonNull("first")
                        ? OptionalInt.of(r.whole(frames, "first"))
                        : OptionalInt.empty(),
                    rate,
                    r.choice(
                        frames,
                        "policy",
                        List.of(RatePolicy.values()),
                        RatePolicy::word,
                        base.frames().policy())),
                new FilmConvention(
                    new FilmBack(back[0], back[1]),
                    r.choice(
                        film,
                        "backFrom",
                        List.of(BackPolicy.values()),
                        BackPolicy::word,
                        f.policy()),
                    r.choice(film, "fit", List.of(FilmFit.values()), FilmFit::word, f.fit()),
                    r.choice(
                        film, "shift", List.of(LensShift.values()), LensShift::word, f.shift()),
                    r.choice(
                        film,
                        "shiftUnit",
                        List.of(ShiftUnit.values()),
                        ShiftUnit::word,
                        f.shiftUnit())),
                new DialectDefaults(
                    r.get(defaults, "rate", Rate::parse, dd.rate()),
                    r.get(defaults, "frames", FrameRange::parse, dd.frames()),
                    r.get(defaults, "picture", PictureSize::parse, dd.picture()),
                    r.get(defaults, "unit", LinearUnit::parse, dd.unit()),
                    new ClipRange(clip[0], clip[1]),
                    ignores(defaults.path("ignores"), r))));
  }

  private static Set<SceneSetting> ignores(JsonNode n, Reader r) {
    if (!n.isMissingNode() && !n.isArray()) {
      throw r.error("defaults.ignores", "a list expected, such as [\"rate\", \"range\"]", null);
    }
    Set<SceneSetting> out = EnumSet.noneOf(SceneSetting.class);
    for (JsonNode s : n) {
      out.add(
          SceneSetting.of(s.asText())
              .orElseThrow(
                  () ->
                      r.error(
                          "defaults.ignores",
                          "'"
                              + s.asText()
                              + "' is none of "
                              + Arrays.stream(SceneSetting.values())
                                  .map(SceneSetting::word)
                                  .toList(),
                          null)));
    }
    return out;
  }

  private static Optional<PixelSpace> pixels(JsonNode n, Reader r) {
    if (n.isMissingNode() || n.isNull()) {
      return Optional.empty();
    }
    double scale = n.path("pixelsPerMetre").asDouble(Double.NaN);
    return Optional.of(
        r.build(
            "pixelSpace",
            () ->
                new PixelSpace(
                    scale,
                    r.choice(
                        n,
                        "origin",
                        List.of(PixelSpace.Origin.values()),
                        PixelSpace.Origin::word,
                        PixelSpace.Origin.CENTRE))));
  }

  private static String unitText(LinearUnit u) {
    return u.name().orElse(Double.toString(u.metresPerUnit()));
  }

  /** Picks members out of one document and says where one is wrong. */
  private record Reader(String source) {

    InputError error(String member, String cause, Throwable from) {
      return new InputError(source, member, cause, ADVICE, from);
    }

    Optional<String> text(JsonNode n, String member) {
      JsonNode v = n.path(member);
      return v.isValueNode() && !v.isNull() ? Optional.of(v.asText()) : Optional.empty();
    }

    int whole(JsonNode n, String member) {
      if (!n.path(member).isIntegralNumber() || !n.path(member).canConvertToInt()) {
        throw error(member, "'" + n.path(member).asText() + "' is not an integer", null);
      }
      return n.path(member).intValue();
    }

    double[] pair(JsonNode n, String member, double first, double second) {
      JsonNode v = n.path(member);
      if (v.isMissingNode() || v.isNull()) {
        return new double[] {first, second};
      }
      if (!v.isArray() || v.size() != 2 || !v.get(0).isNumber() || !v.get(1).isNumber()) {
        throw error(member, "two numbers expected", null);
      }
      return new double[] {v.get(0).doubleValue(), v.get(1).doubleValue()};
    }

    <T> T get(JsonNode n, String member, Function<String, T> parse, T otherwise) {
      return text(n, member).map(t -> build(member, () -> parse.apply(t))).orElse(otherwise);
    }

    <T> T choice(
        JsonNode n, String member, List<T> choices, Function<T, String> word, T otherwise) {
      Optional<String> t = text(n, member);
      if (t.isEmpty()) {
        return otherwise;
      }
      return choices.stream()
          .filter(c -> word.apply(c).equals(t.get()))
          .findFirst()
          .orElseThrow(
              () ->
                  error(
                      member,
                      "'" + t.get() + "' is none of " + choices.stream().map(word).toList(),
                      null));
    }

    <T> T build(String member, java.util.function.Supplier<T> make) {
      try {
        return make.get();
      } catch (IllegalArgumentException e) {
        throw error(member, e.getMessage(), e);
      }
    }
  }
}
