package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.lens.Direction;
import flarvo.plate.PlateFinder;
import flarvo.plate.SampleKind;
import flarvo.plate.remap.Bending;
import flarvo.plate.remap.Filter;
import flarvo.plate.remap.Light;
import flarvo.plate.remap.Overscan;
import flarvo.plate.remap.RemapOptions;
import flarvo.plate.remap.SequenceName;
import flarvo.plate.remap.SequenceRemap;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.SortedSet;
import java.util.concurrent.Callable;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** What undistorting and redistorting a sequence have in common. */
abstract class SequenceCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(
      paramLabel = "PLATES",
      description = "folder of a sequence, one of its files, or name.####.ext")
  private Path plates;

  @Mixin private BendingOption bending;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "PATTERN",
      description = "output sequence, such as straight/name.####.exr")
  private Path out;

  @Option(
      names = "--frames",
      paramLabel = "A-B",
      converter = Converters.Frames.class,
      description = "frames to make; default: all of the sequence")
  private FrameRange frames;

  @Option(
      names = "--filter",
      paramLabel = "F",
      defaultValue = "bicubic",
      description = "nearest, bilinear, bicubic or lanczos (default ${DEFAULT-VALUE})")
  private String filter;

  @Option(
      names = "--light",
      paramLabel = "L",
      defaultValue = "encoded",
      description = "what is averaged: encoded numbers, or linear light (default ${DEFAULT-VALUE})")
  private String light;

  @Option(
      names = "--proxy",
      paramLabel = "N",
      defaultValue = "1",
      description = "make pictures N times smaller (default ${DEFAULT-VALUE})")
  private int proxy;

  @Option(
      names = "--depth",
      paramLabel = "D",
      description = "8, 16, half or float; default: as the source, or as near as the format can")
  private String depth;

  @Option(
      names = "--jobs",
      paramLabel = "N",
      description = "pictures at once; default: one a processor")
  private Integer jobs;

  @Mixin private ProgressOption progress;

  @Mixin private JsonOption json;

  /** From the picture that is had to the picture that is made. */
  abstract Direction direction();

  /**
   * The overscan of the undistorted pictures.
   *
   * @param first a frame of the sequence, whose map is looked at
   */
  abstract Overscan overscan(PictureSize had, Bending through, int first);

  @Override
  public Integer call() {
    PlateSequence source = sequence(plates);
    SequenceName target = SequenceName.parse(out);
    FrameRange range = frames == null ? source.frames() : frames;
    RemapOptions options = options(source, bending.bending(direction()), range.first());
    int workers = jobs == null ? Runtime.getRuntime().availableProcessors() : jobs;
    if (workers < 1) {
      throw InputError.words("--jobs takes a number from 1 on, not " + workers, "");
    }
    SequenceRemap.Outcome o =
        progress.run(
            "making " + target.pattern(),
            p -> SequenceRemap.run(source, target, options, range, workers, p));
    if (json.asked()) {
      spec.commandLine().getOut().println(Json.text(document(target, options, o)));
    } else {
      say(target, options, o);
    }
    return o.failed().isEmpty() ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private RemapOptions options(PlateSequence source, Bending through, int first) {
    Overscan overscan = overscan(source.size(), through, first);
    try {
      return new RemapOptions(
          through,
          direction(),
          overscan,
          Filter.of(filter).orElseThrow(() -> word("--filter", filter)),
          Light.of(light).orElseThrow(() -> word("--light", light)),
          proxy,
          depth == null
              ? Optional.empty()
              : Optional.of(SampleKind.of(depth).orElseThrow(() -> word("--depth", depth))));
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "");
    }
  }

  private static InputError word(String option, String typed) {
    return InputError.words(option + " does not know '" + typed + "'", "See --help");
  }

  /** A sequence by folder, file or pattern; one of several in a folder must be named. */
  static PlateSequence sequence(Path named) {
    String name = String.valueOf(named.getFileName());
    if (name.contains("#")) {
      SequenceName n = SequenceName.parse(named);
      return PlateFinder.find(n.folder()).stream()
          .filter(s -> s.prefix().equals(n.prefix()) && s.suffix().equals(n.suffix()))
          .findFirst()
          .orElseThrow(
              () -> new InputError(named.toString(), "", "no such sequence", "Check the path"));
    }
    List<PlateSequence> found = PlateFinder.find(named);
    if (found.size() > 1) {
      throw new InputError(
          named.toString(),
          "",
          "there are " + found.size() + " sequences here",
          "Name one: " + String.join(", ", found.stream().map(PlateSequence::pattern).toList()));
    }
    return found.get(0);
  }

  private void say(SequenceName target, RemapOptions options, SequenceRemap.Outcome o) {
    PrintWriter text = spec.commandLine().getOut();
    text.println(target.folder().resolve(target.pattern()));
    text.println("  made " + o.made().size() + ", up to date " + o.fresh().size());
    Overscan s = options.overscan();
    if (!s.isNone()) {
      text.println(
          "  undistorted "
              + s.size()
              + ", original "
              + s.original()
              + ": multiply the film back by "
              + s.width() / (double) s.original().width()
              + " x "
              + s.height() / (double) s.original().height());
    }
    if (!s.isCentred()) {
      text.println(
          "  add "
              + offset(s.original().width() / 2.0 - offCentre(s)[0])
              + ", "
              + offset(s.original().height() / 2.0 - offCentre(s)[1])
              + " px (right, down) to the principal point, counted from the centre");
    }
    sayLeftOut(o.leftOut(), target, text);
    o.failed().forEach((f, why) -> text.println("  frame " + f + ": " + why));
  }

  /** Centre of the undistorted picture, in pixels of the original. */
  private static double[] offCentre(Overscan s) {
    return new double[] {s.width() / 2.0 - s.left(), s.height() / 2.0 - s.top()};
  }

  private static String offset(double px) {
    return String.format(Locale.ROOT, "%+.1f", px);
  }

  /** What the plates say and the new pictures cannot. */
  static void sayLeftOut(SortedSet<String> names, SequenceName target, PrintWriter text) {
    if (!names.isEmpty()) {
      text.println("  " + target.suffix() + " does not hold " + String.join(", ", names));
    }
  }

  private ObjectNode document(SequenceName target, RemapOptions options, SequenceRemap.Outcome o) {
    ObjectNode n = Json.object();
    n.put("out", target.folder().resolve(target.pattern()).toString());
    ArrayNode made = n.putArray("made");
    o.made().forEach(made::add);
    ArrayNode fresh = n.putArray("fresh");
    o.fresh().forEach(fresh::add);
    ObjectNode failed = n.putObject("failed");
    o.failed().forEach((f, why) -> failed.put(String.valueOf(f), why));
    ArrayNode leftOut = n.putArray("leftOut");
    o.leftOut().forEach(leftOut::add);
    Overscan s = options.overscan();
    n.putArray("originalSize").add(s.original().width()).add(s.original().height());
    n.putArray("undistortedSize").add(s.width()).add(s.height());
    n.putArray("filmBackFactor")
        .add(s.width() / (double) s.original().width())
        .add(s.height() / (double) s.original().height());
    n.putArray("principalPointMovedPx")
        .add(s.original().width() / 2.0 - offCentre(s)[0])
        .add(s.original().height() / 2.0 - offCentre(s)[1]);
    return n;
  }
}
