package flarvo.motion;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Extract;
import flarvo.dispatch.Losses;
import flarvo.dispatch.Outgoing;
import flarvo.format.FileScene;
import flarvo.format.Formats;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.proof.Check;
import flarvo.proof.Handover;
import flarvo.proof.Proof;
import flarvo.proof.ProofReport;
import flarvo.report.InputError;
import flarvo.scene.Group;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Under any parent the picture stays, and the file has the parent that was asked for. */
class ParentsTest {

  @TempDir private Path dir;

  private static Shot shot(SceneFormat f, long seed) {
    Shot s = RecastTest.shot(seed);
    ShotCamera c = s.cameras().get(0);
    OpticsTrack simple = OpticsTrack.constant(c.frames(), Optics.centred(35, 24.576, 13.824));
    List<ShotCamera> all = new ArrayList<>(s.cameras());
    all.set(0, f.id().startsWith("gltf") ? c.withOptics(simple) : c);
    // Beside the first, so that it sees the same.
    PoseTrack beside =
        c.poses().map(p -> new Pose(p.position().plus(new Vec3(1, 0, 0)), p.rotation()));
    all.set(1, all.get(1).withPoses(beside));
    return s.withCameras(all);
  }

  /** Any scale between a hundredth and a hundred, anywhere, turned anyhow. */
  private static Parents random(Random r) {
    Similarity place =
        new Similarity(
            Math.pow(10, 4 * r.nextDouble() - 2),
            Rotation.normalized(
                r.nextGaussian(), r.nextGaussian(), r.nextGaussian(), r.nextGaussian()),
            new Vec3(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()).times(3));
    String[] groups = {"cart", "wheel"};
    return new Parents(
        r.nextBoolean(),
        r.nextBoolean() ? Optional.of(groups[r.nextInt(2)]) : Optional.empty(),
        r.nextInt(4) > 0 ? Optional.of(new Parent("rig 1", place)) : Optional.empty());
  }

  private static Delivery delivery(SceneFormat f, String dialect, Recast r) {
    return new Delivery(
        "d",
        Dialects.shipped().get(dialect),
        f,
        Contents.WITH_GEOMETRY.withLocators(OptionalDouble.of(0.2)),
        Extract.WHOLE.recast(r),
        "d" + f.extensions().get(0));
  }

  private static List<SceneFormat> carrying() {
    return Formats.all().stream()
        .filter(f -> f.writes() && !f.cannotCarry().contains(SceneFormat.PARENTS))
        .toList();
  }

  @Test
  void everyFormatHoldsUnderAnyParent() {
    Random r = new Random(9);
    List<String> wrong = new ArrayList<>();
    String[] dialects = {"anim-zup-m", "anim-yup-cm", "engine-yup-m"};
    int sent = 0;
    for (SceneFormat f : carrying()) {
      for (int i = 0; i < 12; i++) {
        Parents p = random(r);
        // Every third far out, where formats of 32-bit floats put a centre in between.
        Vec3 away = i % 3 == 2 ? new Vec3(4000, 12, -3000) : Vec3.ZERO;
        Shot s = shot(f, i).withLevel(new Similarity(2, Rotation.IDENTITY, away));
        Recast recast = Recast.NONE.withParents(p);
        if (i % 2 == 0) {
          recast = recast.withHeld(Optional.of(Held.camera(1010)));
          recast = recast.withParents(p.withCameraIn(Optional.empty()));
        }
        Delivery d = delivery(f, dialects[i % 3], recast);
        Path file = dir.resolve(f.id() + i + f.extensions().get(0));
        ProofReport proof =
            Handover.send(Outgoing.of(s), d, file, 0.02, List.of(), Progress.NONE).proof();
        sent++;
        List<Check> bad = proof.checks().stream().filter(c -> !c.holds()).toList();
        boolean seen =
            recast.parents().equals(Parents.NONE)
                || proof.checks().stream().anyMatch(c -> c.name().equals("cameraParent"));
        seen &=
            !f.holdsLocatorSizes()
                || proof.checks().stream().anyMatch(c -> c.name().equals("locatorSize"));
        if (!proof.holds() || !seen) {
          wrong.add(f.id() + " " + i + " " + p + " " + proof.sentence() + " " + bad);
        }
      }
    }
    assertThat(sent).isGreaterThan(60);
    assertThat(wrong).isEmpty();
  }

  @Test
  void aFileWithAnotherParentDoesNotHold() {
    SceneFormat usd = Formats.byId("usd-text");
    Shot s = shot(usd, 3);
    Similarity place = new Similarity(100, Rotation.IDENTITY, new Vec3(1, 2, 3));
    Parents p = Parents.NONE.withCameraIn(Optional.of("cart")).under(parent("rig", place));
    Delivery d = delivery(usd, "comp-yup", Recast.NONE.withParents(p));
    Path file = dir.resolve("a.usda");
    assertThat(
            Handover.send(Outgoing.of(s), d, file, 0.02, List.of(), Progress.NONE).proof().holds())
        .isTrue();
    List<Parents> others =
        List.of(
            p.withCameraIn(Optional.empty()),
            p.withCameraIn(Optional.of("wheel")),
            p.under(Optional.empty()),
            p.under(parent("rig2", place)),
            p.under(parent("rig", new Similarity(10, place.rotation(), place.translation()))),
            p.under(parent("rig", new Similarity(100, place.rotation(), Vec3.ZERO))),
            p.under(
                parent(
                    "rig",
                    new Similarity(
                        100, Rotation.about(new Vec3(0, 1, 0), 0.01), place.translation()))),
            p.baked(true));
    for (Parents other : others) {
      Extract e = Extract.WHOLE.recast(Recast.NONE.withParents(other));
      ProofReport r = Proof.of(s, file, d.dialect(), d.contents(), e, 0.02, Progress.NONE);
      assertThat(r.holds()).as(other.toString()).isFalse();
      assertThat(r.drift().orElseThrow().maxPx()).as("the picture is the same").isLessThan(0.02);
    }
  }

