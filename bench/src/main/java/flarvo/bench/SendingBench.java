package flarvo.bench;

import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Outgoing;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.proof.BoardSender;
import flarvo.proof.ProofReport;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import flarvo.work.TempFolder;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryPoolMXBean;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Random;

/** A large shot to six recipients, each file proven: seconds, bytes and the most memory in use. */
final class SendingBench {

  private static final int FRAMES = 2000;
  private static final int TRACKERS = 20_000;

  private SendingBench() {}

  /** Goal: under 10 seconds and 1.5 GB for all six. */
  static void run() throws IOException {
    Shot shot = seen(BenchShot.of(FRAMES, TRACKERS));
    List<String[]> board =
        List.of(
            new String[] {"anim-yup-cm", "usd-crate"},
            new String[] {"anim-zup-m", "usd-text"},
            new String[] {"engine-zup-left-cm", "fbx-binary"},
            new String[] {"track-zup", "alembic"},
            new String[] {"engine-yup-m", "gltf-binary"},
            new String[] {"comp-yup", "table"});
    for (int round = 1; round <= 2; round++) { // the first pays for the compiler
      long begun = System.nanoTime();
      boolean holds = true;
      try (TempFolder folder = TempFolder.make("bench")) {
        List<BoardSender.Order> orders = board.stream().map(b -> order(b, folder.path())).toList();
        List<BoardSender.Outcome> all =
            BoardSender.send(
                Outgoing.of(shot), orders, ProofReport.USUAL_LIMIT_PX, List.of(), Progress.NONE);
        for (int i = 0; i < all.size(); i++) {
          ProofReport proof = all.get(i).handover().orElseThrow().proof();
          holds &= proof.holds();
          System.out.printf(
              Locale.ROOT,
              "  round %d %-12s %8.1f MB  %s%n",
              round,
              board.get(i)[1],
              Files.size(orders.get(i).file()) / 1e6,
              proof.sentence());
        }
      }
      System.out.printf(
          Locale.ROOT,
          "sending %d frames x %d trackers to six, round %d: %.2f s, at most %.2f GB, %s%n",
          FRAMES,
          TRACKERS,
          round,
          (System.nanoTime() - begun) / 1e9,
          peak() / 1e9,
          holds ? "all hold" : "NOT ALL HOLD");
    }
  }

  /** With the trackers along the camera's way, where it sees many of them. */
  private static Shot seen(Shot s) {
    Random r = new Random(1);
    double[] xyz = new double[3 * TRACKERS];
    for (int i = 0; i < TRACKERS; i++) {
      xyz[3 * i] = 40 * r.nextDouble();
      xyz[3 * i + 1] = 6 * r.nextDouble() - 1;
      xyz[3 * i + 2] = -4 - 20 * r.nextDouble();
    }
    TrackerSet t = s.trackers().get(0);
    return s.withTrackers(List.of(TrackerSet.of(t.name(), t.names(), xyz)));
  }

  private static BoardSender.Order order(String[] dialectAndFormat, Path folder) {
    SceneFormat format = Formats.byId(dialectAndFormat[1]);
    Delivery d =
        new Delivery(
            dialectAndFormat[0],
            Dialects.shipped().get(dialectAndFormat[0]),
            format,
            Contents.CAMERA_AND_TRACKERS,
            dialectAndFormat[0] + format.extensions().get(0));
    return new BoardSender.Order(d, folder.resolve(d.fileName()));
  }

  /** The most that all pools of the heap had in use together, at most. */
  private static long peak() {
    return ManagementFactory.getMemoryPoolMXBeans().stream()
        .filter(p -> p.getType() == java.lang.management.MemoryType.HEAP)
        .mapToLong((MemoryPoolMXBean p) -> p.getPeakUsage().getUsed())
        .sum();
  }
}
