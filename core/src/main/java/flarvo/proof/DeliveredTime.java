package flarvo.proof;

import flarvo.convention.FrameMap;
import flarvo.scene.Fraction;
import flarvo.scene.FrameRange;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.ShotCamera;

/** A delivered camera brought from the recipient's frames onto plate frames. */
final class DeliveredTime {

  private DeliveredTime() {}

  static ShotCamera onPlate(ShotCamera c, FrameMap map) {
    if (map.isOffset()) {
      return c.shifted(map.plate().first() - map.recipientFirst());
    }
    // Where seconds were kept, the recipient's player interpolates between its own frames.
    int first =
        Math.toIntExact(
            -Math.floorDiv(
                -map.toPlate(c.frames().first()).num(), map.toPlate(c.frames().first()).den()));
    int last = Math.toIntExact(map.toPlate(c.frames().last()).floor());
    FrameRange frames = new FrameRange(first, Math.max(first, last));
    return new ShotCamera(
        c.name(),
        PoseTrack.of(frames, f -> pose(c, map.toRecipient(f))),
        OpticsTrack.of(
            frames, f -> c.optics().at(c.frames().clamp((int) map.toRecipient(f).floor()))),
        c.clip());
  }

  private static Pose pose(ShotCamera c, Fraction at) {
    int i = c.frames().clamp(Math.toIntExact(at.floor()));
    double u = at.minus(Fraction.of(i)).toDouble();
    Pose a = c.poses().at(i);
    if (u <= 0 || i == c.frames().last()) {
      return a;
    }
    Pose b = c.poses().at(i + 1);
    return new Pose(
        a.position().times(1 - u).plus(b.position().times(u)), a.rotation().slerp(b.rotation(), u));
  }
}
