package flarvo.cli;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FrameNumbering;
import flarvo.convention.RatePolicy;
import flarvo.receive.Fact;
import flarvo.report.InputError;
import flarvo.scene.Rate;
import picocli.CommandLine.Option;

/** How the recipient speaks, and what of it is otherwise for this shot. */
final class RecipientOptions {

  @Option(names = "--to", required = true, paramLabel = "D", description = "recipient's dialect")
  private String to;

  @Option(names = "--first-frame", paramLabel = "N", description = "recipient's first frame")
  private Integer firstFrame;

  @Option(
      names = "--rate",
      paramLabel = "R",
      converter = Converters.Fps.class,
      description = "recipient's rate, such as 24000/1001")
  private Rate rate;

  @Option(
      names = "--keep-seconds",
      description = "where rates differ, resample instead of keeping frames")
  private boolean keepSeconds;

  Dialect dialect(Dialects dialects) {
    Dialect d = dialects.get(to);
    FrameNumbering f = d.frames();
    if (firstFrame != null) {
      if (Math.abs((long) firstFrame) > Fact.FARTHEST_FRAME) {
        throw InputError.words(
            "--first-frame " + firstFrame + " is too far",
            "Frames count up to " + Fact.FARTHEST_FRAME);
      }
      f = f.withFirstFrame(firstFrame);
    }
    if (rate != null) {
      f = f.withRate(rate);
    }
    if (keepSeconds) {
      f = new FrameNumbering(f.firstFrame(), f.rate(), RatePolicy.KEEP_SECONDS);
    }
    return d.withFrames(f);
  }
}
