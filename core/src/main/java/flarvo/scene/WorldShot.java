package flarvo.scene;

import java.util.List;
import java.util.Objects;
import java.util.Optional;

/**
 * A shot in the canonical world: its level is applied, lengths are metres and +Y is up. What is in
 * solve space is a {@link Shot}, and cannot be passed where this is wanted.
 *
 * @param contents the same as a shot whose own space is the world, for what is measured alike in
 *     either space; its level is the identity
 */
public record WorldShot(Shot contents) {

  /** Nothing at all. */
  public static final WorldShot EMPTY = new WorldShot(Shot.EMPTY);

  public WorldShot {
    Objects.requireNonNull(contents);
    if (!contents.level().equals(Similarity.IDENTITY)) {
      throw new IllegalArgumentException("the level of a shot in the world is applied already");
    }
  }

  /** The shot's name. */
  public String name() {
    return contents.name();
  }

  /** Of every plate of the shot. */
  public PictureSize picture() {
    return contents.picture();
  }

  /** Plate frames a second. */
  public Rate rate() {
    return contents.rate();
  }

  /** Plate frames. */
  public FrameRange frames() {
    return contents.frames();
  }

  /** Every camera, in metres. */
  public List<ShotCamera> cameras() {
    return contents.cameras();
  }

  /** The first camera. */
  public Optional<ShotCamera> camera() {
    return contents.camera();
  }

  /** Every set of trackers, in metres. */
  public List<TrackerSet> trackers() {
    return contents.trackers();
  }

  /** Trackers in all sets. */
  public int trackerCount() {
    return contents.trackerCount();
  }

  /** 2D tracks, in canonical pixels and plate frames. */
  public Observations observations() {
    return contents.observations();
  }

  /** Every plate sequence. */
  public List<PlateSequence> plates() {
    return contents.plates();
  }

  /** The first plate sequence of a role. */
  public Optional<PlateSequence> plate(PlateRole role) {
    return contents.plate(role);
  }

  /** Every mesh, in metres. */
  public List<Mesh> meshes() {
    return contents.meshes();
  }
}
