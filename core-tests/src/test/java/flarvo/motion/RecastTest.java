package flarvo.motion;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Whatever is recast, the picture is what it was. */
class RecastTest {

  private static final FrameRange FRAMES = new FrameRange(1001, 1024);

  private static Vec3 vector(Random r, double size) {
    return new Vec3(
        size * (r.nextDouble() - 0.5),
        size * (r.nextDouble() - 0.5),
        size * (r.nextDouble() - 0.5));
  }

  private static PoseTrack path(Random r, double size, double turn) {
    Vec3 a = vector(r, size);
    Vec3 b = vector(r, size);
    Vec3 axis = vector(r, 1);
    return PoseTrack.of(
        FRAMES,
        f -> {
          double t = (f - 1001) / 24.0;
          return new Pose(
              a.plus(b.times(t)).plus(new Vec3(0, 0.1 * Math.sin(7 * t), 0)),
              Rotation.about(axis, turn * t));
        });
  }

  /** A free camera that zooms, still points, a still group, and two groups that move. */
  static Shot shot(long seed) {
    Random r = new Random(seed);
    ShotCamera main =
        new ShotCamera(
            "main",
            path(r, 2, 0.4).map(p -> new Pose(p.position().plus(new Vec3(0, 1, 9)), p.rotation())),
            OpticsTrack.of(
                FRAMES, f -> new Optics(30 + (f - 1001) * 0.5, 24.576, 13.824, 0.3, -0.2)),
            Optional.empty());
    ShotCamera witness =
        new ShotCamera(
            "witness",
            path(r, 1, 0.2),
            OpticsTrack.constant(FRAMES, Optics.centred(24, 24.576, 13.824)),
            Optional.empty());
    Group set = Group.still("set");
    Group cart = Group.moving("cart", path(r, 3, 1));
    Group wheel = new Group("wheel", Optional.of(cart), Optional.of(path(r, 3, 5)));
    Group lamp = new Group("lamp", Optional.of(cart), Optional.empty());
    List<TrackerSet> sets = new ArrayList<>();
    Group[] all = {null, set, cart, wheel, lamp};
    for (int k = 0; k < all.length; k++) {
      List<String> names = new ArrayList<>();
      double[] xyz = new double[24];
      for (int i = 0; i < 8; i++) {
        names.add("t" + k + i);
        Vec3 p = vector(r, 4);
        xyz[3 * i] = p.x();
        xyz[3 * i + 1] = p.y();
        xyz[3 * i + 2] = p.z();
      }
      sets.add(TrackerSet.of("set" + k, names, xyz).inGroup(Optional.ofNullable(all[k])));
    }
    Mesh still =
        Mesh.of(
            "box", new double[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {3}, new int[] {0, 1, 2});
    Mesh moving =
        Mesh.of(
                "crate",
                new double[] {0, 0, 0, 1, 0, 0, 0, 1, 1},
                new int[] {3},
                new int[] {0, 1, 2})
            .inGroup(Optional.of(cart));
    return new Shot(
        "s",
        PictureSize.of(1920, 1080),
        Rate.FPS_24,
        FRAMES,
        1001,
        List.of(main, witness),
        sets,
        Observations.NONE,
        List.of(),
        List.of(still, moving),
        Similarity.IDENTITY);
  }

  /** Largest distance in pixels through each camera, over all points and mesh corners. */
  private static double apart(Shot a, Shot b) {
    double worst = 0;
    double[] p = new double[3];
    double[] q = new double[3];
    for (int c = 0; c < a.cameras().size(); c++) {
      Pinhole here = new Pinhole(a.cameras().get(c), a.picture());
      Pinhole there = new Pinhole(b.cameras().get(c), b.picture());
      for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
        here.at(f);
        there.at(f);
        for (int k = 0; k < a.trackers().size(); k++) {
          for (int i = 0; i < a.trackers().get(k).size(); i++) {
            here.project(a.trackers().get(k), i, p);
            there.project(b.trackers().get(k), i, q);
            if (p[2] > 0.5) {
              worst = Math.max(worst, Math.hypot(p[0] - q[0], p[1] - q[1]));
            }
          }
        }
        for (int k = 0; k < a.meshes().size(); k++) {
          for (int i = 0; i < a.meshes().get(k).points(); i++) {
            project(here, a.meshes().get(k).position(i, f), p);
            project(there, b.meshes().get(k).position(i, f), q);
            if (p[2] > 0.5) {
              worst = Math.max(worst, Math.hypot(p[0] - q[0], p[1] - q[1]));
            }
          }
        }
      }
    }
    return worst;
  }

