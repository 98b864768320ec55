package flarvo.decision;

import flarvo.lens.Direction;
import flarvo.lens.LensChoice;
import flarvo.lens.LensModel;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.lens.LensWork;
import flarvo.lens.ShotLens;
import flarvo.lens.fit.LensEstimate;
import flarvo.lens.fit.LensFit;
import flarvo.lens.fit.LensFitOptions;
import flarvo.lens.fit.StraightLine;
import flarvo.plate.PlateFinder;
import flarvo.plate.PlateLuma;
import flarvo.plate.edge.ChequerGrid;
import flarvo.plate.edge.EdgeFinder;
import flarvo.plate.edge.EdgeTrace;
import flarvo.plate.remap.OverscanRule;
import flarvo.plate.remap.SequenceName;
import flarvo.plate.remap.SequenceRemap;
import flarvo.plate.remap.Undistortion;
import flarvo.receive.ReceivedSet;
import flarvo.report.InputError;
import flarvo.scene.Inset;
import flarvo.scene.Luma;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** The lens of the original plates, and the plates made with it. */
public sealed interface PlateDecision extends Decision {

  /** Uses a lens that came as a sheet. */
  @DecisionCode("use-received-lens")
  record UseReceivedLens(String sheet) implements PlateDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      LensSheet found =
          s.received().map(ReceivedSet::lenses).orElse(List.of()).stream()
              .filter(l -> l.fileName().equals(sheet))
              .findFirst()
              .orElseThrow(
                  () ->
                      InputError.words(
                          "no lens sheet " + sheet + " was received", "Drop it on the window"));
      found.track(); // a model that is not known is refused here
      return Applied.whole(s.withLensWork(s.lensWork().with(new LensChoice.Received(sheet))));
    }

    @Override
    public String title() {
      return "use lens of " + sheet;
    }
  }

  /** Uses a lens whose values were typed. */
  @DecisionCode("type-lens")
  record TypeLens(LensTrack lens) implements PlateDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withLensWork(s.lensWork().with(new LensChoice.Given(lens, "typed"))));
    }

    @Override
    public String title() {
      return "type lens";
    }
  }

  /** Says that the plates are straight as they are. */
  @DecisionCode("use-no-lens")
  record UseNoLens() implements PlateDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withLensWork(s.lensWork().with(new LensChoice.None())));
    }

    @Override
    public String title() {
      return "use no lens";
    }
  }

  /**
   * Traces an edge that is straight in the world over an original plate, from one place to another.
   * A line of the same name is replaced.
   *
   * @param ax pixels from the left edge of the original, as bx
   * @param ay pixels from its top edge, as by
   */
  @DecisionCode("trace-line")
  record TraceLine(String line, int frame, double ax, double ay, double bx, double by)
      implements PlateDecision {
    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      return Optional.of(
          new Outcome.Line(
              new StraightLine(line, frame, EdgeTrace.between(luma(s, frame), ax, ay, bx, by))));
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      StraightLine traced = ((Outcome.Line) outcome.orElseThrow()).line();
      return Applied.whole(s.withLensWork(s.lensWork().with(traced)));
    }

    @Override
    public String title() {
      return "trace " + line + " on frame " + frame;
    }
  }

  /** Lines that are found on an original plate, and added to the others. */
  sealed interface FindLines extends PlateDecision {
    @Override
    default boolean worksOut() {
      return true;
    }

    @Override
    default Applied on(ShotState s, Optional<Outcome> outcome) {
      LensWork work = s.lensWork();
      for (StraightLine l : ((Outcome.Lines) outcome.orElseThrow()).lines()) {
        work = work.with(l);
      }
      return Applied.whole(s.withLensWork(work));
    }
  }

  /** Finds a filmed chequer board on an original plate: its rows and columns are straight lines. */
  @DecisionCode("find-board")
  record FindBoard(int frame) implements FindLines {
    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      List<ChequerGrid> boards = ChequerGrid.in(luma(s, frame));
      if (boards.isEmpty()) {
        throw InputError.words(
            "no chequer board was found on frame " + frame,
            "Its fields need 10 pixels or more, and three rows of corners");
      }
      List<StraightLine> lines = new ArrayList<>();
      for (int i = 0; i < boards.size(); i++) {
        String which = boards.size() > 1 ? " " + (i + 1) : "";
        lines.addAll(boards.get(i).lines("board" + which + " on " + frame, frame));
      }
      return Optional.of(new Outcome.Lines(lines));
    }

    @Override
    public String title() {
      return "find board on frame " + frame;
    }
  }

  /** Finds long edges on an original plate; a fit leaves out those that are not straight. */
  @DecisionCode("find-edges")
  record FindEdges(int frame) implements FindLines {
    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      List<double[]> edges = EdgeFinder.in(luma(s, frame));
      if (edges.isEmpty()) {
        throw InputError.words("no long edges were found on frame " + frame, "Trace edges by hand");
      }
      List<StraightLine> lines = new ArrayList<>();
      for (double[] xy : edges) {
        lines.add(new StraightLine("edge " + (lines.size() + 1) + " on " + frame, frame, xy));
      }
      return Optional.of(new Outcome.Lines(lines));
    }

    @Override
    public String title() {
      return "find edges on frame " + frame;
    }
  }

  /** Removes traced lines. */
  @DecisionCode("remove-lines")
  record RemoveLines(List<String> lines) implements PlateDecision {
    public RemoveLines {
      lines = List.copyOf(lines);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      List<String> missed = new ArrayList<>();
      ShotState next = s;
      for (String l : lines) {
        if (!next.lensWork().has(l)) {
          missed.add("line " + l + " not found");
        }
        next = next.withLensWork(next.lensWork().without(l));
      }
      return new Applied(next, missed);
    }

    @Override
    public String title() {
      return lines.size() == 1 ? "remove " + lines.get(0) : "remove " + lines.size() + " lines";
    }
  }

  /**
   * Fits a lens to the traced lines and uses it.
   *
   * @param terms coefficients to look for
   * @param centre whether the centre of distortion is looked for too
   */
  @DecisionCode("fit-lens")
  record FitLens(LensModel model, List<String> terms, boolean centre) implements PlateDecision {
    public FitLens {
      terms = List.copyOf(terms);
    }

    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      return Optional.of(outcome(estimate(s, progress), s));
    }

    /** What a fit to the lines of a state comes to. */
    public Outcome outcome(LensEstimate e, ShotState s) {
      return new Outcome.FittedLens(
          LensTrack.of(e.lens()), e.residualPx(), s.lensWork().lines().size());
    }

    /**
     * The fit with everything that it says of itself.
     *
     * @throws InputError when the lines cannot hold what is looked for
     */
    public LensEstimate estimate(ShotState s, Progress progress) {
      PictureSize picture =
          s.shot().plate(PlateRole.ORIGINAL).map(PlateSequence::size).orElse(s.shot().picture());
      return LensFit.withoutStrays(
          s.lensWork().lines(),
          picture,
          new LensFitOptions(MapLens.start(model, s), terms, centre),
          progress);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Outcome.FittedLens f = (Outcome.FittedLens) outcome.orElseThrow();
      String from = "fitted to " + f.lines() + (f.lines() == 1 ? " line" : " lines");
      return Applied.whole(s.withLensWork(s.lensWork().with(new LensChoice.Given(f.lens(), from))));
    }

    @Override
    public String title() {
      return "fit lens to lines";
    }

    @Override
    public String title(Optional<Outcome> outcome) {
      return outcome
          .map(
              o ->
                  String.format(
                      Locale.ROOT,
                      "%s (%s, %.2f px left)",
                      title(),
                      model.title(),
                      ((Outcome.FittedLens) o).residualPx()))
          .orElse(title());
    }
  }

  /**
   * Fits a lens to a received distortion map and uses it.
   *
   * @param map an OpenEXR of two channels
   * @param makes what the map does
   */
  @DecisionCode("fit-lens-to-map")
  record FitMap(Path map, Direction makes, LensModel model) implements PlateDecision {
    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      return Optional.of(MapLens.of(this, s, progress));
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      LensTrack lens = ((Outcome.MapLens) outcome.orElseThrow()).lens();
      String from = "fitted to " + map.getFileName();
      return Applied.whole(s.withLensWork(s.lensWork().with(new LensChoice.Given(lens, from))));
    }

    @Override
    public String title() {
      return "fit lens to " + map.getFileName();
    }
  }

  /** Uses the lens terms that refining found, for tracks that lie on the original plates. */
  @DecisionCode("use-refined-lens")
  record UseRefinedLens() implements PlateDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      LensTrack lens =
          s.vetting()
              .solve()
              .flatMap(r -> r.rest().lens(r.camera(), s.shot().picture()))
              .map(LensTrack::of)
              .orElseThrow(
                  () ->
                      InputError.words(
                          "no lens terms were refined", "Refine with lens terms at Vet first"));
      return Applied.whole(
          s.withLensWork(s.lensWork().with(new LensChoice.Given(lens, "refined at Vet"))));
    }

    @Override
    public String title() {
      return "use refined lens";
    }
  }

  /** Makes undistorted plates of the original ones; they become the shot's undistorted plates. */
  @DecisionCode("undistort")
  record Undistort(Undistortion how) implements PlateDecision {
    private static final int MOST_NAMED = 5;

    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      LensTrack lens = lens(s);
      PlateSequence from = original(s);
      int jobs = Math.max(1, Runtime.getRuntime().availableProcessors() - 1);
      SequenceRemap.Outcome made = how.run(from, lens, jobs, progress);
      if (made.made().isEmpty() && made.fresh().isEmpty()) {
        Map.Entry<Integer, String> first = made.failed().firstEntry();
        throw InputError.words(
            "none of " + from.frames().count() + " plates could be made: " + first.getValue(), "");
      }
      PictureSize size = how.overscan().on(lens, from.size()).size();
      return Optional.of(
          new Outcome.Undistorted(
                  size, made.made().size(), made.fresh().size(), made.failed(), Optional.empty())
              .with(sequence(s)));
    }

    private static LensTrack lens(ShotState s) {
      ShotLens l = s.lens();
      return l.track()
          .orElseThrow(() -> InputError.words(l.problem(), "Choose the lens of the plates first"));
    }

    /** Plates of the new pictures, with the original's place in them. */
    private PlateSequence placed(PlateSequence made, ShotState s) {
      PictureSize picture = original(s).size();
      return how.overscan() instanceof OverscanRule.Part p
          ? made.around(new Inset(picture, 0 - p.x(), 0 - p.y()))
          : made.around(picture);
    }

    /** The pictures as they are on disk now. */
    private PlateSequence sequence(ShotState s) {
      PlateSequence from = original(s);
      SequenceName t = how.target(from);
      Path first = t.file(from.frames().first());
      return PlateFinder.find(t.folder()).stream()
          .filter(p -> p.pattern().equals(t.pattern()))
          .findFirst()
          .map(p -> placed(p.withRole(PlateRole.UNDISTORTED), s))
          .orElseThrow(
              () ->
                  new InputError(first.toString(), "", "the pictures are gone", "Undistort again"));
    }

    /** Pictures that are gone are still the shot's: what cannot be read is said where they show. */
    @Override
    public Outcome reread(Outcome stored, ShotState s, Progress progress) {
      Outcome.Undistorted u = (Outcome.Undistorted) stored;
      try {
        return u.with(sequence(s));
      } catch (InputError e) {
        PlateSequence from = original(s);
        SequenceName t = how.target(from);
        return u.with(
            placed(
                new PlateSequence(
                    t.folder(),
                    t.prefix(),
                    t.padding(),
                    t.suffix(),
                    from.frames(),
                    from.missing(),
                    u.size(),
                    PlateRole.UNDISTORTED),
                s));
      }
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Outcome.Undistorted u = (Outcome.Undistorted) outcome.orElseThrow();
      PlateSequence made = u.plates().orElseThrow();
      ReceivedSet set =
          s.received()
              .orElseThrow(() -> InputError.words("the shot came from no files", "Drop its files"));
      List<PlateSequence> all = new ArrayList<>();
      all.add(made);
      set.plates().stream()
          .filter(p -> !p.folder().equals(made.folder()) || !p.pattern().equals(made.pattern()))
          .forEach(all::add);
      return new Applied(s.withReceived(set.withPlates(all)), missed(u));
    }

    /** Frames one by one, or their number and the first: a full disk fails all of them. */
    private static List<String> missed(Outcome.Undistorted u) {
      List<String> all = new ArrayList<>();
      u.failed().forEach((f, why) -> all.add("frame " + f + ": " + why));
      return all.size() <= MOST_NAMED
          ? all
          : List.of(all.size() + " frames could not be made; " + all.get(0));
    }

    @Override
    public String title() {
      return "undistort plates";
    }

    @Override
    public String title(Optional<Outcome> outcome) {
      return outcome
          .map(o -> title() + ", " + how.filter().code() + ", " + ((Outcome.Undistorted) o).size())
          .orElse(title());
    }
  }

  private static PlateSequence original(ShotState s) {
    return s.shot()
        .plate(PlateRole.ORIGINAL)
        .orElseThrow(
            () ->
                InputError.words("the shot has no original plates", "Drop the folder they are in"));
  }

  private static Luma luma(ShotState s, int frame) {
    return PlateLuma.of(original(s), frame)
        .orElseThrow(
            () ->
                InputError.words(
                    "the original plate of frame " + frame + " cannot be read",
                    "Choose another frame"));
  }
}
