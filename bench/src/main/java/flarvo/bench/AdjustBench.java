package flarvo.bench;

import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.Adjustment;
import flarvo.vet.adjust.Bundle;
import flarvo.vet.adjust.BundleAdjuster;
import flarvo.vet.adjust.Tracks;
import flarvo.work.Progress;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Random;

/**
 * Bundle adjustment of shots of three sizes, and beside it, from the same start in the same run,
 * solvers that we did not write. Fails where the final costs differ by more than 0.1 %.
 */
final class AdjustBench {

  private static final double FOCAL_PX = 1450;
  private static final double WIDTH = 1920;
  private static final double HEIGHT = 1080;
  private static final double NOISE_PX = 0.3;
  private static final double AGREED = 1e-3;
  private static final int TURNS = 3;

  private record Made(Bundle start, Tracks tracks) {}

  private AdjustBench() {}

  /**
   * @return whether every solver that ran came to the same cost
   */
  static boolean run(Path folder, Path peers) throws IOException {
    boolean agreed = compare(folder, peers, 96, 200, 60, true);
    agreed &= compare(folder, peers, 300, 1000, 80, true);
    return compare(folder, peers, 1000, 5000, 70, false) && agreed;
  }

  /** A walk along a street; every tracker lives while it is in front of the camera. */
  private static Made made(int cameras, int points, int life, long seed) {
    Random r = new Random(seed);
    Bundle truth = new Bundle(cameras, points);
    for (int i = 0; i < cameras; i++) {
      Rotation turn = Rotation.about(random(r), 0.05);
      truth.setPose(i, new Pose(new Vec3(0.04 * i, 0.1 * r.nextGaussian(), 0.05), turn));
      truth.setOptics(i, FOCAL_PX, 1, WIDTH / 2, HEIGHT / 2);
    }
    Tracks.Builder tracks = new Tracks.Builder(cameras);
    for (int j = 0; j < points; j++) {
      int born = r.nextInt(cameras + life) - life;
      double middle = 0.04 * (born + life / 2.0);
      Vec3 p = new Vec3(middle + r.nextGaussian(), r.nextGaussian(), -4 - 4 * r.nextDouble());
      truth.setPoint(j, p);
      for (int i = Math.max(0, born); i < Math.min(cameras, born + life); i++) {
        Vec3 c = truth.pose(i).toLocal(p);
        tracks.see(
            i,
            WIDTH / 2 - FOCAL_PX * c.x() / c.z() + NOISE_PX * r.nextGaussian(),
            HEIGHT / 2 + FOCAL_PX * c.y() / c.z() + NOISE_PX * r.nextGaussian());
      }
      tracks.endPoint();
    }
    for (int i = 0; i < cameras; i++) {
      Pose p = truth.pose(i);
      truth.setPose(
          i,
          new Pose(
              p.position().plus(random(r).times(0.01)),
              p.rotation().after(Rotation.about(random(r), 0.003))));
    }
    for (int j = 0; j < points; j++) {
      truth.setPoint(j, truth.point(j).plus(random(r).times(0.03)));
    }
    return new Made(truth, tracks.build());
  }

  private static Vec3 random(Random r) {
    return new Vec3(r.nextGaussian(), r.nextGaussian(), r.nextGaussian());
  }

  private static boolean compare(
      Path folder, Path peers, int cameras, int points, int life, boolean slowOnesToo)
      throws IOException {
    Made m = made(cameras, points, life, 7);
    Path file = folder.resolve("adjust-" + cameras + ".bin");
    write(m, file);
    double millis = Double.MAX_VALUE;
    Adjustment a = null;
    for (int i = 0; i < TURNS; i++) {
      long started = System.nanoTime();
      a = BundleAdjuster.adjust(m.start(), m.tracks(), AdjustOptions.USUAL, Progress.NONE);
      millis = Math.min(millis, (System.nanoTime() - started) / 1e6);
    }
    System.out.printf(
        Locale.ROOT,
        "adjusting %d frames × %,d trackers (%,d observations): %.0f ms, %d rounds, cost %.3f →"
            + " %.4f, heap %d MB%n",
        cameras,
        points,
        m.tracks().rows(),
        millis,
        a.rounds(),
        a.costBefore(),
        a.cost(),
        (Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory()) >> 20);
    return beside(peers, file, millis, a.cost(), slowOnesToo);
  }

