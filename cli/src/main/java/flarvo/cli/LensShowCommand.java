package flarvo.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.scene.PictureSize;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "show",
    description = "Shows a lens sheet and what the lens does to a picture.",
    footer = {"", "Example:", "  flarvo lens show lens.json --size 1920x1080"})
final class LensShowCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "LENS.json", description = "lens sheet")
  private Path sheet;

  @Option(
      names = "--size",
      paramLabel = "WxH",
      converter = Converters.Size.class,
      description = "size of the original, to say what the lens does to it")
  private PictureSize size;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    LensTrack track = LensSheet.read(sheet).track();
    PrintWriter text = spec.commandLine().getOut();
    ObjectNode n = LensSheet.document(track);
    double corner = Double.NaN;
    boolean folds = false;
    if (size != null) {
      LensMapper m = track.base().on(size);
      double[] p = new double[2];
      m.toUndistorted(0, 0, p);
      corner = Math.hypot(p[0], p[1]);
      folds = Double.isNaN(corner);
    }
    if (json.asked()) {
      if (size != null) {
        n.put("foldsInPicture", folds);
        if (!folds) {
          n.put("cornerMovesPx", corner);
        }
      }
      text.println(Json.text(n));
      return ExitCode.HOLDS;
    }
    say(text, track);
    if (size != null) {
      text.println(
          folds
              ? "picture        folds over within it"
              : String.format(
                  Locale.ROOT, "picture        the top left corner moves by %.2f px", corner));
    }
    return ExitCode.HOLDS;
  }

  private static void say(PrintWriter text, LensTrack track) {
    Lens l = track.base();
    text.println("model          " + l.distortion().model().code());
    text.println("closed form    " + l.distortion().model().closedForm().word());
    text.println("normalisation  " + l.normalisation().code());
    text.println("centre         " + l.centreX() + ", " + l.centreY());
    if (!Double.isNaN(l.focal())) {
      text.println("focal length   " + l.focal() + " of the film back's width");
    }
    List<String> names = l.distortion().model().coefficients();
    double[] k = l.distortion().coefficients();
    for (int i = 0; i < k.length; i++) {
      text.printf(Locale.ROOT, "%-14s %s%n", names.get(i), k[i]);
    }
    if (track.breathes()) {
      text.println(
          "changes        " + track.keys().size() + " frames have coefficients of their own");
    }
  }
}
