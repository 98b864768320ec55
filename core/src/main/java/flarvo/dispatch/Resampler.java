package flarvo.dispatch;

import flarvo.convention.FrameMap;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PoseTrack;
import flarvo.scene.ShotCamera;
import flarvo.scene.Texture;
import flarvo.scene.TimeSampler;
import flarvo.scene.TrackerSet;
import java.util.NavigableMap;
import java.util.TreeMap;

/**
 * A motion on the recipient's frames. Keeping frames it is only renumbered; keeping seconds, it is
 * sampled between frames ({@link TimeSampler}).
 */
final class Resampler {

  private Resampler() {}

  static ShotCamera onto(ShotCamera camera, FrameMap map) {
    if (map.isOffset()) {
      FrameRange own = camera.frames();
      ShotCamera held =
          own.equals(map.plate())
              ? camera
              : new ShotCamera(
                  camera.name(),
                  PoseTrack.of(map.plate(), f -> camera.poses().at(own.clamp(f))),
                  OpticsTrack.of(map.plate(), f -> camera.optics().at(own.clamp(f))),
                  camera.clip());
      return held.shifted(map.recipientFirst() - map.plate().first());
    }
    FrameRange frames = map.recipientFrames();
    return new ShotCamera(
        camera.name(),
        onto(camera.poses(), map),
        OpticsTrack.of(frames, f -> TimeSampler.optics(camera.optics(), map.toPlate(f))),
        camera.clip());
  }

  static TrackerSet onto(TrackerSet t, FrameMap map) {
    return t.moves() ? t.inGroup(t.group().map(g -> g.map(p -> onto(p, map)))) : t;
  }

  static Mesh onto(Mesh m, FrameMap map) {
    return m.moves() ? m.inGroup(m.group().map(g -> g.map(p -> onto(p, map)))) : m;
  }

  /** Every frame shows the picture of the nearest frame. */
  static Texture onto(Texture t, FrameMap map) {
    if (t.isStill() || map.isOffset()) {
      return t.shifted(map.recipientFirst() - map.plate().first());
    }
    NavigableMap<Integer, String> files = new TreeMap<>();
    FrameRange frames = map.recipientFrames();
    for (int f = frames.first(); f <= frames.last(); f++) {
      files.put(f, t.at(map.nearestPlate(f)));
    }
    return new Texture(files, t.alpha());
  }

  static Group onto(Group g, FrameMap map) {
    return g.map(p -> onto(p, map));
  }

  private static PoseTrack onto(PoseTrack poses, FrameMap map) {
    return map.isOffset()
        ? poses.shifted(map.recipientFirst() - map.plate().first())
        : PoseTrack.of(map.recipientFrames(), f -> TimeSampler.pose(poses, map.toPlate(f)));
  }
}
