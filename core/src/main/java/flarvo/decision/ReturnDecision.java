package flarvo.decision;

import flarvo.proof.ReturnedFile;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.suspect.Mending;
import flarvo.suspect.Suspect;
import flarvo.suspect.TrustedSolve;
import flarvo.vet.Measures;
import flarvo.vet.RefinedSolve;
import flarvo.vet.SolveInPlace;
import flarvo.vet.SolveKind;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/** What is done with files that somebody sent back. */
public sealed interface ReturnDecision extends Decision {

  /** What returned files are measured against: the 2D tracks, or the solve where there are none. */
  static Observations evidence(Shot shot) {
    return shot.observations().isEmpty()
        ? TrustedSolve.tracks(shot.levelled().contents())
        : shot.observations();
  }

  /** Returned files, read and searched for what is wrong with them. */
  static ReturnedFile search(Shot shot, List<Path> files, Progress progress) {
    Optional<Similarity> level =
        Optional.of(shot.level()).filter(l -> !l.equals(Similarity.IDENTITY));
    return ReturnedFile.of(
        files,
        ShotIntake::new,
        IntakeOptions.NONE.withSize(shot.picture()),
        evidence(shot),
        level,
        progress);
  }

  /**
   * Puts a returned camera and its points in the place of the solve, with what is wrong with them
   * undone. They are laid on the solve by the trackers that both have.
   *
   * @param files camera, and points
   */
  @DecisionCode("use-mended")
  record UseMended(List<Path> files) implements ReturnDecision {
    public UseMended {
      files = List.copyOf(files);
      if (files.isEmpty()) {
        throw new IllegalArgumentException("no returned file is named");
      }
    }

    @Override
    public boolean worksOut() {
      return true;
    }

    /**
     * @throws InputError when the shot has no camera, no cause is found, or the cause is not in the
     *     files
     */
    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      Shot whole = s.whole();
      if (whole.camera().isEmpty()) {
        throw InputError.words("the shot has no camera", "Receive one first");
      }
      ReturnedFile came = search(s.shot(), files, progress);
      Suspect cause =
          came.report()
              .cause()
              .orElseThrow(
                  () ->
                      InputError.words(
                          "no cause was found in " + names(), "There is nothing to mend"));
      Shot mended = Mending.of(came.shot(), cause);
      ShotCamera camera = mended.camera().orElseThrow();
      RefinedSolve solve =
          SolveInPlace.of(
              whole,
              camera,
              points(mended),
              SolveKind.of(whole, Set.of(), progress).orElse(new SolveKind(false, 0, 0)),
              cause.sentence());
      ShotState after = s.withVetting(s.vetting().withSolve(solve));
      OptionalDouble rms =
          Measures.of(after.shot(), after.vetting().uncounted(), progress)
              .map(m -> OptionalDouble.of(m.errors().rmsPx()))
              .orElse(OptionalDouble.empty());
      return Optional.of(
          new Outcome.Solve(
              Set.of(), solve, rms, cause.sentence() + said(whole, mended, camera, came.shot())));
    }

    /** All points that stand still, as one set: names are unique in a shot. */
    private static TrackerSet points(Shot mended) {
      List<String> names = new ArrayList<>();
      List<TrackerSet> sets = mended.trackers();
      Set<String> seen = new HashSet<>();
      double[] xyz = new double[3 * mended.trackerCount()];
      for (TrackerSet t : sets) {
        for (int i = 0; i < t.size(); i++) {
          if (seen.add(t.names().get(i))) {
            int at = 3 * names.size();
            xyz[at] = t.x(i);
            xyz[at + 1] = t.y(i);
            xyz[at + 2] = t.z(i);
            names.add(t.names().get(i));
          }
        }
      }
      return TrackerSet.of("returned", names, java.util.Arrays.copyOf(xyz, 3 * names.size()));
    }

    /** What of the shot the files do not cover, and what of them is not taken. */
    private static String said(Shot whole, Shot mended, ShotCamera camera, Shot came) {
      List<String> out = new ArrayList<>();
      FrameRange has = camera.frames();
      if (!has.contains(whole.frames().first()) || !has.contains(whole.frames().last())) {
        out.add("camera on " + has + " only, held outside");
      }
      Set<String> names =
          mended.trackers().stream().flatMap(t -> t.names().stream()).collect(Collectors.toSet());
      long kept =
          whole.trackers().stream()
              .filter(t -> !t.moves())
              .flatMap(t -> t.names().stream())
              .filter(n -> !names.contains(n))
              .count();
      if (kept > 0) {
        out.add(
            kept + (kept == 1 ? " tracker is" : " trackers are") + " not in the files, and kept");
      }
      Mending.leftOut(came).forEach(l -> out.add("not taken: " + l));
      return out.isEmpty() ? "" : "\n" + String.join("\n", out);
    }

    private String names() {
      return files.stream().map(f -> f.getFileName().toString()).collect(Collectors.joining(", "));
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Outcome.Solve o = (Outcome.Solve) outcome.orElseThrow();
      return Applied.whole(s.withVetting(s.vetting().withSolve(o.solve())));
    }

    @Override
    public List<Path> files() {
      return files;
    }

    @Override
    public UseMended withPaths(UnaryOperator<Path> moved) {
      return new UseMended(files.stream().map(moved).toList());
    }

    @Override
    public String title() {
      return "use " + names() + ", mended";
    }

    @Override
    public String title(Optional<Outcome> outcome) {
      OptionalDouble px =
          outcome.map(o -> ((Outcome.Solve) o).rmsPx()).orElse(OptionalDouble.empty());
      return px.isEmpty()
          ? title()
          : title() + String.format(Locale.ROOT, ", to %.3f px", px.getAsDouble());
    }
  }
}
