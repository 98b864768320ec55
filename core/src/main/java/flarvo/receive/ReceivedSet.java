package flarvo.receive;

import flarvo.convention.Dialect;
import flarvo.format.FileNames;
import flarvo.format.Formats;
import flarvo.format.Sourced;
import flarvo.lens.LensSheet;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Everything that came for one shot, read but not yet decided upon.
 *
 * @param unmapped tables whose columns nobody has named yet; nothing of them is in the shot
 * @param base what the user said of the sender before any ruling
 */
public record ReceivedSet(
    List<ReceivedFile> files,
    List<PlateSequence> plates,
    List<ShotLog> logs,
    List<LensSheet> lenses,
    List<Path> unmapped,
    IntakeOptions base,
    List<Note> notes) {

  public ReceivedSet {
    unmapped = List.copyOf(unmapped);
    files = List.copyOf(files);
    plates = List.copyOf(plates);
    logs = List.copyOf(logs);
    lenses = List.copyOf(lenses);
    notes = List.copyOf(notes);
  }

  /** What the readers noted, and how 2D tracks of several files were put together. */
  @Override
  public List<Note> notes() {
    List<Note> all = new ArrayList<>(notes);
    all.addAll(TrackMerge.notes(files));
    all.addAll(contradictions());
    return all;
  }

  /** The same with a file more, or in the place of the one that was read from there before. */
  public ReceivedSet with(ReceivedFile file) {
    List<ReceivedFile> all = new ArrayList<>(files);
    int at = 0;
    while (at < all.size() && !all.get(at).path().equals(file.path())) {
      at++;
    }
    if (at < all.size()) {
      all.set(at, file);
    } else {
      all.add(file);
    }
    List<Path> open = unmapped.stream().filter(p -> !p.equals(file.path())).toList();
    return new ReceivedSet(all, plates, logs, lenses, open, base, notes);
  }

  /**
   * The same with its cameras and points read anew as a sender's dialect has them.
   *
   * @param d empty for what the files state by themselves
   * @throws InputError when one of them cannot be read so
   */
  public ReceivedSet readAs(Optional<Dialect> d, Progress progress) {
    ReceivedSet out = this;
    for (ReceivedFile f : files) {
      if (f.isSolve()) {
        out = out.with(f.readAs(d, base.limits(), progress));
      }
    }
    return out;
  }

  /**
   * The same files read anew with keys that lie between frames snapped to them, or as they lie.
   *
   * @throws InputError when one of them cannot be read any more
   */
  public ReceivedSet snapKeys(boolean wanted, Progress progress) {
    IntakeOptions options = base.withSnapKeys(wanted);
    List<ReceivedFile> all = new ArrayList<>();
    List<Note> said = new ArrayList<>(notes);
    for (ReceivedFile f : files) {
      boolean read = !f.scene().cameras().isEmpty();
      ReceivedFile other = read ? f.readAs(f.from(), options.limits(), progress) : f;
      all.add(other);
      if (read) {
        said.removeAll(f.scene().notes());
        said.addAll(other.scene().notes());
      }
    }
    return new ReceivedSet(all, plates, logs, lenses, unmapped, options, said);
  }

  /**
   * The same with the sizes that locators came with, to be carried on. Not for deliveries that draw
   * them at a size of their own.
   */
  public ReceivedSet withLocatorSizes() {
    List<ReceivedFile> sized = files.stream().map(ReceivedFile::withLocatorSizes).toList();
    List<Note> said = new ArrayList<>(notes);
    for (int i = 0; i < files.size(); i++) {
      List<Note> before = files.get(i).scene().notes();
      sized.get(i).scene().notes().stream().skip(before.size()).forEach(said::add);
    }
    return new ReceivedSet(sized, plates, logs, lenses, unmapped, base, said);
  }

  /** Keys of its cameras that lie between frames, where they are read as they lie. */
  public int keysBetweenFrames() {
    return files.stream()
        .flatMap(f -> f.scene().cameras().stream())
        .mapToInt(c -> c.offGridKeys())
        .sum();
  }

  /** Tables that wait for a mapping, then those that have one. */
  public List<Path> tables() {
    List<Path> out = new ArrayList<>(unmapped);
    files.stream().filter(f -> f.mapping().isPresent()).map(ReceivedFile::path).forEach(out::add);
    return out;
  }

  public ReceivedSet withPlates(List<PlateSequence> p) {
    return new ReceivedSet(files, p, logs, lenses, unmapped, base, notes);
  }

  /** The shot under some rulings. */
  public Shot shot(String name, Rulings rulings) {
    IntakeOptions options = rulings.over(base);
    return shot(name, options, picture(options), plates.isEmpty());
  }

  /**
   * The shot in the canonical space and in plate frames.
   *
   * @throws InputError when no camera came, or the picture's size is nowhere stated
   */
  public Shot shot(String name, IntakeOptions options) {
    return shot(name, options, picture(options), true);
  }

  /**
   * The same, also of points and meshes that no camera sees. Their picture's size means nothing;
   * where none is stated it is 1920 × 1080.
   *
   * @throws InputError when nothing came at all, or a camera's picture size is nowhere stated
   */
  public Shot shotOrPoints(String name, IntakeOptions options) {
    boolean camera =
        options.camera().isPresent()
            || files(options).stream().anyMatch(f -> !f.scene().cameras().isEmpty());
    boolean sized = camera || options.size().isPresent();
    return shot(name, options, sized ? picture(options) : PictureSize.of(1920, 1080), camera);
  }

  private Shot shot(String name, IntakeOptions options, PictureSize picture, boolean needsCamera) {
    List<ShotCamera> cameras = new ArrayList<>();
    List<TrackerSet> trackers = new ArrayList<>();
    List<Mesh> meshes = new ArrayList<>();
    List<ReceivedFile> read = files(options);
    for (ReceivedFile f : read) {
      // All files of a set have one time, which is brought onto plate frames below.
      f.cameras(picture, options).forEach(c -> cameras.add(c.inFile()));
      f.trackers(picture, options).forEach(t -> trackers.add(t.inFile()));
      f.meshes(picture, options).forEach(m -> meshes.add(m.inFile()));
    }
    boolean empty = trackers.isEmpty() && meshes.isEmpty() && plates.isEmpty();
    if (cameras.isEmpty() && (needsCamera || empty)) {
      throw noCamera(options);
    }
    FrameRange frames = cameras.isEmpty() ? framesOf(trackers) : cameras.get(0).frames();
    int plateFirst =
        options.plateFirst().orElse(mainPlate().map(PlateSequence::frames).orElse(frames).first());
    int offset = plateFirst - frames.first();
    return new Shot(
        name,
        picture,
        rate(options),
        frames.shifted(offset),
        frames.first(),
        distinctCameras(cameras).stream().map(c -> c.shifted(offset)).toList(),
        distinct(trackers).stream().map(t -> t.shifted(offset)).toList(),
        TrackMerge.of(read),
        plates,
        meshes.stream().map(m -> m.shifted(offset)).toList(),
        Similarity.IDENTITY);
  }

  /** As stated, else of the first group that moves, else of the plates, else one frame. */
  private FrameRange framesOf(List<TrackerSet> trackers) {
    return said(f -> f.scene().range())
        .or(
            () ->
                trackers.stream()
                    .flatMap(t -> t.group().flatMap(Group::poses).stream())
                    .map(PoseTrack::frames)
                    .findFirst())
        .or(() -> mainPlate().map(PlateSequence::frames))
        .orElse(new FrameRange(0, 0));
  }

  /** The files with the take that is wanted. */
  List<ReceivedFile> files(IntakeOptions options) {
    if (options.take().isEmpty()) {
      return files;
    }
    String take = options.take().get();
    Set<String> there = new LinkedHashSet<>();
    files.forEach(f -> there.addAll(f.takes().keySet()));
    files.forEach(f -> there.addAll(f.scene().takes()));
    if (!there.contains(take)) {
      throw InputError.words(
          "there is no take '" + take + "'",
          there.isEmpty() ? "The files have none" : "The files have: " + String.join(", ", there));
    }
    return files.stream().map(f -> f.taking(take, base.limits())).toList();
  }

  private InputError noCamera(IntakeOptions options) {
    String file = files.isEmpty() ? "" : files.get(0).path().toString();
    return options.camera().isPresent()
        ? new InputError(
            file,
            "",
            "there is no camera '" + options.camera().get() + "'",
            "It has: "
                + files.stream()
                    .flatMap(f -> f.scene().cameras().stream())
                    .map(c -> c.camera().name())
                    .toList())
        : new InputError(file, "", "there is no camera in it", "Add the camera's file");
  }

  /**
   * Resolution of the shot under some options.
   *
   * @throws InputError when none is stated
   */
  public PictureSize picture(IntakeOptions options) {
    PictureSize size = statedPicture(options);
    double aspect =
        options
            .pixelAspect()
            .or(() -> Optional.of(size.pixelAspect()).filter(a -> a != 1))
            .or(this::statedAspect)
            .orElse(1.0);
    return new PictureSize(size.width(), size.height(), aspect);
  }

  /**
   * Of the plates, else of a scene, else of a log. A size that is given or ruled says nothing of
   * the aspect, and what is square may only not have been told.
   */
  private Optional<Double> statedAspect() {
    return mainPlate()
        .map(p -> p.picture().pixelAspect())
        .filter(a -> a != 1)
        .or(() -> said(f -> f.scene().picture()).map(PictureSize::pixelAspect).filter(a -> a != 1))
        .or(() -> logged(Fact.PIXEL_ASPECT));
  }

  /** What is given with the files against what they state of the picture; one note each. */
  private List<Note> contradictions() {
    List<Note> out = new ArrayList<>();
    for (ReceivedFile f : files) {
      f.scene()
          .picture()
          .filter(p -> !p.assumed())
          .map(Sourced::value)
          .ifPresent(p -> against(f, p, out));
    }
    logs.forEach(l -> mainPlate().flatMap(p -> listed(l, p.frames())).ifPresent(out::add));
    return out;
  }

  /** A shot list that wants other frames than the plates have. */
  private static Optional<Note> listed(ShotLog log, FrameRange plates) {
    Optional<FrameRange> wanted = log.entry().flatMap(e -> log.frames());
    if (wanted.isEmpty()) {
      return Optional.empty();
    }
    FrameRange w = wanted.get();
    int head = plates.first() - w.first();
    int tail = w.last() - plates.last();
    if (head <= 0 && tail <= 0) {
      return Optional.empty();
    }
    boolean apart = plates.last() < w.first() || plates.first() > w.last();
    String missing =
        apart
            ? "none of them is there"
            : Stream.of(
                    head > 0 ? head + " missing at the head" : "",
                    tail > 0 ? tail + " missing at the tail" : "")
                .filter(t -> !t.isEmpty())
                .collect(Collectors.joining(", "));
    return Optional.of(
        Note.lost(
            log.path().getFileName().toString(),
            "frames " + w + " are listed, the plates are " + plates + ": " + missing));
  }

  private void against(ReceivedFile f, PictureSize stated, List<Note> out) {
    String name = f.path().getFileName().toString();
    base.size()
        .filter(s -> s.width() != stated.width() || s.height() != stated.height())
        .ifPresent(
            s ->
                out.add(
                    Note.changed(
                        name,
                        "it states a picture of " + stated + "; read as " + s + ", as given")));
    base.pixelAspect()
        .filter(a -> a != stated.pixelAspect())
        .ifPresent(
            a ->
                out.add(
                    Note.changed(
                        name,
                        "it states a pixel aspect of "
                            + stated.pixelAspect()
                            + "; read as "
                            + a
                            + ", as given")));
  }

  /** The sequence that the trackers belong to; a proxy is smaller, and a keyed one may be cut. */
  Optional<PlateSequence> mainPlate() {
    for (PlateRole r :
        List.of(PlateRole.UNDISTORTED, PlateRole.ORIGINAL, PlateRole.KEYED, PlateRole.PROXY)) {
      Optional<PlateSequence> p = plates.stream().filter(s -> s.role() == r).findFirst();
      if (p.isPresent()) {
        return p;
      }
    }
    return Optional.empty();
  }

  private PictureSize statedPicture(IntakeOptions options) {
    if (options.size().isPresent()) {
      return options.size().get();
    }
    Optional<PictureSize> plate = mainPlate().map(PlateSequence::picture);
    return plate
        .or(() -> said(f -> f.scene().picture()))
        .or(() -> logged(Fact.PICTURE_SIZE))
        .orElseThrow(
            () ->
                new InputError(
                    files.isEmpty() ? "" : files.get(0).path().toString(),
                    "",
                    "no resolution stated",
                    "Give it with --size WxH, or add the plates"));
  }

  /** Given, or stated by a file or a log; empty where it would be assumed. */
  public Optional<Rate> statedRate(IntakeOptions options) {
    return options
        .rate()
        .or(() -> said(f -> f.scene().rate().filter(r -> !r.assumed())))
        .or(() -> logged(Fact.RATE));
  }

  private Rate rate(IntakeOptions options) {
    return statedRate(options).or(() -> said(f -> f.scene().rate())).orElse(Rate.FPS_24);
  }

  private <T> Optional<T> logged(Fact<T> fact) {
    return logs.stream()
        .flatMap(l -> Claim.about(fact, l.claims()).stream())
        .map(Claim::value)
        .flatMap(Optional::stream)
        .findFirst();
  }

  private <T> Optional<T> said(
      java.util.function.Function<ReceivedFile, Optional<Sourced<T>>> fact) {
    List<Sourced<T>> all = files.stream().map(fact).flatMap(Optional::stream).toList();
    return all.stream()
        .filter(s -> !s.assumed())
        .findFirst()
        .or(() -> all.stream().findFirst())
        .map(Sourced::value);
  }

  /** Names must tell trackers apart across all groups; a repeated one is numbered. */
  private static List<TrackerSet> distinct(List<TrackerSet> sets) {
    Set<String> seen = new HashSet<>();
    boolean repeats = sets.stream().flatMap(s -> s.names().stream()).anyMatch(n -> !seen.add(n));
    if (!repeats) {
      return sets;
    }
    FileNames unique = new FileNames();
    return sets.stream()
        .map(
            s -> {
              return s.withNames(s.names().stream().map(unique::unique).toList());
            })
        .toList();
  }

  /** Two files may call their cameras alike; no delivery can hold both under one name. */
  private static List<ShotCamera> distinctCameras(List<ShotCamera> cameras) {
    FileNames unique = new FileNames();
    return cameras.stream().map(c -> c.withName(unique.unique(c.name()))).toList();
  }

  /** A scene file that lay in a folder and could not be read; empty where all could. */
  public Optional<Note> unreadable() {
    return unreadable(notes);
  }

  /** By its name: what is ignored inside a scene has a path there, or a name without an ending. */
  static Optional<Note> unreadable(List<Note> notes) {
    return notes.stream()
        .filter(n -> n.kind() == Note.Kind.IGNORED && n.where().matches("[^/\\\\\\p{Cntrl}]+"))
        .filter(n -> Formats.isExtension(Path.of(n.where())))
        .findFirst();
  }
}
