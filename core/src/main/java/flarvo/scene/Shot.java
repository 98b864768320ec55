package flarvo.scene;

import java.util.List;
import java.util.Objects;
import java.util.Optional;

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

  /** Camera and trackers in the canonical world: the level applied. */
  public Shot levelled() {
    if (level.equals(Similarity.IDENTITY)) {
      return this;
    }
    return new Shot(
        name,
        picture,
        rate,
        frames,
        sourceFirstFrame,
        cameras.stream().map(this::levelled).toList(),
        trackers.stream().map(t -> t.map(level::apply)).toList(),
        observations,
        plates,
        meshes.stream().map(m -> m.map(level::apply, false)).toList(),
        Similarity.IDENTITY);
  }

  private ShotCamera levelled(ShotCamera c) {
    ShotCamera moved = c.withPoses(PoseTrack.of(c.frames(), f -> level.apply(c.poses().at(f))));
    return c.clip().isPresent() ? moved.withClip(c.clip().get().scaled(level.scale())) : moved;
  }

  public Shot withLevel(Similarity l) {
    return new Shot(
        name,
        picture,
        rate,
        frames,
        sourceFirstFrame,
        cameras,
        trackers,
        observations,
        plates,
        meshes,
        l);
  }

  public Shot withPlates(List<PlateSequence> p) {
    return new Shot(
        name,
        picture,
        rate,
        frames,
        sourceFirstFrame,
        cameras,
        trackers,
        observations,
        p,
        meshes,
        level);
  }

  public Shot withCameras(List<ShotCamera> c) {
    return new Shot(
        name,
        picture,
        rate,
        frames,
        sourceFirstFrame,
        c,
        trackers,
        observations,
        plates,
        meshes,
        level);
  }

  public Shot withTrackers(List<TrackerSet> t) {
    return new Shot(
        name,
        picture,
        rate,
        frames,
        sourceFirstFrame,
        cameras,
        t,
        observations,
        plates,
        meshes,
        level);
  }

  public Shot withObservations(Observations o) {
    return new Shot(
        name, picture, rate, frames, sourceFirstFrame, cameras, trackers, o, plates, meshes, level);
  }

  public Shot withRate(Rate r) {
    return new Shot(
        name,
        picture,
        r,
        frames,
        sourceFirstFrame,
        cameras,
        trackers,
        observations,
        plates,
        meshes,
        level);
  }

  /** The solve laid on other plate frames: its first frame comes to lie on {@code first}. */
  public Shot startingAt(int first) {
    int by = first - frames.first();
    return new Shot(
        name,
        picture,
        rate,
        frames.shifted(by),
        sourceFirstFrame,
        cameras.stream().map(c -> c.shifted(by)).toList(),
        trackers,
        observations,
        plates,
        meshes,
        level);
  }

  /** Stand-in geometry, in solve space. */
  public Shot withMeshes(List<Mesh> m) {
    return new Shot(
        name,
        picture,
        rate,
        frames,
        sourceFirstFrame,
        cameras,
        trackers,
        observations,
        plates,
        m,
        level);
  }
}
