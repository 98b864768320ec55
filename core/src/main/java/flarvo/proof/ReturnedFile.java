package flarvo.proof;

import flarvo.convention.Dialect;
import flarvo.convention.FrameNumbering;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Part;
import flarvo.format.FileCamera;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.receive.IntakeOptions;
import flarvo.receive.LaidShot;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.WorldShot;
import flarvo.suspect.Mending;
import flarvo.suspect.Suspect;
import flarvo.suspect.SuspectReport;
import flarvo.suspect.SuspectSearch;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Supplier;

/**
 * A camera and its points that somebody else sent, measured against evidence.
 *
 * @param shot what came, laid on the frames of the evidence
 * @param laid said where its frames were moved for that
 */
public record ReturnedFile(
    Shot shot, IntakeOptions options, Optional<String> laid, SuspectReport report) {

  /**
   * Reads files and searches for what is wrong with them. Where they count other frames than the
   * evidence altogether, their first frame is laid on its first.
   *
   * @param intake makes one for these files
   * @param tracks 2D tracks in plate frames
   * @param level of the shot, where it is known
   * @throws InputError when they cannot be read, hold no camera, or too little can be measured
   */
  public static ReturnedFile of(
      List<Path> files,
      Supplier<ShotIntake> intake,
      IntakeOptions options,
      Observations tracks,
      Optional<Similarity> level,
      Progress progress) {
    ShotIntake in = intake.get();
    files.forEach(f -> in.add(f, options, progress));
    ReceivedSet set = in.received(options);
    if (tracks.isEmpty()) {
      throw InputError.words("there is no evidence", "Add 2D tracks of the shot");
    }
    LaidShot laid = LaidShot.of(set, files.get(0).getFileName().toString(), options, tracks);
    Shot shot = laid.shot();
    SuspectReport found = SuspectSearch.of(shot, tracks, backAspect(set), level, progress);
    return new ReturnedFile(shot, options, laid.said(), found.with(offGrid(set)));
  }

  /**
   * Its drift against a shot, which is levelled here: its points through its camera, or the shot's
   * points where it has none. Empty where the two have no camera or no tracker in common.
   *
   * @param own in solve space
   */
  public Optional<DriftReport> against(Shot own, Progress progress) {
    return drift(own, shot.levelled(), progress);
  }

  /**
   * The drift of a shot against another, which is levelled here.
   *
   * @param own in solve space
   * @param there canonical, on the same frames
   * @return empty where the two have no camera or no tracker in common
   */
  public static Optional<DriftReport> drift(Shot own, WorldShot there, Progress progress) {
    WorldShot source = own.levelled();
    if (source.camera().isEmpty() || there.camera().isEmpty()) {
      return Optional.empty();
    }
    DriftReport d =
        new DriftMeter(source)
            .measure(
                there.camera().get(),
                there.trackerCount() == 0 ? source.trackers() : there.trackers(),
                progress);
    return d.compared() == 0 ? Optional.empty() : Optional.of(d);
  }

  /** Keys that lie between frames: read at frames they are interpolated, and rarely meant. */
  private static List<String> offGrid(ReceivedSet set) {
    List<String> said = new ArrayList<>();
    for (ReceivedFile f : set.files()) {
      for (FileCamera c : f.scene().cameras()) {
        if (c.offGridKeys() > 0) {
          said.add(
              String.format(
                  Locale.ROOT,
                  "%d of %d keys of camera %s lie between frames",
                  c.offGridKeys(),
                  c.keys(),
                  c.camera().name()));
        }
      }
    }
    return said;
  }

  private static OptionalDouble backAspect(ReceivedSet set) {
    return set.files().stream()
        .flatMap(f -> f.scene().cameras().stream())
        .filter(c -> c.filmBackStated())
        .map(c -> c.camera().optics().at(c.camera().frames().first()))
        .mapToDouble((Optics o) -> o.filmWidthMm() / o.filmHeightMm())
        .findFirst();
  }

  /**
   * Writes it with its mix-up undone, in the sender's dialect and plate frames, and measures what
   * lies on disk then.
   *
   * @param out its extension selects the format
   * @throws InputError when no cause was found, it is not in the file, or the disk refuses
   */
  public SuspectReport mend(Path out, Observations tracks, Progress progress) {
    Suspect cause =
        report
            .cause()
            .orElseThrow(() -> InputError.words("no cause was found", "There is nothing to mend"));
    Shot whole = Mending.of(shot, cause);
    Dialect to = options.from().orElse(Dialect.CANONICAL);
    Delivery d =
        new Delivery(
            "mended",
            to.withFrames(FrameNumbering.PLATE),
            format(out),
            whole.trackerCount() > 0 ? Contents.of(Part.CAMERA, Part.TRACKERS) : Contents.CAMERA,
            out.getFileName().toString());
    Dispatcher.send(whole, d, out, progress);
    List<Path> written = new ArrayList<>(List.of(out));
    written.addAll(Dispatcher.companions(whole, d, out));
    IntakeOptions as = options.withFrom(to).withSize(whole.picture());
    return of(written, ShotIntake::new, as, tracks, Optional.empty(), progress).report();
  }

  private static SceneFormat format(Path out) {
    String name = out.getFileName().toString().toLowerCase(Locale.ROOT);
    return Formats.all().stream()
        .filter(SceneFormat::writes)
        .filter(f -> f.extensions().stream().anyMatch(name::endsWith))
        .findFirst()
        .orElseThrow(
            () ->
                new InputError(out.toString(), "", "unknown file extension", "Use .usda or .fbx"));
  }
}
