package flarvo.trace;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.IntFunction;
import java.util.stream.IntStream;

/**
 * Finds features and follows them through a plate. Frames are read once, one ahead; a few of those
 * behind are kept, so that what is found late is followed back.
 */
public final class Tracer {

  /** Below this share of the wanted features new ones are looked for. */
  private static final double THIN = 0.9;

  /** New ones are looked for every so many frames at most, unless many were lost. */
  private static final int BETWEEN_SEARCHES = 4;

  /** After so many frames they are looked for even where few are missing: cover may be uneven. */
  private static final int MOST_BETWEEN_SEARCHES = 8;

  /** Share of those that lived after the last search, below which there is another at once. */
  private static final double VERY_THIN = 0.6;

  /** Frames that something may be hidden. */
  private static final int MOST_HIDDEN = 8;

  /** The same of what went out of the picture, as far as so many radii of its pattern. */
  private static final int MOST_OUT = 24;

  private static final double BEYOND = 4;

  /** Frames that a new feature is followed back. */
  private static final int FRAMES_BACK = 10;

  /** And as many as have so many pixels together: large plates must not fill the memory. */
  private static final long PIXELS_BACK = 60_000_000;

  /** Share of features lost at once from which it is asked where the picture went. */
  private static final double MANY_LOST = 0.5;

  private static final double ALL_LOST = 0.85;

  /** Correlation of two frames' smallest pictures, moved, from which they show the same. */
  private static final double SAME_PICTURE = 0.8;

  /** Mean difference of brightness, of 255, below which a frame is the one before. */
  private static final double REPEATED = 0.01;

  private static final int FEWEST = TraceResult.FEWEST;

  private final TraceOptions options;
  private final Mask mask;
  private final FrameRange frames;
  private final IntFunction<Optional<Luma>> plates;
  private final Corners corners;
  private final ThreadLocal<Follower> followers;
  private final ThreadLocal<JointAlignment> aligners;
  private final int mostAligned;
  private final List<Feature> all = new ArrayList<>();
  private List<Feature> current = new ArrayList<>();
  private final List<TraceNote> notes = new ArrayList<>();
  private final Deque<Levels> behind = new ArrayDeque<>();
  private List<Integer> suspended = List.of(); // frames that were behind when it was cancelled
  private final Interruptions interruptions = new Interruptions();
  private int lastSearch;
  private int stock; // of features after the last search
  private int read;
  private float brightest;
  private int next; // frame that is not followed yet
  private Levels before; // the last one that was read

  private Tracer(
      FrameRange frames, IntFunction<Optional<Luma>> plates, TraceOptions options, Mask mask) {
    this.frames = frames;
    this.plates = plates;
    this.options = options;
    this.mask = mask;
    next = frames.first();
    corners = new Corners(options, mask);
    followers = ThreadLocal.withInitial(() -> new Follower(options));
    aligners = ThreadLocal.withInitial(() -> new JointAlignment(options.radius()));
    mostAligned = JointAlignment.most(options);
  }

  /**
   * Follows what can be followed.
   *
   * @param plates brightness by plate frame, all of one size; empty where one is missing
   * @param mask in which nothing is followed
   * @throws InputError where nothing can be followed, with the reason
   * @throws Cancelled when the user asked to stop
   */
  public static Traced of(
      FrameRange frames,
      IntFunction<Optional<Luma>> plates,
      TraceOptions options,
      Mask mask,
      Progress progress) {
    return in(frames, plates, options, mask).run(progress);
  }

  /**
   * The same, to be run.
   *
   * @throws InputError where there is one frame only
   */
  public static Tracer in(
      FrameRange frames, IntFunction<Optional<Luma>> plates, TraceOptions options, Mask mask) {
    if (frames.count() < 2) {
      throw InputError.words(
          "there is one frame only, " + frames.first(),
          "Features are followed over many frames; give a longer plate");
    }
    return new Tracer(frames, plates, options, mask);
  }

  /** The frame that it goes on with when it is run. */
  public int next() {
    return next;
  }

  /**
   * Follows what can be followed. Run again after it was cancelled, it goes on with the frame at
   * which it stopped, and comes to what it would have come to without.
   *
   * @throws InputError where nothing can be followed, with the reason
   * @throws Cancelled when the user asked to stop
   */
  public Traced run(Progress progress) {
    resume();
    ExecutorService reader =
        Executors.newSingleThreadExecutor(
            r -> {
              Thread t = new Thread(r, "plates-to-trace");
              t.setDaemon(true);
              return t;
            });
    try {
      int last = frames.last();
      CompletableFuture<Optional<Levels>> ahead = next > last ? null : read(reader, next);
      for (; next <= last; next++) {
        progress.step(next - frames.first(), frames.count());
        Optional<Levels> now = came(ahead);
        if (next < last) {
          ahead = read(reader, next + 1);
        }
        if (now.isEmpty()) {
          notes.add(
              new TraceNote(
                  TraceNote.Kind.MISSING, next, "frame " + next + " is missing or cannot be read"));
          continue;
        }
        before = frame(before, now.get());
      }
    } catch (Cancelled e) {
      suspend();
      throw e;
    } finally {
      reader.shutdownNow();
    }
    align(current);
    interruptions.last().ifPresent(notes::add);
    return new TraceResult(all, frames, read, brightest, notes).traced();
  }

