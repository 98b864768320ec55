package flarvo.trace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.Observations;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.IntFunction;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Pictures that move in a known way, and every kind of plate that cannot be followed. */
@Tag("numeric")
class TracerTest {

  private static final int W = 320;
  private static final int H = 240;
  private static final FrameRange FRAMES = new FrameRange(1001, 1024);
  private static final double DX = 2.3;
  private static final double DY = -0.7;

  /** A wall of spots, grains and waves that goes by. */
  private static Luma wall(int frame, long seed, double grain) {
    int n = frame - FRAMES.first();
    return wall(frame, DX * n, DY * n, seed, grain);
  }

  private static Luma wall(int frame, double ox, double oy, long seed, double grain) {
    Random r = new Random(frame * 31L + seed);
    float[] out = new float[W * H];
    for (int y = 0; y < H; y++) {
      for (int x = 0; x < W; x++) {
        double v = spots(x - ox, y - oy, seed);
        out[y * W + x] = (float) Math.max(0, Math.min(255, v + grain * r.nextGaussian()));
      }
    }
    return new Luma(W, H, out);
  }

  /** Smooth noise: values at the corners of a grid of 7 pixels, and between them by cosine. */
  static double spots(double x, double y, long seed) {
    double gx = Math.floor(x / 7);
    double gy = Math.floor(y / 7);
    double fx = (1 - Math.cos(Math.PI * (x / 7 - gx))) / 2;
    double fy = (1 - Math.cos(Math.PI * (y / 7 - gy))) / 2;
    double top = value(gx, gy, seed) * (1 - fx) + value(gx + 1, gy, seed) * fx;
    double low = value(gx, gy + 1, seed) * (1 - fx) + value(gx + 1, gy + 1, seed) * fx;
    return 40 + 170 * (top * (1 - fy) + low * fy);
  }

  private static double value(double i, double j, long seed) {
    long h = ((long) i) * 73_856_093L ^ ((long) j) * 19_349_663L ^ seed * 83_492_791L;
    h = (h ^ h >>> 33) * 0xff51afd7ed558ccdL;
    h = (h ^ h >>> 33) * 0xc4ceb9fe1a85ec53L;
    return (h >>> 40) / (double) (1 << 24);
  }

  private static Traced trace(IntFunction<Optional<Luma>> plates) {
    return Tracer.of(FRAMES, plates, TraceOptions.USUAL.withFeatures(80), Mask.NONE, Progress.NONE);
  }

  private static double worst(Observations o) {
    double worst = 0;
    for (String n : o.names()) {
      int first = o.firstRow(n);
      for (int row = first; row < o.endRow(n); row++) {
        int d = o.frame(row) - o.frame(first);
        worst =
            Math.max(
                worst, Math.hypot(o.x(row) - o.x(first) - DX * d, o.y(row) - o.y(first) - DY * d));
      }
    }
    return worst;
  }

  private static boolean says(Traced t, TraceNote.Kind kind, int frame) {
    return t.notes().stream().anyMatch(n -> n.kind() == kind && n.frame() == frame);
  }

  @Test
  void whatMovesIsFollowedToATenthOfAPixel() {
    Traced t = trace(f -> Optional.of(wall(f, 1, 1)));
    assertThat(t.observations().names()).hasSizeGreaterThan(60);
    assertThat(t.meanLife()).isGreaterThan(18);
    assertThat(worst(t.observations())).isLessThan(0.35);
    assertThat(t.notes()).isEmpty();
    // What came into the picture late was found late.
    int late = 0;
    for (String n : t.observations().names()) {
      late += t.observations().frame(t.observations().firstRow(n)) > FRAMES.first() ? 1 : 0;
    }
    assertThat(late).isPositive();
  }

