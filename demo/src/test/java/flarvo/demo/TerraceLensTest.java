package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.lens.Direction;
import flarvo.lens.LensMapper;
import flarvo.lens.LensModel;
import flarvo.lens.LensSheet;
import flarvo.lens.Normalisation;
import flarvo.lens.fit.LensEstimate;
import flarvo.lens.fit.LensFit;
import flarvo.lens.fit.LensFitOptions;
import flarvo.lens.fit.StraightLine;
import flarvo.plate.PlateFinder;
import flarvo.plate.PlateLuma;
import flarvo.plate.Raster;
import flarvo.plate.SampleKind;
import flarvo.plate.edge.EdgeFinder;
import flarvo.plate.edge.EdgeTrace;
import flarvo.plate.remap.Filter;
import flarvo.plate.remap.Light;
import flarvo.plate.remap.Overscan;
import flarvo.plate.remap.PositionGrid;
import flarvo.plate.remap.Remap;
import flarvo.report.InputError;
import flarvo.scene.Luma;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateSequence;
import flarvo.work.Progress;
import java.awt.image.BufferedImage;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** The terrace's lens, against what was really rendered. */
class TerraceLensTest {

  private static final PictureSize SIZE = TerraceTruth.PICTURE;
  private static final Path SHEET =
      Path.of("meridian/mer_010_terrace/incoming/mer_010_terrace_lens.json");

  private static final Path PLATES = Path.of("meridian/mer_010_terrace/plates/original");

  /** Below it everything that is built is straight. */
  private static final double WALL = 175;

  /** Samples of a pixel, across and down: the soft shadow's noise is grain too. */
  private static final int SIDE = 4;

  private static Raster rendered(int frame, boolean undistorted, double spread) {
    BufferedImage image =
        PlateRenderer.render(TerraceTruth.SHOT, frame, undistorted, 0, SIDE, spread);
    Raster r =
        Raster.empty(image.getWidth(), image.getHeight(), List.of("R", "G", "B"), SampleKind.BYTE);
    for (int y = 0, i = 0; y < image.getHeight(); y++) {
      for (int x = 0; x < image.getWidth(); x++) {
        int p = image.getRGB(x, y);
        for (int c = 16; c >= 0; c -= 8) {
          r.values()[i++] = (p >> c & 255) / 255f;
        }
      }
    }
    return r;
  }

  private static double psnr(Raster a, Raster b, int border) {
    double s = 0;
    long n = 0;
    for (int y = border; y < a.height() - border; y++) {
      for (int x = border; x < a.width() - border; x++) {
        for (int c = 0; c < 3; c++) {
          double d = a.at(x, y, c) - b.at(x, y, c);
          s += d * d;
          n++;
        }
      }
    }
    return -10 * Math.log10(s / n);
  }

  private static Raster through(LensMapper lens, Raster from, Direction d) {
    return new Remap(PositionGrid.of(lens, d, Overscan.none(SIZE)), Filter.LANCZOS, Light.ENCODED)
        .apply(from);
  }

  /** What is undistorted is what a camera without that lens would have seen. */
  @Test
  void undistortedPlatesAreThoseRenderedStraight() {
    LensMapper lens = LensSheet.read(SHEET).track().base().on(SIZE);
    // As a camera sees it, which spreads light over more than a pixel. The demo's own plates do
    // not:
    // joints thinner than a pixel alias in them, and where those fill the picture, no filter gets
    // from one sampling of them to another at 40 dB. The last frame is the worst of the shot.
    Map<Integer, Double> shipped = Map.of(1003, 40.0, 1061, 36.5);
    for (int frame : shipped.keySet()) {
      assertUndistortedEqualsStraight(lens, frame, 1, shipped.get(frame));
      assertUndistortedEqualsStraight(lens, frame, 2.5, 40);
    }
  }

  private static void assertUndistortedEqualsStraight(
      LensMapper lens, int frame, double spread, double least) {
    List<Raster> both =
        Stream.of(false, true)
            .parallel()
            .map(undistorted -> rendered(frame, undistorted, spread))
            .toList();
    Raster bent = both.get(0);
    Raster straight = both.get(1);
    Raster made = through(lens, bent, Direction.ORIGINAL_TO_UNDISTORTED);
    assertThat(psnr(made, straight, 12)).as("frame %d", frame).isGreaterThan(least);
    assertThat(psnr(bent, straight, 12)).isLessThan(28);
    Raster back = through(lens, made, Direction.UNDISTORTED_TO_ORIGINAL);
    // The undistorted picture is cropped, so the original's border is not in it.
    assertThat(psnr(back, bent, 48)).as("frame %d", frame).isGreaterThan(45);
  }

