package flarvo.demo;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FrameNumbering;
import flarvo.convention.RotationOrder;
import flarvo.dispatch.Contents;
import flarvo.scene.Fraction;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TimeSampler;
import flarvo.scene.Vec3;
import java.nio.file.Path;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * Files as other departments sent them back, each with one or two mix-ups; what is wrong with which
 * is in {@code ReturnedFilesTest}.
 */
final class ReturnedFiles {

  private final Path folder;

  private ReturnedFiles(Path folder) {
    this.folder = folder;
  }

  /** Of the terrace, solved in its levelled world. */
  static void terrace(Path folder, Shot solved) {
    ReturnedFiles to = new ReturnedFiles(folder);
    to.send("terrace_anim_v03.fbx", "fbx-binary", "anim-yup-cm", shifted(solved, 1));
    to.send("terrace_anim_v04.fbx", "fbx-binary", "anim-yup-cm", scaled(shifted(solved, -2), 100));
    to.send("terrace_layout_v02.usda", "usd-text", "anim-yup-m", scaled(solved, 0.01));
    to.send("terrace_lighting_v01.usdc", "usd-crate", "anim-yup-cm", film(solved, 36, 20.25));
    to.send("terrace_comp_v04.usdc", "usd-crate", "comp-yup", points(solved, ReturnedFiles::zUp));
    to.send("terrace_roto_v01.usdc", "usd-crate", "comp-yup", poses(solved, ReturnedFiles::lying));
    to.send(
        "terrace_previs_v02.abc", "alembic", "anim-yup-cm", poses(solved, ReturnedFiles::order));
    to.send(
        "terrace_fx_v01.abc", "alembic", "anim-yup-cm", points(solved, ReturnedFiles::mirrored));
    Similarity group =
        new Similarity(1.25, Rotation.about(new Vec3(0, 1, 0), 0.35), new Vec3(2, 0, -1));
    to.send("terrace_env_v05.usdc", "usd-crate", "anim-yup-m", points(solved, group::apply));
    to.send("terrace_edit_v01.usdc", "usd-crate", "comp-yup", frozen(solved, 1040));
  }

  /** Of the dome: half a frame, as cameras are sampled in the middle of the shutter. */
  static void dome(Path folder, Shot solved) {
    ReturnedFiles to = new ReturnedFiles(folder);
    to.send("dome_render_v01.usdc", "usd-crate", "comp-yup", half(solved));
  }

  /** Of the cart: a sign that somebody copied wrongly. */
  static void cart(Path folder, Shot solved) {
    ReturnedFiles to = new ReturnedFiles(folder);
    to.send("cart_model_v03.usda", "usd-text", "comp-yup", poses(solved, ReturnedFiles::sign));
  }

  private void send(String name, String format, String dialect, Shot spoiled) {
    Dialect d = Dialects.shipped().get(dialect).withFrames(FrameNumbering.PLATE);
    ShotFiles.send(spoiled, d, format, Contents.CAMERA_AND_TRACKERS, folder.resolve(name));
  }

  private static Shot camera(Shot s, UnaryOperator<ShotCamera> change) {
    return s.withCameras(List.of(change.apply(s.camera().orElseThrow())));
  }

  private static Shot poses(Shot s, UnaryOperator<Pose> change) {
    return camera(s, c -> c.withPoses(c.poses().map(change)));
  }

  private static Shot points(Shot s, UnaryOperator<Vec3> change) {
    return s.withTrackers(s.trackers().stream().map(t -> t.map(change)).toList());
  }

  private static Shot scaled(Shot s, double by) {
    return points(s, p -> p.times(by));
  }

  /** So many frames late; the ends are held. */
  private static Shot shifted(Shot s, int by) {
    return camera(s, c -> c.withPoses(c.poses().shifted(by).within(s.frames())));
  }

  private static Shot half(Shot s) {
    return camera(
        s,
        c ->
            c.withPoses(
                PoseTrack.of(
                    s.frames(),
                    f -> TimeSampler.straight(c.poses(), Fraction.of(2L * f - 1).times(1, 2)))));
  }

  private static Shot frozen(Shot s, int frame) {
    return camera(
        s,
        c -> c.withPoses(PoseTrack.of(s.frames(), f -> c.poses().at(f == frame ? frame - 1 : f))));
  }

  private static Shot film(Shot s, double width, double height) {
    return camera(s, c -> c.withOptics(c.optics().map((Optics o) -> o.withFilm(width, height))));
  }

  private static Vec3 zUp(Vec3 v) {
    return new Vec3(v.x(), -v.z(), v.y());
  }

  private static Vec3 mirrored(Vec3 v) {
    return new Vec3(v.x(), v.y(), -v.z());
  }

  /** A camera that another package lets look down. */
  private static Pose lying(Pose p) {
    Rotation quarter = Rotation.about(new Vec3(1, 0, 0), Math.PI / 2);
    return new Pose(p.position(), p.rotation().after(quarter));
  }

  private static Pose order(Pose p) {
    double[] a = RotationOrder.ZXY.decompose(p.rotation(), 0);
    return new Pose(p.position(), RotationOrder.XYZ.compose(a[0], a[1], a[2]));
  }

  private static Pose sign(Pose p) {
    double[] a = RotationOrder.ZXY.decompose(p.rotation(), 0);
    return new Pose(p.position(), RotationOrder.ZXY.compose(-a[0], a[1], a[2]));
  }
}
