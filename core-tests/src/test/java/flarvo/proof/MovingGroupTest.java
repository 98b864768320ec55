package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FrameNumbering;
import flarvo.convention.RatePolicy;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.receive.InFile;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ShotIntake;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What moves in groups, through every format and dialects of both hands. */
class MovingGroupTest {

  private static final List<String> DIALECTS =
      List.of("anim-yup-cm", "engine-zup-left-cm", "anim-zup-m");

  @TempDir private Path dir;

  private Path send(Shot shot, SceneFormat f, Dialect d) {
    Path file = dir.resolve(f.id() + d.name() + f.extensions().get(0));
    Dispatcher.send(
        shot,
        new Delivery("x", d, f, Contents.WITH_GEOMETRY, file.getFileName().toString()),
        file,
        Progress.NONE);
    return file;
  }

  private static List<SceneFormat> carriers() {
    return Formats.all().stream()
        .filter(f -> f.writes() && !f.cannotCarry().contains(SceneFormat.MOVING_GROUPS))
        .toList();
  }

  /** The model itself, against the formulas: no file is involved. */
  @Test
  void aTrackerIsWhereItsGroupTakesIt() {
    Shot shot = CartShot.shot();
    TrackerSet wheel = shot.trackers().get(3);
    WorldShot world = shot.levelled();
    Pinhole pinhole = new Pinhole(shot.camera().orElseThrow(), shot.picture());
    Pinhole levelled = new Pinhole(world.camera().orElseThrow(), shot.picture());
    double[] a = new double[3];
    double[] b = new double[3];
    for (int f = 1001; f <= 1060; f++) {
      for (int i = 0; i < wheel.size(); i++) {
        Vec3 at = CartShot.cart(f).toWorld(CartShot.wheelOnCart(f).toWorld(wheel.position(i)));
        assertThat(wheel.position(i, f).minus(at).length()).isLessThan(1e-12);
        Vec3 there = world.trackers().get(3).position(i, f);
        assertThat(there.minus(shot.level().apply(at)).length()).isLessThan(1e-12);
        pinhole.at(f).project(at.x(), at.y(), at.z(), a);
        pinhole.project(wheel, i, b);
        assertThat(b[0]).isCloseTo(a[0], within(1e-9));
        levelled.at(f).project(world.trackers().get(3), i, b);
        assertThat(b[0]).isCloseTo(a[0], within(1e-9));
        assertThat(b[1]).isCloseTo(a[1], within(1e-9));
      }
    }
  }

  @Test
  void everyFormatCarriesThem() {
    Shot shot = CartShot.shot();
    int carried = 0;
    for (SceneFormat f : carriers()) {
      for (String name : DIALECTS) {
        Dialect d = Dialects.shipped().get(name);
        Path file = send(shot, f, d);
        ProofReport proof = Proof.of(shot, file, d, Contents.WITH_GEOMETRY, 0.01, Progress.NONE);
        assertThat(proof.checks()).as("%s %s", f.id(), name).allMatch(Check::holds);
        assertThat(proof.drift().orElseThrow().maxPx()).as("%s %s", f.id(), name).isLessThan(0.01);
        assertThat(proof.drift().orElseThrow().compared()).isGreaterThan(60 * 18);
        treeIsKept(file, d, shot, f.id() + " " + name);
        carried++;
      }
    }
    assertThat(carried).isGreaterThanOrEqualTo(24); // eight kinds of file, three dialects each
  }

  /** Names and nesting, and what moves against what. */
  private static void treeIsKept(Path file, Dialect d, Shot shot, String what) {
    ReceivedFile back = ReceivedFile.read(file, Optional.of(d), Progress.NONE);
    List<TrackerSet> sets =
        back.trackers(shot.picture(), IntakeOptions.NONE).stream().map(InFile::inFile).toList();
    assertThat(sets.stream().map(TrackerSet::name))
        .as(what)
        .containsExactlyInAnyOrder("ground", "cart", "bolts", "wheel");
    for (TrackerSet t : sets) {
      String path =
          String.join(
              "/", t.group().map(Group::path).orElse(List.of()).stream().map(Group::name).toList());
      String wanted =
          switch (t.name()) {
            case "ground" -> "";
            case "cart" -> "props/cart";
            case "bolts" -> "props/cart/number_plate";
            default -> "props/cart/wheel";
          };
      assertThat(path).as("%s: %s", what, t.name()).isEqualTo(wanted);
      assertThat(t.moves()).as("%s: %s", what, t.name()).isEqualTo(!t.name().equals("ground"));
    }
    Mesh hub =
        back.meshes(shot.picture(), IntakeOptions.NONE).stream()
            .map(InFile::inFile)
            .filter(m -> m.name().equals("hub"))
            .findFirst()
            .orElseThrow();
    assertThat(hub.group().orElseThrow().name()).as(what).isEqualTo("wheel");
    assertThat(hub.normals()).as(what).hasSizeGreaterThanOrEqualTo(72);
    assertThat(hub.uvs()).as(what).hasSizeGreaterThanOrEqualTo(48);
  }

