package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.decision.ShotState;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.DeliveryPlace;
import flarvo.dispatch.PathPattern;
import flarvo.note.HandoverNote;
import flarvo.plate.match.PlateCheck;
import flarvo.project.ProjectFile;
import flarvo.proof.ProofReport;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(
    name = "note",
    description =
        "Writes the hand-over note of a shot's deliveries, proven again from their files.",
    footer = {"", "Example:", "  flarvo note show/project.json --shot sh010"})
final class NoteCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Mixin private ProjectShotOption shot;

  @Option(
      names = "--out",
      paramLabel = "PAGE.html",
      description =
          "default: SHOT_note.html in the folder of deliveries; a note that is there is"
              + " replaced, and nothing else")
  private Path out;

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    ShotState s = progress.run("reading", shot::open);
    Path folder = shot.deliveries();
    ProjectFile project = shot.project();
    List<String> missing = new ArrayList<>();
    Map<Delivery, Path> sent = sent(project, s, folder, missing);
    if (sent.isEmpty()) {
      throw new InputError(
          folder.toString(), "", "none of the shot's deliveries is there", "Send them first");
    }
    HandoverNote note = progress.run("proving", p -> note(project, s, sent, p));
    Path page = out == null ? HandoverNote.page(folder, s.name()) : out;
    List<Path> written = progress.run("writing", p -> note.write(page, p));
    PrintWriter to = spec.commandLine().getOut();
    if (json.asked()) {
      to.println(Json.text(document(note, written, missing)));
    } else {
      written.forEach(w -> to.println("wrote " + w));
      to.println(note.sentence());
      note.entries()
          .forEach(e -> to.println("  " + e.delivery().name() + " " + e.proof().sentence()));
      missing.forEach(m -> to.println("  " + m + " was not sent and is not in the note"));
    }
    return note.holds() ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private static Map<Delivery, Path> sent(
      ProjectFile project, ShotState s, Path folder, List<String> missing) {
    Map<Delivery, Path> sent = new LinkedHashMap<>();
    for (Delivery d : s.deliveries()) {
      PathPattern.newest(folder, d, project.name(), s.name(), s.shot().frames())
          .ifPresentOrElse(
              f -> sent.put(d, DeliveryPlace.in(folder, f)), () -> missing.add(d.name()));
    }
    return sent;
  }

  private static HandoverNote note(
      ProjectFile project, ShotState s, Map<Delivery, Path> sent, Progress p) {
    List<PlateCheck> plates = PlateCheck.of(s.shot(), s.lens().track(), p);
    return HandoverNote.of(
        project.name(),
        s.name(),
        s.outgoing(),
        sent,
        plates,
        ProofReport.USUAL_LIMIT_PX,
        Instant.now(),
        p);
  }

  private static ObjectNode document(HandoverNote note, List<Path> written, List<String> missing) {
    ObjectNode o = Json.object();
    o.put("holds", note.holds()).put("sentence", note.sentence());
    ArrayNode files = o.putArray("files");
    written.forEach(w -> files.add(w.toString()));
    ArrayNode gone = o.putArray("notSent");
    missing.forEach(gone::add);
    return o;
  }
}
