package flarvo.cli;

import flarvo.motion.ObjectScale;
import flarvo.motion.ObjectSolve;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import picocli.CommandLine.Option;

/** A second solve of the shot, made on an object that moves by itself. */
final class ObjectOptions {

  @Option(
      names = "--object",
      paramLabel = "FILE",
      description = "solve made on a moving object, in the same frames: camera and points")
  private Path object;

  @Option(
      names = "--object-name",
      paramLabel = "NAME",
      defaultValue = "object",
      description = "name of its group (default ${DEFAULT-VALUE})")
  private String name;

  @Option(
      names = "--object-length",
      paramLabel = "A,B,M",
      description = "two of its trackers are so many metres apart")
  private String length;

  @Option(
      names = "--object-away",
      paramLabel = "A,FRAME,M",
      description = "one of its trackers is so many metres from the camera at a plate frame")
  private String away;

  @Option(
      names = "--object-on-ground",
      paramLabel = "A,FRAME",
      description = "one of its trackers touches the ground at a plate frame")
  private String ground;

  @Option(names = "--object-scale", paramLabel = "K", description = "its scale itself")
  private Double factor;

  /**
   * The shot with the object in it, where there is one.
   *
   * @param intake makes one for the object's file
   * @throws InputError when it cannot be read, or its scale is not settled
   */
  Shot applied(Shot scene, ShotIntake intake, IntakeOptions options) {
    if (object == null) {
      if (length != null || away != null || ground != null || factor != null) {
        throw InputError.words("a scale of an object without --object", "Give its solve");
      }
      return scene;
    }
    ObjectScale scale = scale();
    ReceivedSet set =
        intake.add(object, options, Progress.NONE).received(options.withSize(scene.picture()));
    Shot other = set.shot(name, options.withSize(scene.picture()));
    ObjectSolve s = ObjectSolve.of(scene, other);
    return s.in(name, scale.of(s));
  }

  private ObjectScale scale() {
    List<ObjectScale> all = new ArrayList<>();
    Optional.ofNullable(length)
        .map(t -> parts(t, 3, "--object-length", "A,B,METRES"))
        .ifPresent(
            p -> all.add(new ObjectScale.Length(p[0], p[1], number(p[2], "--object-length"))));
    Optional.ofNullable(away)
        .map(t -> parts(t, 3, "--object-away", "A,FRAME,METRES"))
        .ifPresent(
            p ->
                all.add(
                    new ObjectScale.Away(
                        p[0], frame(p[1], "--object-away"), number(p[2], "--object-away"))));
    Optional.ofNullable(ground)
        .map(t -> parts(t, 2, "--object-on-ground", "A,FRAME"))
        .ifPresent(p -> all.add(new ObjectScale.OnGround(p[0], frame(p[1], "--object-on-ground"))));
    Optional.ofNullable(factor).ifPresent(k -> all.add(new ObjectScale.Factor(k)));
    if (all.size() != 1) {
      throw InputError.words(
          all.isEmpty()
              ? "one camera cannot know how large the object is"
              : "the object's scale is given twice",
          "Give one of --object-length, --object-away, --object-on-ground and --object-scale");
    }
    return Objects.requireNonNull(all.get(0));
  }

  private static String[] parts(String text, int n, String option, String form) {
    String[] p = text.split(",", -1);
    if (p.length != n) {
      throw InputError.words(option + " " + text, "Give " + form);
    }
    return p;
  }

  private static int frame(String text, String option) {
    try {
      return Integer.parseInt(text.strip());
    } catch (NumberFormatException e) {
      throw new InputError("", "", option + ": '" + text + "' is no frame", "Give an integer", e);
    }
  }

  private static double number(String text, String option) {
    try {
      return Double.parseDouble(text.strip());
    } catch (NumberFormatException e) {
      throw new InputError("", "", option + ": '" + text + "' is no number", "Give metres", e);
    }
  }
}