  /** Joints between flagstones, which are straight, with the noise of a hand. */
  @Test
  void theLensIsFoundFromTheFlagstonesJoints() {
    Lens truth = TerraceTruth.LENS;
    Random r = new Random(20);
    List<StraightLine> lines = new ArrayList<>();
    double[] px = new double[3];
    for (int frame = 1001; frame <= 1096; frame += 8) {
      Pinhole p = new Pinhole(TerraceTruth.camera(), SIZE).at(frame);
      for (int k = -8; k <= 8; k++) {
        for (int along = 0; along < 2; along++) {
          List<Double> xy = new ArrayList<>();
          for (double t = -5; t <= 5; t += 0.1) {
            double at = k * TerraceTruth.FLAGSTONE_METRES;
            p.project(along == 0 ? t : at, 0, along == 0 ? at : t, px);
            double[] seen = px[2] > 0.2 ? truth.distort(px[0], px[1], 960, 540) : null;
            if (seen != null && seen[0] > 2 && seen[0] < 958 && seen[1] > 2 && seen[1] < 538) {
              xy.add(seen[0] + 0.2 * r.nextGaussian());
              xy.add(seen[1] + 0.2 * r.nextGaussian());
            }
          }
          if (xy.size() >= 30) {
            double[] a = xy.stream().mapToDouble(Double::doubleValue).toArray();
            lines.add(new StraightLine(k + "/" + along, frame, a));
          }
        }
      }
    }
    LensEstimate e = fit(lines);
    double worst = worst(e);
    assertThat(worst).isLessThan(0.3);
    assertThat(e.worstPx()).isGreaterThan(worst);
  }

  /**
   * What a user does: a click at either end of a joint, on the plates themselves, with all their
   * grain, compression and aliasing. The truth only says where to click.
   */
  @Test
  void theLensIsFoundFromEdgesTracedOnThePlates() {
    PlateSequence plates = PlateFinder.find(PLATES).get(0);
    Random r = new Random(4);
    int hidden = 0;
    List<StraightLine> lines = new ArrayList<>();
    for (int frame = 1001; frame <= 1096; frame += 16) {
      Luma luma = PlateLuma.of(plates, frame).orElseThrow();
      for (double[] c : clicks(frame)) {
        try {
          lines.add(
              new StraightLine(
                  "joint " + lines.size(),
                  frame,
                  EdgeTrace.between(
                      luma,
                      c[0] + 2 * r.nextGaussian(),
                      c[1] + 2 * r.nextGaussian(),
                      c[2] + 2 * r.nextGaussian(),
                      c[3] + 2 * r.nextGaussian())));
        } catch (InputError e) {
          hidden++; // by the sundial, mostly
        }
      }
    }
    LensEstimate e = fit(lines);
    assertThat(lines).hasSizeGreaterThan(60).hasSizeGreaterThan(4 * hidden);
    assertThat(e.strays()).hasSizeLessThan(lines.size() / 4);
    assertThat(e.residualPx()).isLessThan(0.2);
    assertThat(worst(e)).isLessThan(0.3).isLessThan(e.worstPx());
  }

  /** Long edges are found; the user removes those of the dome and the hills, which are bent. */
  @Test
  void theLensIsFoundFromEdgesThatAreFound() {
    PlateSequence plates = PlateFinder.find(PLATES).get(0);
    List<StraightLine> lines = new ArrayList<>();
    for (int frame = 1001; frame <= 1096; frame += 16) {
      for (double[] xy : EdgeFinder.in(PlateLuma.of(plates, frame).orElseThrow())) {
        if (xy[1] > WALL && xy[xy.length - 1] > WALL) {
          lines.add(new StraightLine("edge " + lines.size(), frame, xy));
        }
      }
    }
    LensEstimate e = fit(lines);
    assertThat(lines).hasSizeGreaterThan(100);
    // Nothing of them lies in the upper third of the picture, and the fit says what that costs.
    assertThat(worst(e)).isLessThan(e.worstPx());
    assertThat(e.worstPx()).isLessThan(1.5);
  }

  /** Both ends, on the original, of the joints that run far across a frame. */
  private static List<double[]> clicks(int frame) {
    Pinhole p = new Pinhole(TerraceTruth.camera(), SIZE).at(frame);
    List<double[]> out = new ArrayList<>();
    double[] px = new double[3];
    for (int k = -8; k <= 8; k++) {
      for (int along = 0; along < 2; along++) {
        double[] first = null;
        double[] last = null;
        for (double t = -5; t <= 5; t += 0.05) {
          double at = k * TerraceTruth.FLAGSTONE_METRES;
          p.project(along == 0 ? t : at, 0, along == 0 ? at : t, px);
          double[] seen = px[2] > 0.2 ? TerraceTruth.LENS.distort(px[0], px[1], 960, 540) : null;
          if (seen != null && seen[0] > 8 && seen[0] < 952 && seen[1] > 300 && seen[1] < 532) {
            first = first == null ? seen.clone() : first;
            last = seen.clone();
          }
        }
        if (first != null && Math.hypot(last[0] - first[0], last[1] - first[1]) > 200) {
          out.add(new double[] {first[0], first[1], last[0], last[1]});
        }
      }
    }
    return out;
  }

  private static LensEstimate fit(List<StraightLine> lines) {
    return LensFit.withoutStrays(
        lines,
        SIZE,
        LensFitOptions.usual(LensModel.RADIAL, Normalisation.HALF_WIDTH, Double.NaN),
        Progress.NONE);
  }

  /** How far a lens puts a point wrong at most, in original pixels. */
  private static double worst(LensEstimate e) {
    LensMapper found = e.lens().on(SIZE);
    double worst = 0;
    double[] q = new double[2];
    for (int x = 0; x <= 960; x += 48) {
      for (int y = 0; y <= 540; y += 54) {
        found.toUndistorted(x, y, q);
        double[] back = TerraceTruth.LENS.distort(q[0], q[1], 960, 540);
        worst = Math.max(worst, Math.hypot(back[0] - x, back[1] - y));
      }
    }
    return worst;
  }
}
