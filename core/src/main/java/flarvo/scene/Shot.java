package flarvo.scene;

import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * Everything known of one shot, in solve space; {@link #level} takes solve space to the canonical
 * world and stands beside the solve, never baked into it.
 *
 * @param frames plate frames
 * @param sourceFirstFrame number that the solve's own file gives to the first plate frame
 */
public record Shot(
    String name,
    PictureSize picture,
    Rate rate,
    FrameRange frames,
    int sourceFirstFrame,
    List<ShotCamera> cameras,
    List<TrackerSet> trackers,
    Observations observations,
    List<PlateSequence> plates,
    List<Mesh> meshes,
    Similarity level) {

  /** Nothing at all, on one frame of a 1920 × 1080 picture. */
  public static final Shot EMPTY =
      new Shot(
          "",
          PictureSize.of(1920, 1080),
          Rate.FPS_24,
          new FrameRange(1, 1),
          1,
          List.of(),
          List.of(),
          Observations.NONE,
          List.of(),
          Similarity.IDENTITY);

  public Shot {
    Objects.requireNonNull(name);
    Objects.requireNonNull(picture);
    Objects.requireNonNull(rate);
    Objects.requireNonNull(frames);
    Objects.requireNonNull(observations);
    Objects.requireNonNull(level);
    cameras = List.copyOf(cameras);
    trackers = List.copyOf(trackers);
    plates = List.copyOf(plates);
    meshes = List.copyOf(meshes);
  }

  /** A shot without geometry. */
  public Shot(
      String name,
      PictureSize picture,
      Rate rate,
      FrameRange frames,
      int sourceFirstFrame,
      List<ShotCamera> cameras,
      List<TrackerSet> trackers,
      Observations observations,
      List<PlateSequence> plates,
      Similarity level) {
    this(
        name,
        picture,
        rate,
        frames,
        sourceFirstFrame,
        cameras,
        trackers,
        observations,
        plates,
        List.of(),
        level);
  }

  /** The first camera. */
  public Optional<ShotCamera> camera() {
    return cameras.isEmpty() ? Optional.empty() : Optional.of(cameras.get(0));
  }

  /** Trackers in all sets. */
  public int trackerCount() {
    return trackers.stream().mapToInt(TrackerSet::size).sum();
  }

  /** The first plate sequence of a role. */
  public Optional<PlateSequence> plate(PlateRole role) {
    return plates.stream().filter(p -> p.role() == role).findFirst();
  }

  /** In the canonical world: the level applied. */
  public WorldShot levelled() {
    return new WorldShot(level.equals(Similarity.IDENTITY) ? this : underLevel());
  }

  private Shot underLevel() {
    return with(
        p -> {
          p.cameras = cameras.stream().map(this::levelled).toList();
          p.trackers = trackers.stream().map(t -> t.under(level)).toList();
          p.meshes = meshes.stream().map(m -> m.under(level)).toList();
          p.level = Similarity.IDENTITY;
        });
  }

  private ShotCamera levelled(ShotCamera c) {
    ShotCamera moved = c.withPoses(PoseTrack.of(c.frames(), f -> level.apply(c.poses().at(f))));
    return c.clip().isPresent() ? moved.withClip(c.clip().get().scaled(level.scale())) : moved;
  }

  /** Its parts, to be replaced. */
  private static final class Parts {
    private final String name;
    private PictureSize picture;
    private Rate rate;
    private FrameRange frames;
    private int sourceFirstFrame;
    private List<ShotCamera> cameras;
    private List<TrackerSet> trackers;
    private Observations observations;
    private List<PlateSequence> plates;
    private List<Mesh> meshes;
    private Similarity level;

    Parts(Shot s) {
      name = s.name;
      picture = s.picture;
      rate = s.rate;
      frames = s.frames;
      sourceFirstFrame = s.sourceFirstFrame;
      cameras = s.cameras;
      trackers = s.trackers;
      observations = s.observations;
      plates = s.plates;
      meshes = s.meshes;
      level = s.level;
    }
  }

  private Shot with(Consumer<Parts> change) {
    Parts p = new Parts(this);
    change.accept(p);
    return new Shot(
        p.name,
        p.picture,
        p.rate,
        p.frames,
        p.sourceFirstFrame,
        p.cameras,
        p.trackers,
        p.observations,
        p.plates,
        p.meshes,
        p.level);
  }

  /**
   * The shot as it lies over the plates of a role, the only ones left: with overscan round them,
   * picture and film backs grow, and 2D tracks move to where their features are then. Where there
   * are none of that role, the first plates are taken.
   */
  public Shot over(PlateRole role) {
    Optional<PlateSequence> found = plate(role).or(() -> plates.stream().findFirst());
    if (found.isEmpty()) {
      return this;
    }
    PlateSequence p = found.get();
    Shot alone = withPlates(List.of(p));
    return p.inner().filter(i -> i.picture().equals(picture)).isEmpty() ? alone : alone.grown(p);
  }

  private Shot grown(PlateSequence p) {
    return with(
        s -> {
          s.picture = p.size();
          s.cameras =
              cameras.stream()
                  .map(
                      c ->
                          c.withOptics(
                              c.optics()
                                  .map(
                                      o ->
                                          o.over(picture, p.size(), p.overscanX(), p.overscanY()))))
                  .toList();
          s.observations = observations.moved(p.overscanX(), p.overscanY());
        });
  }

  /**
   * Some of its frames: cameras and groups that move have no others.
   *
   * @throws IllegalArgumentException when it does not have them all
   */
  public Shot within(FrameRange part) {
    if (!frames.contains(part.first()) || !frames.contains(part.last())) {
      throw new IllegalArgumentException(part + " is not within " + frames);
    }
    return on(part);
  }

  /** On other frames; before its first frame and after its last, every motion is held. */
  public Shot on(FrameRange part) {
    return with(
        p -> {
          p.frames = part;
          p.sourceFirstFrame = sourceFirstFrame + part.first() - frames.first();
          p.cameras = cameras.stream().map(c -> c.within(part)).toList();
          p.trackers =
              trackers.stream()
                  .map(t -> t.inGroup(t.group().map(g -> g.map(m -> m.within(part)))))
                  .toList();
          p.meshes =
              meshes.stream()
                  .map(m -> m.inGroup(m.group().map(g -> g.map(x -> x.within(part)))))
                  .toList();
        });
  }

  public Shot withLevel(Similarity l) {
    return with(p -> p.level = l);
  }

  public Shot withPlates(List<PlateSequence> all) {
    return with(p -> p.plates = all);
  }

  public Shot withCameras(List<ShotCamera> all) {
    return with(p -> p.cameras = all);
  }

  public Shot withTrackers(List<TrackerSet> all) {
    return with(p -> p.trackers = all);
  }

  public Shot withObservations(Observations o) {
    return with(p -> p.observations = o);
  }

  public Shot withRate(Rate r) {
    return with(p -> p.rate = r);
  }

  /** Geometry that came in, and stand-ins, in solve space. */
  public Shot withMeshes(List<Mesh> all) {
    return with(p -> p.meshes = all);
  }

  /** The solve laid on other plate frames: its first frame comes to lie on {@code first}. */
  public Shot startingAt(int first) {
    int by = first - frames.first();
    return with(
        p -> {
          p.frames = frames.shifted(by);
          p.cameras = cameras.stream().map(c -> c.shifted(by)).toList();
          p.trackers = trackers.stream().map(t -> t.shifted(by)).toList();
          p.meshes = meshes.stream().map(m -> m.shifted(by)).toList();
        });
  }
}
