package flarvo.plate.match;

import flarvo.lens.LensMapper;
import flarvo.lens.LensTrack;
import flarvo.plate.PlateLuma;
import flarvo.scene.Luma;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * How far an undistorted plate is from the original of the same frame, taken through the lens. It
 * needs no solve and no camera that moves, and it sees a plate that is a frame off.
 *
 * @param px half of the distances are below it; NaN where nothing was found
 * @param found patterns that were found again
 * @param framesOff by how many frames the undistorted plates are numbered too high; 0 where they
 *     are in step, or where nothing moves so that it cannot be told
 */
public record PlateRegistration(double px, int found, int framesOff) {

  private static final int FRAMES = 4;
  private static final int ACROSS = 12;
  private static final int DOWN = 7;
  private static final int MOST_OFF = 2;
  private static final int FEWEST = 8;

  /** An offset counts where it leaves less than this share of the distance. */
  private static final double CLEARLY = 0.5;

  /** Plates that are this near are in step, px. */
  private static final double NEAR = 0.3;

  private static final double REACH = 0.02;

  /**
   * Measures an undistorted sequence against the original.
   *
   * @param lens that the original was taken with
   */
  public static PlateRegistration of(
      PlateSequence original, PlateSequence undistorted, LensTrack lens, Progress progress) {
    List<Optional<Luma>> originals = new ArrayList<>();
    for (int i = 0; i < FRAMES; i++) {
      originals.add(PlateLuma.of(original, frame(original, i)));
    }
    double[] px = new double[2 * MOST_OFF + 1];
    int[] found = new int[px.length];
    for (int k = 0; k <= 2 * MOST_OFF; k++) {
      // In step first; the offsets only where that does not hold.
      int off = (k + 1) / 2 * (k % 2 == 0 ? 1 : -1);
      progress.step(k, 2L * MOST_OFF + 1);
      List<Double> d = distances(original, originals, undistorted, lens, off);
      double[] v = d.stream().mapToDouble(Double::doubleValue).sorted().toArray();
      found[off + MOST_OFF] = v.length;
      px[off + MOST_OFF] = v.length < FEWEST ? Double.NaN : v[v.length / 2];
      if (k == 0 && px[MOST_OFF] < NEAR) {
        return new PlateRegistration(px[MOST_OFF], found[MOST_OFF], 0);
      }
    }
    int best = MOST_OFF;
    for (int i = 0; i < px.length; i++) {
      boolean clearly = Double.isNaN(px[MOST_OFF]) || px[i] < CLEARLY * px[MOST_OFF];
      best = clearly && (Double.isNaN(px[best]) || px[i] < px[best]) ? i : best;
    }
    return new PlateRegistration(px[MOST_OFF], found[MOST_OFF], best - MOST_OFF);
  }

  /** Whether enough was found to say anything. */
  public boolean isKnown() {
    return !Double.isNaN(px);
  }

  /** Frames spread over the sequence, none at its ends. */
  private static int frame(PlateSequence p, int i) {
    int n = p.frames().count();
    return p.frames().first() + (int) ((2L * i + 1) * n / (2 * FRAMES));
  }

  private static List<Double> distances(
      PlateSequence original,
      List<Optional<Luma>> originals,
      PlateSequence undistorted,
      LensTrack lens,
      int off) {
    List<Double> out = new ArrayList<>();
    PictureSize picture = undistorted.picture();
    PatchMatch match = new PatchMatch(REACH * picture.width());
    for (int i = 0; i < FRAMES; i++) {
      int frame = frame(original, i);
      Optional<Luma> a = PlateLuma.of(undistorted, frame + off);
      Optional<Luma> b = originals.get(i);
      boolean alike =
          a.isPresent()
              && b.isPresent()
              && a.get().width() == b.get().width()
              && a.get().height() == b.get().height();
      if (alike) {
        frame(a.get(), b.get(), lens.at(frame).on(picture), match, out);
      }
    }
    return out;
  }

  private static void frame(
      Luma whole, Luma other, LensMapper lens, PatchMatch match, List<Double> out) {
    Pyramid straight = match.of(whole);
    Pyramid bent = match.of(other);
    double[] q = new double[2];
    for (int j = 0; j < DOWN; j++) {
      for (int i = 0; i < ACROSS; i++) {
        double x = whole.width() * (i + 0.5) / ACROSS;
        double y = whole.height() * (j + 0.5) / DOWN;
        if (!lens.toOriginal(x, y, q)) {
          continue;
        }
        double off = match.error(straight, x, y, bent, q[0], q[1]);
        if (!Double.isNaN(off)) {
          out.add(off);
        }
      }
    }
  }
}
