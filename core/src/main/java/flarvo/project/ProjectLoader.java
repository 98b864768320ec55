package flarvo.project;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.decision.DecisionHistory;
import flarvo.decision.DecisionJson;
import flarvo.decision.DecisionLog;
import flarvo.decision.ShotState;
import flarvo.format.Reach;
import flarvo.format.table.TableMapping;
import flarvo.plate.PlateFinder;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.receive.ShotLog;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import flarvo.scene.Similarity;
import flarvo.shotlist.ShotList;
import flarvo.vet.RefinedSolve;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;

/** Between the project file's names and the live shot. */
public final class ProjectLoader {

  private final ProjectFile project;
  private final Dialects dialects;
  private final Function<String, Optional<TableMapping>> known;
  private final Reach reach;

  public ProjectLoader(ProjectFile project, Dialects dialects) {
    this(project, dialects, text -> Optional.empty(), Reach.BESIDE);
  }

  /**
   * @param known a mapping that was saved for tables like this text, where there is one
   * @param reach where the files of its scenes may lie, besides its own folder
   */
  public ProjectLoader(
      ProjectFile project,
      Dialects dialects,
      Function<String, Optional<TableMapping>> known,
      Reach reach) {
    this.known = known;
    this.reach = reach.within(project.folder());
    this.project = project;
    this.dialects = dialects;
  }

  /** The shot as it stands, see {@link #open}. */
  public ShotState load(ProjectShot entry, Progress progress) {
    return open(entry, progress).present();
  }

  /**
   * Reads everything that a shot's entry names, and what was decided about it. Nothing is worked
   * out again.
   *
   * @throws InputError when a file cannot be read, or holds another solve than a refined one was
   *     made from
   */
  public DecisionHistory open(ProjectShot entry, Progress progress) {
    try {
      DecisionHistory h = DecisionHistory.restored(base(entry, progress), entry.log(), progress);
      requireFitting(entry, h.present());
      return h;
    } catch (IllegalArgumentException e) {
      throw new InputError(
          project.file().toString(),
          "shot " + entry.name(),
          String.valueOf(e.getMessage()),
          "Restore the files it was made from, or replay its decisions",
          e);
    }
  }

  /** The shot with nothing decided. */
  public ShotState base(ProjectShot entry, Progress progress) {
    ReceivedSet received = received(entry, progress);
    return ShotState.of(entry.name(), received).withLevel(entry.start());
  }

  private ReceivedSet received(ProjectShot entry, Progress progress) {
    IntakeOptions base = IntakeOptions.NONE.withReach(reach);
    if (entry.from().isPresent()) {
      base = base.withFrom(dialects.get(entry.from().get()));
    }
    ShotIntake intake = new ShotIntake(known);
    for (ProjectShot.PlateFolder p : entry.plates()) {
      progress.step(0, entry.plates().size() + entry.files().size());
      intake.add(plates(p));
    }
    for (String f : entry.files()) {
      TableMapping mapping = entry.mappings().get(f);
      if (mapping == null) {
        intake.add(resolve(f), base, progress);
      } else {
        intake.add(resolve(f), mapping, base, progress);
      }
    }
    entry.lists().forEach(l -> intake.add(listed(l)));
    return intake.received(base);
  }

  private ShotLog listed(ProjectShot.Listed l) {
    Path list = resolve(l.path());
    return ShotLog.listed(
        list,
        ShotList.read(list)
            .of(l.shot())
            .orElseThrow(
                () ->
                    new InputError(
                        list.toString(),
                        "",
                        "the shot " + l.shot() + " is no longer in the list",
                        "Restore the list, or remove it from the project")));
  }

