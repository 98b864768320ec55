package flarvo.bench;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.proof.Proof;
import flarvo.proof.ProofReport;
import flarvo.receive.ReceivedFile;
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
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;

/** A shot of 1,000 frames and 2,000 trackers out, back in, and proven; a format each. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
public class CrossingBench {

  private static final int FRAMES = 1000;
  private static final int TRACKERS = 2000;

  @Param({"usd-text", "fbx-text", "table"})
  public String format;

  private Shot shot;
  private Dialect to;
  private Delivery delivery;
  private Path file;

  @Setup
  public void make() throws IOException {
    FrameRange frames = new FrameRange(1001, 1000 + FRAMES);
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
        IntStream.range(0, 3 * TRACKERS).mapToDouble(i -> 10 + 5 * Math.sin(i * 1.7)).toArray();
    shot =
        new Shot(
            "bench",
            PictureSize.of(1920, 1080),
            Rate.NTSC_24,
            frames,
            1001,
            List.of(camera),
            List.of(
                TrackerSet.of(
                    "trackers", IntStream.range(0, TRACKERS).mapToObj(i -> "t" + i).toList(), xyz)),
            Observations.NONE,
            List.of(),
            Similarity.IDENTITY);
    to = Dialects.shipped().get("engine-zup-left-cm");
    var kind = Formats.byId(format);
    file = Files.createTempDirectory("bench").resolve("d" + kind.extensions().get(0));
    delivery = new Delivery("d", to, kind, Delivery.Contents.CAMERA_AND_TRACKERS, "d");
    Dispatcher.send(shot, delivery, file, Progress.NONE);
  }

  @Benchmark
  public Object write() {
    return Dispatcher.send(shot, delivery, file, Progress.NONE);
  }

  @Benchmark
  public Object read() {
    return ReceivedFile.read(file, Optional.of(to), Progress.NONE);
  }

  @Benchmark
  public Object prove() {
    return Proof.of(shot, file, to, ProofReport.USUAL_LIMIT_PX, Progress.NONE);
  }
}
