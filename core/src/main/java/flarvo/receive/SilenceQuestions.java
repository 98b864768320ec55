package flarvo.receive;

import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;

/** Axis and unit of files that say neither. */
final class SilenceQuestions {

  private final Weighing w;

  SilenceQuestions(Weighing w) {
    this.w = w;
  }

  /** Points from a file that says neither axis nor unit, beside a camera from another. */
  void silentAxesAndUnit() {
    List<ReceivedFile> silent =
        w.set().files().stream()
            .filter(f -> f.isSilentOnAxes() || f.isSilentOnUnit())
            .filter(f -> !f.scene().cameras().isEmpty() || !f.scene().trackers().isEmpty())
            .toList();
    if (silent.isEmpty()) {
      return;
    }
    Optional<Claim<SignedAxis>> loggedUp = w.logged(Fact.UP_AXIS);
    Optional<Claim<LinearUnit>> loggedUnit = w.logged(Fact.UNIT);
    String bestUp = loggedUp.map(Claim::text).orElse("+Y");
    String bestUnit = loggedUnit.map(Claim::text).orElse("m");
    Map<Fact<?>, List<Evidence>> evidence = new TreeMap<>();
    double best =
        w.trials().under(w.taken().with(Fact.UP_AXIS, bestUp).with(Fact.UNIT, bestUnit)).errorPx();
    for (String up : new String[] {"+Y", "+Z"}) {
      for (String unit : new String[] {"m", "cm", "mm", "inch", "foot"}) {
        double px =
            w.trials().under(w.taken().with(Fact.UP_AXIS, up).with(Fact.UNIT, unit)).errorPx();
        // Equally good is no reason: a camera that only turns fits in any unit.
        if (px < Weighing.BETTER * best || Double.isNaN(best) && !Double.isNaN(px)) {
          best = px;
          bestUp = up;
          bestUnit = unit;
        }
      }
    }
    evidence.put(
        Fact.UP_AXIS,
        w.trials()
            .under(w.taken().with(Fact.UNIT, bestUnit))
            .of(Fact.UP_AXIS, Map.of("+Y", "+Y up", "+Z", "+Z up")));
    Map<String, String> units = new LinkedHashMap<>();
    for (String u : new String[] {"m", "cm", "mm", "inch", "foot"}) {
      units.put(u, u);
    }
    evidence.put(
        Fact.UNIT, w.trials().under(w.taken().with(Fact.UP_AXIS, bestUp)).of(Fact.UNIT, units));
    silence(
        Fact.UP_AXIS,
        silent.stream().filter(ReceivedFile::isSilentOnAxes).toList(),
        " does not state its up axis",
        bestUp,
        evidence.get(Fact.UP_AXIS));
    silence(
        Fact.UNIT,
        silent.stream().filter(ReceivedFile::isSilentOnUnit).toList(),
        " does not state its unit",
        bestUnit,
        evidence.get(Fact.UNIT));
  }

  private void silence(
      Fact<?> fact, List<ReceivedFile> silent, String what, String best, List<Evidence> evidence) {
    if (!silent.isEmpty()) {
      String names = silent.stream().map(ClaimCollector::name).collect(Collectors.joining(", "));
      w.conflict(
          fact,
          names + what,
          best,
          Weighing.measured(reason(evidence, w.logged(fact)), evidence),
          evidence);
    }
  }

  /** Why a silent fact is proposed so: measured, or told, or the custom. */
  private String reason(List<Evidence> evidence, Optional<? extends Claim<?>> log) {
    String otherwise =
        log.map(c -> "the log states it (" + c.place() + ")").orElse("the usual default");
    if (evidence.size() < 2) {
      return otherwise;
    }
    double best = evidence.get(0).errorPx();
    double next = evidence.get(1).errorPx();
    return best < Weighing.BETTER * next
        ? "best fit to " + w.measuredOn()
        : otherwise + "; " + w.measuredOn() + " fit equally well otherwise";
  }
}
