package flarvo.trace;

import flarvo.lens.LensTrack;
import flarvo.lens.ThroughLens;
import flarvo.level.FirstGuess;
import flarvo.level.LevelScene;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.vet.InterpolatedFrames;
import flarvo.vet.RefinedSolve;
import flarvo.vet.resolve.TrackSolve;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Consumer;
import java.util.function.IntFunction;

/** From a plate alone to a solve that stands on its ground: followed, solved, cleaned, levelled. */
public final class AutoSolve {

  /** Parts of the work: following, what moves, solving, rotation in a blur, levelling. */
  private static final int PARTS = 5;

  /** Kept features below this share of all followed ones cast doubt on a solve. */
  private static final double FEW_KEPT = 0.6;

  /**
   * With a smaller share of the features off what moves, the scene may have been mistaken for it.
   */
  private static final double MOST_MOVERS = 0.5;

  /** A focal length that was found, in widths of the film back: others are hardly ever filmed. */
  private static final double SHORTEST_FOCAL = 0.35;

  private static final double LONGEST_FOCAL = 8;

  private AutoSolve() {}

  /**
   * A plate and what is known of it.
   *
   * @param plates brightness by plate frame; empty where one is missing
   * @param picture size of the plate
   * @param lens of the original plate where it is known; empty where the plate is undistorted or
   *     lens terms are found
   */
  public record Plate(
      String name,
      FrameRange frames,
      IntFunction<Optional<Luma>> plates,
      PictureSize picture,
      Rate rate,
      Optional<LensTrack> lens) {}

  /**
   * What came of it.
   *
   * @param shot levelled, with the features that were kept; its 2D tracks are undistorted
   * @param movers what moves against the rest, and was left out
   * @param lens of the original plate where it was found
   * @param ground how the ground was found, or why it was not
   * @param doubts sentences on why the solve may be wrong; empty for a good one
   */
  public record Outcome(
      Shot shot,
      Traced traced,
      List<Mover> movers,
      TrackSolve.Outcome solve,
      Optional<LensTrack> lens,
      String ground,
      List<String> doubts) {}

  /**
   * @param leaveOutMovers whether features on what moves against the rest are looked for, and left
   *     out
   * @param steps told what each step came to
   * @throws InputError where there is nothing to follow, the picture changes, or the tracks hold no
   *     camera
   */
  public static Outcome of(
      Plate plate,
      TraceOptions options,
      Mask mask,
      boolean leaveOutMovers,
      TrackSolve.Options solve,
      Consumer<String> steps,
      Progress progress) {
    Traced traced =
        Tracer.of(plate.frames(), plate.plates(), options, mask, progress.part(0, PARTS));
    steps.accept(
        String.format(
            Locale.ROOT,
            "followed %d features over %.0f frames each",
            traced.observations().names().size(),
            traced.meanLife()));
    traced.notes().forEach(n -> steps.accept(n.text()));
    requireOnePicture(traced, plate.frames());
    Observations all =
        plate
            .lens()
            .map(l -> ThroughLens.undistorted(traced.observations(), l, plate.picture()))
            .orElse(traced.observations());
    MoverSearch.Found movers =
        leaveOutMovers
            ? MoverSearch.of(
                all,
                plate.picture(),
                solve.focal().mm().isPresent()
                    ? OptionalDouble.of(solve.focal().mm().getAsDouble() / solve.filmWidthMm())
                    : OptionalDouble.empty(),
                progress.part(1, PARTS))
            : new MoverSearch.Found(List.of(), 1);
    steps.accept(
        leaveOutMovers
            ? Mover.words(movers.movers())
            : "what moves against the rest was not looked for");
    Observations o = Mover.without(all, movers.movers());
    TrackSolve.Outcome solved =
        TrackSolve.of(
            plate.name(), o, plate.picture(), plate.rate(), solve, progress.part(2, PARTS));
    steps.accept(solved.kind().word() + ": " + solved.kind().reason());
    steps.accept(solved.cleaned().sentence());
    Optional<LensTrack> found = lens(solved, plate.picture());
    BlurredFrames blurred =
        BlurredFrames.of(
            solved,
            solve.focal(),
            plate.lens().or(() -> found),
            plate.plates(),
            progress.part(3, PARTS));
    Shot good = blurred.shot();
    Similarity level = Similarity.IDENTITY;
    String ground;
    try {
      FirstGuess g =
          FirstGuess.of(
              new LevelScene(good), Similarity.IDENTITY, plate.plates(), progress.part(4, PARTS));
      level = g.level();
      ground = g.words();
    } catch (InputError e) {
      ground = "not levelled: " + e.reason();
    }
    steps.accept(ground);
    return new Outcome(
        good.withLevel(level),
        traced,
        movers.movers(),
        solved,
        found,
        ground,
        doubts(plate.frames(), traced, o, solved, blurred.sentence()));
  }

  private static Optional<LensTrack> lens(TrackSolve.Outcome solved, PictureSize picture) {
    RefinedSolve r = solved.cleaned().solve();
    return r.rest().lens(r.camera(), picture).map(LensTrack::of);
  }

  private static void requireOnePicture(Traced traced, FrameRange frames) {
    traced
        .cut()
        .ifPresent(
            cut -> {
              throw InputError.words(
                  cut.text() + ": no camera goes across a cut",
                  "Solve the parts one by one: frames "
                      + frames.first()
                      + "-"
                      + (cut.frame() - 1)
                      + " and "
                      + cut.frame()
                      + "-"
                      + frames.last());
            });
  }

  private static List<String> doubts(
      FrameRange plates,
      Traced traced,
      Observations used,
      TrackSolve.Outcome solved,
      String measured) {
    List<String> out = new ArrayList<>();
    if (!solved.cleaned().reached()) {
      out.add(
          String.format(
              Locale.ROOT,
              "The error is %.2f px RMS, over the target.",
              solved.cleaned().afterPx()));
    }
    int all = used.names().size();
    int kept = all - solved.cleaned().culled().size();
    if (kept < FEW_KEPT * all) {
      out.add(
          String.format(
              Locale.ROOT,
              "Only %d of %d features agree with this camera: the others may be the scene.",
              kept,
              all));
    }
    Shot s = solved.shot();
    Optics optics = s.cameras().get(0).optics().at(s.frames().first());
    double focal = optics.focalLengthMm() / optics.filmWidthMm();
    if (all < MOST_MOVERS * traced.observations().names().size()) {
      out.add(
          String.format(
              Locale.ROOT,
              "Of %d features %d are on what moves: what was left out may be the scene.",
              traced.observations().names().size(),
              traced.observations().names().size() - all));
    }
    if (focal < SHORTEST_FOCAL || focal > LONGEST_FOCAL) {
      out.add(
          String.format(
              Locale.ROOT,
              "A focal length of %.4g mm is unlikely: what moves may have been followed. Mask it.",
              optics.focalLengthMm()));
    }
    if (!solved.interpolated().isEmpty()) {
      String sentence = InterpolatedFrames.sentence(solved.interpolated());
      out.add((sentence + " " + measured).trim());
    }
    String without = InterpolatedFrames.withoutCamera(plates, s.frames());
    if (!without.isEmpty()) {
      out.add(without);
    }
    traced.notes().stream()
        .filter(n -> n.kind() == TraceNote.Kind.THIN || n.kind() == TraceNote.Kind.MISSING)
        .forEach(
            n -> out.add(Character.toUpperCase(n.text().charAt(0)) + n.text().substring(1) + "."));
    return out;
  }
}