  /** Lines of the peer: a name, milliseconds, a cost. */
  private static boolean beside(
      Path peers, Path file, double millis, double cost, boolean slowOnesToo) throws IOException {
    Path home = peers.resolve("../.peers").normalize();
    Path python = home.resolve("bin/python");
    Path ceres = home.resolve("ceres-adjust");
    boolean agreed = true;
    if (Files.isExecutable(ceres)) {
      agreed = beside(List.of(ceres.toString(), file.toString()), millis, cost);
    }
    if (Files.isExecutable(python)) {
      agreed &=
          beside(
              List.of(
                  python.toString(),
                  peers.resolve("adjust.py").toString(),
                  file.toString(),
                  slowOnesToo ? "all" : "fast"),
              millis,
              cost);
    }
    if (!Files.isExecutable(ceres) && !Files.isExecutable(python)) {
      System.out.println("  other solvers are not here; './flarvo peers' fetches them");
    }
    return agreed;
  }

  private static boolean beside(List<String> command, double millis, double cost)
      throws IOException {
    Process p = new ProcessBuilder(command).redirectError(ProcessBuilder.Redirect.INHERIT).start();
    boolean agreed = true;
    try (BufferedReader in =
        new BufferedReader(new InputStreamReader(p.getInputStream(), StandardCharsets.UTF_8))) {
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        String[] w = line.split("\t");
        double theirs = Double.parseDouble(w[2]);
        boolean same = Math.abs(theirs - cost) <= AGREED * theirs;
        agreed &= same || theirs > cost; // another one that stops higher up says nothing of ours
        System.out.printf(
            Locale.ROOT,
            "  %s: %s ms, cost %.4f; %s; time ratio %.2f%n",
            w[0],
            w[1],
            theirs,
            same ? "the same cost" : theirs > cost ? "it stopped higher" : "OURS IS HIGHER",
            millis / Double.parseDouble(w[1]));
      }
    }
    return agreed;
  }

  /** Little-endian: counts, then cameras, points, and rows of point, camera, x, y. */
  private static void write(Made m, Path file) throws IOException {
    Bundle b = m.start();
    Tracks t = m.tracks();
    ByteBuffer out =
        ByteBuffer.allocate(8 * (3 + 16 * b.cameras() + 3 * b.points() + 4 * t.rows()))
            .order(ByteOrder.LITTLE_ENDIAN);
    out.putDouble(b.cameras()).putDouble(b.points()).putDouble(t.rows());
    for (int i = 0; i < b.cameras(); i++) {
      for (double v : b.pose(i).rotation().toRows()) {
        out.putDouble(v);
      }
      Vec3 c = b.pose(i).position();
      out.putDouble(c.x()).putDouble(c.y()).putDouble(c.z());
      out.putDouble(b.focalPx(i)).putDouble(b.focalPx(i));
      out.putDouble(b.centreX(i)).putDouble(b.centreY(i));
    }
    for (int j = 0; j < b.points(); j++) {
      out.putDouble(b.point(j).x()).putDouble(b.point(j).y()).putDouble(b.point(j).z());
    }
    for (int j = 0; j < b.points(); j++) {
      for (int row = t.firstRow(j); row < t.firstRow(j) + t.seen(j); row++) {
        out.putDouble(j).putDouble(t.camera(row)).putDouble(t.x(row)).putDouble(t.y(row));
      }
    }
    Files.write(file, out.array());
  }
}
