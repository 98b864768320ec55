package flarvo.recipe;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.work.AtomicFile;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What a run left of a shot, in a hidden folder beside the deliveries, so that a second run does
 * only what is missing. It is written again after each delivery that stands complete and written.
 */
final class RunRecord {

  private static final String FOLDER = ".flarvo-run";
  private static final ObjectMapper MAPPER = new ObjectMapper();

  /**
   * A delivery that was written.
   *
   * @param file relative to the output folder
   * @param files the delivery's files on disk, by the same kind of name, with what tells whether
   *     one was changed since
   */
  record Written(String file, Map<String, String> files, ShotResult.Sent sent) {}

  private final Path place;
  private final Path out;
  private final String key;
  private int version;
  private final Map<String, Written> written = new LinkedHashMap<>();
  private final Map<String, String> before = new LinkedHashMap<>();
  private final Set<String> begun = new LinkedHashSet<>();
  private Optional<ShotResult> whole = Optional.empty();

  private RunRecord(Path place, Path out, String key) {
    this.place = place;
    this.out = out;
    this.key = key;
  }

  /**
   * The record of a shot. What was written of another recipe or other files does not count, only
   * which files were ours.
   *
   * @param out folder of the deliveries
   * @param key of recipe and input; another key is another run
   */
  static RunRecord of(Path out, String shot, String key) {
    RunRecord r = new RunRecord(out.resolve(FOLDER).resolve(shot + ".json"), out, key);
    if (Files.isRegularFile(r.place)) {
      try {
        r.read(MAPPER.readTree(TextSource.read(r.place, ReadLimits.USUAL)));
      } catch (JsonProcessingException | InputError | IllegalArgumentException e) {
        r.written.clear(); // cut off or not ours: the shot is done again
        r.whole = Optional.empty();
      }
    }
    return r;
  }

  private void read(JsonNode root) {
    StrictJson n = StrictJson.of(root, "");
    boolean same = n.text("key").equals(key);
    begun.addAll(n.list("begun", StrictJson::text));
    before.putAll(n.member("ours").members(StrictJson::text));
    n.member("written").members(m -> m).forEach((name, m) -> take(name, m, same));
    if (same) {
      version = n.integer("version");
      whole = n.optional("whole").map(ResultJson::read);
    }
  }

  private void take(String name, StrictJson m, boolean same) {
    Written p =
        new Written(
            m.text("file"),
            m.member("files").members(StrictJson::text),
            ResultJson.sent(m.member("sent")));
    before.putAll(p.files());
    if (same) {
      written.put(name, p);
    }
  }

  /** The version that this run writes; 0 where none was chosen yet. */
  int version() {
    return version;
  }

  void choose(int v) {
    version = v;
  }

  /** A delivery that stands proven and untouched; empty where it has to be sent. */
  Optional<ShotResult.Sent> fresh(String recipient) {
    return Optional.ofNullable(written.get(recipient))
        .filter(p -> p.sent().holds())
        .filter(p -> p.files().entrySet().stream().allMatch(f -> stands(f.getKey(), f.getValue())))
        .map(p -> p.sent().asFresh());
  }

  /** The result of a shot that was done and of which nothing was touched since. */
  Optional<ShotResult> done() {
    return whole
        .filter(r -> r.deliveries().stream().allMatch(d -> fresh(d.recipient()).isPresent()))
        .map(ShotResult::asFresh);
  }

  /** Whether a file is as a run of ours left it. */
  boolean isOurs(Path file) {
    String name = name(file);
    // Begun while its place was free or ours; the run that wrote it was killed before it said so.
    if (begun.contains(name)) {
      return true;
    }
    return before.containsKey(name) && stands(name, before.get(name));
  }

  private boolean stands(String name, String identity) {
    return !identity.isEmpty() && identity(out.resolve(name)).equals(identity);
  }

  /** Files are about to be written, into places that are free or ours. */
  void begin(Iterable<Path> files) {
    files.forEach(f -> begun.add(name(f)));
    write();
  }

  /** Adds a delivery, and writes the record. */
  void add(ShotResult.Sent sent, Iterable<Path> files) {
    Map<String, String> names = new LinkedHashMap<>();
    files.forEach(f -> names.put(name(f), identity(f)));
    written.put(sent.recipient(), new Written(sent.file(), names, sent));
    before.putAll(names);
    begun.removeAll(names.keySet());
    write();
  }

  /** The shot is done. */
  void end(ShotResult r) {
    whole = Optional.of(r);
    write();
  }

  private void write() {
    ObjectNode o = MAPPER.createObjectNode();
    o.put("key", key).put("version", version);
    ArrayNode open = o.putArray("begun");
    begun.forEach(open::add);
    // Of earlier solves too: until this run has replaced them, they are still there.
    ObjectNode ours = o.putObject("ours");
    before.forEach(ours::put);
    ObjectNode all = o.putObject("written");
    written.forEach(
        (name, p) -> {
          ObjectNode n = all.putObject(name).put("file", p.file());
          ObjectNode f = n.putObject("files");
          p.files().forEach(f::put);
          n.set("sent", ResultJson.write(p.sent()));
        });
    whole.ifPresent(w -> o.set("whole", ResultJson.write(w)));
    try {
      Files.createDirectories(place.getParent());
    } catch (IOException e) {
      throw new InputError(
          place.getParent().toString(), "", "the folder cannot be made", "Check its rights", e);
    }
    AtomicFile.write(place, s -> s.write(o.toString().getBytes(StandardCharsets.UTF_8)));
  }

  private String name(Path file) {
    return out.toAbsolutePath()
        .normalize()
        .relativize(file.toAbsolutePath().normalize())
        .toString()
        .replace('\\', '/');
  }

  /** Size and time of a file; empty where there is none. */
  static String identity(Path file) {
    try {
      return Files.size(file) + " " + Files.getLastModifiedTime(file).toMillis();
    } catch (IOException e) {
      return "";
    }
  }
}
