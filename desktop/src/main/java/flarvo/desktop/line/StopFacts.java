package flarvo.desktop.line;

import flarvo.desktop.session.SendState;
import flarvo.desktop.session.Session;
import flarvo.desktop.session.Stop;
import flarvo.dispatch.Delivery;
import flarvo.level.LevelReading;
import flarvo.level.Stated;
import flarvo.proof.DriftReport;
import flarvo.proof.ProofReport;
import flarvo.receive.Ledger;
import flarvo.scene.PlateRole;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** The one fact under each stop's name that matters now, and how far the stop has come. */
final class StopFacts {

  /** How full the station's marker is, so that it reads without colour. */
  enum Mark {
    HOLLOW,
    HALF,
    FULL
  }

  record Fact(String text, Mark mark, boolean bad) {}

  private final Session session;

  StopFacts(Session session) {
    this.session = session;
  }

  Fact of(Stop stop) {
    if (session.state().get() == null) {
      return new Fact(stop == Stop.RECEIVE ? "nothing yet" : "–", Mark.HOLLOW, false);
    }
    Shot shot = session.state().get().shot();
    return switch (stop) {
      case RECEIVE -> receive(shot);
      case VET -> vet();
      case LEVEL -> level(shot);
      case PLATE ->
          shot.plate(PlateRole.UNDISTORTED).isPresent()
              ? new Fact("as given", Mark.HALF, false)
              : new Fact("not built yet", Mark.HOLLOW, false);
      case DISPATCH -> dispatch();
      case PROOF -> proof();
    };
  }

  private Fact receive(Shot shot) {
    String facts = shot.frames().count() + " · " + shot.rate().display();
    Ledger l = session.ledger().get();
    int open = l == null ? 0 : l.open().size();
    return open == 0
        ? new Fact(facts, Mark.FULL, false)
        : new Fact(open + (open == 1 ? " conflict" : " conflicts"), Mark.HALF, true);
  }

  private Fact vet() {
    if (session.errors().get() == null) {
      return new Fact("no 2D tracks", Mark.HOLLOW, false);
    }
    double rms = session.errors().get().rmsPx();
    boolean over = rms > session.view().errorLimitPx().get();
    return new Fact(
        String.format(Locale.ROOT, rms < 1000 ? "%.2f px" : "%,.0f px", rms),
        over ? Mark.HALF : Mark.FULL,
        over);
  }

  /** Stated and whole, set by hand or given, or nothing yet. */
  private Fact level(Shot shot) {
    long said = session.level().staging().statements().stream().filter(Stated::on).count();
    if (said > 0) {
      LevelReading r = session.level().reading().get();
      boolean open = r != null && r.lines().stream().anyMatch(l -> l.problem().isPresent());
      return new Fact(
          open ? "conflict" : said + " stated · " + unit(shot),
          open || r != null && !r.free().isEmpty() ? Mark.HALF : Mark.FULL,
          open);
    }
    return shot.level().equals(Similarity.IDENTITY)
        ? new Fact("as it came", Mark.HOLLOW, false)
        : new Fact("levelled · " + unit(shot), Mark.HALF, false);
  }

  private static String unit(Shot shot) {
    return String.format(Locale.ROOT, "%.3f m", shot.level().scale());
  }

  private Fact dispatch() {
    List<Delivery> all = session.state().get().deliveries();
    long sent =
        all.stream()
            .map(d -> session.sending().states().get(d))
            .filter(s -> s != null && s.stage() == SendState.Stage.SENT)
            .count();
    boolean failed =
        session.sending().states().values().stream()
            .anyMatch(s -> s.stage() == SendState.Stage.FAILED);
    if (all.isEmpty()) {
      return new Fact("no deliveries", Mark.HOLLOW, false);
    }
    return new Fact(
        sent + " of " + all.size() + " sent",
        sent == 0 ? Mark.HOLLOW : sent == all.size() ? Mark.FULL : Mark.HALF,
        failed);
  }

  private Fact proof() {
    List<ProofReport> proofs =
        session.sending().states().values().stream()
            .map(SendState::proof)
            .flatMap(Optional::stream)
            .toList();
    if (proofs.isEmpty()) {
      return new Fact("none sent", Mark.HOLLOW, false);
    }
    long broken = proofs.stream().filter(p -> !p.holds()).count();
    if (broken > 0) {
      return new Fact(broken + " do not hold", Mark.HALF, true);
    }
    double worst =
        proofs.stream()
            .map(ProofReport::drift)
            .flatMap(Optional::stream)
            .mapToDouble(DriftReport::maxPx)
            .max()
            .orElse(0);
    return new Fact(
        px(worst),
        proofs.size() == session.state().get().deliveries().size() ? Mark.FULL : Mark.HALF,
        false);
  }

  /** Pixels with as many digits as the number needs to be more than zero. */
  static String px(double v) {
    return v >= 0.001 || v == 0
        ? String.format(Locale.ROOT, "%.4f px", v)
        : String.format(Locale.ROOT, "%.6f px", v);
  }
}
