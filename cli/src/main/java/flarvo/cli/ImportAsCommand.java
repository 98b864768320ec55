package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.format.Formats;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.project.StudioDialects;
import flarvo.receive.ReceivedFile;
import flarvo.recipient.Bite;
import flarvo.recipient.ImportChain;
import flarvo.recipient.Meant;
import flarvo.recipient.PlainImport;
import flarvo.recipient.Setting;
import flarvo.recipient.Taken;
import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "import-as",
    description = {
      "Shows what a recipient makes of a file on a plain import, and what would be wrong there.",
      "The recipient is simulated, by what its dialect says of it."
    },
    footer = {
      "",
      "Example:",
      "  flarvo import-as anim-zup-m engine.fbx --then engine-zup-left-cm:fbx-binary"
    })
final class ImportAsCommand implements Callable<Integer> {

  private static final PictureSize USUAL = PictureSize.of(1920, 1080);

  /** What the caller says where a file is silent: --plate-first and --size. */
  private static final Set<Setting> KNOWN = EnumSet.of(Setting.FIRST_FRAME, Setting.PICTURE);

  @Spec private CommandSpec spec;

  @Parameters(index = "0", paramLabel = "DIALECT", description = "recipient's dialect")
  private String recipient;

  @Parameters(index = "1", paramLabel = "FILE", description = "delivered file")
  private Path path;

  @Option(
      names = "--then",
      paramLabel = "D[:FORMAT]",
      description =
          "the next to open what the one before saves, in a format such as usd-text;"
              + " default: the file's format")
  private List<String> then = List.of();

  @Option(
      names = "--size",
      paramLabel = "WxH",
      converter = Converters.Size.class,
      description = "image resolution; default: as the file states, else 1920x1080")
  private PictureSize size;

  @Option(
      names = "--plate-first",
      paramLabel = "N",
      description = "number of the first plate frame; default: the file's first frame")
  private Integer plateFirst;