  @Test
  void featuresAreFollowedUntilTheyNearlyLeaveThePicture() {
    Observations o = trace(f -> Optional.of(wall(f, 1, 1))).observations();
    int left = 0;
    for (String n : o.names()) {
      int last = o.endRow(n) - 1;
      double next = o.x(last) + DX;
      if (o.frame(last) == FRAMES.last() || o.y(last) < 20 || o.y(last) > H - 20) {
        continue;
      }
      left++;
      // Four pixels of the square out of it that is followed there, one more, and half of one.
      assertThat(next).as(n).isGreaterThan(W - 5.5);
      int first = o.firstRow(n);
      int d = o.frame(last) - o.frame(first);
      assertThat(o.x(last) - o.x(first)).as(n).isCloseTo(DX * d, within(0.2));
      assertThat(o.y(last) - o.y(first)).as(n).isCloseTo(DY * d, within(0.2));
    }
    assertThat(left).isGreaterThan(5);
  }

  @Test
  void whatGoesOutOfThePictureAndComesBackGoesOn() {
    double[] along = new double[FRAMES.count()];
    for (int i = 0; i < along.length; i++) {
      along[i] = 2 * DX * Math.min(i, along.length - 1 - i);
    }
    Observations o =
        trace(f -> Optional.of(wall(f, along[f - FRAMES.first()], 0, 1, 1))).observations();
    int back = 0;
    for (String n : o.names()) {
      int first = o.firstRow(n);
      int last = o.endRow(n) - 1;
      double gone = o.frame(last) - o.frame(first) - (last - first);
      double moved = along[o.frame(last) - FRAMES.first()] - along[o.frame(first) - FRAMES.first()];
      assertThat(o.x(last) - o.x(first)).as(n).isCloseTo(moved, within(0.2));
      assertThat(o.y(last) - o.y(first)).as(n).isCloseTo(0, within(0.2));
      back += gone > 6 ? 1 : 0;
    }
    assertThat(back).isGreaterThan(2);
  }

  /**
   * Cancelled at any frames, it comes to what it would have come to; hardly a frame is read anew.
   */
  @Test
  void whatWasCancelledGoesOnWhereItStopped() {
    IntFunction<Optional<Luma>> plates =
        f -> f == 1012 ? Optional.empty() : Optional.of(wall(f, 1, 1));
    Traced whole = trace(plates);
    int[] reads = new int[1];
    IntFunction<Optional<Luma>> counted =
        f -> {
          synchronized (reads) {
            reads[0]++;
          }
          return plates.apply(f);
        };
    TraceOptions o = TraceOptions.USUAL.withFeatures(80);
    Tracer t = Tracer.in(FRAMES, counted, o, Mask.NONE);
    for (int stop : new int[] {0, 1, 9, 12, 23}) {
      assertThatThrownBy(() -> t.run(until(stop))).isInstanceOf(Cancelled.class);
      assertThat(t.next()).isEqualTo(FRAMES.first() + stop);
    }
    Traced rest = t.run(Progress.NONE);
    assertThat(rest.observations()).isEqualTo(whole.observations());
    assertThat(rest.notes()).isEqualTo(whole.notes());
    // Each stop costs the frame that was read ahead, and at most ten behind.
    assertThat(reads[0]).isLessThanOrEqualTo(FRAMES.count() + 5 * 11);
  }

  private static Progress until(int frame) {
    return new Progress() {
      private boolean over;

      @Override
      public void at(long done, long total) {
        over = done >= frame - 1;
      }

      @Override
      public boolean isCancelled() {
        return over || frame == 0;
      }
    };
  }

  @Test
  void anUnfinishedTraceIsTakenOnceForTheSamePicturesOnly() {
    Tracer t = Tracer.in(FRAMES, f -> Optional.of(wall(f, 1, 1)), TraceOptions.USUAL, Mask.NONE);
    UnfinishedTrace.keep("a", 7, t);
    assertThat(UnfinishedTrace.next("a")).hasValue(FRAMES.first());
    assertThat(UnfinishedTrace.next("b")).isEmpty();
    assertThat(UnfinishedTrace.take("b", 7)).isEmpty();
    assertThat(UnfinishedTrace.take("a", 8)).isEmpty();
    assertThat(UnfinishedTrace.take("a", 7)).containsSame(t);
    assertThat(UnfinishedTrace.take("a", 7)).isEmpty();
  }