  private static void project(Pinhole hole, Vec3 at, double[] out) {
    hole.project(at.x(), at.y(), at.z(), out);
  }

  private static double worldApart(Shot a, Shot b) {
    double worst = 0;
    for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
      for (int c = 0; c < a.cameras().size(); c++) {
        Pose p = a.cameras().get(c).poses().at(f);
        Pose q = b.cameras().get(c).poses().at(f);
        worst = Math.max(worst, p.position().minus(q.position()).length());
        worst = Math.max(worst, p.rotation().angleTo(q.rotation()));
      }
      for (int k = 0; k < a.trackers().size(); k++) {
        for (int i = 0; i < a.trackers().get(k).size(); i++) {
          Vec3 p = a.trackers().get(k).position(i, f);
          Vec3 q = b.trackers().get(k).position(i, f);
          worst = Math.max(worst, p.minus(q).length());
        }
      }
    }
    return worst;
  }

  @Test
  void aHeldCameraStandsStillAndSeesTheSame() {
    for (int seed = 0; seed < 40; seed++) {
      Shot s = shot(seed);
      Shot held = Held.camera(1001 + seed % 24).of(s);
      PoseTrack p = held.cameras().get(0).poses();
      Pose was = s.cameras().get(0).poses().at(1001 + seed % 24);
      for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
        assertThat(p.at(f).position().minus(was.position()).length()).isLessThan(1e-12);
        assertThat(p.at(f).rotation().angleTo(was.rotation())).isLessThan(1e-7);
      }
      assertThat(held.trackers()).allMatch(TrackerSet::moves);
      assertThat(held.trackers().get(0).group().orElseThrow().name()).isEqualTo("object");
      assertThat(apart(s, held)).as("seed " + seed).isLessThan(1e-6);
    }
  }

  @Test
  void aHeldGroupStandsStillAndSeesTheSame() {
    for (int seed = 0; seed < 40; seed++) {
      Shot s = shot(seed);
      Shot held = Held.group("cart", 1005).of(s);
      assertThat(held.trackers().get(2).moves()).isFalse();
      assertThat(held.trackers().get(4).moves()).as("hangs in it").isFalse();
      assertThat(held.trackers().get(0).moves()).isTrue();
      Vec3 then = s.trackers().get(2).position(3, 1005);
      assertThat(held.trackers().get(2).position(3).minus(then).length()).isLessThan(1e-12);
      assertThat(apart(s, held)).as("seed " + seed).isLessThan(1e-6);
    }
  }

  @Test
  void thereAndBackIsTheIdentity() {
    for (int seed = 0; seed < 40; seed++) {
      Shot s = shot(seed);
      Shot back = Held.group("object", 1007).of(Held.camera(1007).of(s));
      assertThat(worldApart(s, back)).as("seed " + seed).isLessThan(1e-12);
      assertThat(back.trackers().get(0).moves()).isFalse();
      // Held at another frame the world is moved as a whole, and the picture is the same.
      Shot elsewhere = Held.group("object", 1011).of(Held.camera(1007).of(s));
      assertThat(apart(s, elsewhere)).isLessThan(1e-6);
    }
  }

  @Test
  void aLevelChangesNothingAboutIt() {
    Shot s =
        shot(3)
            .withLevel(
                new Similarity(2.5, Rotation.about(new Vec3(1, 2, 3), 0.7), new Vec3(4, 5, 6)));
    Shot a = s.levelled().contents();
    Shot b = Held.camera(1003).of(s).levelled().contents();
    assertThat(apart(a, b)).isLessThan(1e-6);
    assertThat(worldApart(b, Held.camera(1003).of(a))).isLessThan(1e-10);
  }

  @Test
  void theCameraStandsAtAPoseOrTakesAnothersMotion() {
    Random r = new Random(12);
    for (int k = 0; k < 20; k++) {
      Similarity level =
          new Similarity(0.3 + r.nextDouble(), Rotation.about(vector(r, 1), 1.5), vector(r, 9));
      Shot s = shot(k).withLevel(level);
      Stand.At at = new Stand.At(vector(r, 9), 360 * r.nextDouble() - 180, 40, -7.5);
      Shot held = Held.camera(at).of(s);
      assertThat(apart(s, held)).isLessThan(1e-5);
      for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
        Pose p = held.levelled().cameras().get(0).poses().at(f);
        assertThat(p.position().minus(at.metres()).length()).isLessThan(1e-9);
        assertThat(p.rotation().angleTo(at.pose().rotation())).isLessThan(1e-9);
      }
      Shot as = Held.camera(new Stand.As("witness")).of(s);
      assertThat(apart(s, as)).isLessThan(1e-5);
      for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
        assertThat(as.cameras().get(0).poses().at(f)).isEqualTo(s.cameras().get(1).poses().at(f));
      }
      Shot cart = Held.group("cart", at).of(s);
      assertThat(apart(s, cart)).isLessThan(1e-5);
      assertThat(Held.moving(cart)).doesNotContainKey("cart");
    }
    assertThatThrownBy(() -> Held.camera(new Stand.As("main")).of(shot(1)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no other camera 'main'")
        .hasMessageContaining("witness");
    assertThatThrownBy(() -> Held.group("cart", new Stand.As("witness")))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void whereItStandsIsReadFromWords() {
    assertThat(Stand.parse(" -12 ")).isEqualTo(new Stand.Frame(-12));
    assertThat(Stand.parse("1, 2.5,-3, 90,0,1e1"))
        .isEqualTo(new Stand.At(new Vec3(1, 2.5, -3), 90, 0, 10));
    assertThat(Stand.parse("cam B")).isEqualTo(new Stand.As("cam B"));
    for (String bad :
        new String[] {"", "1.5", "1,2,3", "1,2,3,4,5,6,7", "1,,3,4,5,6", "9e99,0,0,0,0,0"}) {
      if (bad.contains(",,")) {
        assertThat(Stand.parse(bad)).isInstanceOf(Stand.As.class); // a name, which is not there
      } else {
        assertThatThrownBy(() -> Stand.parse(bad)).as(bad).isInstanceOf(InputError.class);
      }
    }
    for (Stand s :
        List.of(
            new Stand.Frame(1001),
            new Stand.At(new Vec3(1, 0.25, 1e-3), 10, 2.5, 0),
            new Stand.As("B"))) {
      assertThat(Stand.parse(s.text())).isEqualTo(s);
    }
  }

  /** A pose's angles, to a ten thousandth of a degree, and a parent's words. */
  @Test
  void aParentIsReadFromWords() {
    assertThat(Parent.parse("rig")).isEqualTo(new Parent("rig", Similarity.IDENTITY));
    assertThat(Parent.parse("rig, 100").place().scale()).isEqualTo(100);
    Parent all = Parent.parse("rig,2,1,2,3,40,-20,5");
    assertThat(all.place().translation()).isEqualTo(new Vec3(1, 2, 3));
    assertThat(all.text()).isEqualTo("rig,2,1,2,3,40,-20,5");
    assertThat(Parent.parse("rig,1,1,2,3").text()).isEqualTo("rig,1,1,2,3");
    assertThat(Parent.parse("rig,100").text()).isEqualTo("rig,100");
    for (String bad :
        new String[] {"", ",1", "rig,1,2,1", "rig,0", "rig,-1", "rig,x", "rig,1,2,3,4,5"}) {
      assertThatThrownBy(() -> Parent.parse(bad)).as(bad).isInstanceOf(InputError.class);
    }
  }

  @Test
  void whatDoesNotMoveCannotBeHeld() {
    assertThatThrownBy(() -> Held.group("set", 1001).of(shot(1)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no group 'set' moves")
        .hasMessageContaining("cart, wheel");
    assertThatThrownBy(() -> Held.camera(1).of(shot(1).withCameras(List.of())))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no camera");
  }

  @Test
  void aZoomLiesOnEitherLength() {
    Shot s = shot(4);
    Shot back = ZoomOn.FILM_BACK.of(s);
    OpticsTrack o = back.cameras().get(0).optics();
    assertThat(o.at(1020).focalLengthMm()).isEqualTo(30);
    assertThat(o.at(1020).filmWidthMm()).isLessThan(24.5);
    assertThat(apart(s, back)).isLessThan(1e-9);
    Shot again = ZoomOn.FOCAL_LENGTH.of(back);
    OpticsTrack was = s.cameras().get(0).optics();
    for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
      assertThat(again.cameras().get(0).optics().at(f).focalLengthMm())
          .isCloseTo(was.at(f).focalLengthMm(), within(1e-12));
      assertThat(again.cameras().get(0).optics().at(f).filmWidthMm())
          .isCloseTo(24.576, within(1e-12));
    }
    assertThat(ZoomOn.AS_SHOT.of(s)).isSameAs(s);
  }

  @Test
  void aPartOfThePictureShowsTheSamePlaces() {
    Random r = new Random(8);
    for (int k = 0; k < 60; k++) {
      Shot s = shot(k);
      Framing f =
          new Framing(
              -200 + 600 * r.nextDouble(),
              -100 + 300 * r.nextDouble(),
              300 + 1500 * r.nextDouble(),
              200 + 900 * r.nextDouble(),
              100 + r.nextInt(3000),
              100 + r.nextInt(2000));
      Shot cut = f.of(s);
      assertThat(cut.picture()).isEqualTo(f.picture(s.picture()));
      Pinhole here = new Pinhole(s.cameras().get(0), s.picture());
      Pinhole there = new Pinhole(cut.cameras().get(0), cut.picture());
      double[] p = new double[3];
      double[] q = new double[3];
      for (int frame = 1001; frame <= 1024; frame += 5) {
        here.at(frame);
        there.at(frame);
        here.project(s.trackers().get(0), k % 8, p);
        there.project(cut.trackers().get(0), k % 8, q);
        if (p[2] > 0.5) {
          double wantedU = (p[0] - f.x()) * f.outWidth() / f.width();
          double wantedV = (p[1] - f.y()) * f.outHeight() / f.height();
          double size = 1e-9 * (1 + Math.abs(wantedU) + Math.abs(wantedV));
          assertThat(q[0]).isCloseTo(wantedU, within(1e-6 + size));
          assertThat(q[1]).isCloseTo(wantedV, within(1e-6 + size));
        }
      }
      // The back has the shape of the picture, with its pixel aspect.
      Optics o = cut.cameras().get(0).optics().at(1001);
      assertThat(o.filmWidthMm() / o.filmHeightMm())
          .isCloseTo(cut.picture().aspect(), within(1e-9 * cut.picture().aspect()));
    }
  }

  @Test
  void partsOfPartsAreOne() {
    Framing a = new Framing(100, 50, 1600, 900, 1280, 720);
    Framing b = new Framing(-20, 30, 640, 360, 1920, 1080);
    Framing both = b.after(a);
    for (double x = 0; x < 1920; x += 137) {
      assertThat(both.u(x)).isCloseTo(b.u(a.u(x)), within(1e-9));
      assertThat(both.v(x)).isCloseTo(b.v(a.v(x)), within(1e-9));
    }
    PictureSize squeezed = new PictureSize(2048, 1716, 2);
    Framing square = Framing.unsqueezed(squeezed);
    assertThat(square.outWidth()).isEqualTo(4096);
    assertThat(square.picture(squeezed).pixelAspect()).isEqualTo(1);
    assertThat(Framing.crop("100,50,1600x900"))
        .isEqualTo(new Framing(100, 50, 1600, 900, 1600, 900));
    for (String bad : new String[] {"", "100,50", "1,2,0x4", "a,b,cxd", "1,2,3x", "1,2,1e9x4"}) {
      assertThatThrownBy(() -> Framing.crop(bad)).isInstanceOf(InputError.class);
    }
  }

  @Test
  void aRetimeShowsOtherFrames() {
    Shot s = shot(6);
    Shot back = Retime.reversed(FRAMES).of(s);
    Shot twice = Retime.reversed(FRAMES).of(back);
    assertThat(worldApart(s, twice)).isLessThan(1e-15);
    for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
      assertThat(back.cameras().get(0).poses().at(f))
          .isEqualTo(s.cameras().get(0).poses().at(1024 + 1001 - f));
      assertThat(back.trackers().get(2).position(1, f))
          .isEqualTo(s.trackers().get(2).position(1, 2025 - f));
    }
    // A ramp: whole old frames are hit exactly, and beyond the ends it is held.
    Retime ramp = new Retime(1, new double[] {990, 1001, 1001.5, 1002, 1005, 1030});
    Shot fast = ramp.of(s);
    assertThat(fast.frames()).isEqualTo(new FrameRange(1, 6));
    PoseTrack p = s.cameras().get(0).poses();
    PoseTrack q = fast.cameras().get(0).poses();
    assertThat(q.at(1)).isEqualTo(p.at(1001));
    assertThat(q.at(4)).isEqualTo(p.at(1002));
    assertThat(q.at(6)).isEqualTo(p.at(1024));
    double step = p.at(1002).position().minus(p.at(1001).position()).length();
    assertThat(q.at(3).position().minus(p.at(1001).position()).length())
        .isCloseTo(step / 2, within(step * 0.1));
  }

  @Test
  void retimesCompose() {
    Retime a = new Retime(1, new double[] {1001, 1003, 1005, 1007, 1009, 1011});
    Retime b = new Retime(10, new double[] {6, 5, 4.5, 2, 1, 0});
    Retime both = b.after(a);
    assertThat(both.frames()).isEqualTo(new FrameRange(10, 15));
    assertThat(both.sources()).containsExactly(1011, 1009, 1008, 1003, 1001, 1001);
    Shot s = shot(9);
    Shot one = both.of(s);
    Shot two = b.of(a.of(s));
    for (int f : new int[] {10, 11, 13, 14, 15}) { // on whole frames of both
      assertThat(one.cameras().get(0).poses().at(f)).isEqualTo(two.cameras().get(0).poses().at(f));
    }
  }

  @Test
  void aTableOfFramesIsReadAndRefusedWithItsLine() {
    Retime r = Retime.parse("t.csv", "new,old\n1,1001\n2,1002.5\n\n# slow\n3,1003\n");
    assertThat(r.frames()).isEqualTo(new FrameRange(1, 3));
    assertThat(r.sources()).containsExactly(1001, 1002.5, 1003);
    assertThat(Retime.parse("t", "5 1\n6 1\n").sources()).containsExactly(1, 1);
    String[] bad = {
      "", "new,old\n", "1,1001\n3,1002\n", "1,1001\n2,x\n", "1,nan\n2,3\nx\n", "1\n2\n3\n"
    };
    for (String text : bad) {
      assertThatThrownBy(() -> Retime.parse("t.csv", text))
          .as(text)
          .isInstanceOf(InputError.class)
          .hasMessageContaining("t.csv");
    }
    assertThatThrownBy(() -> Retime.parse("t.csv", "1,1001\n3,1002\n"))
        .hasMessageContaining("line 2")
        .hasMessageContaining("frame 2 is expected");
  }

  @Test
  void inOneTheyAreDoneInTheirOrder() {
    Shot s = shot(11);
    Framing f = new Framing(100, 50, 960, 540, 1920, 1080);
    Recast all =
        new Recast(
            Optional.of(Retime.reversed(FRAMES)),
            Optional.of(Held.camera(1001)),
            ZoomOn.FILM_BACK,
            Optional.of(f),
            Parents.NONE);
    Shot out = all.of(s);
    assertThat(all.changesPicture()).isTrue();
    Pinhole here = new Pinhole(s.cameras().get(0), s.picture());
    Pinhole there = new Pinhole(out.cameras().get(0), out.picture());
    double[] p = new double[3];
    double[] q = new double[3];
    int seen = 0;
    for (int frame = FRAMES.first(); frame <= FRAMES.last(); frame++) {
      here.at(2025 - frame);
      there.at(frame);
      for (int i = 0; i < 8; i++) {
        here.project(s.trackers().get(3), i, p);
        there.project(out.trackers().get(3), i, q);
        if (p[2] > 0.5) {
          assertThat(q[0]).isCloseTo(f.u(p[0]), within(1e-6));
          assertThat(q[1]).isCloseTo(f.v(p[1]), within(1e-6));
          seen++;
        }
      }
    }
    assertThat(seen).isGreaterThan(50);
    assertThat(Recast.NONE.of(s)).isSameAs(s);
    assertThat(OptionalDouble.of(out.cameras().get(0).optics().at(1024).focalLengthMm()))
        .hasValue(out.cameras().get(0).optics().at(1001).focalLengthMm());
  }
}