  @Mixin private OutsideOption outside;

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    Dialects dialects = StudioDialects.known();
    Dialect own = dialects.get(recipient);
    List<ImportChain.Hop> hops = new ArrayList<>();
    ReceivedFile file =
        progress.run(
            "reading",
            p ->
                ReceivedFile.read(
                    path,
                    Optional.of(own),
                    Optional.empty(),
                    ReadLimits.USUAL.withReach(outside.reach()),
                    p));
    for (String t : then) {
      hops.add(hop(t, file.format(), dialects));
    }
    Optional<PictureSize> stated = file.scene().picture().map(s -> s.value());
    PictureSize picture = size != null ? size : stated.orElse(USUAL);
    List<ImportChain.Step> steps =
        progress.run("importing", p -> steps(file, own, picture, hops, p));
    List<String> assumed = new ArrayList<>();
    if (size == null && stated.isEmpty()) {
      assumed.add("the file states no picture size; drift is in pixels of " + USUAL);
    }
    String silent =
        steps.get(0).imported().taken().stream()
            .filter(t -> t.whence() == Taken.Whence.SILENT && !KNOWN.contains(t.setting()))
            .map(t -> t.setting().title().toLowerCase(Locale.ROOT))
            .collect(Collectors.joining(", "));
    if (!silent.isEmpty()) {
      assumed.add(
          "the file does not state: " + silent + "; what was meant by it is not known here");
    }
    if (plateFirst == null) {
      assumed.add("the plate is numbered as the file's frames; --plate-first says otherwise");
    }
    if (json.asked()) {
      spec.commandLine().getOut().println(Json.text(document(steps, assumed)));
    } else {
      print(steps, assumed, spec.commandLine().getOut());
    }
    return steps.stream().allMatch(s -> s.imported().holds())
        ? ExitCode.HOLDS
        : ExitCode.DOES_NOT_HOLD;
  }

  private List<ImportChain.Step> steps(
      ReceivedFile file, Dialect own, PictureSize picture, List<ImportChain.Hop> hops, Progress p) {
    Meant meant = Meant.by(file, own, picture, Optional.ofNullable(plateFirst));
    return ImportChain.through(file, own, meant, hops, p);
  }

  private static ImportChain.Hop hop(String text, SceneFormat usual, Dialects dialects) {
    int colon = text.lastIndexOf(':');
    SceneFormat format = colon < 0 ? usual : Formats.byId(text.substring(colon + 1));
    return new ImportChain.Hop(dialects.get(colon < 0 ? text : text.substring(0, colon)), format);
  }

  private ObjectNode document(List<ImportChain.Step> steps, List<String> assumed) {
    ObjectNode o = Json.object();
    o.put("file", path.toString());
    o.put("holds", steps.stream().allMatch(s -> s.imported().holds()));
    assumed.forEach(o.putArray("assumed")::add);
    ArrayNode list = o.putArray("imports");
    for (ImportChain.Step s : steps) {
      PlainImport r = s.imported();
      ObjectNode n = list.addObject();
      n.put("recipient", r.recipient().name()).put("holds", r.holds());
      n.put("sentence", r.sentence());
      n.put("pictureFirst", r.pictureFirst()).put("rate", r.rate().toString());
      n.put("firstFrame", r.range().first()).put("lastFrame", r.range().last());
      put(
          n,
          "maxDriftPx",
          r.drift().map(d -> OptionalDouble.of(d.maxPx())).orElse(OptionalDouble.empty()));
      put(n, "totalDriftPx", OptionalDouble.of(s.totalPx()));
      n.put("scale", r.world().scale()).put("totalScale", s.totalScale());
      n.put("tiltDegrees", r.world().tiltDegrees()).put("mirrored", r.world().mirrored());
      s.notSaved()
          .ifPresentOrElse(f -> n.put("notSaved", f.toString()), () -> n.putNull("notSaved"));
      ArrayNode taken = n.putArray("settings");
      for (Taken t : r.taken()) {
        taken
            .addObject()
            .put("setting", t.setting().word())
            .put("value", t.value())
            .put("from", t.whence().word());
      }
      ArrayNode bites = n.putArray("bites");
      for (Bite b : r.bites()) {
        ObjectNode one = bites.addObject();
        one.put("setting", b.setting().word()).put("wrong", b.harms()).put("says", b.says());
        put(one, "driftPx", b.driftPx());
        one.put("ask", b.ask());
        b.change().ifPresentOrElse(c -> one.put("change", c.says()), () -> one.putNull("change"));
      }
    }
    return o;
  }

  /** JSON has no infinity, and no drift where there is no camera. */
  private static void put(ObjectNode o, String key, OptionalDouble value) {
    if (value.isPresent() && Double.isFinite(value.getAsDouble())) {
      o.put(key, value.getAsDouble());
    } else {
      o.putNull(key);
    }
  }

  private void print(List<ImportChain.Step> steps, List<String> assumed, PrintWriter out) {
    for (ImportChain.Step s : steps) {
      PlainImport r = s.imported();
      out.println(r.recipient().name() + ": " + r.sentence());
      for (Taken t : r.taken()) {
        out.printf("  %-18s %s  (%s)%n", t.setting().title(), t.value(), t.whence().sentence());
      }
      r.drift()
          .ifPresent(
              d ->
                  out.printf(
                      Locale.ROOT, "  drift: %s here%s%n", px(d.maxPx()), total(s, steps.size())));
      if (s.totalScale() != 1) {
        out.printf(Locale.ROOT, "  scale: %.6g of what was sent%n", s.totalScale());
      }
      for (Bite b : r.bites()) {
        out.println(
            "  "
                + (b.harms() ? "WRONG " : "set   ")
                + b.says()
                + (b.driftPx().isPresent() ? " (" + px(b.driftPx().getAsDouble()) + ")" : ""));
        b.change().ifPresent(c -> out.println("        sender:    " + c.says()));
        out.println("        recipient: " + b.ask());
      }
      s.notSaved()
          .ifPresent(
              f ->
                  out.println(
                      "  WRONG frames "
                          + f
                          + " lie outside the scene's range and are not passed on"));
    }
    assumed.forEach(a -> out.println("assumed: " + a));
  }

  private static String total(ImportChain.Step s, int steps) {
    return steps < 2 || !Double.isFinite(s.totalPx())
        ? ""
        : ", " + px(s.totalPx()) + " since the first file";
  }

  private static String px(double v) {
    return Double.isInfinite(v)
        ? "points behind the camera"
        : String.format(Locale.ROOT, "%.4f px", v);
  }
}
