package flarvo.project;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FrameNumbering;
import flarvo.dispatch.Delivery;
import flarvo.format.Formats;
import flarvo.format.table.TableMapping;
import flarvo.plate.PlateFinder;
import flarvo.receive.Fact;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import flarvo.scene.Similarity;
import flarvo.stage.Staging;
import flarvo.vet.Vetting;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Function;

/** Between the project file's names and the live shot. */
public final class ProjectLoader {

  private final ProjectFile project;
  private final Dialects dialects;
  private final Function<String, Optional<TableMapping>> known;

  public ProjectLoader(ProjectFile project, Dialects dialects) {
    this(project, dialects, text -> Optional.empty());
  }

  /**
   * @param known a mapping that was saved for tables like this text, where there is one
   */
  public ProjectLoader(
      ProjectFile project, Dialects dialects, Function<String, Optional<TableMapping>> known) {
    this.known = known;
    this.project = project;
    this.dialects = dialects;
  }

  /** Reads everything that a shot's entry names. */
  public ShotState load(ProjectShot entry, Progress progress) {
    IntakeOptions base = IntakeOptions.NONE;
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
    Rulings rulings = Rulings.NONE;
    for (Map.Entry<String, String> e : entry.rulings().entrySet()) {
      rulings = rulings.with(Fact.of(e.getKey()).orElseThrow(), e.getValue());
    }
    ReceivedSet received = intake.received(base);
    ShotState came =
        new ShotState(
            received.shot(entry.name(), rulings).withLevel(entry.level()),
            entry.deliveries().stream().map(this::delivery).toList(),
            Optional.of(received),
            rulings);
    ShotState vetted =
        entry.vetting().equals(Vetting.NONE) ? came : came.withVetting(fitting(entry, came));
    // Its level was saved with it: it is not worked out anew, which could move it by a rounding.
    return new ShotState(
        vetted.shot(),
        vetted.deliveries(),
        vetted.received(),
        vetted.rulings(),
        vetted.vetting(),
        entry.staging(),
        vetted.whole());
  }

  /** A solve that was refined for other frames than the files give now is not taken over. */
  private Vetting fitting(ProjectShot entry, ShotState came) {
    Vetting v = entry.vetting();
    boolean fits =
        v.solve().isEmpty()
            || came.whole()
                .camera()
                .map(c -> c.frames().equals(v.solve().get().camera().frames()))
                .orElse(false);
    if (!fits) {
      throw new InputError(
          project.file().toString(),
          "shot " + entry.name() + ", vetting",
          "the refined solve is for frames "
              + v.solve().get().camera().frames()
              + ", the files hold "
              + came.whole().camera().map(c -> c.frames().toString()).orElse("no camera"),
          "Bring back the files it was made from, or remove 'solve' from the vetting");
    }
    return v;
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
      files.add(relative(folder, f.path()));
      f.mapping().ifPresent(m -> mappings.put(relative(folder, f.path()), m));
    }
    received.unmapped().forEach(f -> files.add(relative(folder, f)));
    received.lenses().forEach(l -> files.add(relative(folder, l.path())));
    received.logs().forEach(l -> files.add(relative(folder, l.path())));
    return new ProjectShot(
        name,
        files,
        mappings,
        received.plates().stream()
            .map(
                p ->
                    new ProjectShot.PlateFolder(
                        relative(folder, p.folder()), p.role(), Optional.of(p.pattern())))
            .toList(),
        received.base().from().map(Dialect::name),
        Map.of(),
        Similarity.IDENTITY,
        Vetting.NONE,
        Staging.NONE,
        List.of(),
        List.of());
  }

  private static String relative(Path folder, Path file) {
    Path to = file.toAbsolutePath().normalize();
    boolean near = folder.getRoot() != null && folder.getRoot().equals(to.getRoot());
    return (near ? folder.relativize(to) : to).toString().replace('\\', '/');
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
    return out;
  }

  private Path resolve(String relative) {
    return project.folder().resolve(relative).normalize();
  }

  private Delivery delivery(ProjectShot.PlannedDelivery p) {
    Dialect d = dialects.get(p.dialect());
    FrameNumbering f = d.frames();
    if (p.firstFrame().isPresent()) {
      f = f.withFirstFrame(p.firstFrame().getAsInt());
    }
    if (p.rate().isPresent()) {
      f = f.withRate(p.rate().get());
    }
    Delivery.Contents contents =
        Arrays.stream(Delivery.Contents.values())
            .filter(c -> c.word().equals(p.contents()))
            .findFirst()
            .orElseThrow(
                () ->
                    new InputError(
                        project.file().toString(),
                        "delivery " + p.name(),
                        "'" + p.contents() + "' is nothing that can be sent",
                        "Write camera and trackers, camera, trackers, or camera, trackers and geometry"));
    return new Delivery(p.name(), d.withFrames(f), Formats.byId(p.format()), contents, p.file());
  }

  /** The entry again, with what was decided since. */
  public ProjectShot store(ProjectShot entry, ShotState state, List<DiaryEntry> diary) {
    ProjectShot came =
        state.received().map(r -> entryOf(project.file(), entry.name(), r)).orElse(entry);
    // The file keeps its order as long as it names the same files.
    boolean same = Set.copyOf(came.files()).equals(Set.copyOf(entry.files()));
    return new ProjectShot(
        entry.name(),
        same ? entry.files() : came.files(),
        came.mappings(),
        came.plates(),
        entry.from(),
        texts(state.rulings()),
        state.shot().level(),
        state.vetting(),
        state.staging(),
        state.deliveries().stream().map(this::planned).toList(),
        diary);
  }

  private static Map<String, String> texts(Rulings rulings) {
    Map<String, String> out = new LinkedHashMap<>();
    rulings.texts().forEach((fact, text) -> out.put(fact.id(), text));
    return out;
  }

  private ProjectShot.PlannedDelivery planned(Delivery d) {
    FrameNumbering own =
        dialects.find(d.dialect().name()).map(Dialect::frames).orElse(FrameNumbering.PLATE);
    FrameNumbering f = d.dialect().frames();
    return new ProjectShot.PlannedDelivery(
        d.name(),
        d.dialect().name(),
        f.firstFrame().equals(own.firstFrame()) ? OptionalInt.empty() : f.firstFrame(),
        f.rate().equals(own.rate()) ? Optional.empty() : f.rate(),
        d.format().id(),
        d.contents().word(),
        d.fileName());
  }
}
