package flarvo.proof;

import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
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
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * A cart that drives a curve past a moving camera for 60 frames, with a wheel on it that spins: a
 * group that moves in a group that moves, both with trackers and a mesh, and a plate on the cart
 * that stands still there. Made from formulas, so every place is known on every frame.
 */
public final class CartShot {

  static final FrameRange FRAMES = new FrameRange(1001, 1060);

  private CartShot() {}

  /** Cart to solve space. */
  static Pose cart(int frame) {
    double u = (frame - 1001) / 59.0;
    return new Pose(
        new Vec3(-2 + 4 * u, 0.3 * Math.sin(3 * u), -6 - u),
        Rotation.about(new Vec3(0.1, 1, 0.05), 0.4 + 1.1 * u));
  }

  /** Wheel to cart: on its axle, three times round. */
  static Pose wheelOnCart(int frame) {
    double u = (frame - 1001) / 59.0;
    return new Pose(
        new Vec3(0.5, -0.2, 0.3 + 0.02 * Math.sin(9 * u)),
        Rotation.about(new Vec3(0, 0, 1), 6 * Math.PI * u));
  }

  static Pose wheel(int frame) {
    Pose c = cart(frame);
    Pose w = wheelOnCart(frame);
    return new Pose(c.toWorld(w.position()), c.rotation().after(w.rotation()));
  }

  static Group cartGroup() {
    return Group.moving("cart", PoseTrack.of(FRAMES, CartShot::cart)).in(Group.still("props"));
  }

  static Group wheelGroup() {
    return Group.moving("wheel", PoseTrack.of(FRAMES, CartShot::wheel)).in(cartGroup());
  }

  /** In solve space, with a level that scales, turns and shifts. */
  public static Shot shot() {
    PoseTrack path =
        PoseTrack.of(
            FRAMES,
            f -> {
              double u = (f - 1001) / 59.0;
              return new Pose(
                  new Vec3(0.6 * u, 0.4 + 0.1 * u, 0.2 * u),
                  Rotation.about(new Vec3(0, 1, 0), -0.1 + 0.15 * u));
            });
    ShotCamera camera =
        new ShotCamera(
            "shotcam",
            path,
            OpticsTrack.constant(FRAMES, Optics.centred(28, 24.576, 13.824)),
            Optional.empty());
    Group plate = Group.still("number_plate").in(cartGroup());
    List<TrackerSet> sets =
        List.of(
            set("ground", 12, 4, new Vec3(0, -0.5, -7)),
            set("cart", 6, 0.8, Vec3.ZERO).inGroup(Optional.of(cartGroup())),
            set("bolts", 5, 0.2, new Vec3(0.4, 0.1, 0.5)).inGroup(Optional.of(plate)),
            set("wheel", 4, 0.3, Vec3.ZERO).inGroup(Optional.of(wheelGroup())));
    List<Mesh> meshes =
        List.of(
            box("box", 0.5).inGroup(Optional.of(cartGroup())),
            box("hub", 0.1).inGroup(Optional.of(wheelGroup())),
            box("crate", 0.4));
    return new Shot(
        "cart",
        PictureSize.of(1920, 1080),
        Rate.FPS_24,
        FRAMES,
        1001,
        List.of(camera),
        sets,
        Observations.NONE,
        List.of(),
        meshes,
        new Similarity(1.7, Rotation.about(new Vec3(0.2, 1, 0.1), 0.5), new Vec3(0.3, 1.5, -0.7)));
  }

  private static TrackerSet set(String name, int n, double reach, Vec3 at) {
    List<String> names = new ArrayList<>();
    double[] xyz = new double[3 * n];
    for (int i = 0; i < n; i++) {
      names.add(name.charAt(0) + "_" + name + "_" + (i + 1));
      xyz[3 * i] = at.x() + reach * Math.cos(2.4 * i);
      xyz[3 * i + 1] = at.y() + 0.3 * reach * Math.sin(1.3 * i);
      xyz[3 * i + 2] = at.z() + reach * Math.sin(2.4 * i);
    }
    return TrackerSet.of(name, names, xyz);
  }

  /** A box with a normal and texture coordinates at every corner. */
  static Mesh box(String name, double half) {
    double[] xyz = new double[24];
    for (int i = 0; i < 8; i++) {
      xyz[3 * i] = (i & 1) == 0 ? -half : half;
      xyz[3 * i + 1] = (i & 2) == 0 ? -half : half;
      xyz[3 * i + 2] = (i & 4) == 0 ? -half : half;
    }
    int[] corners = {0, 4, 6, 2, 1, 3, 7, 5, 0, 1, 5, 4, 2, 6, 7, 3, 0, 2, 3, 1, 4, 5, 7, 6};
    int[] sizes = new int[6];
    Arrays.fill(sizes, 4);
    double[] normals = new double[72];
    double[] uvs = new double[48];
    for (int f = 0; f < 6; f++) {
      for (int c = 0; c < 4; c++) {
        normals[3 * (4 * f + c) + f / 2] = f % 2 == 0 ? -1 : 1;
        uvs[2 * (4 * f + c)] = (f + (c == 1 || c == 2 ? 0.9 : 0.1)) / 6;
        uvs[2 * (4 * f + c) + 1] = c < 2 ? 0.25 : 0.75;
      }
    }
    return Mesh.of(name, xyz, sizes, corners).withNormals(normals).withUvs(uvs);
  }
}
