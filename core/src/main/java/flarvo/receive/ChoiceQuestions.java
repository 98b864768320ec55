package flarvo.receive;

import flarvo.format.FileCamera;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Which take and which camera, where a file has several. */
final class ChoiceQuestions {

  private final Weighing w;

  ChoiceQuestions(Weighing w) {
    this.w = w;
  }

  void take() {
    Optional<ReceivedFile> several =
        w.set().files().stream().filter(f -> f.takes().size() > 1).findFirst();
    if (several.isEmpty()) {
      return;
    }
    Map<String, String> readings = new LinkedHashMap<>();
    several.get().takes().keySet().forEach(t -> readings.put(t, t));
    choice(
        Fact.TAKE,
        ClaimCollector.name(several.get()) + " holds " + readings.size() + " takes",
        readings,
        "it is the file's first");
  }

  void whichCamera() {
    List<FileCamera> all = w.cameras().toList();
    if (all.size() < 2) {
      return;
    }
    // Views that a program makes by itself stand still; the shot's camera has most keys.
    FileCamera most = all.get(0);
    for (FileCamera c : all) {
      most = c.keys() > most.keys() ? c : most;
    }
    Map<String, String> readings = new LinkedHashMap<>();
    readings.put(most.camera().name(), most.camera().name());
    all.forEach(c -> readings.putIfAbsent(c.camera().name(), c.camera().name()));
    choice(
        Fact.CAMERA,
        "the files hold " + all.size() + " cameras",
        readings,
        "it has the most keys (" + most.keys() + ")");
  }

  /** One of several: the first reading, unless another fits the tracks clearly better. */
  private void choice(Fact<?> fact, String sentence, Map<String, String> readings, String why) {
    List<Evidence> evidence = w.trials().of(fact, readings);
    String proposal = readings.keySet().iterator().next();
    String reason = why;
    if (!evidence.isEmpty()
        && evidence.get(0).errorPx() < Weighing.BETTER * Weighing.of(evidence, proposal)) {
      proposal = evidence.get(0).ruling();
      reason = w.measuredOn() + " fit it best";
    }
    w.conflict(fact, sentence, proposal, Weighing.measured(reason, evidence), evidence);
  }
}
