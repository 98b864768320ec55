package flarvo.proof;

import flarvo.convention.FrameMap;
import flarvo.receive.InFile;
import flarvo.scene.Fraction;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PoseTrack;
import flarvo.scene.ShotCamera;
import flarvo.scene.Texture;
import flarvo.scene.TimeSampler;
import flarvo.scene.TrackerSet;
import java.util.NavigableMap;
import java.util.TreeMap;

/** What was delivered, brought from the recipient's frames onto plate frames. */
final class DeliveredTime {

  private DeliveredTime() {}

  static ShotCamera camera(InFile<ShotCamera> came, FrameMap map) {
    ShotCamera c = came.inFile();
    if (map.isOffset()) {
      return c.shifted(map.plate().first() - map.recipientFirst());
    }
    PoseTrack poses = onPlate(c.poses(), map);
    return new ShotCamera(
        c.name(),
        poses,
        OpticsTrack.of(
            poses.frames(), f -> c.optics().at(c.frames().clamp((int) map.toRecipient(f).floor()))),
        c.clip());
  }

  static TrackerSet trackers(InFile<TrackerSet> came, FrameMap map) {
    TrackerSet t = came.inFile();
    return t.moves() ? t.inGroup(t.group().map(g -> g.map(p -> onPlate(p, map)))) : t;
  }

  static Mesh mesh(InFile<Mesh> came, FrameMap map) {
    Mesh m = came.inFile();
    Mesh there = m.moves() ? m.inGroup(m.group().map(g -> g.map(p -> onPlate(p, map)))) : m;
    return there.withTexture(there.texture().map(t -> onPlate(t, map)));
  }

  private static Texture onPlate(Texture t, FrameMap map) {
    if (t.isStill() || map.isOffset()) {
      return t.shifted(map.plate().first() - map.recipientFirst());
    }
    NavigableMap<Integer, String> files = new TreeMap<>();
    t.files().forEach((f, path) -> files.put(map.nearestPlate(f), path));
    return new Texture(files, t.alpha());
  }

  /** Where seconds were kept, the recipient's player interpolates between its own frames. */
  private static PoseTrack onPlate(PoseTrack poses, FrameMap map) {
    if (map.isOffset()) {
      return poses.shifted(map.plate().first() - map.recipientFirst());
    }
    Fraction from = map.toPlate(poses.frames().first());
    int first = Math.toIntExact(-Math.floorDiv(-from.num(), from.den()));
    int last = Math.toIntExact(map.toPlate(poses.frames().last()).floor());
    FrameRange frames = new FrameRange(first, Math.max(first, last));
    return PoseTrack.of(frames, f -> TimeSampler.straight(poses, map.toRecipient(f)));
  }
}
