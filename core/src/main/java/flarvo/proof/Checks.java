package flarvo.proof;

import flarvo.convention.Dialect;
import flarvo.convention.FrameMap;
import flarvo.convention.LinearUnit;
import flarvo.dispatch.ClipFit;
import flarvo.dispatch.Contents;
import flarvo.dispatch.DeliveryPlace;
import flarvo.dispatch.Part;
import flarvo.format.FileCamera;
import flarvo.format.FileScene;
import flarvo.format.SceneFormat;
import flarvo.format.Sourced;
import flarvo.receive.InFile;
import flarvo.receive.ReceivedFile;
import flarvo.report.Note;
import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;

/** Everything that drift alone cannot see: a scene moved, scaled or renumbered as a whole. */
final class Checks {

  /** How far a length or position may be off, as a share of the scene's size. */
  private static final double RELATIVE = 1e-5;

  private final WorldShot source;
  private final FileScene scene;
  private final Path place;
  private final SceneFormat format;
  private final Dialect spoken;
  private final Contents contents;
  private final boolean carriesMeshes;
  private final boolean carriesMotion;
  private final boolean carriesCameras;
  private final FrameMap map;
  private final List<ShotCamera> cameras; // under the file's frames
  private final List<TrackerSet> trackers;
  private final List<Mesh> meshes;
  private final List<Check> out = new ArrayList<>();

  Checks(
      WorldShot source,
      ReceivedFile file,
      Dialect to,
      Contents contents,
      FrameMap map,
      List<InFile<ShotCamera>> cameras,
      List<TrackerSet> trackers,
      List<Mesh> meshes) {
    this.meshes = meshes;
    this.source = source;
    this.scene = file.scene();
    this.place = file.path();
    this.format = file.format();
    this.spoken = file.format().nearestSupported(to).spoken();
    this.contents = contents;
    this.carriesMeshes = !file.format().cannotCarry().contains(SceneFormat.MESHES);
    this.carriesMotion = !file.format().cannotCarry().contains(SceneFormat.MOVING_GROUPS);
    this.carriesCameras = !file.format().cannotCarry().contains(SceneFormat.MORE_CAMERAS);
    this.map = map;
    this.cameras = cameras.stream().map(InFile::inFile).toList();
    this.trackers = trackers;
  }

  List<Check> all() {
    stated("upAxis", spoken.world().up(), scene.up());
    stated("handedness", spoken.handedness(), scene.handedness(), h -> h.word());
    stated("unit", spoken.unit(), scene.unit());
    out.addAll(LengthCheck.of(source.trackers(), trackers, scene.trackers(), spoken, RELATIVE));
    if (!isTimeless(scene)) {
      stated("rate", map.recipientRate(), scene.rate());
    }
    frames();
    stated("pictureSize", source.picture(), scene.picture());
    camera();
    cameraIdentity();
    filmBack();
    clipPlanes();
    if (contents.has(Part.TRACKERS)) {
      trackerNames();
      // Drift sees what is inside the picture; what moves is compared outside of it too, and so is
      // what should stand still and moves with the camera.
      boolean moves =
          map.isOffset()
              && (expectedTrackers().stream().anyMatch(TrackerSet::moves)
                  || trackers.stream().anyMatch(TrackerSet::moves));
      if (source.cameras().isEmpty() || moves) {
        out.add(PlaceCheck.of(expectedTrackers(), trackers, source.frames(), RELATIVE));
      }
    }
    CloudCheck.of(source, scene, contents, format).ifPresent(out::add);
    if (contents.has(Part.TRACKERS)) {
      LocatorSizeCheck.of(expectedTrackers(), scene, format, spoken.unit().metresPerUnit())
          .ifPresent(out::add);
    }
    if (carriesMotion) {
      GroupCheck.of(source, trackers, meshes, contents).ifPresent(out::add);
    }
    geometry();
    plate();
    conflicts();
    return out;
  }

  private <T> void stated(String name, T expected, Optional<Sourced<T>> found) {
    stated(name, expected, found, Object::toString);
  }

  /** Whether a rate was made up for a file in which nothing moves, so that none applies. */
  static boolean isTimeless(FileScene scene) {
    return scene.rate().map(Sourced::assumed).orElse(false)
        && scene.cameras().stream().allMatch(c -> c.keys() <= 1)
        && scene.trackers().stream().noneMatch(TrackerSet::moves)
        && scene.meshes().stream().noneMatch(Mesh::moves);
  }

  /** A fact that the format can state; nothing is compared where it cannot. */
  private <T> void stated(
      String name,
      T expected,
      Optional<Sourced<T>> found,
      java.util.function.Function<T, String> word) {
    if (found.isPresent()) {
      T value = found.get().value();
      boolean same =
          expected instanceof LinearUnit a && value instanceof LinearUnit b
              ? Math.abs(a.metresPerUnit() / b.metresPerUnit() - 1) < 1e-9
              : expected.equals(value);
      add(name, same, word.apply(expected), word.apply(value));
    }
  }

