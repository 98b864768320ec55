package flarvo.project;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FrameNumbering;
import flarvo.dispatch.Delivery;
import flarvo.format.Formats;
import flarvo.plate.PlateFinder;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/** Between the project file's names and the live shot. */
public final class ProjectLoader {

  private final ProjectFile project;
  private final Dialects dialects;

  public ProjectLoader(ProjectFile project, Dialects dialects) {
    this.project = project;
    this.dialects = dialects;
  }

  /** Reads everything that a shot's entry names. */
  public ShotState load(ProjectShot entry, Progress progress) {
    IntakeOptions options = IntakeOptions.NONE;
    if (entry.from().isPresent()) {
      options = options.withFrom(dialects.get(entry.from().get()));
    }
    if (entry.rate().isPresent()) {
      options = options.withRate(entry.rate().get());
    }
    List<PlateSequence> plates = new ArrayList<>();
    for (ProjectShot.PlateFolder p : entry.plates()) {
      progress.step(plates.size(), entry.plates().size() + entry.files().size());
      plates.add(PlateFinder.find(resolve(p.path())).get(0).withRole(p.role()));
    }
    if (entry.plateFirst().isPresent()) {
      options = options.withPlateFirst(entry.plateFirst().getAsInt());
    } else if (!plates.isEmpty()) {
      options = options.withPlateFirst(plates.get(0).frames().first());
    }
    if (!plates.isEmpty()) {
      options = options.withSize(plates.get(0).size());
    }
    ShotIntake intake = new ShotIntake();
    for (String f : entry.files()) {
      intake.add(resolve(f), options, progress);
    }
    Shot shot = intake.shot(entry.name(), options).withPlates(plates).withLevel(entry.level());
    return new ShotState(shot, entry.deliveries().stream().map(this::delivery).toList());
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
                        "Write camera and trackers, camera, or trackers"));
    return new Delivery(p.name(), d.withFrames(f), Formats.byId(p.format()), contents, p.file());
  }

  /** The entry again, with what was decided since. */
  public ProjectShot store(ProjectShot entry, ShotState state) {
    return new ProjectShot(
        entry.name(),
        entry.files(),
        entry.plates(),
        entry.from(),
        OptionalInt.of(state.shot().frames().first()),
        Optional.of(state.shot().rate()),
        state.shot().level(),
        state.deliveries().stream().map(this::planned).toList());
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
