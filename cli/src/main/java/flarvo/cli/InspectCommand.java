package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.format.FileCamera;
import flarvo.format.FileParent;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.format.table.TableAdvice;
import flarvo.plate.PlateFinder;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ShotIntake;
import flarvo.report.Figures;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "inspect",
    description = "Shows what a file contains and claims.",
    footer = {"", "Example:", "  flarvo inspect solve.fbx tracks.csv plates/"})
final class InspectCommand implements Callable<Integer> {

  /** How far a corner of a card may be off its plane, as a share of its size. */
  private static final double FLAT = 1e-6;

  @Spec private CommandSpec spec;

  @Parameters(arity = "1..*", paramLabel = "FILE", description = "scene files, tables or plates")
  private List<Path> files;

  @Mixin private JsonOption json;

  @Mixin private TableOptions tables;

  @Mixin private OutsideOption outside;

  @Option(
      names = "--size",
      paramLabel = "WxH",
      converter = Converters.Size.class,
      description = "image resolution, where a table's 2D numbers need it")
  private PictureSize size;

  @Option(
      names = "--geometry",
      description = "with --json: poses, points and mesh extents in the file's own space")
  private boolean geometry;

  @Option(names = "--take", description = "take to read, where a file has several")
  private String take;

  @Override
  public Integer call() {
    PrintWriter out = spec.commandLine().getOut();
    ArrayNode all = Json.array();
    for (Path f : files) {
      all.add(
          Files.isDirectory(f) || PlateFinder.isPicture(f) ? plates(f) : scene(f, take, geometry));
    }
    if (json.asked()) {
      out.println(Json.text(all.size() == 1 ? all.get(0) : all));
    } else {
      all.forEach(n -> print((ObjectNode) n, out));
    }
    return ExitCode.HOLDS;
  }

  private static ObjectNode plates(Path f) {
    ObjectNode o = empty(f, "plates");
    ArrayNode warnings = (ArrayNode) o.get("warnings");
    for (PlateSequence p : PlateFinder.find(f)) {
      ((ArrayNode) o.get("plates"))
          .addObject()
          .put("pattern", p.pattern())
          .put("firstFrame", p.frames().first())
          .put("lastFrame", p.frames().last())
          .put("padding", p.padding())
          .put("width", p.size().width())
          .put("height", p.size().height())
          .put("role", p.role().word())
          .put("missing", p.missing().size());
      if (!p.missing().isEmpty()) {
        warnings.add(p.pattern() + ": frames are missing: " + p.missing());
      }
      ObjectNode claims = (ObjectNode) o.get("claims");
      claims.put("firstFrame", p.frames().first()).put("lastFrame", p.frames().last());
      claims.put("imageWidth", p.size().width()).put("imageHeight", p.size().height());
    }
    return o;
  }

  private static ObjectNode empty(Path f, String format) {
    ObjectNode o = Json.object();
    o.put("file", f.toString()).put("format", format);
    o.putObject("claims");
    o.putArray("cameras");
    o.put("trackers", 0).put("locators", 0).put("planes", 0).put("meshes", 0);
    o.putArray("plates");
    o.putArray("warnings");
    return o;
  }

  private ObjectNode scene(Path f, String take, boolean geometry) {
    ReceivedFile r =
        new ShotIntake(tables.advice())
            .mapped(f, size == null ? IntakeOptions.NONE : IntakeOptions.NONE.withSize(size))
            .orElseGet(
                () ->
                    ReceivedFile.read(
                        f,
                        Optional.empty(),
                        Optional.ofNullable(take),
                        ReadLimits.USUAL.withReach(outside.reach()),
                        Progress.NONE));
    FileScene s = r.scene();
    ObjectNode o = empty(f, r.format().id());
    ObjectNode claims = (ObjectNode) o.get("claims");
    ArrayNode warnings = (ArrayNode) o.get("warnings");
    s.rate().ifPresent(c -> claims.put("rate", c.value().toString()));
    s.range()
        .ifPresent(
            c -> claims.put("firstFrame", c.value().first()).put("lastFrame", c.value().last()));
    s.picture()
        .ifPresent(
            c ->
                claims.put("imageWidth", c.value().width()).put("imageHeight", c.value().height()));
    s.unit().ifPresent(c -> claims.put("metresPerUnit", c.value().metresPerUnit()));
    s.up().ifPresent(c -> claims.put("upAxis", c.value().toString()));
    s.handedness().ifPresent(c -> claims.put("handedness", c.value().word()));
    ObjectNode assumed = o.putObject("assumed");
    s.rate().filter(c -> c.assumed()).ifPresent(c -> assumed.put("rate", c.place()));
    s.unit().filter(c -> c.assumed()).ifPresent(c -> assumed.put("metresPerUnit", c.place()));
    s.up().filter(c -> c.assumed()).ifPresent(c -> assumed.put("upAxis", c.place()));
    for (FileCamera c : s.cameras()) {
      camera((ArrayNode) o.get("cameras"), c, warnings);
    }
    o.put("trackers", s.trackerCount());
    o.put("locators", locators(r)).put("planes", planes(s)).put("meshes", s.meshes().size());
    o.put("observations", s.observations().size());
    groups(o, s);
    parents(o, s);
    s.plate().ifPresent(p -> ((ArrayNode) o.get("plates")).add(p.path()));
    s.notes().forEach(n -> warnings.add(n.toString()));
    r.mapping().ifPresent(m -> o.put("columns", TableAdvice.words(m)));
    if (!s.takes().isEmpty()) {
      ArrayNode takes = o.putArray("takes");
      s.takes().forEach(takes::add);
    }
    if (geometry) {
      GeometryJson.add(o, r);
    }
    return o;
  }