  private void frames() {
    if (cameras.isEmpty()) {
      return;
    }
    FrameRange expected = map.recipientFrames();
    FrameRange keyed = cameras.get(0).frames();
    add("firstFrame", expected.first() == keyed.first(), expected.first(), keyed.first());
    add("lastFrame", expected.last() == keyed.last(), expected.last(), keyed.last());
    scene
        .range()
        .filter(r -> !r.assumed())
        .ifPresent(r -> add("sceneRange", r.value().equals(expected), expected, r.value()));
    FileCamera c = scene.cameras().get(0);
    boolean still = c.keys() == 1 && expected.count() > 1;
    add(
        "keysPerFrame",
        c.keys() == expected.count() && c.offGridKeys() == 0 && !still,
        expected.count() + " on frames",
        c.keys()
            - c.offGridKeys()
            + " on frames"
            + (c.offGridKeys() == 0 ? "" : ", " + c.offGridKeys() + " between"));
  }

  private void filmBack() {
    if (cameras.isEmpty() || source.camera().isEmpty()) {
      return;
    }
    Optics sent =
        spoken
            .film()
            .toRecipient(
                source.camera().get().optics().at(source.camera().get().frames().first()),
                source.picture());
    Optics found = cameras.get(0).optics().at(cameras.get(0).frames().first());
    if (scene.cameras().get(0).verticalAngleOnly()) {
      double wanted = verticalDegrees(sent);
      double is = verticalDegrees(found);
      add("viewAngle", Math.abs(wanted - is) < 1e-4, degrees(wanted), degrees(is));
      statedAspect();
      return;
    }
    boolean same =
        Math.abs(found.filmWidthMm() / sent.filmWidthMm() - 1) < 1e-6
            && Math.abs(found.filmHeightMm() / sent.filmHeightMm() - 1) < 1e-6;
    add(
        "filmBack",
        same && scene.cameras().get(0).filmBackStated(),
        millimetres(sent),
        scene.cameras().get(0).filmBackStated() ? millimetres(found) : "not stated");
    if (same && scene.cameras().get(0).filmBackStated()) {
      statedBack();
    }
  }

  /**
   * The back as it stands in the file, both sides on every frame: a reader that fits by the width
   * never looks at the height, and the next recipient may fit by it.
   */
  private void statedBack() {
    OpticsTrack stated =
        DeliveredTime.camera(new InFile<>(scene.cameras().get(0).camera()), map).optics();
    ShotCamera own = source.camera().orElseThrow();
    for (int f = own.frames().first(); f <= own.frames().last(); f++) {
      if (!stated.frames().contains(f)) {
        continue;
      }
      Optics sent = spoken.film().toRecipient(own.optics().at(f), source.picture());
      Optics is = stated.at(f);
      if (Math.abs(is.filmWidthMm() / sent.filmWidthMm() - 1) > 1e-6
          || Math.abs(is.filmHeightMm() / sent.filmHeightMm() - 1) > 1e-6) {
        add(
            "statedBack",
            false,
            millimetres(sent),
            millimetres(is) + " at frame " + f + " of the plate");
        return;
      }
    }
    add("statedBack", true, "the same on every frame", "the same on every frame");
  }

  /** A stated aspect beside a vertical angle. */
  private void statedAspect() {
    Optics is =
        scene
            .cameras()
            .get(0)
            .camera()
            .optics()
            .at(scene.cameras().get(0).camera().frames().first());
    ShotCamera own = source.camera().orElseThrow();
    Optics sent = own.optics().at(own.frames().first());
    double wanted = sent.filmWidthMm() / sent.filmHeightMm();
    double found = is.filmWidthMm() / is.filmHeightMm();
    add("aspect", Math.abs(found / wanted - 1) < 1e-6, ratio(wanted), ratio(found));
  }

  private static String ratio(double r) {
    return String.format(Locale.ROOT, "%.5f", r);
  }

  private static double verticalDegrees(Optics o) {
    return Math.toDegrees(2 * Math.atan(o.filmHeightMm() / 2 / o.focalLengthMm()));
  }

  private static String degrees(double d) {
    return String.format(Locale.ROOT, "%.4f° vertical", d);
  }

  private static String millimetres(Optics o) {
    return String.format(Locale.ROOT, "%.4f × %.4f mm", o.filmWidthMm(), o.filmHeightMm());
  }