  @Test
  void featuresAreSpreadOverThePicture() {
    Observations o = trace(f -> Optional.of(wall(f, 1, 1))).observations();
    int[] quarters = new int[4];
    for (String n : o.names()) {
      int row = o.row(n, 1010);
      if (row >= 0) {
        quarters[(o.x(row) > W / 2.0 ? 1 : 0) + (o.y(row) > H / 2.0 ? 2 : 0)]++;
      }
    }
    assertThat(Arrays.stream(quarters).min().orElse(0)).isGreaterThan(8);
  }

  @Test
  void theSameFramesGiveTheSameFeatures() {
    assertThat(trace(f -> Optional.of(wall(f, 1, 1))).observations())
        .isEqualTo(trace(f -> Optional.of(wall(f, 1, 1))).observations());
  }

  @Test
  void aCutIsFoundAndNothingGoesAcross() {
    Traced t = trace(f -> Optional.of(wall(f, f < 1013 ? 1 : 99, 1)));
    assertThat(t.cut()).isPresent();
    assertThat(t.cut().get().frame()).isEqualTo(1013);
    Observations o = t.observations();
    for (String n : o.names()) {
      boolean before = o.frame(o.firstRow(n)) < 1013;
      assertThat(o.frame(o.endRow(n) - 1) < 1013).as(n).isEqualTo(before);
    }
  }

  @Test
  void aFlashIsFoundAndFeaturesGoOnBehindIt() {
    Luma white = new Luma(W, H, new float[W * H]);
    Arrays.fill(white.luma(), 255);
    Traced t = trace(f -> Optional.of(f == 1010 || f == 1011 ? white : wall(f, 1, 1)));
    assertThat(says(t, TraceNote.Kind.FLASH, 1010)).as("%s", t.notes()).isTrue();
    assertThat(t.cut()).isEmpty();
    assertThat(worst(t.observations())).isLessThan(0.35);
    Observations o = t.observations();
    assertThat(o.names().stream().filter(n -> o.row(n, 1009) >= 0 && o.row(n, 1012) >= 0).count())
        .isGreaterThan(30);
  }

  @Test
  void missingAndRepeatedFramesAreSaid() {
    Traced t =
        trace(
            f ->
                f == 1008
                    ? Optional.empty()
                    : Optional.of(wall(f == 1015 ? 1014 : f, 1, f == 1015 || f == 1014 ? 0 : 1)));
    assertThat(says(t, TraceNote.Kind.MISSING, 1008)).isTrue();
    assertThat(says(t, TraceNote.Kind.REPEATED, 1015)).as("%s", t.notes()).isTrue();
    Observations o = t.observations();
    assertThat(o.names().stream().filter(n -> o.row(n, 1007) >= 0 && o.row(n, 1009) >= 0).count())
        .as("features that go on behind the missing frame")
        .isGreaterThan(30);
  }

  /** What ends a feature disturbs its pattern on the frames before: those places are not kept. */
  @Test
  void placesBesideWhatHidesAFeatureAreAsGoodAsOthers() {
    Traced t =
        trace(
            f -> {
              Luma l = wall(f, 1, 1);
              Luma board = wall(f, 7, 1);
              int edge = W - 7 * (f - FRAMES.first());
              for (int y = 0; y < H; y++) {
                for (int x = Math.max(0, edge); x < W; x++) {
                  l.luma()[y * W + x] = board.luma()[y * W + (int) ((x + 3L * f) % W)];
                }
              }
              return Optional.of(l);
            });
    Observations o = t.observations();
    double last = 0;
    double middle = 0;
    int hidden = 0;
    for (String n : o.names()) {
      int first = o.firstRow(n);
      int end = o.endRow(n);
      int at = o.frame(end - 1);
      if (o.frame(first) == FRAMES.first() && at < FRAMES.last() && end - first > 6) {
        hidden++;
        last += off(o, first, end - 1);
        middle += off(o, first, (first + end) / 2);
      }
    }
    assertThat(hidden).isGreaterThan(15);
    assertThat(last).isLessThan(2 * middle); // with all places it is more than three times as much
  }