  private static Optional<Parent> parent(String name, Similarity place) {
    return Optional.of(new Parent(name, place));
  }

  @Test
  void whatAFormatCannotHoldIsSaidAndThePictureStays() {
    SceneFormat json = Formats.byId("scene-json");
    Parents p =
        Parents.NONE
            .withCameraIn(Optional.of("cart"))
            .under(parent("rig", new Similarity(100, Rotation.IDENTITY, Vec3.ZERO)));
    Delivery d = delivery(json, "comp-yup", Recast.NONE.withParents(p));
    Shot s = shot(json, 3);
    ProofReport r =
        Handover.send(Outgoing.of(s), d, dir.resolve("a.json"), 0.02, List.of(), Progress.NONE)
            .proof();
    assertThat(r.holds()).as(r.sentence()).isTrue();
    assertThat(Losses.of(d.extract().of(s), d).toString())
        .contains("no parent with a place and a scale", "cameras in no group");
  }

  /**
   * What came under a parent that is scaled differently along its axes: places are where the file
   * puts them, and a camera, which has no such scale, stands rigidly where it is and says so.
   */
  @Test
  void anUnevenParentIsResolvedAndSaid() throws IOException {
    Random r = new Random(4);
    for (int k = 0; k < 30; k++) {
      double[] scale = {
        0.2 + 3 * r.nextDouble(), 0.2 + 3 * r.nextDouble(), 0.2 + 3 * r.nextDouble()
      };
      double[] turn = {90 * r.nextDouble(), 90 * r.nextDouble(), 90 * r.nextDouble()};
      double[] at = {r.nextGaussian(), r.nextGaussian(), r.nextGaussian()};
      double[] p = {r.nextGaussian(), r.nextGaussian(), r.nextGaussian()};
      Path file = dir.resolve("uneven" + k + ".usda");
      Files.writeString(
          file,
          """
          #usda 1.0
          (
              metersPerUnit = 1
              upAxis = "Y"
          )
          def Xform "shot"
          {
              def Xform "rig"
              {
                  double3 xformOp:translate = (%s, %s, %s)
                  double3 xformOp:rotateXYZ = (%s, %s, %s)
                  double3 xformOp:scale = (%s, %s, %s)
                  uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:rotateXYZ", "xformOp:scale"]
                  def Camera "cam"
                  {
                      float focalLength = 0.3
                      float horizontalAperture = 0.36
                      float verticalAperture = 0.24
                      double3 xformOp:translate = (1, 2, 3)
                      uniform token[] xformOpOrder = ["xformOp:translate"]
                  }
                  def Xform "points"
                  {
                      def Xform "a"
                      {
                          double3 xformOp:translate = (%s, %s, %s)
                          uniform token[] xformOpOrder = ["xformOp:translate"]
                      }
                  }
              }
          }
          """
              .formatted(
                  at[0], at[1], at[2], turn[0], turn[1], turn[2], scale[0], scale[1], scale[2],
                  p[0], p[1], p[2]));
      FileScene scene =
          Formats.byId("usd-text").read(file, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
      Matrix4d m =
          new Matrix4d()
              .translation(at[0], at[1], at[2])
              .rotateZ(Math.toRadians(turn[2]))
              .rotateY(Math.toRadians(turn[1]))
              .rotateX(Math.toRadians(turn[0]))
              .scale(scale[0], scale[1], scale[2]);
      Vector3d place = m.transformPosition(new Vector3d(p[0], p[1], p[2]));
      Vec3 is = scene.trackers().get(0).position(0);
      assertThat(place.distance(is.x(), is.y(), is.z())).isLessThan(1e-9);
      Vector3d eye = m.transformPosition(new Vector3d(1, 2, 3));
      Vec3 stands = scene.cameras().get(0).camera().poses().at(0).position();
      assertThat(eye.distance(stands.x(), stands.y(), stands.z())).isLessThan(1e-9);
      assertThat(scene.notes().toString()).contains("under a scale, which was removed");
      // It is no parent that a delivery could have: its space is not like the world.
      assertThat(scene.parents()).isEmpty();
    }
  }

  @Test
  void bakedGroupsHangInNoOther() {
    Shot s = RecastTest.shot(1);
    Shot flat = Parents.NONE.baked(true).of(s);
    flat.trackers().stream()
        .flatMap(t -> t.group().stream())
        .filter(Group::moves)
        .forEach(g -> assertThat(g.parent()).isEmpty());
    for (int i = 0; i < s.trackers().size(); i++) {
      for (int f = 1001; f <= 1024; f++) {
        assertThat(flat.trackers().get(i).position(2, f))
            .isEqualTo(s.trackers().get(i).position(2, f));
      }
    }
    assertThatThrownBy(() -> Parents.NONE.withCameraIn(Optional.of("set")).of(s))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no group 'set' moves")
        .hasMessageContaining("cart, wheel");
  }
}
