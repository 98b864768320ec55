package flarvo.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.lens.FieldOfView;
import flarvo.scene.PictureSize;
import java.io.PrintWriter;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(
    name = "lens-calc",
    description = "Focal length, film back, angles of view and pixels, from any that settle them.",
    footer = {
      "",
      "Example:",
      "  flarvo lens-calc --size 1920x1080 --angle-across 54.4 --back 24.576"
    })
final class LensCalcCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Option(
      names = "--size",
      paramLabel = "WxH",
      required = true,
      converter = Converters.Size.class,
      description = "image resolution")
  private PictureSize size;

  @Option(
      names = "--pixel-aspect",
      paramLabel = "A",
      defaultValue = "1",
      description = "width of a pixel over its height (default ${DEFAULT-VALUE})")
  private double pixelAspect;

  @Option(names = "--focal", paramLabel = "MM", description = "focal length in millimetres")
  private Double focal;

  @Option(names = "--back", paramLabel = "MM", description = "film back's width in millimetres")
  private Double back;

  @Option(names = "--angle-across", paramLabel = "DEG", description = "horizontal angle of view")
  private Double across;

  @Option(names = "--angle-down", paramLabel = "DEG", description = "vertical angle of view")
  private Double down;

  @Option(
      names = "--focal-px",
      paramLabel = "PX",
      description = "focal length in pixels of the width")
  private Double pixels;

  @Option(
      names = "--on",
      paramLabel = "MM",
      description = "also the focal length that sees the same on another film back")
  private Double on;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    FieldOfView.Given g = new FieldOfView.Given();
    if (focal != null) {
      g.focalMm(focal);
    }
    if (back != null) {
      g.backMm(back);
    }
    if (across != null) {
      g.acrossDegrees(across);
    }
    if (down != null) {
      g.downDegrees(down);
    }
    if (pixels != null) {
      g.focalPixels(pixels);
    }
    PictureSize picture =
        new PictureSize(size.width(), size.height(), Converters.aspect(pixelAspect));
    FieldOfView s = FieldOfView.of(picture, g);
    PrintWriter out = spec.commandLine().getOut();
    if (json.asked()) {
      out.println(Json.text(document(s)));
      return ExitCode.HOLDS;
    }
    line(out, "focal length", s.focalMm(), "%.4f mm");
    line(out, "film back", s.backMm(), "%.4f mm wide");
    line(out, "", s.backHeightMm(), "%.4f mm high");
    line(out, "angle across", OptionalDouble.of(s.acrossDegrees()), "%.4f°");
    line(out, "angle down", OptionalDouble.of(s.downDegrees()), "%.4f°");
    line(out, "angle diagonal", OptionalDouble.of(s.diagonalDegrees()), "%.4f°");
    line(out, "focal in pixels", OptionalDouble.of(s.focalPixels()), "%.4f");
    if (picture.pixelAspect() != 1) {
      line(out, "  of the height", OptionalDouble.of(s.focalPixelsDown()), "%.4f");
    }
    if (on != null) {
      line(
          out,
          String.format(Locale.ROOT, "on %s mm", on),
          OptionalDouble.of(s.focalOn(on)),
          "%.4f mm");
    }
    return ExitCode.HOLDS;
  }

  private static void line(PrintWriter out, String name, OptionalDouble v, String format) {
    if (v.isPresent()) {
      out.printf(Locale.ROOT, "%-16s " + format + "%n", name, v.getAsDouble());
    } else {
      out.printf(Locale.ROOT, "%-16s open%n", name);
    }
  }

  private ObjectNode document(FieldOfView s) {
    ObjectNode o = Json.object();
    s.focalMm().ifPresent(v -> o.put("focalMm", v));
    s.backMm().ifPresent(v -> o.put("backWidthMm", v));
    s.backHeightMm().ifPresent(v -> o.put("backHeightMm", v));
    o.put("acrossDegrees", s.acrossDegrees());
    o.put("downDegrees", s.downDegrees());
    o.put("diagonalDegrees", s.diagonalDegrees());
    o.put("focalPixels", s.focalPixels());
    o.put("focalPixelsDown", s.focalPixelsDown());
    if (on != null) {
      o.put("focalMmOn", s.focalOn(on));
    }
    return o;
  }
}