  /** Lets go of the pictures: who cancels may never come back. */
  private void suspend() {
    suspended = behind.stream().map(Levels::frame).toList();
    behind.clear();
    before = null;
  }

  private void resume() {
    for (int f : suspended) {
      plates.apply(f).map(l -> Levels.of(f, l)).ifPresent(behind::addLast);
    }
    before = behind.peekLast();
    suspended = List.of();
  }

  private CompletableFuture<Optional<Levels>> read(ExecutorService reader, int frame) {
    return CompletableFuture.supplyAsync(
        () -> plates.apply(frame).map(l -> Levels.of(frame, l)), reader);
  }

  /** What went wrong while a frame was read is told as it was, not as a fault of the thread. */
  private static Optional<Levels> came(CompletableFuture<Optional<Levels>> frame) {
    try {
      return frame.join();
    } catch (CompletionException e) {
      if (e.getCause() instanceof RuntimeException r) {
        throw r;
      }
      throw e;
    }
  }

  private Levels frame(Levels before, Levels now) {
    read++;
    if (read % 8 == 1) {
      for (float v : now.whole().data) {
        brightest = Math.max(brightest, v);
      }
    }
    if (before != null) {
      requireSameSize(before, now);
      follow(before, now);
    }
    int live = live();
    int since = now.frame() - lastSearch;
    if (before == null
        || live < VERY_THIN * stock
        || since >= BETWEEN_SEARCHES && live < THIN * options.features()
        || since >= MOST_BETWEEN_SEARCHES && live < options.features()) {
      lastSearch = now.frame();
      born(now);
      stock = live();
    }
    behind.addLast(now);
    long pixels = (long) now.whole().width * now.whole().height;
    while (behind.size() > Math.min(FRAMES_BACK, Math.max(1, PIXELS_BACK / pixels))) {
      behind.removeFirst();
    }
    return now;
  }

  private int live() {
    return (int) current.stream().filter(f -> f.live() && f.sure).count();
  }

  private void requireSameSize(Levels a, Levels b) {
    if (a.whole().width != b.whole().width || a.whole().height != b.whole().height) {
      throw InputError.words(
          String.format(
              Locale.ROOT,
              "frame %d is %d × %d, frame %d is %d × %d",
              a.frame(),
              a.whole().width,
              a.whole().height,
              b.frame(),
              b.whole().width,
              b.whole().height),
          "The frames of a plate are of one size");
    }
  }

  private void follow(Levels before, Levels now) {
    if (GlobalShift.isRepeated(before, now, REPEATED)) {
      notes.add(
          new TraceNote(
              TraceNote.Kind.REPEATED,
              now.frame(),
              "frame " + now.frame() + " is frame " + before.frame() + " once more"));
    }
    int gap = now.frame() - before.frame();
    List<Feature> live = current.stream().filter(Feature::live).toList();
    List<Feature> hidden = current.stream().filter(f -> !f.live()).toList();
    List<double[]> from = live.stream().map(f -> new double[] {f.x(), f.y()}).toList();
    // What was not sure before tells of now only where there is little else.
    boolean[] told = new boolean[live.size()];
    int sure = 0;
    for (int i = 0; i < told.length; i++) {
      told[i] = live.get(i).sure;
      sure += told[i] ? 1 : 0;
    }
    if (sure < FEWEST) {
      Arrays.fill(told, true);
      sure = told.length;
    }
    boolean[] found = new boolean[live.size()];
    each(
        live.size(),
        (i, w) -> {
          Feature f = live.get(i);
          double px = f.x() + gap * f.vx;
          double py = f.y() + gap * f.vy;
          found[i] =
              found(w, f, before, now, px, py, false) || found(w, f, before, now, px, py, true);
        });
    boolean other = false;
    if (sure >= FEWEST && lost(found, told) > MANY_LOST * sure) {
      GlobalShift.Shift s = GlobalShift.between(before, now);
      boolean same = s.correlation() > SAME_PICTURE;
      each(
          live.size(),
          (i, w) -> {
            Feature f = live.get(i);
            double px = f.x() + s.dx();
            double py = f.y() + s.dy();
            found[i] =
                found[i]
                    || found(w, f, before, now, px, py, true)
                    || same && w.carry(f, before, now, px, py);
          });
      other = !same && lost(found, told) > ALL_LOST * sure;
    }
    Motion motion = Motion.of(live, from, found);
    findAgain(hidden, motion, now);
    for (int i = 0; i < live.size(); i++) {
      Feature f = live.get(i);
      if (!found[i]) {
        hide(f, motion, now);
      } else if (!f.ended) {
        keep(f, now);
      }
    }
    align(current.stream().filter(f -> JointAlignment.isDue(f, mostAligned)).toList());
    current.removeIf(f -> f.ended);
    if (other) {
      behind.clear(); // what is found from here on is not looked for before it
      interruptions.begin(now.frame(), live);
    }
    interruptions.at(now.frame()).ifPresent(notes::add);
  }