  /** What came in is written again as it came, and once more: nothing adds up. */
  @Test
  void theTreeStaysTheSameOverTwoHandOvers() {
    Shot shot = CartShot.shot();
    for (SceneFormat f : carriers()) {
      Dialect d = Dialects.shipped().get("anim-yup-m");
      Path first = send(shot, f, d);
      Shot again =
          ShotIntake.of(List.of(first), Progress.NONE)
              .shot("again", IntakeOptions.NONE.withSize(shot.picture()));
      Path second = dir.resolve("again" + f.id() + f.extensions().get(0));
      Dispatcher.send(
          again,
          new Delivery("x", d, f, Contents.WITH_GEOMETRY, second.getFileName().toString()),
          second,
          Progress.NONE);
      treeIsKept(second, d, shot, f.id());
      ProofReport proof = Proof.of(shot, second, d, Contents.WITH_GEOMETRY, 0.01, Progress.NONE);
      assertThat(proof.drift().orElseThrow().maxPx()).as(f.id()).isLessThan(0.01);
    }
  }

  private static Shot spoiled(UnaryOperator<Group> change) {
    Shot shot = CartShot.shot();
    return shot.withTrackers(
            shot.trackers().stream()
                .map(t -> t.moves() ? t.inGroup(t.group().map(change)) : t)
                .toList())
        .withMeshes(
            shot.meshes().stream()
                .map(m -> m.moves() ? m.inGroup(m.group().map(change)) : m)
                .toList());
  }

  /** A proof that could not see a fault is worth nothing: each of these is one. */
  @Test
  void aGroupThatMovesOtherwiseDoesNotHold() {
    Dialect d = Dialects.shipped().get("anim-yup-cm");
    List<UnaryOperator<Group>> faults =
        List.of(
            g -> g.map(p -> PoseTrack.of(p.frames(), f -> p.at(p.frames().first()))), // frozen
            g -> g.map(p -> PoseTrack.of(p.frames(), f -> p.at(p.frames().clamp(f + 1)))), // late
            g -> g.map(p -> PoseTrack.of(p.frames(), f -> f == 1030 ? p.at(1029) : p.at(f))),
            g -> g.map(p -> p.map(q -> new Pose(q.position(), q.rotation().inverse()))),
            g -> g.map(p -> p.map(q -> new Pose(q.position().times(1.001), q.rotation()))));
    for (SceneFormat f : carriers()) {
      int k = 0;
      for (UnaryOperator<Group> fault : faults) {
        Path file = send(spoiled(fault), f, d);
        ProofReport proof =
            Proof.of(CartShot.shot(), file, d, Contents.WITH_GEOMETRY, 0.01, Progress.NONE);
        assertThat(proof.driftHolds()).as("%s, fault %d", f.id(), k).isFalse();
        assertThat(proof.checks().stream().filter(c -> !c.holds()).map(Check::name))
            .as("%s, fault %d", f.id(), k)
            .contains("geometry");
        k++;
      }
    }
  }

  /** A table of places cannot say that something moves: it says so, and sends no frozen ones. */
  @Test
  void aTableLeavesThemOutAndSaysSo() {
    Shot shot = CartShot.shot();
    SceneFormat table = Formats.byId("table");
    Dialect d = Dialects.shipped().get("anim-yup-cm");
    Path file = dir.resolve("t.csv");
    Dispatcher.Sent sent =
        Dispatcher.send(
            shot,
            new Delivery("x", d, table, Contents.CAMERA_AND_TRACKERS, "t.csv"),
            file,
            Progress.NONE);
    assertThat(sent.notes())
        .extracting(Object::toString)
        .anyMatch(n -> n.contains("15 that move are left out"));
    ProofReport proof = Proof.of(shot, file, d, Contents.CAMERA_AND_TRACKERS, 0.01, Progress.NONE);
    assertThat(proof.checks()).allMatch(Check::holds);
    List<TrackerSet> back =
        ReceivedFile.read(file, Optional.of(d), Progress.NONE)
            .trackers(shot.picture(), IntakeOptions.NONE)
            .stream()
            .map(InFile::inFile)
            .toList();
    assertThat(new ArrayList<>(back).stream().mapToInt(TrackerSet::size).sum()).isEqualTo(12);
  }

