package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Deliveries in which one thing is wrong. The fault is put into the shot before it is written, and
 * the file is proven against the shot as it was: each must not hold. A fault that a format does not
 * carry leaves the file's bytes as they were, and is no fault there.
 */
class SpoiledDeliveriesTest {

  private static final List<String> FORMATS =
      List.of("usd-text", "usd-crate", "fbx-binary", "alembic", "gltf-binary", "scene-json");

  private static final int MIDDLE = 1030;

  @TempDir private Path dir;

  private static ShotCamera witness() {
    return new ShotCamera(
        "witness",
        PoseTrack.of(
            CartShot.FRAMES,
            f ->
                new Pose(
                    new Vec3(1.2, 0.8 + 0.004 * (f - 1001), 0.5),
                    Rotation.about(new Vec3(0.1, 1, 0), 0.1 + 0.002 * (f - 1001)))),
        OpticsTrack.constant(CartShot.FRAMES, Optics.centred(40, 36, 20.25)),
        Optional.empty());
  }

  /** Two cameras, the first with a lens that zooms, and groups that move. */
  private static Shot shot() {
    Shot s = CartShot.shot();
    ShotCamera first =
        s.cameras()
            .get(0)
            .withOptics(
                OpticsTrack.of(
                    s.frames(), f -> Optics.centred(28 + 0.05 * (f - 1001), 24.576, 13.824)));
    return s.withCameras(List.of(first, witness()));
  }

  private static Shot first(Shot s, UnaryOperator<ShotCamera> change) {
    return s.withCameras(List.of(change.apply(s.cameras().get(0)), s.cameras().get(1)));
  }

  private static Shot second(Shot s, UnaryOperator<ShotCamera> change) {
    return s.withCameras(List.of(s.cameras().get(0), change.apply(s.cameras().get(1))));
  }

  private interface PoseAt {
    Pose at(PoseTrack was, int frame);
  }

  private static ShotCamera moved(ShotCamera c, PoseAt how) {
    return c.withPoses(PoseTrack.of(c.frames(), f -> how.at(c.poses(), f)));
  }

  private interface OpticsAt {
    Optics at(OpticsTrack was, int frame);
  }

  private static ShotCamera lensed(ShotCamera c, OpticsAt how) {
    return c.withOptics(OpticsTrack.of(c.frames(), f -> how.at(c.optics(), f)));
  }

  private static Optics focal(Optics o, double factor) {
    return new Optics(
        o.focalLengthMm() * factor,
        o.filmWidthMm(),
        o.filmHeightMm(),
        o.principalXMm(),
        o.principalYMm());
  }

  private static Shot sets(Shot s, int which, UnaryOperator<TrackerSet> change) {
    List<TrackerSet> all = new ArrayList<>(s.trackers());
    all.set(which, change.apply(all.get(which)));
    return s.withTrackers(all);
  }

  private static TrackerSet nudged(TrackerSet t, double by) {
    int[] n = {0};
    return t.map(v -> n[0]++ == 1 ? v.plus(new Vec3(by, 0, 0)) : v);
  }

  private static TrackerSet renamed(TrackerSet t, int a, String name) {
    List<String> names = new ArrayList<>(t.names());
    names.set(a, name);
    return t.withNames(names);
  }

  private static TrackerSet swapped(TrackerSet t) {
    List<String> names = new ArrayList<>(t.names());
    Collections.swap(names, 0, 1);
    return t.withNames(names);
  }

  private static Shot meshes(Shot s, int which, UnaryOperator<Mesh> change) {
    List<Mesh> all = new ArrayList<>(s.meshes());
    all.set(which, change.apply(all.get(which)));
    return s.withMeshes(all);
  }

  private static Mesh bent(Mesh m) {
    int[] n = {0};
    return m.map(v -> n[0]++ == 3 ? v.plus(new Vec3(0, 0.001, 0)) : v, d -> d, false);
  }

  /** The first corner's normal, by a tenth of its length to the side. */
  private static double[] tilted(double[] normals) {
    double[] out = normals.clone();
    int along = Math.abs(out[0]) > 0.5 ? 1 : 0;
    out[along] += 0.1;
    return out;
  }

  private static double[] changed(double[] v, double by) {
    double[] out = v.clone();
    out[0] += by;
    return out;
  }

  /** Everything that hangs in the cart or the wheel in a group that is another. */
  private static Shot groups(Shot s, String name, UnaryOperator<Group> change) {
    List<TrackerSet> sets = new ArrayList<>();
    for (TrackerSet t : s.trackers()) {
      sets.add(t.inGroup(t.group().map(g -> replaced(g, name, change))));
    }
    List<Mesh> meshes = new ArrayList<>();
    for (Mesh m : s.meshes()) {
      meshes.add(m.inGroup(m.group().map(g -> replaced(g, name, change))));
    }
    return s.withTrackers(sets).withMeshes(meshes);
  }

