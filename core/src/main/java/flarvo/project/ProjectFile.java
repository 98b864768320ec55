package flarvo.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.format.table.TableMapping;
import flarvo.format.table.TableMappingJson;
import flarvo.receive.Fact;
import flarvo.report.InputError;
import flarvo.scene.PlateRole;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.Staging;
import flarvo.vet.Vetting;
import flarvo.work.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.Function;

/**
 * A project on disk: one JSON document of schema {@code flarvo-project}, version 5; versions 1 to 4
 * are read too.
 *
 * @param file where it lies; its folder is what paths are relative to
 */
public record ProjectFile(Path file, String name, List<ProjectShot> shots) {

  private static final String SCHEMA = "flarvo-project";
  private static final int VERSION = 5;
  private static final String ADVICE = "The schema is described in docs/project.md";
  private static final ObjectMapper MAPPER =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  public ProjectFile {
    shots = List.copyOf(shots);
  }

  public Path folder() {
    return file.toAbsolutePath().getParent();
  }

  public ProjectFile withShots(List<ProjectShot> s) {
    return new ProjectFile(file, name, s);
  }

  public static ProjectFile read(Path file) {
    return parse(file, TextSource.read(file, ReadLimits.USUAL));
  }

  /** A document that stands for the file, wherever its text was kept. */
  static ProjectFile parse(Path file, String text) {
    JsonNode root;
    try {
      root = MAPPER.readTree(text);
    } catch (JsonProcessingException e) {
      String place = e.getLocation() == null ? "" : "line " + e.getLocation().getLineNr();
      throw new InputError(
          file.toString(), place, "this is no JSON (" + e.getOriginalMessage() + ")", ADVICE, e);
    }
    if (!SCHEMA.equals(root.path("schema").asText())) {
      throw new InputError(file.toString(), "schema", "this is no project of ours", ADVICE);
    }
    int version = root.path("version").asInt();
    if (version < 1 || version > VERSION) {
      throw new InputError(
          file.toString(),
          "version",
          "version " + root.path("version").asText() + " is not known here",
          "A newer program wrote it");
    }
    try {
      List<ProjectShot> shots = list(root.path("shots"), ProjectFile::shot);
      return new ProjectFile(file, root.path("name").asText("project"), shots);
    } catch (IllegalArgumentException e) {
      throw new InputError(file.toString(), "shots", e.getMessage(), ADVICE, e);
    } catch (InputError e) {
      // What refuses a number knows nothing of the file that it stands in.
      throw new InputError(file.toString(), "shots", e.reason(), ADVICE, e);
    }
  }

  public void save() {
    byte[] text = toJson().getBytes(StandardCharsets.UTF_8);
    AtomicFile.write(file, out -> out.write(text));
  }

  /** The document as it is saved. */
  String toJson() {
    ObjectNode root = MAPPER.createObjectNode();
    root.put("schema", SCHEMA).put("version", VERSION).put("name", name);
    ArrayNode list = root.putArray("shots");
    shots.forEach(s -> list.add(node(s)));
    try {
      return MAPPER.writeValueAsString(root) + "\n";
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("a tree can always be written", e);
    }
  }

  private static ProjectShot shot(JsonNode n) {
    return new ProjectShot(
        required(n, "name"),
        list(n.path("files"), JsonNode::asText),
        mappings(n),
        list(
            n.path("plates"),
            p ->
                new ProjectShot.PlateFolder(
                    required(p, "path"), PlateRole.of(required(p, "role")), text(p, "pattern"))),
        text(n, "from"),
        rulings(n),
        level(n.path("level")),
        VettingJson.read(n.path("vetting")),
        StagingJson.read(n.path("staging")),
        list(
            n.path("deliveries"),
            d ->
                new ProjectShot.PlannedDelivery(
                    required(d, "name"),
                    required(d, "dialect"),
                    whole(d, "firstFrame"),
                    text(d, "rate").map(Rate::parse),
                    required(d, "format"),
                    required(d, "contents"),
                    required(d, "file"))),
        list(
            n.path("diary"),
            d ->
                new DiaryEntry(
                    instant(required(d, "at")),
                    required(d, "text"),
                    d.path("note").asBoolean(false))));
  }

  private static Map<String, TableMapping> mappings(JsonNode n) {
    Map<String, TableMapping> out = new LinkedHashMap<>();
    for (JsonNode m : n.path("mappings")) {
      out.put(required(m, "file"), TableMappingJson.read(m));
    }
    return out;
  }

