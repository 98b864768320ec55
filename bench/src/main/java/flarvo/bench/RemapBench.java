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
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Pictures of three channels through a lens, on two threads, beside another library's remapping in
 * the same run; both into a picture that is there. Ours are floats in memory at every depth; theirs
 * are bytes where the picture is.
 */
final class RemapBench {

  private static final int TURNS = 9;
  private static final int THREADS = 2;

  private RemapBench() {}

  static void run(Path peers) throws IOException {
    Map<String, Double> theirs = theirs(peers);
    for (PictureSize size : List.of(PictureSize.of(1920, 1080), PictureSize.of(3840, 2160))) {
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
        double best = Double.MAX_VALUE;
        for (int t = 0; t < TURNS; t++) {
          long start = System.nanoTime();
          made = remap.apply(picture, made, THREADS);
          best = Math.min(best, (System.nanoTime() - start) / 1e6);
        }
        Double other = theirs.get(size + " " + f.code());
        System.out.printf(
            Locale.ROOT,
            "remapping %s %s, %s: %.0f ms; %s%n",
            size,
            picture.kind().code(),
            f.code(),
            best,
            other == null
                ? "OpenCV is not here; './flarvo peers' fetches it"
                : String.format(Locale.ROOT, "OpenCV %.0f ms; ratio %.2f", other, best / other));
      }
    }
  }

  /** Their best times by size and filter. */
  private static Map<String, Double> theirs(Path peers) throws IOException {
    Map<String, Double> out = new HashMap<>();
    Path python = peers.resolve("../.peers/bin/python").normalize();
    if (!Files.isExecutable(python)) {
      return out;
    }
    Process p =
        new ProcessBuilder(python.toString(), peers.resolve("time_remap.py").toString())
            .redirectError(ProcessBuilder.Redirect.DISCARD)
            .start();
    try (BufferedReader in =
        new BufferedReader(new InputStreamReader(p.getInputStream(), StandardCharsets.UTF_8))) {
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        int at = line.lastIndexOf(' ');
        out.put(line.substring(0, at), Double.valueOf(line.substring(at + 1)));
      }
    }
    return out;
  }
}