  private static Group replaced(Group g, String name, UnaryOperator<Group> change) {
    Group own = g.name().equals(name) ? change.apply(g) : g;
    return g.parent().isPresent() ? own.in(replaced(g.parent().get(), name, change)) : own;
  }

  private static Group driven(Group g, PoseAt how) {
    PoseTrack was = g.poses().orElseThrow();
    return new Group(
        g.name(), g.parent(), Optional.of(PoseTrack.of(was.frames(), f -> how.at(was, f))));
  }

  private static Shot framed(Shot s, FrameRange range, Rate rate, PictureSize picture) {
    return new Shot(
        s.name(),
        picture,
        rate,
        range,
        range.first(),
        s.cameras(),
        s.trackers(),
        s.observations(),
        s.plates(),
        s.meshes(),
        s.level());
  }

  private static Map<String, UnaryOperator<Shot>> faults() {
    Map<String, UnaryOperator<Shot>> f = new LinkedHashMap<>();
    Vec3 millimetre = new Vec3(0.001, 0, 0);
    f.put(
        "camera a millimetre off on one frame",
        s ->
            first(
                s,
                c ->
                    moved(
                        c,
                        (p, k) ->
                            k == MIDDLE
                                ? new Pose(p.at(k).position().plus(millimetre), p.at(k).rotation())
                                : p.at(k))));
    f.put(
        "camera turned by 0.01 degrees on one frame",
        s ->
            first(
                s,
                c ->
                    moved(
                        c,
                        (p, k) ->
                            k == MIDDLE
                                ? new Pose(
                                    p.at(k).position(),
                                    p.at(k)
                                        .rotation()
                                        .after(Rotation.about(new Vec3(0, 1, 0), 1.7e-4)))
                                : p.at(k))));
    f.put(
        "camera a frame late",
        s -> first(s, c -> moved(c, (p, k) -> p.at(c.frames().clamp(k - 1)))));
    f.put(
        "camera frozen from the middle on",
        s -> first(s, c -> moved(c, (p, k) -> p.at(Math.min(k, MIDDLE)))));
    f.put("lens 0.1 % longer", s -> first(s, c -> lensed(c, (o, k) -> focal(o.at(k), 1.001))));
    f.put(
        "lens off on the last frame",
        s ->
            first(
                s,
                c ->
                    lensed(c, (o, k) -> k == c.frames().last() ? focal(o.at(k), 1.002) : o.at(k))));
    f.put("zoom held", s -> first(s, c -> lensed(c, (o, k) -> o.at(c.frames().first()))));
    f.put(
        "back and lens 1 % larger",
        s ->
            first(
                s,
                c ->
                    lensed(
                        c,
                        (o, k) ->
                            focal(o.at(k), 1.01)
                                .withFilm(
                                    o.at(k).filmWidthMm() * 1.01, o.at(k).filmHeightMm() * 1.01))));
    f.put(
        "centre a hundredth of a millimetre off",
        s -> first(s, c -> lensed(c, (o, k) -> o.at(k).withPrincipal(0.01, 0))));
    f.put("last frame missing", s -> framed(s, new FrameRange(1001, 1059), s.rate(), s.picture()));
    f.put("first frame missing", s -> framed(s, new FrameRange(1002, 1060), s.rate(), s.picture()));
    f.put("another rate", s -> framed(s, s.frames(), Rate.FPS_25, s.picture()));
    f.put(
        "another pixel aspect",
        s -> framed(s, s.frames(), s.rate(), new PictureSize(1920, 1080, 2)));
    f.put("another picture size", s -> framed(s, s.frames(), s.rate(), PictureSize.of(1920, 1200)));
    f.put("first camera renamed", s -> first(s, c -> c.withName("other")));
    f.put("second camera missing", s -> s.withCameras(List.of(s.cameras().get(0))));
    f.put("second camera renamed", s -> second(s, c -> c.withName("other")));
    f.put(
        "second camera's lens 0.1 % longer",
        s -> second(s, c -> lensed(c, (o, k) -> focal(o.at(k), 1.001))));
    f.put(
        "second camera a frame late",
        s -> second(s, c -> moved(c, (p, k) -> p.at(c.frames().clamp(k - 1)))));
    f.put(
        "cameras in another order",
        s -> s.withCameras(List.of(s.cameras().get(1), s.cameras().get(0))));
    f.put("a tracker a millimetre off", s -> sets(s, 0, t -> nudged(t, 0.001)));
    f.put("a tracker missing", s -> sets(s, 0, t -> t.without(Set.of(t.names().get(2)))));
    f.put("a tracker renamed", s -> sets(s, 0, t -> renamed(t, 0, "someone_else")));
    f.put("two trackers exchanged", s -> sets(s, 0, SpoiledDeliveriesTest::swapped));
    f.put("trackers 0.1 % larger", s -> sets(s, 0, t -> t.map(v -> v.times(1.001))));
    f.put("trackers mirrored", s -> sets(s, 0, t -> t.map(v -> new Vec3(-v.x(), v.y(), v.z()))));
    f.put("a tracker on the cart off", s -> sets(s, 1, t -> nudged(t, 0.001)));
    f.put(
        "trackers out of their group",
        s -> sets(s, 3, t -> t.inGroup(Optional.of(CartShot.cartGroup())).map(v -> v)));
    f.put("group renamed", s -> groups(s, "cart", g -> new Group("car", g.parent(), g.motion())));
    f.put(
        "group frozen", s -> groups(s, "cart", g -> driven(g, (p, k) -> p.at(p.frames().first()))));
    f.put(
        "group a frame late",
        s -> groups(s, "wheel", g -> driven(g, (p, k) -> p.at(p.frames().clamp(k - 1)))));
    f.put(
        "group stuck on one frame",
        s -> groups(s, "cart", g -> driven(g, (p, k) -> p.at(k == MIDDLE ? k - 1 : k))));
    f.put("a corner of a mesh a millimetre off", s -> meshes(s, 2, SpoiledDeliveriesTest::bent));
    f.put("a corner on the cart off", s -> meshes(s, 0, SpoiledDeliveriesTest::bent));
    f.put("a mesh missing", s -> s.withMeshes(s.meshes().subList(0, 2)));
    f.put("a normal turned", s -> meshes(s, 2, m -> m.withNormals(tilted(m.normals()))));
    f.put("a texture coordinate off", s -> meshes(s, 2, m -> m.withUvs(changed(m.uvs(), 0.01))));
    f.put("a mesh in another group", s -> meshes(s, 0, m -> m.inGroup(s.meshes().get(1).group())));
    f.put(
        "the world turned by 0.01 degrees",
        s ->
            s.withLevel(
                new flarvo.scene.Similarity(
                    s.level().scale(),
                    Rotation.about(new Vec3(0, 1, 0), 1.7e-4).after(s.level().rotation()),
                    s.level().translation())));
    f.put(
        "the world 0.1 % larger",
        s ->
            s.withLevel(
                new flarvo.scene.Similarity(
                    s.level().scale() * 1.001, s.level().rotation(), s.level().translation())));
    return f;
  }

