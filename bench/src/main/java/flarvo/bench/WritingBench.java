package flarvo.bench;

import flarvo.scene.Shot;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Locale;
import java.util.OptionalDouble;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.Assimp;

/**
 * A shot of 1,000 frames and 20,000 points written in each format, beside a library that we did not
 * write, which has the same file in memory as it wants it and writes it again. Ours turns the shot
 * into the recipient's world first, and moves each file into place when it is whole. All are forced
 * to disk.
 */
final class WritingBench {

  private static final int TURNS = 8;
  private static final long WARM_NS = 4_000_000_000L;

  private WritingBench() {}

  static void run(Path folder, Path peers) throws IOException {
    Shot shot = BenchShot.of(1000, 20_000);
    reference(shot, "usd-text", folder.resolve("written.usda"), peers);
    reference(shot, "usd-crate", folder.resolve("written.usdc"), peers);
    assimp(shot, "fbx-binary", folder.resolve("written.fbx"), "fbx");
    assimp(shot, "fbx-text", folder.resolve("text.fbx"), "fbxa");
    gltf(shot, "gltf-text", folder.resolve("written.gltf"), peers);
    gltf(shot, "gltf-binary", folder.resolve("written.glb"), peers);
    Path table = folder.resolve("written.csv");
    double ours = ours(shot, "table", table);
    Path points = folder.resolve("written.trackers.csv");
    say(
        "table",
        table,
        ours,
        "Arrow, on two threads,",
        Peer.python(peers, "time_write.py", table.toString(), points.toString()));
  }

  /** Best of many, for a small file is written often until its code is compiled. */
  private static double ours(Shot shot, String format, Path file) {
    double best = Double.MAX_VALUE;
    long end = System.nanoTime() + WARM_NS;
    for (int i = 0; i < 2 * TURNS || System.nanoTime() < end; i++) {
      long start = System.nanoTime();
      BenchShot.write(shot, format, file);
      best = Math.min(best, (System.nanoTime() - start) / 1e6);
    }
    return best;
  }

  private static void reference(Shot shot, String format, Path file, Path peers)
      throws IOException {
    double ours = ours(shot, format, file);
    say(
        format,
        file,
        ours,
        "the reference library",
        Peer.python(peers, "time_write.py", file.toString()));
  }

  private static void gltf(Shot shot, String format, Path file, Path peers) throws IOException {
    double ours = ours(shot, format, file);
    say(format, file, ours, "glTF-Transform", Peer.node(peers, "write.mjs", file.toString()));
  }

  private static void assimp(Shot shot, String format, Path file, String theirFormat)
      throws IOException {
    double ours = ours(shot, format, file);
    AIScene scene = Assimp.aiImportFile(file.toString(), 0);
    if (scene == null) {
      throw new IOException(Assimp.aiGetErrorString());
    }
    Path again = file.resolveSibling("again-" + file.getFileName());
    double theirs = Double.MAX_VALUE;
    try {
      for (int i = 0; i < TURNS; i++) {
        long start = System.nanoTime();
        if (Assimp.aiExportScene(scene, theirFormat, again.toString(), 0) != 0) {
          throw new IOException(Assimp.aiGetErrorString());
        }
        try (FileChannel written = FileChannel.open(again, StandardOpenOption.WRITE)) {
          written.force(true);
        }
        theirs = Math.min(theirs, (System.nanoTime() - start) / 1e6);
      }
    } finally {
      Assimp.aiReleaseImport(scene);
    }
    say(format, file, ours, "the asset import library", OptionalDouble.of(theirs));
  }

  private static void say(String format, Path file, double ours, String peer, OptionalDouble theirs)
      throws IOException {
    System.out.printf(
        Locale.ROOT,
        "writing %s (%.1f MB): %.0f ms; %s%n",
        format,
        Files.size(file) / 1e6,
        ours,
        Peer.words(peer, ours, theirs));
  }
}
