package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.decision.DecisionLog;
import flarvo.decision.DispatchDecision;
import flarvo.decision.ShotState;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.FirstBoard;
import flarvo.folder.ShotFinder;
import flarvo.project.BoardShelf;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLock;
import flarvo.project.ProjectShot;
import flarvo.project.ShotArrivals;
import flarvo.project.ShotArrivals.Arrival;
import flarvo.project.StudioDialects;
import flarvo.project.UserFolder;
import flarvo.receive.Conflict;
import flarvo.receive.IntakeOptions;
import flarvo.receive.Ledger;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.shotlist.ShotList;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
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

  private static final String USUAL = "usual";

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
    ProjectFile before =
        Files.exists(file) ? ProjectFile.read(file) : new ProjectFile(file, stem(file), List.of());
    Optional<BoardShelf.Board> boards = savedBoard();
    Optional<ShotList> shots = Optional.ofNullable(list).map(ShotList::read);
    ShotFinder.Found found = progress.run("searching", p -> ShotFinder.find(folders, shots, p));
    List<Arrival> all = new ArrayList<>();
    List<Arrival> there = new ArrayList<>();
    var fresh = new ArrayList<>(found.shots());
    for (ProjectShot s : before.shots()) {
      if (fresh.removeIf(f -> f.name().equalsIgnoreCase(s.name()))) {
        there.add(
            new Arrival(
                s.name(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                "in the project already",
                List.of()));
      }
    }
    IntakeOptions options = IntakeOptions.NONE.withReach(outside.reach());
    all.addAll(progress.run("reading", p -> ShotArrivals.of(file, fresh, options, jobs, p)));
    List<ProjectShot> added =
        all.stream().flatMap(a -> a.entry().map(e -> withBoard(e, a, boards)).stream()).toList();
    if (!added.isEmpty()) {
      save(before, added);
    }
    all.addAll(there);
    PrintWriter out = spec.commandLine().getOut();
    if (json.asked()) {
      out.println(Json.text(document(all, there, found.notes())));
    } else {
      print(out, all, added.size(), found.notes());
    }
    boolean clear =
        all.stream()
            .filter(a -> !there.contains(a))
            .allMatch(a -> a.entry().isPresent() && open(a).isEmpty());
    return clear ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  /** Empty for none, and for the usual one, which depends on the shot. */
  private Optional<BoardShelf.Board> savedBoard() {
    if (board == null || board.equals(USUAL)) {
      return Optional.empty();
    }
    List<BoardShelf.Board> all = new BoardShelf(UserFolder.settings(), Dialects.shipped()).list();
    return Optional.of(
        all.stream()
            .filter(b -> b.name().equals(board))
            .findFirst()
            .orElseThrow(
                () ->
                    InputError.words(
                        "there is no saved board '" + board + "'",
                        "There are: "
                            + USUAL
                            + all.stream()
                                .map(b -> ", " + b.name())
                                .collect(Collectors.joining()))));
  }

  private ProjectShot withBoard(ProjectShot e, Arrival a, Optional<BoardShelf.Board> saved) {
    List<Delivery> deliveries =
        board == null
            ? List.of()
            : saved
                .map(BoardShelf.Board::deliveries)
                .orElseGet(
                    () ->
                        a.received().orElseThrow().unmapped().isEmpty()
                            ? FirstBoard.of(
                                ShotState.of(a.name(), a.received().get()).shot(),
                                StudioDialects.known())
                            : List.of());
    return deliveries.isEmpty()
        ? e
        : e.withLog(
            DecisionLog.of(List.of(new DispatchDecision.AddBoard("board " + board, deliveries))));
  }

  /** Nobody else may be writing it meanwhile. */
  private void save(ProjectFile before, List<ProjectShot> added) {
    Optional<ProjectLock> lock = ProjectLock.take(file);
    if (lock.isEmpty()) {
      throw new InputError(
          file.toString(),
          "",
          "the project is open"
              + ProjectLock.holder(file)
                  .map(h -> " on " + h.host() + " since " + h.since())
                  .orElse(""),
          "Close it there first");
    }
    try {
      List<ProjectShot> shots = new ArrayList<>(before.shots());
      shots.addAll(added);
      before.withShots(shots).save();
    } finally {
      lock.get().release();
    }
  }

  private static String stem(Path file) {
    String name = file.getFileName().toString();
    int dot = name.indexOf('.', 1);
    return dot < 0 ? name : name.substring(0, dot);
  }

  private static List<Conflict> open(Arrival a) {
    return a.ledger().map(Ledger::open).orElse(List.of());
  }

  private void print(PrintWriter out, List<Arrival> all, int added, List<Note> notes) {
    int width = all.stream().mapToInt(a -> a.name().length()).max().orElse(0);
    for (Arrival a : all) {
      out.printf("%-" + Math.max(1, width) + "s  %s%n", a.name(), words(a));
      for (Conflict c : open(a)) {
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
      return (a.said().equals("in the project already") ? "" : "not added: ") + a.said();
    }
    ProjectShot e = a.entry().get();
    int open = open(a).size();
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

  private ObjectNode document(List<Arrival> all, List<Arrival> there, List<Note> notes) {
    ObjectNode o = Json.object();
    o.put("project", file.toString());
    ArrayNode shots = o.putArray("shots");
    for (Arrival a : all) {
      ObjectNode n = shots.addObject().put("name", a.name());
      n.put("added", a.entry().isPresent()).put("known", there.contains(a)).put("said", a.said());
      ArrayNode files = n.putArray("files");
      ArrayNode plates = n.putArray("plates");
      a.entry()
          .ifPresent(
              e -> {
                e.files().forEach(files::add);
                e.plates().forEach(p -> plates.add(p.path() + "/" + p.pattern().orElse("")));
              });
      ArrayNode open = n.putArray("open");
      for (Conflict c : open(a)) {
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
