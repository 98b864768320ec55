package flarvo.receive;

import flarvo.convention.BackPolicy;
import flarvo.convention.Dialect;
import flarvo.convention.FilmFit;
import flarvo.convention.LensShift;
import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.convention.SpaceChange;
import flarvo.convention.WorldAxes;
import flarvo.format.FileCamera;
import flarvo.format.FileScene;
import flarvo.format.Formats;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.format.Sourced;
import flarvo.format.TextSource;
import flarvo.format.table.MappedTable;
import flarvo.format.table.TableMapping;
import flarvo.report.InputError;
import flarvo.scene.Mesh;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * One file as it was read, and how its numbers are to be understood.
 *
 * @param mapping what the columns of a table are that does not say it itself
 * @param takes by name, where the file holds several takes of its animation; {@code scene} is one
 */
public record ReceivedFile(
    Path path,
    SceneFormat format,
    FileScene scene,
    Optional<Dialect> from,
    Map<String, FileScene> takes,
    Optional<TableMapping> mapping) {

  /** A file with more takes than this is read take by take, when it is asked for one. */
  private static final int MOST_TAKES = 12;

  public ReceivedFile {
    takes = Collections.unmodifiableMap(new LinkedHashMap<>(takes));
  }

  public ReceivedFile(Path path, SceneFormat format, FileScene scene, Optional<Dialect> from) {
    this(path, format, scene, from, Map.of(), Optional.empty());
  }

  private static final WorldAxes Z_UP =
      new WorldAxes(SignedAxis.POSITIVE_X, SignedAxis.POSITIVE_Z, SignedAxis.POSITIVE_Y);

  /** Recognises and reads a file that stands alone. */
  public static ReceivedFile read(Path path, Optional<Dialect> from, Progress progress) {
    return read(path, from, Optional.empty(), ReadLimits.USUAL, progress);
  }

  /**
   * @param take which take of the file's animation, where it holds several
   * @param limits how much is read, and from where
   */
  public static ReceivedFile read(
      Path path,
      Optional<Dialect> from,
      Optional<String> take,
      ReadLimits limits,
      Progress progress) {
    SceneFormat format = Formats.recognise(path);
    FileScene scene = scene(format, path, from, take, limits, progress);
    Map<String, FileScene> takes = new LinkedHashMap<>();
    if (take.isEmpty() && scene.takes().size() > 1 && scene.takes().size() <= MOST_TAKES) {
      for (String t : scene.takes()) {
        takes.put(t, scene(format, path, from, Optional.of(t), limits, progress));
      }
    }
    return new ReceivedFile(path, format, scene, from, takes, Optional.empty());
  }

  /** What no reader said itself is an error of the file too: it is only as sound as it is. */
  private static FileScene scene(
      SceneFormat format,
      Path path,
      Optional<Dialect> from,
      Optional<String> take,
      ReadLimits limits,
      Progress progress) {
    try {
      return format.read(path, from.orElse(Dialect.CANONICAL), limits, take, progress);
    } catch (IllegalArgumentException | ArithmeticException e) {
      throw new InputError(path.toString(), "", e.getMessage(), "Request a new copy", e);
    } catch (InternalError e) { // from pages of a mapped file that are gone
      throw new InputError(
          path.toString(),
          "",
          "it became shorter while it was read",
          "Wait until it is written, and try again",
          e);
    }
  }

  /** Reads a table as a mapping says. */
  public static ReceivedFile read(
      Path path, TableMapping mapping, Optional<Dialect> from, Progress progress) {
    return read(path, TextSource.read(path, ReadLimits.USUAL), mapping, from, progress);
  }

  /** The same with the table's text at hand. */
  public static ReceivedFile read(
      Path path, String text, TableMapping mapping, Optional<Dialect> from, Progress progress) {
    FileScene scene = MappedTable.read(path.toString(), text, mapping, ReadLimits.USUAL, progress);
    return new ReceivedFile(
        path, Formats.byId("table"), scene, from, Map.of(), Optional.of(mapping));
  }

  /** The same numbers under another dialect: for what is not settled when a file is read. */
  public ReceivedFile spokenAs(Dialect d) {
    return new ReceivedFile(path, format, scene, Optional.of(d), takes, mapping);
  }

  /**
   * The same file, read from disk anew as a sender's dialect has it.
   *
   * @param limits how much is read, and from where
   * @throws InputError when it cannot be read so
   */
  public ReceivedFile readAs(Optional<Dialect> d, ReadLimits limits, Progress progress) {
    if (mapping.isEmpty()) {
      return read(path, d, Optional.empty(), limits, progress);
    }
    TableMapping m = mapping.get();
    return read(
        path, d.map(x -> m.withAngles(x.angles(), x.rotationOrder())).orElse(m), d, progress);
  }

  /** The same file with the sizes of its locators on its trackers, to be carried on. */
  ReceivedFile withLocatorSizes() {
    Map<String, FileScene> sized = new LinkedHashMap<>();
    takes.forEach((take, s) -> sized.put(take, s.withLocatorSizes()));
    return new ReceivedFile(path, format, scene.withLocatorSizes(), from, sized, mapping);
  }

  private boolean hasLocatorSizes() {
    return scene.trackers().stream().anyMatch(t -> t.marker().isPresent());
  }

  /** The same file with another of its takes; a file without that take stays as it is. */
  ReceivedFile taking(String take, ReadLimits limits) {
    FileScene other = takes.get(take);
    if (other != null) {
      return new ReceivedFile(path, format, other, from, takes, mapping);
    }
    // Of a file with very many takes only the first was read.
    boolean later = scene.takes().size() > MOST_TAKES && scene.takes().contains(take);
    if (!later) {
      return this;
    }
    ReceivedFile read = read(path, from, Optional.of(take), limits, Progress.NONE);
    return hasLocatorSizes() ? read.withLocatorSizes() : read;
  }

  /**
   * The sender's dialect as this file speaks it: what the file states counts first, then what the
   * user says of the sender, then the format's own rule for a silent file.
   */
  public Dialect reading() {
    return reading(IntakeOptions.NONE);
  }

  /** The same, with the user's word on axis and unit where the file has none. */
  Dialect reading(IntakeOptions options) {
    Dialect d = stated();
    if (options.unit().isPresent() && isSilentOnUnit()) {
      d = d.withUnit(options.unit().get());
    }
    if (options.up().isPresent() && isSilentOnAxes()) {
      d = d.withWorld(options.up().get() == SignedAxis.POSITIVE_Z ? Z_UP : WorldAxes.CANONICAL);
    }
    return d;
  }

  /** Whether there is a camera in it, points or geometry: what a sender's dialect is about. */
  public boolean isSolve() {
    return !scene.cameras().isEmpty() || !scene.trackers().isEmpty() || !scene.meshes().isEmpty();
  }

  /** Whether neither the file nor its format says a unit. */
  boolean isSilentOnUnit() {
    return scene.unit().isEmpty() && from.isEmpty();
  }

  boolean isSilentOnAxes() {
    return scene.up().isEmpty() && scene.world().isEmpty() && from.isEmpty();
  }

  private Dialect stated() {
    Dialect d = format.nearestSupported(from.orElse(Dialect.CANONICAL)).spoken();
    if (scene.unit().isPresent()) {
      Sourced<LinearUnit> unit = scene.unit().get();
      boolean counts = !unit.assumed() || from.isEmpty();
      // A pixel space keeps its origin as long as the stated unit agrees with it.
      if (counts && !unit.value().equals(d.unit())) {
        d = d.withUnit(unit.value());
      }
    }
    if (scene.world().isPresent()) {
      boolean said = scene.up().map(u -> !u.assumed()).orElse(false);
      return said || from.isEmpty() ? d.withWorld(scene.world().get()) : d;
    }
    if (scene.up().isPresent()) {
      Sourced<SignedAxis> up = scene.up().get();
      boolean counts = !up.assumed() || from.isEmpty();
      if (counts && d.world().up() != up.value()) {
        d = d.withWorld(up.value() == SignedAxis.POSITIVE_Z ? Z_UP : WorldAxes.CANONICAL);
      }
    }
    return d;
  }

  /** Cameras in the canonical space, still under the file's own frame numbers. */
  public List<InFile<ShotCamera>> cameras(PictureSize picture, IntakeOptions options) {
    return cameras(reading(options), picture, options);
  }

  /**
   * The same, whatever the file states.
   *
   * @param d how its numbers are understood
   */
  public List<InFile<ShotCamera>> cameras(Dialect d, PictureSize picture, IntakeOptions options) {
    return cameras(d, picture, picture, options);
  }

  /**
   * The same in a scene that renders another picture than the plate.
   *
   * @param picture of the plate, which pixel spaces are counted in
   * @param rendered that the film back is fitted to
   */
  public List<InFile<ShotCamera>> cameras(
      Dialect d, PictureSize picture, PictureSize rendered, IntakeOptions options) {
    SpaceChange change = d.spaceChange(picture);
    return scene.cameras().stream()
        .filter(c -> options.camera().map(n -> n.equals(c.camera().name())).orElse(true))
        .map(c -> new InFile<>(camera(c, change, d, rendered, options)))
        .toList();
  }

  /** In the canonical world and the file's frames. */
  public List<InFile<TrackerSet>> trackers(PictureSize picture, IntakeOptions options) {
    return trackers(reading(options), picture);
  }

  /**
   * The same, whatever the file states.
   *
   * @param d how its numbers are understood
   */
  public List<InFile<TrackerSet>> trackers(Dialect d, PictureSize picture) {
    SpaceChange change = d.spaceChange(picture);
    return scene.trackers().stream().map(change::toCanonical).map(InFile::new).toList();
  }

  /** In the canonical world and the file's frames. */
  public List<InFile<Mesh>> meshes(PictureSize picture, IntakeOptions options) {
    SpaceChange change = reading(options).spaceChange(picture);
    return scene.meshes().stream()
        .map(change::toCanonical)
        .map(m -> new InFile<>(m.withTexture(m.texture().map(t -> t.map(this::resolved)))))
        .toList();
  }

  /** The path of a picture that the file names; an address stays what it is. */
  private String resolved(String name) {
    if (name.contains("://")) {
      return name;
    }
    try {
      Path there = path.toAbsolutePath().resolveSibling(name).normalize();
      return there.toString().replace('\\', '/');
    } catch (InvalidPathException e) {
      return name;
    }
  }

  private ShotCamera camera(
      FileCamera c, SpaceChange change, Dialect d, PictureSize picture, IntakeOptions options) {
    boolean knownBack =
        c.filmBackStated()
            || c.verticalAngleOnly()
            || options.filmBack().isPresent()
            || from.isPresent()
            || d.film().policy() == BackPolicy.ALWAYS_ASSUMED;
    if (!knownBack || !c.focalLengthStated()) {
      throw new InputError(
          path.toString(),
          "camera " + c.camera().name(),
          c.focalLengthStated() ? "the camera has no film back" : "the camera has no focal length",
          c.focalLengthStated()
              ? "Give it with --film-back WxH, or name the sender's dialect"
              : "Request it again with its lens");
    }
    return change
        .toCanonical(c.camera())
        .withOptics(c.camera().optics().map(o -> seen(o, c, d, picture, options)));
  }

  /** What the sender's or recipient's camera sees: back, fit and shift by its own rules. */
  private static Optics seen(
      Optics stated, FileCamera c, Dialect d, PictureSize picture, IntakeOptions options) {
    Optics o = stated;
    if (c.verticalAngleOnly()) {
      Optics whole = o.withFilm(o.filmHeightMm() * picture.aspect(), o.filmHeightMm());
      // The angle stays; a ruled film back only says which focal length that is.
      return options
          .filmBack()
          .map(b -> FilmFit.WIDTH.covered(b, picture.aspect()).widthMm() / whole.filmWidthMm())
          .map(whole::scaled)
          .orElse(whole);
    }
    if (options.filmBack().isPresent()) {
      o = o.withFilm(options.filmBack().get().widthMm(), options.filmBack().get().heightMm());
    } else if (!c.filmBackStated() || d.film().policy() == BackPolicy.ALWAYS_ASSUMED) {
      o = o.withFilm(d.film().assumed().widthMm(), d.film().assumed().heightMm());
    }
    if (d.film().shift() == LensShift.IGNORED) {
      o = o.withPrincipal(0, 0);
    }
    boolean own = c.filmBackStated() && options.filmBack().isEmpty();
    FilmFit fit = own ? c.fit().orElse(d.film().fit()) : d.film().fit();
    return d.film().withFit(fit).fromSender(o, picture);
  }
}