  /** Planes that came with the camera go with it, and none may cut a tracker in the picture. */
  private void clipPlanes() {
    if (cameras.isEmpty() || source.camera().isEmpty()) {
      return;
    }
    ShotCamera own = source.camera().get();
    if (cameras.get(0).clip().isEmpty()) {
      own.clip()
          .filter(c -> !format.cannotCarry().contains(SceneFormat.CLIP))
          .ifPresent(c -> add("clipPlanes", false, clip(c), "none"));
      return;
    }
    ClipRange is = cameras.get(0).clip().get();
    boolean asSent = own.clip().map(c -> same(c, is)).orElse(false);
    ClipFit.inPicture(own, source.trackers(), source.picture())
        .ifPresent(
            seen ->
                add(
                    "clipPlanes",
                    asSent
                        || is.near() <= seen.near() * (1 + RELATIVE)
                            && is.far() >= seen.far() * (1 - RELATIVE),
                    "around " + clip(seen),
                    clip(is)));
  }

  private static boolean same(ClipRange a, ClipRange b) {
    return Math.abs(a.near() / b.near() - 1) < RELATIVE
        && Math.abs(a.far() / b.far() - 1) < RELATIVE;
  }

  private static String clip(ClipRange c) {
    return String.format(Locale.ROOT, "%.4f to %.4f m", c.near(), c.far());
  }

  /** A camera that should be there and is not is a fault, and not a reason to look at less. */
  private void camera() {
    if (contents.has(Part.CAMERA) && cameras.isEmpty()) {
      add("camera", false, source.camera().map(ShotCamera::name).orElse("a camera"), "none");
    } else if (contents.has(Part.CAMERA) && carriesCameras && source.cameras().size() > 1) {
      add(
          "cameras",
          source.cameras().size() == cameras.size(),
          cameraNames(source.cameras()),
          cameraNames(cameras));
    }
  }

  /** By their letters and digits: some formats allow no others. */
  private void cameraIdentity() {
    if (!contents.has(Part.CAMERA)) {
      return;
    }
    for (int i = 0; i < Math.min(cameras.size(), source.cameras().size()); i++) {
      String sent = source.cameras().get(i).name();
      String found = cameras.get(i).name();
      if (!plain(sent).equals(plain(found))) {
        add("cameraName", false, sent, found);
        return;
      }
    }
    if (!cameras.isEmpty()) {
      add("cameraName", true, source.cameras().get(0).name(), cameras.get(0).name());
    }
  }

  /** Letters and digits of a name. */
  static String plain(String name) {
    return name.replaceAll("[^\\p{L}\\p{N}]", "_");
  }

  private static String cameraNames(List<ShotCamera> all) {
    return all.size() + ": " + all.stream().map(ShotCamera::name).collect(Collectors.joining(", "));
  }

  private void trackerNames() {
    Set<String> expected = names(expectedTrackers());
    Set<String> found = names(trackers);
    add("trackerCount", expected.size() == found.size(), expected.size(), found.size());
    Set<String> missing = new TreeSet<>();
    for (String name : expected) {
      if (!found.contains(name)) {
        missing.add(name);
      }
    }
    add(
        "trackerNames",
        missing.isEmpty(),
        "all names",
        missing.isEmpty()
            ? "all names"
            : missing.size() + " missing, such as " + missing.iterator().next());
  }

  /** What the format can carry of the trackers. */
  private List<TrackerSet> expectedTrackers() {
    return carriesMotion
        ? source.trackers()
        : source.trackers().stream().filter(t -> !t.moves()).toList();
  }

  private static Set<String> names(List<TrackerSet> sets) {
    Set<String> s = new HashSet<>();
    sets.forEach(t -> s.addAll(t.names()));
    return s;
  }

  /** Where geometry came along, all of it did, and each point stands where it stood. */
  private void geometry() {
    boolean sent = contents.hasMeshes() && carriesMeshes || !meshes.isEmpty();
    if (source.meshes().isEmpty() || !sent) {
      return;
    }
    out.add(new MeshCheck(source.frames(), format).of(source.meshes(), meshes, RELATIVE));
  }

  /** What a file states twice differently, one recipient takes this way and one that. */
  private void conflicts() {
    scene.notes().stream()
        .filter(n -> n.kind() == Note.Kind.CONFLICTING)
        .findFirst()
        .ifPresent(n -> add("statedOnce", false, "every fact the same wherever it stands", n));
  }

  private void plate() {
    // The source has been laid over the plates that go with it: the only ones it has here.
    Optional<PlateSequence> sent = source.plates().stream().findFirst();
    if (sent.isPresent() && scene.plate().isPresent()) {
      PlateRole found = scene.plate().get().role();
      String path = scene.plate().get().path().replace('\\', '/');
      // Copies that lie beside the file help nobody whom the file sends elsewhere.
      String copies = DeliveryPlace.plates(place).getFileName() + "/" + sent.get().pattern();
      boolean copied = contents.has(Part.PLATES);
      add(
          "plate",
          found == sent.get().role() && (!copied || path.equals(copies)),
          sent.get().role().word() + (copied ? ": " + copies : ""),
          found.word() + ": " + path);
    }
  }

  private void add(String name, boolean holds, Object expected, Object found) {
    out.add(new Check(name, holds, expected.toString(), found.toString()));
  }
}