  /** Trackers that are nodes of their own, and no points of a cloud or rows of a table. */
  private static int locators(ReceivedFile r) {
    boolean nodes =
        r.format().holdsClouds() || r.format().cannotCarry().contains(SceneFormat.CLOUDS);
    return nodes
        ? r.scene().trackers().stream()
            .filter(t -> !r.scene().clouds().contains(t.name()))
            .mapToInt(TrackerSet::size)
            .sum()
        : 0;
  }

  /** Meshes that are one flat card. */
  private static long planes(FileScene s) {
    return s.meshes().stream().filter(InspectCommand::isCard).count();
  }

  private static boolean isCard(Mesh m) {
    if (m.points() < 3 || m.points() > 4 || m.faces() == 0) {
      return false;
    }
    List<Vec3> p = new ArrayList<>();
    for (int i = 0; i < m.points(); i++) {
      p.add(new Vec3(m.x(i), m.y(i), m.z(i)));
    }
    Vec3 normal = p.get(1).minus(p.get(0)).cross(p.get(2).minus(p.get(0)));
    Vec3 last = p.get(p.size() - 1).minus(p.get(0));
    return normal.length() > 0
        && Math.abs(last.dot(normal.normalized())) <= FLAT * Math.max(1, last.length());
  }

  /** The tree, as paths from the outermost group, and whether each moves. */
  private static void groups(ObjectNode o, FileScene s) {
    Map<String, Boolean> all = new LinkedHashMap<>();
    s.trackers().forEach(t -> t.group().ifPresent(g -> add(all, g)));
    s.meshes().forEach(m -> m.group().ifPresent(g -> add(all, g)));
    s.cameras().forEach(c -> c.group().ifPresent(g -> add(all, g)));
    ArrayNode list = o.putArray("groups");
    all.forEach((path, moves) -> list.addObject().put("path", path).put("moves", moves));
  }

  /** Nodes that stand still elsewhere than the world does, and hold something. */
  private static void parents(ObjectNode o, FileScene s) {
    ArrayNode list = o.putArray("parents");
    for (FileParent p : s.parents()) {
      Vec3 at = p.place().translation();
      list.addObject()
          .put("name", p.name())
          .put("scale", p.place().scale())
          .putArray("at")
          .add(at.x())
          .add(at.y())
          .add(at.z());
    }
  }

  private static void add(Map<String, Boolean> all, Group g) {
    StringBuilder path = new StringBuilder();
    for (Group k : g.path()) {
      path.append(path.length() == 0 ? "" : "/").append(k.name());
      all.merge(path.toString(), k.moves(), Boolean::logicalOr);
    }
  }

  private static void camera(ArrayNode list, FileCamera c, ArrayNode warnings) {
    ObjectNode o = list.addObject();
    o.put("name", c.camera().name());
    o.put("firstFrame", c.camera().frames().first());
    o.put("lastFrame", c.camera().frames().last());
    o.put("keys", c.keys());
    o.put("offGridKeys", c.offGridKeys());
    c.group()
        .ifPresent(g -> o.put("in", String.join("/", g.path().stream().map(Group::name).toList())));
    double[] focal = c.camera().optics().focalLengthRangeMm();
    o.putArray("focalLengthMm").add(focal[0]).add(focal[1]);
    Optics first = c.camera().optics().at(c.camera().frames().first());
    if (c.filmBackStated()) {
      o.putArray("filmBackMm").add(first.filmWidthMm()).add(first.filmHeightMm());
    } else {
      o.putNull("filmBackMm");
      warnings.add(c.camera().name() + ": the camera has no film back");
    }
    if (!c.focalLengthStated()) {
      warnings.add(c.camera().name() + ": the camera has no focal length");
    }
    if (c.offGridKeys() > 0) {
      warnings.add(c.camera().name() + ": " + c.offGridKeys() + " keys lie between frames");
    }
  }

  private static void print(ObjectNode o, PrintWriter out) {
    out.println(o.get("file").asText() + "  (" + o.get("format").asText() + ")");
    o.get("claims")
        .properties()
        .forEach(
            e ->
                out.printf(
                    "  %-14s %s%s%n",
                    e.getKey(),
                    e.getValue().asText(),
                    o.path("assumed").has(e.getKey()) ? "  (the file is silent)" : ""));
    for (var c : o.get("cameras")) {
      out.printf(
          Locale.ROOT,
          "  camera %s: frames %d-%d, %d keys, focal length %s mm, film back %s mm%n",
          c.get("name").asText(),
          c.get("firstFrame").asInt(),
          c.get("lastFrame").asInt(),
          c.get("keys").asInt(),
          c.get("focalLengthMm"),
          c.get("filmBackMm"));
    }
    for (var p : o.path("parents")) {
      out.printf(
          Locale.ROOT,
          "  parent %s: scale %s, at %.4f %.4f %.4f%n",
          p.get("name").asText(),
          Figures.of(p.get("scale").asDouble()),
          p.get("at").get(0).asDouble(),
          p.get("at").get(1).asDouble(),
          p.get("at").get(2).asDouble());
    }
    out.printf(
        Locale.ROOT,
        "  %d trackers, %d meshes%n",
        o.get("trackers").asInt(),
        o.get("meshes").asInt());
    o.get("plates").forEach(p -> out.println("  plates " + p));
    o.get("warnings").forEach(w -> out.println("  warning: " + w.asText()));
  }
}
