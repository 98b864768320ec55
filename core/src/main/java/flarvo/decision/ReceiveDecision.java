package flarvo.decision;

import flarvo.convention.Dialect;
import flarvo.format.table.TableMapping;
import flarvo.receive.Fact;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.stage.SolveOnSolve;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** How what came in is read. */
public sealed interface ReceiveDecision extends Decision {

  /**
   * Rules on one fact.
   *
   * @param text as typed; empty withdraws the ruling
   */
  @DecisionCode("rule")
  record Rule(Fact<?> fact, Optional<String> text) implements ReceiveDecision {
    public Rule {
      text.ifPresent(fact::check); // a ruling that means nothing never comes to be
    }

    /**
     * @param text null withdraws the ruling
     */
    public Rule(Fact<?> fact, String text) {
      this(fact, Optional.ofNullable(text));
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withRulings(s.rulings().with(fact, text.orElse(null))));
    }

    @Override
    public String title() {
      String name = fact.title().toLowerCase(Locale.ROOT);
      return text.isEmpty() ? "withdraw ruling on " + name : "set " + name + " to " + text.get();
    }
  }

  /** Accepts every open proposal of the ledger. */
  @DecisionCode("accept-proposals")
  record AcceptProposals() implements ReceiveDecision {
    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      return Optional.of(new Outcome.Ruled(StateLedger.of(s, progress).proposals()));
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withRulings(((Outcome.Ruled) outcome.orElseThrow()).rulings()));
    }

    @Override
    public String title() {
      return "accept all proposals";
    }
  }

  /**
   * Says what a plate sequence is for.
   *
   * @param pattern of its files, such as {@code terrace.####.jpg}
   */
  @DecisionCode("set-plate-role")
  record SetPlateRole(String pattern, PlateRole role) implements ReceiveDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      ReceivedSet set = s.received().orElseThrow(this::notFound);
      List<PlateSequence> all = new ArrayList<>(set.plates());
      boolean found = false;
      for (int i = 0; i < all.size(); i++) {
        if (all.get(i).pattern().equals(pattern)) {
          all.set(i, all.get(i).withRole(role));
          found = true;
        }
      }
      if (!found) {
        throw notFound();
      }
      return Applied.whole(s.withReceived(set.withPlates(all)));
    }

    private InputError notFound() {
      return InputError.words("plates " + pattern + " not found", "Drop the folder they are in");
    }

    @Override
    public String title() {
      return pattern + " is " + role.word();
    }
  }

  /** Reads a table as a mapping says. */
  @DecisionCode("map-table")
  record MapTable(Path file, TableMapping mapping) implements ReceiveDecision {
    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      Optional<Dialect> from = s.received().flatMap(r -> r.base().from());
      return Optional.of(
          new Outcome.Table(Optional.of(ReceivedFile.read(file, mapping, from, progress))));
    }

    @Override
    public Outcome reread(Outcome stored, ShotState s, Progress progress) {
      return work(s, progress).orElseThrow();
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      ReceivedFile f = ((Outcome.Table) outcome.orElseThrow()).file().orElseThrow();
      return Applied.whole(s.withReceived(s.received().orElseThrow().with(f)));
    }

    @Override
    public List<Path> files() {
      return List.of(file);
    }

    @Override
    public MapTable withPaths(UnaryOperator<Path> moved) {
      return new MapTable(moved.apply(file), mapping);
    }

    @Override
    public String title() {
      return "map columns of " + file.getFileName();
    }
  }

  /**
   * Reads cameras and points as a sender's dialect has them, where the files do not state
   * otherwise.
   *
   * @param dialect empty for what the files state by themselves
   */
  @DecisionCode("read-as")
  record ReadAs(Optional<Dialect> dialect) implements ReceiveDecision {
    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      ReceivedSet set = received(s);
      return Optional.of(new Outcome.Reread(Optional.of(set.readAs(dialect, progress))));
    }

    @Override
    public Outcome reread(Outcome stored, ShotState s, Progress progress) {
      return work(s, progress).orElseThrow();
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return withReread(s, outcome);
    }

    @Override
    public String title() {
      return dialect.map(d -> "read files as " + d.name()).orElse("read files as they state");
    }
  }

  /**
   * Takes keys of the camera that lie between frames as if they lay on the nearest one.
   *
   * @param wanted false to read them as they lie again
   */
  @DecisionCode("snap-keys")
  record SnapKeys(boolean wanted) implements ReceiveDecision {
    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      return Optional.of(new Outcome.Reread(Optional.of(received(s).snapKeys(wanted, progress))));
    }

    @Override
    public Outcome reread(Outcome stored, ShotState s, Progress progress) {
      return work(s, progress).orElseThrow();
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return withReread(s, outcome);
    }

    @Override
    public String title() {
      return wanted ? "snap keys to frames" : "read keys as they lie";
    }
  }

  private static Applied withReread(ShotState s, Optional<Outcome> outcome) {
    return Applied.whole(
        s.withReceived(((Outcome.Reread) outcome.orElseThrow()).set().orElseThrow()));
  }

  /** Puts another solve of the shot in the place of this one, aligned to it. */
  @DecisionCode("align-solve")
  record AlignSolve(List<Path> files) implements ReceiveDecision {
    public AlignSolve {
      files = List.copyOf(files);
    }

    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      ReceivedSet set = read(s, progress);
      Shot other = set.shot(s.name(), s.rulings());
      SolveOnSolve fit = SolveOnSolve.of(s.shot(), other, progress);
      return Optional.of(new Outcome.Alignment(fit.onto(), fit.words(s.level()), Optional.of(set)));
    }

    @Override
    public Outcome reread(Outcome stored, ShotState s, Progress progress) {
      Outcome.Alignment a = (Outcome.Alignment) stored;
      return new Outcome.Alignment(a.onto(), a.words(), Optional.of(read(s, progress)));
    }

    /** 2D tracks, logs, lenses and plates of the first solve belong to the second too. */
    private ReceivedSet read(ShotState s, Progress progress) {
      return s.received().isPresent()
          ? ShotIntake.otherSolve(s.received().get(), files, progress)
          : ShotIntake.of(files, progress).received(IntakeOptions.NONE);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Outcome.Alignment a = (Outcome.Alignment) outcome.orElseThrow();
      return Applied.whole(s.withSolve(a.set().orElseThrow(), a.onto()));
    }

    @Override
    public AlignSolve withPaths(UnaryOperator<Path> moved) {
      return new AlignSolve(files.stream().map(moved).toList());
    }

    @Override
    public String title() {
      return "align second solve";
    }
  }

  private static ReceivedSet received(ShotState s) {
    return s.received()
        .orElseThrow(() -> InputError.words("the shot came from no files", "Drop its files"));
  }

  /** The rulings that come of a decision, without the files that it rules on. */
  static Rulings ruled(Decision d, Optional<Outcome> outcome, Rulings before) {
    if (d instanceof Rule r) {
      return before.with(r.fact(), r.text().orElse(null));
    }
    if (d instanceof AcceptProposals && outcome.isPresent()) {
      return ((Outcome.Ruled) outcome.get()).rulings();
    }
    return d instanceof AsItStood a ? a.rulings() : before;
  }
}