  /** A solve that was refined for other frames than the files give now is not taken over. */
  private void requireFitting(ProjectShot entry, ShotState s) {
    Optional<RefinedSolve> solve = s.vetting().solve();
    boolean fits =
        solve.isEmpty()
            || s.whole()
                .camera()
                .map(c -> c.frames().equals(solve.get().camera().frames()))
                .orElse(false);
    if (!fits) {
      throw new InputError(
          project.file().toString(),
          "shot " + entry.name() + ", refined solve",
          "it is for frames "
              + solve.get().camera().frames()
              + "; the files contain "
              + s.whole().camera().map(c -> c.frames().toString()).orElse("no camera"),
          "Restore the files it was made from, or replay the decisions on the new ones");
    }
  }

  private PlateSequence plates(ProjectShot.PlateFolder p) {
    List<PlateSequence> found = PlateFinder.find(resolve(p.path()));
    return found.stream()
        .filter(s -> p.pattern().map(s.pattern()::equals).orElse(true))
        .findFirst()
        .orElseThrow(
            () ->
                new InputError(
                    project.file().toString(),
                    "plates " + p.path(),
                    "there is no sequence " + p.pattern().orElse("") + " in the folder",
                    "It has: " + found.stream().map(PlateSequence::pattern).toList()))
        .withRole(p.role());
  }

  /** An entry for a shot that came in without a project. */
  public static ProjectShot entryOf(Path projectFile, String name, ReceivedSet received) {
    Path folder = projectFile.toAbsolutePath().normalize().getParent();
    List<String> files = new ArrayList<>();
    Map<String, TableMapping> mappings = new LinkedHashMap<>();
    for (ReceivedFile f : received.files()) {
      files.add(DecisionJson.relative(folder, f.path()));
      f.mapping().ifPresent(m -> mappings.put(DecisionJson.relative(folder, f.path()), m));
    }
    received.unmapped().forEach(f -> files.add(DecisionJson.relative(folder, f)));
    received.lenses().forEach(l -> files.add(DecisionJson.relative(folder, l.path())));
    List<ProjectShot.Listed> lists = new ArrayList<>();
    for (ShotLog l : received.logs()) {
      String path = DecisionJson.relative(folder, l.path());
      if (l.entry().isPresent()) {
        lists.add(new ProjectShot.Listed(path, l.entry().get()));
      } else {
        files.add(path);
      }
    }
    return new ProjectShot(
        name,
        files,
        mappings,
        received.plates().stream()
            .map(
                p ->
                    new ProjectShot.PlateFolder(
                        DecisionJson.relative(folder, p.folder()),
                        p.role(),
                        Optional.of(p.pattern())))
            .toList(),
        received.base().from().map(Dialect::name),
        lists,
        Similarity.IDENTITY,
        DecisionLog.EMPTY,
        List.of());
  }

  /** Files and folders of an entry that are not where it says. */
  public List<String> missing(ProjectShot entry) {
    List<String> out = new ArrayList<>();
    for (String f : entry.files()) {
      if (!Files.exists(resolve(f))) {
        out.add(f);
      }
    }
    for (ProjectShot.PlateFolder p : entry.plates()) {
      if (!Files.exists(resolve(p.path()))) {
        out.add(p.path());
      }
    }
    for (ProjectShot.Listed l : entry.lists()) {
      if (!Files.exists(resolve(l.path()))) {
        out.add(l.path());
      }
    }
    for (String f : entry.decisionFiles(project.folder())) {
      if (!Files.exists(resolve(f)) && !out.contains(f)) {
        out.add(f);
      }
    }
    return out;
  }

  private Path resolve(String relative) {
    return project.folder().resolve(relative).normalize();
  }

  /** The entry again, with what was decided since. */
  public ProjectShot store(ProjectShot entry, DecisionHistory h, List<DiaryEntry> diary) {
    ProjectShot came =
        h.base().received().map(r -> entryOf(project.file(), entry.name(), r)).orElse(entry);
    // The file keeps its order as long as it names the same files.
    boolean same = Set.copyOf(came.files()).equals(Set.copyOf(entry.files()));
    return new ProjectShot(
        entry.name(),
        same ? entry.files() : came.files(),
        came.mappings(),
        came.plates(),
        entry.from(),
        came.lists(),
        h.base().level(),
        h.log(),
        diary);
  }
}
