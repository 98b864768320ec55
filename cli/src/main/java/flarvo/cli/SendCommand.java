package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.decision.ShotState;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.DeliveryFiles;
import flarvo.dispatch.DeliveryPlace;
import flarvo.dispatch.PathPattern;
import flarvo.plate.match.PlateCheck;
import flarvo.proof.BoardSender;
import flarvo.proof.Handover;
import flarvo.proof.ProofReport;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(
    name = "send",
    description = "Writes the deliveries of a project's shot and proves each from its file.",
    footer = {
      "",
      "Example:",
      "  flarvo send show/project.json --shot sh010 --recipient Animation",
      "",
      "Exit code 1 where a delivery does not hold; 2 where one could not be written."
    })
final class SendCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Mixin private ProjectShotOption shot;

  @Option(
      names = "--recipient",
      paramLabel = "NAME",
      description = "only this delivery of the board; may be repeated")
  private List<String> recipients = List.of();

  @Option(names = "--overwrite", description = "replace files that are there")
  private boolean overwrite;

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  /**
   * What became of one delivery; a proof is missing where it was not written.
   *
   * @param beside what was written beside the file, from the folder of deliveries
   */
  private record Sent(
      Delivery delivery, String file, List<String> beside, Handover handover, String why) {

    static Sent not(Delivery d, String file, String why) {
      return new Sent(d, file, List.of(), null, why);
    }
  }

  @Override
  public Integer call() {
    ShotState s = progress.run("reading", shot::open);
    List<Delivery> wanted = wanted(s);
    List<Sent> all = progress.run("sending", p -> send(s, wanted, p));
    PrintWriter to = spec.commandLine().getOut();
    if (json.asked()) {
      to.println(Json.text(document(s, all)));
    } else {
      all.forEach(x -> print(to, x));
    }
    if (all.stream().anyMatch(x -> x.handover() == null)) {
      return ExitCode.BAD_INPUT;
    }
    return all.stream().allMatch(x -> x.handover().proof().holds())
        ? ExitCode.HOLDS
        : ExitCode.DOES_NOT_HOLD;
  }

  private List<Delivery> wanted(ShotState s) {
    if (s.deliveries().isEmpty()) {
      throw InputError.words("the shot has no deliveries", "Add them in Dispatch");
    }
    for (String r : recipients) {
      if (s.deliveries().stream().noneMatch(d -> d.name().equals(r))) {
        throw InputError.words(
            "there is no delivery '" + r + "'",
            "The board has: "
                + String.join(", ", s.deliveries().stream().map(Delivery::name).toList()));
      }
    }
    return s.deliveries().stream()
        .filter(d -> recipients.isEmpty() || recipients.contains(d.name()))
        .toList();
  }

  private List<Sent> send(ShotState s, List<Delivery> wanted, Progress p) {
    List<PlateCheck> plates = PlateCheck.of(s.shot(), s.lens().track(), p);
    Sent[] became = new Sent[wanted.size()];
    List<BoardSender.Order> orders = new ArrayList<>();
    List<Integer> ordered = new ArrayList<>();
    List<String> names = new ArrayList<>();
    Map<Path, Delivery> taken = new HashMap<>();
    for (int i = 0; i < became.length; i++) {
      Delivery d = wanted.get(i);
      String name = "";
      try {
        name =
            PathPattern.next(
                shot.deliveries(),
                d,
                shot.project().name(),
                s.name(),
                s.shot().frames(),
                f -> Files.exists(f) || taken.containsKey(f));
        Path file = DeliveryPlace.in(shot.deliveries(), name);
        take(s, d, file, taken);
        orders.add(new BoardSender.Order(d, file));
        ordered.add(i);
        names.add(name);
      } catch (InputError e) {
        became[i] = Sent.not(d, name, e.getMessage());
      }
    }
    List<BoardSender.Outcome> all =
        BoardSender.send(s.outgoing(), orders, ProofReport.USUAL_LIMIT_PX, plates, p);
    for (int i = 0; i < all.size(); i++) {
      Delivery d = orders.get(i).delivery();
      String name = names.get(i);
      Path file = orders.get(i).file();
      String why = all.get(i).why();
      became[ordered.get(i)] =
          all.get(i)
              .handover()
              .map(h -> new Sent(d, name, beside(s, d, file), h, ""))
              .orElseGet(() -> Sent.not(d, name, why));
    }
    return List.of(became);
  }

  /** Copies of plates are their folder: there is one a frame. */
  private List<String> beside(ShotState s, Delivery d, Path file) {
    Path folder = DeliveryPlace.plates(file);
    Path in = shot.deliveries().toAbsolutePath().normalize();
    return DeliveryFiles.beside(s.outgoing(), d, file).stream()
        .map(f -> f.startsWith(folder) ? folder : f)
        .distinct()
        .map(f -> in.relativize(f).toString().replace('\\', '/') + (f.equals(folder) ? "/" : ""))
        .toList();
  }

  /** Takes the files of a delivery, if no other has them and none is there. */
  private void take(ShotState s, Delivery d, Path file, Map<Path, Delivery> taken) {
    List<Path> files = DeliveryFiles.of(s.outgoing(), d, file);
    for (Path f : files) {
      if (taken.containsKey(f)) {
        throw new InputError(
            f.toString(),
            "",
            "is also the file of " + taken.get(f).name(),
            "Use {recipient} in the name");
      }
      if (!overwrite && Files.exists(f)) {
        throw new InputError(
            f.toString(), "", "is there", "Use {version} in the name, or --overwrite");
      }
    }
    files.forEach(f -> taken.put(f, d));
  }

  private static void print(PrintWriter to, Sent x) {
    if (x.handover() == null) {
      to.println(x.delivery().name() + " was not sent: " + x.why());
      return;
    }
    to.println(x.delivery().name() + " " + x.handover().proof().sentence());
    to.println("  wrote " + x.file());
    for (String b : x.beside()) {
      to.println("  wrote " + b);
    }
    for (Note n : x.handover().sent().notes()) {
      to.println("  " + n.kind().word() + ": " + n);
    }
  }

  private static ObjectNode document(ShotState s, List<Sent> all) {
    ObjectNode o = Json.object().put("shot", s.name());
    ArrayNode list = o.putArray("deliveries");
    for (Sent x : all) {
      ObjectNode n = list.addObject().put("recipient", x.delivery().name());
      ArrayNode beside = n.putArray("beside");
      x.beside().forEach(beside::add);
      n.put("file", x.file()).put("sent", x.handover() != null);
      n.put("holds", x.handover() != null && x.handover().proof().holds());
      n.put("said", x.handover() == null ? x.why() : x.handover().proof().sentence());
      if (x.handover() != null) {
        n.set("losses", Json.notes(x.handover().sent().notes()));
      }
    }
    return o;
  }
}
