package flarvo.bench;

import flarvo.lens.BrownConrady;
import flarvo.lens.Direction;
import flarvo.lens.Lens;
import flarvo.plate.Raster;
import flarvo.plate.SampleKind;
import flarvo.plate.remap.Filter;
import flarvo.plate.remap.Light;
import flarvo.plate.remap.Overscan;
import flarvo.plate.remap.PositionGrid;
import flarvo.plate.remap.Remap;
import flarvo.scene.PictureSize;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;

/**
 * Pictures of three channels through a lens, on two threads, beside another library's remapping;
 * both into a picture that is there, in turns, so that a busy machine slows both. Ours are floats
 * in memory at every depth; theirs are bytes where the picture is.
 */
final class RemapBench {

  /** At least; a picture that is quickly made is made more often, as its times vary more. */
  private static final int TURNS = 15;

  private static final long ENOUGH = 5_000_000_000L;
  private static final int THREADS = 2;

  private RemapBench() {}

  static void run(Path peers) throws IOException {
    Path python = peers.resolve("../.peers/bin/python").normalize();
    if (!Files.isExecutable(python)) {
      for (PictureSize size : List.of(PictureSize.of(1920, 1080), PictureSize.of(3840, 2160))) {
        measure(size, null);
      }
      System.out.println("OpenCV is not here; './flarvo peers' fetches it");
      return;
    }
    Process other =
        new ProcessBuilder(python.toString(), peers.resolve("time_remap.py").toString())
            .redirectError(ProcessBuilder.Redirect.DISCARD)
            .start();
    try (Writer ask = other.outputWriter(StandardCharsets.UTF_8);
        BufferedReader answers =
            new BufferedReader(
                new InputStreamReader(other.getInputStream(), StandardCharsets.UTF_8))) {
      Theirs theirs = new Theirs(ask, answers);
      for (PictureSize size : List.of(PictureSize.of(1920, 1080), PictureSize.of(3840, 2160))) {
        measure(size, theirs);
      }
    } finally {
      other.destroy();
    }
  }

  private static void measure(PictureSize size, Theirs theirs) throws IOException {
    boolean hd = size.width() == 1920;
    Raster picture =
        Raster.empty(
            size.width(),
            size.height(),
            List.of("R", "G", "B"),
            hd ? SampleKind.BYTE : SampleKind.FLOAT);
    for (int i = 0; i < picture.values().length; i++) {
      picture.values()[i] = i % 251 / 251f;
    }
    PositionGrid grid =
        PositionGrid.of(
            Lens.centred(new BrownConrady(-0.08, 0.01, 0, 0, 0, 0, 0, 0)).on(size),
            Direction.ORIGINAL_TO_UNDISTORTED,
            Overscan.none(size));
    for (Filter f : List.of(Filter.BILINEAR, Filter.BICUBIC, Filter.LANCZOS)) {
      Remap remap = new Remap(grid, f, Light.ENCODED);
      Raster made = remap.empty(picture);
      double ours = Double.MAX_VALUE;
      double best = Double.MAX_VALUE;
      long begun = System.nanoTime();
      for (int t = 0; t < TURNS || System.nanoTime() - begun < ENOUGH; t++) {
        long start = System.nanoTime();
        made = remap.apply(picture, made, THREADS);
        ours = Math.min(ours, (System.nanoTime() - start) / 1e6);
        best = theirs == null ? best : Math.min(best, theirs.time(size, f));
      }
      System.out.printf(
          Locale.ROOT,
          "remapping %s %s, %s: %.1f ms%s%n",
          size,
          picture.kind().code(),
          f.code(),
          ours,
          theirs == null
              ? ""
              : String.format(Locale.ROOT, "; OpenCV %.1f ms; ratio %.2f", best, ours / best));
    }
  }

  /** The other library, in a process of its own that remaps a picture when it is asked to. */
  private record Theirs(Writer ask, BufferedReader answers) {

    /** Milliseconds of one picture. */
    double time(PictureSize size, Filter filter) throws IOException {
      ask.write(size + " " + filter.code() + "\n");
      ask.flush();
      String line = answers.readLine();
      if (line == null) {
        throw new IOException("OpenCV's process ended; 'python peers/time_remap.py' says why");
      }
      return Double.parseDouble(line);
    }
  }
}
