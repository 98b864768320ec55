package flarvo.bench;

import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.scene.FrameRange;
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
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/** Shots of any length and number of trackers, to be measured with. */
final class BenchShot {

  private BenchShot() {}

  static Shot of(int frameCount, int trackers) {
    FrameRange frames = new FrameRange(1001, 1000 + frameCount);
    ShotCamera camera =
        new ShotCamera(
            "cam",
            PoseTrack.of(
                frames,
                f ->
                    new Pose(
                        new Vec3(0.01 * f, 1.6, 5),
                        Rotation.about(new Vec3(0.1, 1, 0), 0.0003 * (f - 1500)))),
            OpticsTrack.constant(frames, Optics.centred(24, 24.576, 13.824)),
            Optional.empty());
    double[] xyz =
        IntStream.range(0, 3 * trackers).mapToDouble(i -> 10 + 5 * Math.sin(i * 1.7)).toArray();
    return new Shot(
        "bench",
        PictureSize.of(1920, 1080),
        Rate.NTSC_24,
        frames,
        1001,
        List.of(camera),
        List.of(
            TrackerSet.of(
                "trackers", IntStream.range(0, trackers).mapToObj(i -> "t" + i).toList(), xyz)),
        Observations.NONE,
        List.of(),
        Similarity.IDENTITY);
  }

  static void write(Shot shot, String format, Path file) {
    Dispatcher.send(
        shot,
        new Delivery(
            "bench",
            Dialects.shipped().get("anim-yup-m"),
            Formats.byId(format),
            Contents.CAMERA_AND_TRACKERS,
            file.getFileName().toString()),
        file,
        Progress.NONE);
  }
}
