package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.folder.ShotFinder;
import flarvo.project.BoardShelf;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectShot;
import flarvo.project.ShotArrivals;
import flarvo.project.ShotArrivals.Arrival;
import flarvo.project.StartBoard;
import flarvo.project.StudioDialects;
import flarvo.project.UserFolder;
import flarvo.receive.Conflict;
import flarvo.receive.IntakeOptions;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.shotlist.ShotList;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "receive",
    description = "Finds the files of many shots in folders, and adds the shots to a project.",
    footer = {
      "",
      "Example:",
      "  flarvo receive /show/shots --list reel.otio --project show/project.json",
      "",
      "Shots that the project has already stay as they are.",
      "Exit code 1 where a ledger has an open question, or a shot could not be added."
    })
final class ReceiveCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(arity = "1..*", paramLabel = "DIR", description = "folders that contain the shots")
  private List<Path> folders;

  @Option(
      names = "--project",
      required = true,
      paramLabel = "FILE",
      description = "project file; made where it does not exist")
  private Path file;

  @Option(
      names = "--list",
      paramLabel = "LIST",
      description = "shot list (CSV or OpenTimelineIO): names of the shots, frames and handles")
  private Path list;

  @Option(
      names = "--board",
      paramLabel = "NAME",
      description = "saved board for each new shot, or 'usual' (default: none)")
  private String board;

  @Option(
      names = "--jobs",
      paramLabel = "N",
      description = "shots at once (default: the number of processors)")
  private int jobs = Runtime.getRuntime().availableProcessors();

  @Mixin private OutsideOption outside;

  @Mixin private ProgressOption progress;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    if (jobs < 1) {
      throw InputError.words("--jobs " + jobs, "Give 1 or more");
    }
    ProjectFile before = ProjectFile.readOrNew(file);
    StartBoard start =
        StartBoard.of(
            board == null ? "" : board, new BoardShelf(UserFolder.settings(), Dialects.shipped()));
    Optional<ShotList> shots = Optional.ofNullable(list).map(ShotList::read);
    ShotFinder.Found found = progress.run("searching", p -> ShotFinder.find(folders, shots, p));
    IntakeOptions options = IntakeOptions.NONE.withReach(outside.reach());
    List<Arrival> all =
        progress.run("reading", p -> ShotArrivals.of(before, found.shots(), options, jobs, p));
    List<ProjectShot> added = ShotArrivals.added(all, start, StudioDialects.known());
    if (!added.isEmpty()) {
      ShotArrivals.save(before, added);
    }
    PrintWriter out = spec.commandLine().getOut();
    if (json.asked()) {
      out.println(Json.text(document(all, found.notes())));
    } else {
      print(out, all, added.size(), found.notes());
    }
    boolean clear =
        all.stream()
            .filter(a -> !a.known())
            .allMatch(a -> a.entry().isPresent() && a.open().isEmpty());
    return clear ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private void print(PrintWriter out, List<Arrival> all, int added, List<Note> notes) {
    int width = all.stream().mapToInt(a -> a.name().length()).max().orElse(0);
    for (Arrival a : all) {
      out.printf("%-" + Math.max(1, width) + "s  %s%n", a.name(), words(a));
      for (Conflict c : a.open()) {
        out.println("    ? " + c.fact().id() + ": " + c.sentence() + proposal(c));
      }
      a.received()
          .ifPresent(
              r ->
                  r.unmapped()
                      .forEach(
                          p -> out.println("    ? " + p.getFileName() + ": columns not assigned")));
      a.notes().stream()
          .filter(n -> n.kind() == Note.Kind.IGNORED || n.kind() == Note.Kind.LOST)
          .forEach(n -> out.println("    " + n));
    }
    notes.forEach(n -> out.println("  " + n));
    out.println(
        added == 0
            ? "no shot added"
            : (added == 1 ? "1 shot" : added + " shots") + " added to " + file);
  }

  private static String proposal(Conflict c) {
    return c.proposal().isEmpty() ? "" : "; proposed: " + c.proposal();
  }

  private static String words(Arrival a) {
    if (a.entry().isEmpty()) {
      return (a.known() ? "" : "not added: ") + a.said();
    }
    ProjectShot e = a.entry().get();
    int open = a.open().size();
    return count(e.files().size(), "file")
        + ", "
        + (e.plates().isEmpty()
            ? "no plates"
            : a.received().orElseThrow().plates().stream()
                .map(p -> p.role().word() + " plates " + p.frames())
                .collect(Collectors.joining(", ")))
        + "; "
        + (open == 0 ? "no open question" : count(open, "open question"));
  }

  private static String count(int n, String what) {
    return n + " " + what + (n == 1 ? "" : "s");
  }

  private ObjectNode document(List<Arrival> all, List<Note> notes) {
    ObjectNode o = Json.object();
    o.put("project", file.toString());
    ArrayNode shots = o.putArray("shots");
    for (Arrival a : all) {
      ObjectNode n = shots.addObject().put("name", a.name());
      n.put("added", a.entry().isPresent()).put("known", a.known()).put("said", a.said());
      ArrayNode files = n.putArray("files");
      ArrayNode plates = n.putArray("plates");
      a.entry()
          .ifPresent(
              e -> {
                e.files().forEach(files::add);
                e.plates().forEach(p -> plates.add(p.path() + "/" + p.pattern().orElse("")));
              });
      ArrayNode open = n.putArray("open");
      for (Conflict c : a.open()) {
        open.addObject()
            .put("fact", c.fact().id())
            .put("sentence", c.sentence())
            .put("proposal", c.proposal());
      }
      ArrayNode own = n.putArray("notes");
      a.notes().forEach(x -> own.add(x.kind().word() + " " + x));
    }
    ArrayNode rest = o.putArray("notes");
    notes.forEach(x -> rest.add(x.kind().word() + " " + x));
    return o;
  }
}
