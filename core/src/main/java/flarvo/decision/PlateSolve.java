package flarvo.decision;

import flarvo.lens.LensChoice;
import flarvo.lens.LensTrack;
import flarvo.plate.PlateLuma;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.trace.BlurredFrames;
import flarvo.trace.TraceWork;
import flarvo.vet.InterpolatedFrames;
import flarvo.vet.RefinedSolve;
import flarvo.vet.ResidualDistortion;
import flarvo.vet.resolve.TrackSolve;
import flarvo.work.Progress;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/** Solving a shot from its 2D tracks alone, and putting the solve in the place of what came. */
final class PlateSolve {

  private static final int FEWEST = 8;

  private PlateSolve() {}

  static void require(double filmWidthMm, double filmHeightMm, double targetPx) {
    if (!(filmWidthMm > 0 && filmHeightMm > 0 && targetPx > 0)) {
      throw new IllegalArgumentException("film back and target are over 0");
    }
  }

  static Outcome of(TraceDecision.SolvingPlates d, ShotState s, Progress progress) {
    Shot shot = s.withTrace(s.trace().withSolve(Optional.empty())).whole();
    TrackSolve.Outcome o =
        TrackSolve.of(
            shot.name(),
            shot.observations(),
            shot.picture(),
            shot.rate(),
            new TrackSolve.Options(
                d.filmWidthMm(), d.filmHeightMm(), d.focal(), d.lensTerms(), d.targetPx(), FEWEST),
            progress);
    RefinedSolve r = o.cleaned().solve();
    Optional<BlurredFrames> blurred = blurred(d, o, s, progress);
    return new Outcome.Solve(
        o.cleaned().culled(),
        blurred.filter(b -> !b.sentence().isEmpty()).map(b -> with(r, b)).orElse(r),
        OptionalDouble.of(o.cleaned().afterPx()),
        o.kind().reason()
            + " "
            + o.cleaned().sentence()
            + "."
            + sentence(InterpolatedFrames.sentence(o.interpolated()))
            + sentence(withoutCamera(o, s))
            + sentence(blurred.map(BlurredFrames::sentence).orElse(""))
            + zoomed(d, s, o)
            + replaced(shot));
  }

  private static String withoutCamera(TrackSolve.Outcome o, ShotState s) {
    return plates(s)
        .map(p -> InterpolatedFrames.withoutCamera(p.frames(), o.shot().frames()))
        .orElse("");
  }

  /** Those that features were followed in. */
  private static Optional<PlateSequence> plates(ShotState s) {
    return s.trace()
        .features()
        .map(TraceWork.Features::plates)
        .flatMap(role -> s.whole().plate(role));
  }

  private static String sentence(String s) {
    return s.isEmpty() ? "" : " " + s;
  }

  /** On frames that see too little, from the plates that the features were followed in. */
  private static Optional<BlurredFrames> blurred(
      TraceDecision.SolvingPlates d, TrackSolve.Outcome o, ShotState s, Progress progress) {
    RefinedSolve r = o.cleaned().solve();
    return plates(s)
        .map(
            p ->
                BlurredFrames.of(
                    o,
                    d.focal(),
                    p.role() == PlateRole.ORIGINAL
                        ? s.lens()
                            .track()
                            .or(
                                () ->
                                    r.rest()
                                        .lens(r.camera(), s.whole().picture())
                                        .map(LensTrack::of))
                        : Optional.empty(),
                    f -> PlateLuma.of(p, f),
                    progress));
  }

  /** The solve with what was measured on blurred frames. */
  private static RefinedSolve with(RefinedSolve r, BlurredFrames measured) {
    ShotCamera camera = measured.shot().cameras().get(0);
    Map<String, Vec3> points = new HashMap<>(r.points());
    points.putAll(TrackerSet.stillPositions(measured.shot().trackers()));
    int first = camera.frames().first();
    double longer =
        camera.optics().at(first).focalLengthMm() / r.camera().optics().at(first).focalLengthMm();
    return new RefinedSolve(camera, points, r.rest().inFocalLengths(longer), r.tripod(), r.how());
  }

  private static String zoomed(TraceDecision.SolvingPlates d, ShotState s, TrackSolve.Outcome o) {
    if (!d.focal().zooms()) {
      return "";
    }
    boolean bent = s.trace().needsLens() && s.lens().track().isEmpty();
    return " Focal length "
        + o.focalWords()
        + "."
        + (bent
            ? " Features are on the original plates and no lens is known: they were taken for"
                + " straight."
            : "");
  }

  /** What this solve takes the place of, which stands in a space of its own. */
  private static String replaced(Shot came) {
    return came.camera().isEmpty()
        ? ""
        : " It replaces the received camera and points"
            + (came.meshes().isEmpty() ? "" : " and geometry")
            + "; the level is reset.";
  }

  static Applied applied(ShotState s, Outcome.Solve o) {
    RefinedSolve r = o.solve();
    ShotState out = s;
    Optional<LensTrack> found = r.rest().lens(r.camera(), s.shot().picture()).map(LensTrack::of);
    if (found.isPresent() && s.trace().needsLens() && s.lens().track().isEmpty()) {
      // The lens says the same as the terms: from here on the original plates are bent by it.
      out =
          out.withLensWork(
              out.lensWork().with(new LensChoice.Given(found.get(), "found in the plates")));
      r = new RefinedSolve(r.camera(), r.points(), ResidualDistortion.NONE, r.tripod(), r.how());
    }
    return Applied.whole(
        out.withTrace(out.trace().withSolve(Optional.of(r)))
            .withVetting(s.vetting().withSolve(null).culling(o.culled()))
            .withLevel(Similarity.IDENTITY));
  }
}