  /** Keeping seconds, groups are resampled as the camera is. */
  @Test
  void groupsFollowAnotherRate() {
    Shot shot = CartShot.shot();
    Dialect d = Dialects.shipped().get("anim-yup-cm");
    Dialect thirty =
        d.withFrames(
            new FrameNumbering(
                d.frames().firstFrame(), Optional.of(Rate.FPS_30), RatePolicy.KEEP_SECONDS));
    for (SceneFormat f : carriers()) {
      Path file = send(shot, f, thirty);
      ProofReport proof = Proof.of(shot, file, thirty, Contents.WITH_GEOMETRY, 1, Progress.NONE);
      assertThat(proof.drift().orElseThrow().maxPx()).as(f.id()).isLessThan(1);
      assertThat(proof.drift().orElseThrow().compared()).isGreaterThan(50 * 18);
    }
  }

  /** Where point i is at a frame: each goes its own way, under a parent that drives. */
  private static Vec3 ownWay(int i, int f) {
    double u = (f - 1001) / 10.0;
    return new Vec3(0.3 * i + 0.2 * Math.sin(u + i), 0.1 * i * u, -5 - 0.3 * i * Math.cos(u))
        .plus(new Vec3(0.25 * u, 0, 0));
  }

  /** An animated array of points: no group carries it, so each point is one. */
  @Test
  void pointsThatMoveOneByOneAreFollowed() throws java.io.IOException {
    StringBuilder points = new StringBuilder();
    StringBuilder drive = new StringBuilder();
    for (int f = 1001; f <= 1010; f++) {
      points.append(f).append(": [");
      for (int i = 0; i < 5; i++) {
        Vec3 p = ownWay(i, f).minus(new Vec3(0.25 * (f - 1001) / 10.0, 0, 0));
        points.append(i > 0 ? ", " : "");
        points.append(String.format(Locale.ROOT, "(%s, %s, %s)", p.x(), p.y(), p.z()));
      }
      points.append("], ");
      drive.append(f).append(": (").append(0.25 * (f - 1001) / 10.0).append(", 0, 0), ");
    }
    Path file =
        java.nio.file.Files.writeString(
            dir.resolve("cloud.usda"),
            """
            #usda 1.0
            (
                startTimeCode = 1001
                endTimeCode = 1010
                timeCodesPerSecond = 24
                metersPerUnit = 1
                upAxis = "Y"
            )
            def Xform "shot"
            {
                def Camera "cam"
                {
                    float focalLength = 0.28
                    float horizontalAperture = 0.24576
                    float verticalAperture = 0.13824
                }
                def Xform "car"
                {
                    double3 xformOp:translate.timeSamples = { %s }
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                    def Points "c"
                    {
                        point3f[] points.timeSamples = { %s }
                    }
                }
            }
            """
                .formatted(drive, points));
    IntakeOptions o = IntakeOptions.NONE.withSize(flarvo.scene.PictureSize.of(1920, 1080));
    Shot shot = ShotIntake.of(List.of(file), Progress.NONE).shot("cloud", o);
    assertThat(shot.trackerCount()).isEqualTo(5);
    for (TrackerSet t : shot.trackers()) {
      int i = Integer.parseInt(t.names().get(0).substring(2)) - 1;
      for (int f = 1001; f <= 1010; f++) {
        assertThat(t.position(0, f).minus(ownWay(i, f)).length()).isLessThan(1e-6);
      }
      assertThat(t.group().orElseThrow().path())
          .extracting(Group::name)
          .containsExactly("car", "c", t.names().get(0));
    }
    Dialect d = Dialects.shipped().get("engine-zup-left-cm");
    for (SceneFormat f : carriers()) {
      Path sent = send(shot, f, d);
      ProofReport proof = Proof.of(shot, sent, d, Contents.WITH_GEOMETRY, 0.01, Progress.NONE);
      assertThat(proof.checks()).as(f.id()).allMatch(Check::holds);
      assertThat(proof.drift().orElseThrow().compared()).as(f.id()).isEqualTo(50);
      assertThat(proof.drift().orElseThrow().maxPx()).as(f.id()).isLessThan(0.01);
    }
  }
}