  private static boolean found(
      Follower w, Feature f, Levels before, Levels now, double px, double py, boolean wide) {
    return w.follow(f, before, now, px, py, wide) != Follower.Step.LOST;
  }

  private static int lost(boolean[] found, boolean[] told) {
    int n = 0;
    for (int i = 0; i < found.length; i++) {
      n += told[i] && !found[i] ? 1 : 0;
    }
    return n;
  }

  /** Work on one of many things, by one of many threads. */
  private interface Each {
    void with(int i, Follower w);
  }

  private void each(int n, Each work) {
    IntStream.range(0, n).parallel().forEach(i -> work.with(i, followers.get()));
  }

  /** A feature that was not found moves on with its neighbours, and is looked for there. */
  private void hide(Feature f, Motion motion, Levels now) {
    double[] moved = motion.at(f.x(), f.y(), f.vx, f.vy);
    f.warp[0] += moved[0];
    f.warp[1] += moved[1];
    if (f.hidden == 0) {
      f.wentOut = isAtEdge(f.x(), f.y(), now);
    }
    double beyond = f.wentOut ? BEYOND * options.radius() : 0;
    boolean near =
        f.x() > -beyond
            && f.y() > -beyond
            && f.x() < now.whole().width + beyond
            && f.y() < now.whole().height + beyond;
    if (++f.hidden > (f.wentOut ? MOST_OUT : MOST_HIDDEN) || !near) {
      f.end();
    }
  }

  /** Whether its square would leave the picture. */
  private boolean isAtEdge(double x, double y, Levels l) {
    int r = options.radius();
    return x < r || y < r || x > l.whole().width - 1 - r || y > l.whole().height - 1 - r;
  }

  private void findAgain(List<Feature> hidden, Motion motion, Levels now) {
    each(
        hidden.size(),
        (i, w) -> {
          Feature f = hidden.get(i);
          double[] moved = motion.at(f.x(), f.y(), f.vx, f.vy);
          if (w.findAgain(f, now, f.x() + moved[0], f.y() + moved[1])) {
            f.vx = moved[0];
            f.vy = moved[1];
            f.hidden = 0;
            f.wentOut = false;
          } else {
            hide(f, motion, now);
          }
        });
    for (Feature f : hidden) {
      if (f.live()) {
        keep(f, now);
      }
    }
  }

  private void keep(Feature f, Levels now) {
    if (mask.covers(now.frame(), f.x() + 0.5, f.y() + 0.5)) {
      f.end();
    } else if (f.sure) {
      f.keep(now.frame(), now.whole(), options.radius());
    }
  }

  /** Corrects the places of features that ended, or of which the pixels of many frames are kept. */
  private void align(List<Feature> features) {
    features.parallelStream()
        .forEach(
            f -> {
              aligners.get().align(f);
              dropMasked(f);
            });
  }

  /** What was followed beside a mask may turn out to be under it. */
  private void dropMasked(Feature f) {
    for (int row = 0; row < f.rows(); row++) {
      if (mask.covers(f.frame(row), f.x(row) + 0.5, f.y(row) + 0.5)) {
        f.drop(row);
      }
    }
  }

  /** New features, followed back through the frames that are kept. */
  private void born(Levels now) {
    List<double[]> taken =
        current.stream()
            .filter(f -> f.sure && (f.live() || !f.wentOut))
            .map(f -> new double[] {f.x(), f.y()})
            .toList();
    List<Feature> made = corners.beside(now, taken);
    List<Levels> back = new ArrayList<>(behind);
    Collections.reverse(back);
    each(
        made.size(),
        (i, w) -> {
          Feature f = made.get(i);
          f.keep(now.frame(), now.whole(), options.radius());
          back(f, now, back, w);
        });
    all.addAll(made);
    current.addAll(made);
  }

  private void back(Feature f, Levels now, List<Levels> back, Follower w) {
    double x = f.x();
    double y = f.y();
    Levels from = now;
    double vx = 0;
    double vy = 0;
    boolean first = true;
    for (Levels to : back) {
      Follower.Step step = w.follow(f, from, to, f.x() + f.vx, f.y() + f.vy, first);
      if (step == Follower.Step.LOST
          || f.ended
          || mask.covers(to.frame(), f.x() + 0.5, f.y() + 0.5)) {
        boolean cameIn = step == Follower.Step.LOST && isAtEdge(f.x() + f.vx, f.y() + f.vy, to);
        f.lostBefore = !cameIn;
        break;
      }
      if (step == Follower.Step.SURE) {
        f.keep(to.frame(), to.whole(), options.radius());
      }
      if (first) {
        vx = -f.vx;
        vy = -f.vy;
        first = false;
      }
      from = to;
    }
    // Forward from where it was born, by the pattern that it had there.
    f.ended = false;
    f.sure = true;
    f.unsure = 0;
    f.known = f.known == null ? new Pattern(options.radius()) : f.known;
    f.known.take(now.whole(), x, y);
    f.bornAt(x, y);
    f.vx = vx;
    f.vy = vy;
    f.missedPx = Double.POSITIVE_INFINITY;
    f.score = 1;
  }
}
