package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.receive.Claim;
import flarvo.receive.Conflict;
import flarvo.receive.Evidence;
import flarvo.receive.IntakeOptions;
import flarvo.receive.Ledger;
import flarvo.receive.LedgerMaker;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "ledger",
    description = "Compares what the files of a shot claim, and proposes rulings.",
    footer = {
      "",
      "Examples:",
      "  flarvo ledger incoming/ --rule rate=24000/1001",
      "  flarvo ledger incoming/ --evidence plates/undistorted"
    })
final class LedgerCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(
      arity = "1..*",
      paramLabel = "FILE",
      description = "everything received for one shot; folders are searched")
  private List<Path> files;

  @Option(
      names = "--rule",
      paramLabel = "FACT=VALUE",
      description = "ruling, such as rate=24000/1001 or filmBack=36x24; may be repeated")
  private Map<String, String> rules = new LinkedHashMap<>();

  @Option(
      names = "--evidence",
      paramLabel = "PLATES|TRACKS",
      description =
          "measures readings on features of these undistorted plates, or on these 2D tracks, where"
              + " the files bring none")
  private Path evidence;

  @Mixin private TableOptions tables;

  @Mixin private OutsideOption outside;

  @Mixin private JsonOption json;

  /** Done when nothing contradicts or all is ruled; 1 while a question is open. */
  @Override
  public Integer call() {
    Rulings rulings = TakenRulings.ruled(Rulings.NONE, rules);
    ShotIntake intake = tables.noting();
    IntakeOptions options = IntakeOptions.NONE.withReach(outside.reach());
    for (Path f : files) {
      intake.add(f, options, Progress.NONE);
    }
    ReceivedSet set = intake.received(options);
    Ledger ledger = LedgerMaker.of(set, rulings, measuredOn(set, options), Progress.NONE);
    var out = spec.commandLine().getOut();
    if (json.asked()) {
      out.println(Json.text(document(ledger)));
    } else {
      out.print(ledger.asText());
    }
    return ledger.open().isEmpty() ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private Observations measuredOn(ReceivedSet set, IntakeOptions options) {
    if (evidence == null) {
      return Observations.NONE;
    }
    if (set.files().stream().anyMatch(f -> !f.scene().observations().isEmpty())) {
      throw new InputError(
          evidence.toString(),
          "",
          "the files bring 2D tracks of their own, and readings are measured on those",
          "Leave --evidence out");
    }
    return EvidenceFile.read(evidence, tables.noting(), options, Progress.NONE).tracks();
  }

  private static ObjectNode document(Ledger l) {
    ObjectNode o = Json.object();
    ArrayNode claims = o.putArray("claims");
    for (Claim<?> c : l.claims()) {
      claims
          .addObject()
          .put("fact", c.fact().id())
          .put("source", c.source())
          .put("value", c.text())
          .put("assumed", c.assumed())
          .put("place", c.place());
    }
    ArrayNode conflicts = o.putArray("conflicts");
    for (Conflict c : l.conflicts()) {
      ObjectNode n = conflicts.addObject().put("fact", c.fact().id());
      n.put("sentence", c.sentence()).put("proposal", c.proposal()).put("reason", c.reason());
      n.put("ruled", c.ruled());
      ArrayNode evidence = n.putArray("evidence");
      for (Evidence e : c.evidence()) {
        evidence
            .addObject()
            .put("reading", e.reading())
            .put("ruling", e.ruling())
            .put("errorPx", e.errorPx());
      }
    }
    ObjectNode rulings = o.putObject("rulings");
    l.rulings().texts().forEach((f, text) -> rulings.put(f.id(), text));
    return o;
  }
}
