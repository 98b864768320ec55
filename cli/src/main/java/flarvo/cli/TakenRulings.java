package flarvo.cli;

import flarvo.receive.Fact;
import flarvo.receive.IntakeOptions;
import flarvo.receive.LedgerMaker;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/**
 * Files of one shot, made a shot under what the ledger proposes, so that a solve that is numbered
 * from 0 meets tracks that are numbered from 1001; what was taken is said on standard error.
 */
final class TakenRulings {

  @Spec(Spec.Target.MIXEE)
  private CommandSpec spec;

  @Option(
      names = "--rule",
      paramLabel = "FACT=VALUE",
      description = "ruling in place of the ledger's proposal; may be repeated")
  private Map<String, String> rules = new LinkedHashMap<>();

  Shot shot(ShotIntake intake, List<Path> files, IntakeOptions options, Progress progress) {
    for (Path p : files) {
      intake.add(p, options, progress);
    }
    ReceivedSet received = intake.received(options);
    Rulings own = ruled(Rulings.NONE, rules);
    Rulings all = LedgerMaker.of(received, own, Observations.NONE, progress).proposals();
    all.texts()
        .forEach(
            (fact, text) -> {
              if (own.of(fact).isEmpty()) {
                spec.commandLine().getErr().println("flarvo: assumed " + fact.id() + "=" + text);
              }
            });
    received.notes().forEach(n -> spec.commandLine().getErr().println("flarvo: read: " + n));
    return received.shot(files.get(0).getFileName().toString(), all);
  }

  static Rulings ruled(Rulings base, Map<String, String> texts) {
    Rulings r = base;
    for (Map.Entry<String, String> e : texts.entrySet()) {
      Fact<?> fact =
          Fact.of(e.getKey())
              .orElseThrow(
                  () ->
                      InputError.words(
                          "there is no fact '" + e.getKey() + "'", "See 'ledger --json'"));
      try {
        r = r.with(fact, e.getValue());
      } catch (IllegalArgumentException bad) {
        throw InputError.words(bad.getMessage(), "");
      }
    }
    return r;
  }
}