  /** Version 1 kept two of them as members of their own. */
  private static Map<String, String> rulings(JsonNode n) {
    Map<String, String> out = new LinkedHashMap<>();
    whole(n, "plateFirst").ifPresent(f -> out.put(Fact.FIRST_FRAME.id(), Integer.toString(f)));
    text(n, "rate").ifPresent(r -> out.put(Fact.RATE.id(), r));
    n.path("rulings")
        .properties()
        .forEach(
            e -> {
              Fact fact =
                  Fact.of(e.getKey())
                      .orElseThrow(
                          () -> new IllegalArgumentException("no fact '" + e.getKey() + "'"));
              out.put(fact.id(), e.getValue().asText());
            });
    out.forEach((id, text) -> Fact.of(id).orElseThrow().parse(text));
    return out;
  }

  private static Instant instant(String text) {
    try {
      return Instant.parse(text);
    } catch (DateTimeParseException e) {
      throw new IllegalArgumentException("'" + text + "' is no point in time", e);
    }
  }

  private static ObjectNode node(ProjectShot s) {
    ObjectNode o = MAPPER.createObjectNode();
    o.put("name", s.name());
    ArrayNode files = o.putArray("files");
    s.files().forEach(files::add);
    if (!s.mappings().isEmpty()) {
      ArrayNode mappings = o.putArray("mappings");
      for (String f : s.files()) {
        if (s.mappings().containsKey(f)) {
          mappings.addObject().put("file", f).setAll(TableMappingJson.write(s.mappings().get(f)));
        }
      }
    }
    ArrayNode plates = o.putArray("plates");
    for (ProjectShot.PlateFolder p : s.plates()) {
      ObjectNode n = plates.addObject().put("path", p.path()).put("role", p.role().word());
      p.pattern().ifPresent(t -> n.put("pattern", t));
    }
    s.from().ifPresent(f -> o.put("from", f));
    if (!s.rulings().isEmpty()) {
      ObjectNode rulings = o.putObject("rulings");
      for (Fact f : Fact.values()) {
        if (s.rulings().containsKey(f.id())) {
          rulings.put(f.id(), s.rulings().get(f.id()));
        }
      }
    }
    ObjectNode level = o.putObject("level");
    Rotation r = s.level().rotation();
    Vec3 t = s.level().translation();
    level.put("scale", s.level().scale());
    level.putArray("rotation").add(r.w()).add(r.x()).add(r.y()).add(r.z());
    level.putArray("translation").add(t.x()).add(t.y()).add(t.z());
    if (!s.vetting().equals(Vetting.NONE)) {
      o.set("vetting", VettingJson.write(s.vetting()));
    }
    if (!s.staging().equals(Staging.NONE)) {
      o.set("staging", StagingJson.write(s.staging()));
    }
    ArrayNode deliveries = o.putArray("deliveries");
    for (ProjectShot.PlannedDelivery d : s.deliveries()) {
      ObjectNode n = deliveries.addObject().put("name", d.name()).put("dialect", d.dialect());
      d.firstFrame().ifPresent(f -> n.put("firstFrame", f));
      d.rate().ifPresent(x -> n.put("rate", x.toString()));
      n.put("format", d.format()).put("contents", d.contents()).put("file", d.file());
    }
    if (!s.diary().isEmpty()) {
      ArrayNode diary = o.putArray("diary");
      for (DiaryEntry d : s.diary()) {
        ObjectNode n = diary.addObject().put("at", d.at().toString()).put("text", d.text());
        if (d.note()) {
          n.put("note", true);
        }
      }
    }
    return o;
  }

  private static Similarity level(JsonNode n) {
    if (n.isMissingNode()) {
      return Similarity.IDENTITY;
    }
    JsonNode r = n.path("rotation");
    JsonNode t = n.path("translation");
    return new Similarity(
        n.path("scale").asDouble(Double.NaN),
        Rotation.normalized(number(r, 0), number(r, 1), number(r, 2), number(r, 3)),
        new Vec3(number(t, 0), number(t, 1), number(t, 2)));
  }

  private static double number(JsonNode array, int i) {
    return array.path(i).asDouble(Double.NaN);
  }

  private static String required(JsonNode n, String member) {
    return text(n, member)
        .orElseThrow(() -> new IllegalArgumentException("'" + member + "' is missing"));
  }

  private static Optional<String> text(JsonNode n, String member) {
    return n.path(member).isTextual() ? Optional.of(n.path(member).asText()) : Optional.empty();
  }

  private static OptionalInt whole(JsonNode n, String member) {
    return n.path(member).canConvertToInt() && n.path(member).isNumber()
        ? OptionalInt.of(n.path(member).intValue())
        : OptionalInt.empty();
  }

  private static <T> List<T> list(JsonNode array, Function<JsonNode, T> each) {
    List<T> out = new ArrayList<>();
    array.forEach(n -> out.add(each.apply(n)));
    return out;
  }
}