  private static double off(Observations o, int first, int row) {
    int d = o.frame(row) - o.frame(first);
    return Math.hypot(o.x(row) - o.x(first) - DX * d, o.y(row) - o.y(first) - DY * d);
  }

  @Test
  void lightThatChangesIsNothingToFollow() {
    Traced t =
        trace(
            f -> {
              Luma l = wall(f, 1, 1);
              double gain = 0.8 + 0.25 * Math.sin(f);
              for (int i = 0; i < l.luma().length; i++) {
                l.luma()[i] = (float) Math.min(255, gain * l.luma()[i] + 6 * Math.cos(f));
              }
              return Optional.of(l);
            });
    assertThat(t.observations().names()).hasSizeGreaterThan(60);
    assertThat(worst(t.observations())).isLessThan(0.4);
  }

  @Test
  void nothingIsFollowedUnderAMask() {
    MaskShape half = MaskShape.still("half", 0, 0, W / 2.0, 0, W / 2.0, H, 0, H);
    Observations o =
        Tracer.of(
                FRAMES,
                f -> Optional.of(wall(f, 1, 1)),
                TraceOptions.USUAL.withFeatures(80),
                half,
                Progress.NONE)
            .observations();
    assertThat(o.names()).hasSizeGreaterThan(20);
    for (int row = 0; row < o.size(); row++) {
      assertThat(o.x(row)).isGreaterThan(W / 2.0 - 1e-6);
    }
  }

  private static void refused(IntFunction<Optional<Luma>> plates, String why) {
    assertThatThrownBy(() -> trace(plates))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(why);
  }

  @Test
  void whatCannotBeFollowedIsSaid() {
    refused(f -> Optional.of(new Luma(W, H, new float[W * H])), "they are black");
    Luma grey = new Luma(W, H, new float[W * H]);
    Arrays.fill(grey.luma(), 90);
    refused(f -> Optional.of(grey), "no detail to follow");
    refused(
        f -> {
          Random r = new Random(f);
          float[] v = new float[W * H];
          for (int i = 0; i < v.length; i++) {
            v[i] = (float) (128 + 40 * r.nextGaussian());
          }
          return Optional.of(new Luma(W, H, v));
        },
        "stands out of their grain");
    refused(f -> Optional.of(wall(f, f, 1)), "could be followed for 5 frames");
    refused(f -> Optional.empty(), "none can be read");
    refused(f -> f == 1003 ? Optional.of(wall(f, 1, 1)) : Optional.empty(), "only one can be read");
    refused(
        f -> Optional.of(f == 1005 ? new Luma(W, H / 2, new float[W * H / 2]) : wall(f, 1, 1)),
        "frame 1005 is 320 × 120");
    refused(
        f -> {
          throw InputError.words("the disk is gone", "");
        },
        "the disk is gone");
    assertThatThrownBy(
            () ->
                Tracer.of(
                    new FrameRange(7, 7),
                    f -> Optional.of(wall(f, 1, 1)),
                    TraceOptions.USUAL,
                    Mask.NONE,
                    Progress.NONE))
        .hasMessageContaining("one frame only, 7");
  }

  @Test
  void itEndsWhenItIsAskedTo() {
    Progress asked =
        new Progress() {
          private int steps;

          @Override
          public void at(long done, long total) {
            steps++;
          }

          @Override
          public boolean isCancelled() {
            return steps > 4;
          }
        };
    Map<Integer, Integer> read = new HashMap<>();
    assertThatThrownBy(
            () ->
                Tracer.of(
                    FRAMES,
                    f -> {
                      read.merge(f, 1, Integer::sum);
                      return Optional.of(wall(f, 1, 1));
                    },
                    TraceOptions.USUAL,
                    Mask.NONE,
                    asked))
        .isInstanceOf(Cancelled.class);
    assertThat(read).hasSizeLessThan(10);
    assertThat(read.values()).as("each frame is read once").allMatch(n -> n == 1);
  }
}
