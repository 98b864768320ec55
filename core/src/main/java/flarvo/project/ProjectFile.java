package flarvo.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.decision.DecisionJson;
import flarvo.decision.DecisionLog;
import flarvo.decision.OlderProject;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.format.table.TableMapping;
import flarvo.format.table.TableMappingJson;
import flarvo.level.SimilarityJson;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.scene.PlateRole;
import flarvo.scene.Similarity;
import flarvo.work.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A project on disk: one JSON document of schema {@code flarvo-project}, version 6; versions 1 to 5
 * are read too.
 *
 * @param file where it lies; its folder is what paths are relative to
 */
public record ProjectFile(Path file, String name, List<ProjectShot> shots) {

  private static final String SCHEMA = "flarvo-project";
  private static final int VERSION = 6;
  private static final int FIRST_WITH_DECISIONS = 6;
  private static final String ADVICE = "The schema is described in docs/project.md";
  private static final ObjectMapper MAPPER =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  public ProjectFile {
    shots = List.copyOf(shots);
  }

  /** The folder that relative paths start from. */
  public Path folder() {
    return file.toAbsolutePath().getParent();
  }

  public ProjectFile withShots(List<ProjectShot> s) {
    return new ProjectFile(file, name, s);
  }

  /** The same with more shots behind those that it has. */
  public ProjectFile withMore(List<ProjectShot> more) {
    List<ProjectShot> all = new ArrayList<>(shots);
    all.addAll(more);
    return withShots(all);
  }

  /** The same project in another place; every shot's files stay where they are. */
  public ProjectFile at(Path other) {
    Path to = other.toAbsolutePath().normalize().getParent();
    return new ProjectFile(
        other,
        name,
        shots.stream()
            .map(s -> s.respelled(p -> DecisionJson.relative(to, folder().resolve(p))))
            .toList());
  }

  /**
   * @throws InputError when it is no project, or a value in it cannot be read, with its place
   */
  public static ProjectFile read(Path file) {
    return parse(file, TextSource.read(file, ReadLimits.USUAL));
  }

  /**
   * The project of a file, or an empty one that is called after it.
   *
   * @throws InputError when what is there is no project
   */
  public static ProjectFile readOrNew(Path file) {
    if (Files.exists(file)) {
      return read(file);
    }
    String name = file.getFileName().toString();
    int dot = name.indexOf('.', 1);
    return new ProjectFile(file, dot < 0 ? name : name.substring(0, dot), List.of());
  }

  /** A document that stands for the file, wherever its text was kept. */
  static ProjectFile parse(Path file, String text) {
    JsonNode root;
    try {
      root = MAPPER.readTree(text);
    } catch (JsonProcessingException e) {
      String place = e.getLocation() == null ? "" : "line " + e.getLocation().getLineNr();
      throw new InputError(
          file.toString(), place, "not valid JSON (" + e.getOriginalMessage() + ")", ADVICE, e);
    }
    if (!SCHEMA.equals(root.path("schema").asText())) {
      throw new InputError(file.toString(), "schema", "not a project file", ADVICE);
    }
    int version = root.path("version").asInt();
    if (version < 1 || version > VERSION) {
      throw new InputError(
          file.toString(),
          "version",
          "version " + root.path("version").asText() + " is not supported",
          "A newer program wrote it; update this one");
    }
    StrictJson n = StrictJson.of(root, "");
    try {
      Path folder = file.toAbsolutePath().normalize().getParent();
      DecisionJson decisions = new DecisionJson(folder, Dialects.shipped());
      return new ProjectFile(
          file,
          n.optional("name").map(StrictJson::text).orElse("project"),
          n.list("shots", s -> shot(s, version, decisions)));
    } catch (IllegalArgumentException e) {
      throw error(file, e);
    } catch (InputError e) {
      // What refuses a number knows nothing of the file that it stands in.
      throw new InputError(file.toString(), "shots", e.reason(), ADVICE, e);
    }
  }

  /** The place that a refused value was given, apart from what is wrong with it. */
  private static InputError error(Path file, IllegalArgumentException e) {
    String words = String.valueOf(e.getMessage());
    int colon = words.indexOf(": ");
    boolean placed = colon > 0 && words.startsWith("shots");
    return new InputError(
        file.toString(),
        placed ? words.substring(0, colon) : "shots",
        placed ? words.substring(colon + 2) : words,
        ADVICE,
        e);
  }

  /**
   * Writes the file, whole or not at all.
   *
   * @throws InputError when the disk refuses
   */
  public void save() {
    byte[] text = toJson().getBytes(StandardCharsets.UTF_8);
    AtomicFile.write(file, out -> out.write(text));
  }

  /** The document as it is saved. */
  String toJson() {
    DecisionJson decisions = new DecisionJson(folder(), Dialects.shipped());
    ObjectNode root = MAPPER.createObjectNode();
    root.put("schema", SCHEMA).put("version", VERSION).put("name", name);
    ArrayNode list = root.putArray("shots");
    shots.forEach(s -> list.add(node(s, decisions)));
    try {
      return MAPPER.writeValueAsString(root) + "\n";
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("a tree can always be written", e);
    }
  }

  private static ProjectShot shot(StrictJson n, int version, DecisionJson decisions) {
    return new ProjectShot(
        n.text("name"),
        n.list("files", StrictJson::text),
        mappings(n),
        n.list(
            "plates",
            p ->
                new ProjectShot.PlateFolder(
                    p.text("path"),
                    p.member("role").word(PlateRole.values(), PlateRole::word),
                    p.optional("pattern").map(StrictJson::text))),
        n.optional("from").map(StrictJson::text),
        n.list("lists", l -> new ProjectShot.Listed(l.text("path"), l.text("shot"))),
        n.optional("start").map(SimilarityJson::read).orElse(Similarity.IDENTITY),
        version < FIRST_WITH_DECISIONS
            ? OlderProject.log(n, Dialects.shipped())
            : n.optional("decisions").map(decisions::read).orElse(DecisionLog.EMPTY),
        n.list(
            "diary",
            d -> new DiaryEntry(instant(d.member("at")), d.text("text"), d.flag("note", false))));
  }

  private static Map<String, TableMapping> mappings(StrictJson n) {
    Map<String, TableMapping> out = new LinkedHashMap<>();
    n.list("mappings", m -> out.put(m.text("file"), TableMappingJson.read(m.node())));
    return out;
  }

  private static Instant instant(StrictJson n) {
    try {
      return Instant.parse(n.text());
    } catch (DateTimeParseException e) {
      throw n.error("'" + n.text() + "' is not a point in time");
    }
  }

  private static ObjectNode node(ProjectShot s, DecisionJson decisions) {
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
    if (!s.lists().isEmpty()) {
      ArrayNode lists = o.putArray("lists");
      s.lists().forEach(l -> lists.addObject().put("path", l.path()).put("shot", l.shot()));
    }
    if (!s.start().equals(Similarity.IDENTITY)) {
      o.set("start", SimilarityJson.write(s.start()));
    }
    if (!s.log().entries().isEmpty()) {
      o.set("decisions", decisions.write(s.log()));
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
}
