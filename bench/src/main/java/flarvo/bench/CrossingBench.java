package flarvo.bench;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.proof.Proof;
import flarvo.proof.ProofReport;
import flarvo.receive.ReceivedFile;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
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
    shot = BenchShot.of(FRAMES, TRACKERS);
    to = Dialects.shipped().get("engine-zup-left-cm");
    var kind = Formats.byId(format);
    file = Files.createTempDirectory("bench").resolve("d" + kind.extensions().get(0));
    delivery = new Delivery("d", to, kind, Contents.CAMERA_AND_TRACKERS, "d");
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
