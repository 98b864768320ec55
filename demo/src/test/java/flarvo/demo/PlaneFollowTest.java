package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.Luma;
import flarvo.scene.Observations;
import flarvo.trace.MaskShape;
import flarvo.trace.PlaneFollow;
import flarvo.trace.Traced;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Something flat, a third of it hidden, beside where it really is. */
class PlaneFollowTest {

  private static final int FROM = 14;

  /** Whether all three are followed, on plates as a lens would give them. */
  private static final boolean ALL = Boolean.getBoolean("flarvo.traces");

  /** A textured board passes before the middle third of the region, on all frames but its own. */
  private static void hide(Luma l, double[] corners, int frame) {
    double left = Math.min(Math.min(corners[0], corners[2]), Math.min(corners[4], corners[6]));
    double right = Math.max(Math.max(corners[0], corners[2]), Math.max(corners[4], corners[6]));
    double third = (right - left) / 3;
    double from = left + third * (1 + 0.9 * Math.sin(frame * 0.25));
    for (int y = 0; y < l.height(); y++) {
      for (int x = (int) Math.max(0, from); x < Math.min(l.width(), from + third); x++) {
        l.luma()[y * l.width() + x] =
            (float) (50 + 160 * Texture.smooth((x - from) * 0.13, y * 0.13, 77));
      }
    }
  }

  /**
   * Floor; with {@code -Dflarvo.traces=true} also the front of the plinth, and floor seen steeply.
   */
  private static List<Arguments> planes() {
    List<Arguments> out = new ArrayList<>();
    out.add(Arguments.of("walk", new double[] {600, 385, 790, 385, 850, 520, 600, 520}));
    if (ALL) {
      out.add(Arguments.of("long lens", new double[] {438, 300, 538, 300, 538, 495, 438, 495}));
      out.add(Arguments.of("crane", new double[] {620, 395, 820, 395, 880, 520, 620, 520}));
    }
    return out;
  }

  @ParameterizedTest
  @MethodSource("planes")
  void cornersStayWhereTheyBelong(String name, double[] drawn) {
    RenderedShot shot =
        RenderedShot.all().stream().filter(r -> r.name().equals(name)).findFirst().orElseThrow();
    FollowedTruth truth = new FollowedTruth(shot, true);
    Map<Integer, Luma> plates = ALL ? shot.plates(4) : shot.plates();
    Map<Integer, double[]> where = new TreeMap<>();
    for (int f : plates.keySet()) {
      double[] c = new double[8];
      for (int i = 0; i < 4; i++) {
        double[] p = truth.on(FROM, drawn[2 * i], drawn[2 * i + 1], f);
        c[2 * i] = p[0];
        c[2 * i + 1] = p[1];
      }
      where.put(f, c);
      if (f != FROM) {
        hide(plates.get(f), c, f);
      }
    }
    long began = System.nanoTime();
    Traced t =
        PlaneFollow.of(
            new MaskShape("p01", new TreeMap<>(Map.of(FROM, drawn))),
            shot.frames(),
            f -> Optional.ofNullable(plates.get(f)),
            Progress.NONE);
    double seconds = (System.nanoTime() - began) / 1e9;
    Observations o = t.observations();
    List<Double> errors = new ArrayList<>();
    List<String> names = PlaneFollow.tracks("p01");
    for (int f : plates.keySet()) {
      for (int i = 0; i < 4; i++) {
        int row = o.row(names.get(i), f);
        if (row >= 0) {
          errors.add(
              Math.hypot(o.x(row) - where.get(f)[2 * i], o.y(row) - where.get(f)[2 * i + 1]));
        }
      }
    }
    errors.sort(null);
    double rms =
        Math.sqrt(errors.stream().mapToDouble(e -> e * e).sum() / Math.max(1, errors.size()));
    System.out.printf(
        Locale.ROOT,
        "%s: %d corners, %.3f px RMS, median %.3f px, 90 %% %.3f px, worst %.3f px; %.2f s; %s%n",
        name,
        errors.size(),
        rms,
        errors.get(errors.size() / 2),
        errors.get((int) (0.9 * errors.size())),
        errors.get(errors.size() - 1),
        seconds,
        t.notes().stream().map(n -> n.text()).toList());
    assertThat(errors).hasSizeGreaterThan(100);
    assertThat(rms).isLessThan(ALL ? 0.12 : 0.2);
    assertThat(errors.get((int) ((ALL ? 0.97 : 0.93) * errors.size()))).isLessThan(0.3);
    // A corner that is hidden itself is found by the rest, and by how the plane looks before and
    // after.
    assertThat(errors.get(errors.size() - 1)).isLessThan(ALL ? 0.3 : 0.6);
  }
}