  private Path write(Shot s, Dialect to, SceneFormat format, String name) {
    Path file = dir.resolve(name + format.extensions().get(0));
    Dispatcher.send(
        s, new Delivery("x", to, format, Contents.WITH_GEOMETRY, "x"), file, Progress.NONE);
    return file;
  }

  @Test
  void everyFaultIsSeen() throws IOException {
    Dialect to = Dialects.shipped().get("comp-yup");
    Shot good = shot();
    List<String> unseen = new ArrayList<>();
    int seen = 0;
    for (String id : FORMATS) {
      SceneFormat format = Formats.byId(id);
      Path clean = write(good, to, format, "good");
      ProofReport proof = Proof.of(good, clean, to, Contents.WITH_GEOMETRY, 0.01, Progress.NONE);
      boolean holds = proof.holds();
      // Without its zoom, what glTF carries does not hold; then the lens is still, and proven so.
      Shot base = holds ? good : first(good, c -> lensed(c, (o, k) -> o.at(1001)));
      clean = holds ? clean : write(base, to, format, "still");
      proof = Proof.of(base, clean, to, Contents.WITH_GEOMETRY, 0.01, Progress.NONE);
      assertThat(proof.holds()).as(id + ": " + proof.sentence()).isTrue();
      byte[] bytes = Files.readAllBytes(clean);
      for (Map.Entry<String, UnaryOperator<Shot>> fault : faults().entrySet()) {
        Path file = write(fault.getValue().apply(base), to, format, "bad");
        if (java.util.Arrays.equals(bytes, Files.readAllBytes(file))) {
          continue;
        }
        ProofReport bad = Proof.of(base, file, to, Contents.WITH_GEOMETRY, 0.01, Progress.NONE);
        if (bad.holds()) {
          unseen.add(id + ": " + fault.getKey());
        } else {
          seen++;
        }
      }
    }
    assertThat(unseen).isEmpty();
    assertThat(seen).isGreaterThan(200);
  }
}
