package flarvo.recipient;

import flarvo.convention.RatePolicy;
import flarvo.receive.InFile;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.scene.Fraction;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.ShotCamera;
import flarvo.scene.TimeSampler;
import flarvo.scene.TrackerSet;
import java.util.List;

/**
 * A file in a recipient's scene, as it meets the pictures of the plate: canonical, on plate frames.
 *
 * @param fileRate with which the file's seconds were counted in frames
 */
record OnPlate(
    ReceivedFile file, FrameRange plate, Rate plateRate, Rate fileRate, PictureSize picture) {

  /**
   * The file's frame that a scene shows with a plate frame. A file that keeps frames is laid frame
   * on frame; one that keeps seconds runs faster in a scene of fewer frames a second.
   */
  Fraction fileFrame(int plateFrame, Values scene) {
    return atScene(sceneFrame(plateFrame, scene), scene);
  }

  /** The scene's frame on which a plate frame is seen. */
  Fraction sceneFrame(int plateFrame, Values scene) {
    Fraction since = Fraction.of((long) plateFrame - plate.first());
    if (scene.policy() == RatePolicy.KEEP_SECONDS) {
      since = scene.rate().frames(since.times(plateRate.den(), plateRate.num()));
    }
    return since.plus(Fraction.of(scene.first()));
  }

  /** The file's frame that a scene shows on one of its own. */
  Fraction atScene(Fraction frame, Values scene) {
    return file.format().timeInSeconds()
        ? fileRate.frames(frame.times(scene.rate().den(), scene.rate().num()))
        : frame;
  }

  List<ShotCamera> cameras(Values scene) {
    PictureSize own = scene.picture();
    double taller = own.aspect() / picture.aspect();
    return file.cameras(scene.reading(), picture, own, IntakeOptions.NONE).stream()
        .map(c -> taller == 1 ? c : c.map(i -> taller(i, taller)))
        .map(c -> camera(c, plate, f -> fileFrame(f, scene)))
        .toList();
  }

  private static ShotCamera taller(ShotCamera c, double factor) {
    return c.withOptics(c.optics().map(o -> across(o, factor)));
  }

  /** What a plate covers that lies across the picture's width, in its own aspect. */
  private static Optics across(Optics o, double taller) {
    return o.withFilm(o.filmWidthMm(), o.filmHeightMm() * taller);
  }

  List<TrackerSet> trackers(Values scene) {
    return file.trackers(scene.reading(), picture).stream()
        .map(t -> trackers(t, plate, f -> fileFrame(f, scene)))
        .toList();
  }

  /** Which of the file's frames is shown on a frame. */
  interface Time {
    Fraction of(int frame);
  }

  static ShotCamera camera(InFile<ShotCamera> came, FrameRange frames, Time time) {
    ShotCamera c = came.inFile();
    OpticsTrack o = c.optics();
    return new ShotCamera(
        c.name(),
        PoseTrack.of(frames, f -> TimeSampler.straight(c.poses(), time.of(f))),
        o.isConstant()
            ? OpticsTrack.constant(frames, o.at(c.frames().first()))
            : OpticsTrack.of(frames, f -> o.at(clamp(c.frames(), time.of(f)))),
        c.clip());
  }

  static TrackerSet trackers(InFile<TrackerSet> came, FrameRange frames, Time time) {
    TrackerSet t = came.inFile();
    return t.moves()
        ? t.inGroup(
            t.group()
                .map(
                    g ->
                        g.map(p -> PoseTrack.of(frames, f -> TimeSampler.straight(p, time.of(f))))))
        : t;
  }

  private static int clamp(FrameRange r, Fraction at) {
    return (int) Math.max(r.first(), Math.min(r.last(), at.floor()));
  }
}
