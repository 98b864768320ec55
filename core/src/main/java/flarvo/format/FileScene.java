package flarvo.format;

import flarvo.convention.Handedness;
import flarvo.convention.LinearUnit;
import flarvo.convention.SceneSetting;
import flarvo.convention.SignedAxis;
import flarvo.convention.WorldAxes;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.UnaryOperator;

/**
 * What one file holds, in its own space, unit and frames, and what it says about them. Empty facts
 * are ones that the format cannot state.
 *
 * @param world all three axes, for formats that state them; {@code up} alone otherwise
 * @param clouds names of the sets of trackers that came as clouds of points
 * @param locatorSizes how large locators are drawn, by the name of their set, in units of the
 *     file's world; NaN where those of one set differ, nothing where the file does not say
 * @param parents nodes that stand still elsewhere than the world does, and hold something; a scene
 *     that is to be written has at most one
 */
public record FileScene(
    Optional<Sourced<Rate>> rate,
    Optional<Sourced<FrameRange>> range,
    Optional<Sourced<PictureSize>> picture,
    Optional<Sourced<LinearUnit>> unit,
    Optional<Sourced<SignedAxis>> up,
    Optional<Sourced<Handedness>> handedness,
    Optional<WorldAxes> world,
    List<FileCamera> cameras,
    List<TrackerSet> trackers,
    Set<String> clouds,
    Map<String, Double> locatorSizes,
    List<Mesh> meshes,
    Observations observations,
    Optional<PlateMention> plate,
    List<FileParent> parents,
    List<String> takes,
    List<Note> notes) {

  public FileScene {
    clouds = Set.copyOf(clouds);
    locatorSizes = Map.copyOf(locatorSizes);
    parents = List.copyOf(parents);
    cameras = List.copyOf(cameras);
    trackers = List.copyOf(trackers);
    meshes = List.copyOf(meshes);
    takes = List.copyOf(takes);
    notes = List.copyOf(notes);
  }

  /** Trackers in all sets. */
  public int trackerCount() {
    return trackers.stream().mapToInt(TrackerSet::size).sum();
  }

  /** The same file as read by one who does not look for these. */
  public FileScene without(Set<SceneSetting> ignored) {
    boolean axes = ignored.contains(SceneSetting.AXES);
    return new FileScene(
        ignored.contains(SceneSetting.RATE) ? Optional.empty() : rate,
        ignored.contains(SceneSetting.RANGE) ? Optional.empty() : range,
        ignored.contains(SceneSetting.PICTURE) ? Optional.empty() : picture,
        ignored.contains(SceneSetting.UNIT) ? Optional.empty() : unit,
        axes ? Optional.empty() : up,
        axes ? Optional.empty() : handedness,
        axes ? Optional.empty() : world,
        cameras,
        trackers,
        clouds,
        locatorSizes,
        meshes,
        observations,
        plate,
        parents,
        takes,
        notes);
  }

  /**
   * The same with the sizes of its locators on its trackers, so that they are carried on. A set
   * whose locators differ in size gets none, and a note says so.
   */
  public FileScene withLocatorSizes() {
    List<TrackerSet> sized = new ArrayList<>();
    List<Note> said = new ArrayList<>(notes);
    for (TrackerSet t : trackers) {
      double size = locatorSizes.getOrDefault(t.name(), 0.0);
      sized.add(size > 0 ? t.withMarker(size) : t);
      if (Double.isNaN(size)) {
        said.add(
            Note.ignored(
                "trackers " + t.name(), "its locators differ in size; none is carried on"));
      }
    }
    return with(cameras, sized, meshes, parents, said);
  }

  /** The same without pictures on its meshes. */
  public FileScene withoutTextures() {
    List<Mesh> bare = meshes.stream().map(m -> m.withTexture(Optional.empty())).toList();
    return with(cameras, trackers, bare, parents, notes);
  }

  /** The same with other parents. */
  public FileScene withParents(UnaryOperator<FileParent> change) {
    return parents.isEmpty()
        ? this
        : with(cameras, trackers, meshes, parents.stream().map(change).toList(), notes);
  }

  /**
   * The same with every place and pose in the space of the parent that it is to be written under;
   * clipping planes stay in the unit of the world.
   */
  FileScene inParent() {
    if (parents.isEmpty()) {
      return this;
    }
    Similarity in = parents.get(0).place().inverse();
    return with(
        cameras.stream()
            .map(
                c ->
                    c.withPoses(c.camera().poses().map(in::apply))
                        .inGroup(c.group().map(g -> g.under(in))))
            .toList(),
        trackers.stream().map(t -> under(t, in)).toList(),
        meshes.stream().map(m -> m.under(in)).toList(),
        parents,
        notes);
  }

  private static TrackerSet under(TrackerSet t, Similarity in) {
    TrackerSet there = t.under(in);
    return t.marker().isPresent() ? there.withMarker(t.marker().getAsDouble() * in.scale()) : there;
  }

  private FileScene with(
      List<FileCamera> otherCameras,
      List<TrackerSet> otherTrackers,
      List<Mesh> otherMeshes,
      List<FileParent> otherParents,
      List<Note> otherNotes) {
    return new FileScene(
        rate,
        range,
        picture,
        unit,
        up,
        handedness,
        world,
        otherCameras,
        otherTrackers,
        clouds,
        locatorSizes,
        otherMeshes,
        observations,
        plate,
        otherParents,
        takes,
        otherNotes);
  }

  /** Collects a scene while a file is read. */
  public static final class Builder {
    public Sourced<Rate> rate;
    public Sourced<FrameRange> range;
    public Sourced<PictureSize> picture;
    public Sourced<LinearUnit> unit;
    public Sourced<SignedAxis> up;
    public Sourced<Handedness> handedness;
    public WorldAxes world;
    public final List<FileCamera> cameras = new ArrayList<>();
    public final List<TrackerSet> trackers = new ArrayList<>();
    public final Set<String> clouds = new TreeSet<>();
    public final Map<String, Double> locatorSizes = new TreeMap<>();
    public final List<Mesh> meshes = new ArrayList<>();
    public Observations observations = Observations.NONE;
    public PlateMention plate;
    public final List<FileParent> parents = new ArrayList<>();
    public final List<String> takes = new ArrayList<>();
    public final List<Note> notes = new ArrayList<>();

    /**
     * Hangs the cameras in the groups of a file.
     *
     * @param nodes of the cameras, in their order; null for one that is no node
     */
    public void hang(FileGroups groups, List<? extends TreeNode> nodes) {
      for (int i = 0; i < nodes.size(); i++) {
        cameras.set(i, cameras.get(i).inGroup(groups.above(nodes.get(i))));
      }
    }

    /** The scene, with everything that was collected. */
    public FileScene build() {
      return new FileScene(
          Optional.ofNullable(rate),
          Optional.ofNullable(range),
          Optional.ofNullable(picture),
          Optional.ofNullable(unit),
          Optional.ofNullable(up),
          Optional.ofNullable(handedness),
          Optional.ofNullable(world),
          cameras,
          trackers,
          clouds,
          locatorSizes,
          meshes,
          observations,
          Optional.ofNullable(plate),
          parents,
          takes,
          notes);
    }
  }
}
