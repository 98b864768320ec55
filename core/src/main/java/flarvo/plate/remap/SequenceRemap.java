package flarvo.plate.remap;

import flarvo.lens.Direction;
import flarvo.plate.PictureMemory;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.plate.tag.TagHome;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import flarvo.work.Cancelled;
import flarvo.work.MemoryShare;
import flarvo.work.Progress;
import flarvo.work.Workers;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.NavigableMap;
import java.util.Queue;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Undistorts or redistorts a sequence: each worker holds one picture at a time, and no more work
 * than there is memory for. Pictures that are there and fresh are left alone; one that cannot be
 * made is named and the others go on.
 */
public final class SequenceRemap {

  /**
   * What came of a run.
   *
   * @param made frames written
   * @param fresh frames that were there already, made in the same way from the same files
   * @param failed why a frame could not be made, by frame
   * @param leftOut names of what the plates say and pictures of the new format cannot
   */
  public record Outcome(
      List<Integer> made,
      List<Integer> fresh,
      NavigableMap<Integer, String> failed,
      SortedSet<String> leftOut) {

    public Outcome {
      made = List.copyOf(made);
      fresh = List.copyOf(fresh);
    }
  }

  private record Grid(Object bending, PositionGrid grid) {}

  private final PlateSequence source;
  private final SequenceName target;
  private final RemapOptions options;
  private final Stamp stamp;
  private final SortedSet<String> leftOut = Collections.synchronizedSortedSet(new TreeSet<>());
  private volatile Grid grid;

  private final MemoryShare memory = MemoryShare.ofHeap();

  /** Pictures that were written, to make the next ones in. */
  private final Queue<Raster> spare = new ConcurrentLinkedQueue<>();

  private SequenceRemap(PlateSequence source, SequenceName target, RemapOptions options) {
    this.source = source;
    this.target = target;
    this.options = options;
    this.stamp = Stamp.read(target.stamp());
  }

  /**
   * Makes a sequence.
   *
   * @param frames which of the source's; gaps in it are failures
   * @param jobs pictures at once, where there is memory for so many
   * @throws InputError when the target is the source, or its folder cannot be made
   * @throws Cancelled when the user stopped; what is complete stays and is fresh the next time
   */
  public static Outcome run(
      PlateSequence source,
      SequenceName target,
      RemapOptions options,
      FrameRange frames,
      int jobs,
      Progress progress) {
    for (int f : new int[] {frames.first(), frames.last()}) {
      if (source.file(f).toAbsolutePath().normalize().equals(target.file(f).normalize())) {
        throw new InputError(
            target.file(f).toString(), "", "this is the source", "Write to another folder or name");
      }
    }
    try {
      Files.createDirectories(target.folder());
    } catch (IOException e) {
      throw new InputError(
          target.folder().toString(), "", "the folder cannot be made", "Check its rights", e);
    }
    return new SequenceRemap(source, target, options).run(frames, jobs, progress);
  }

  private Outcome run(FrameRange frames, int jobs, Progress progress) {
    List<Integer> made = new ArrayList<>();
    List<Integer> fresh = new ArrayList<>();
    NavigableMap<Integer, String> failed = new TreeMap<>();
    ExecutorService workers = Executors.newFixedThreadPool(Math.max(1, jobs), Work.named());
    try {
      AtomicInteger done = new AtomicInteger();
      List<Future<?>> all = new ArrayList<>();
      for (int f = frames.first(); f <= frames.last(); f++) {
        int frame = f;
        // Until alpha went over between formats, keyed plates were made otherwise.
        String how = options.how(frame) + (source.facts().alpha() ? " alpha" : "");
        if (stamp.isFresh(frame, how, source.file(frame), target.file(frame))) {
          fresh.add(frame);
          done.incrementAndGet();
          continue;
        }
        all.add(
            workers.submit(
                () -> {
                  progress.step(done.get(), frames.count());
                  try {
                    Path file = source.file(frame);
                    memory.run(
                        need(file),
                        file.toString(),
                        () -> {
                          make(frame, how);
                          return null;
                        });
                    synchronized (made) {
                      made.add(frame);
                    }
                  } catch (InputError | IOException e) {
                    synchronized (failed) {
                      failed.put(frame, e.getMessage());
                    }
                  }
                  progress.step(done.incrementAndGet(), frames.count());
                  return null;
                }));
      }
      for (Future<?> w : all) {
        Workers.await(w);
      }
    } finally {
      workers.shutdownNow();
    }
    made.sort(Integer::compare);
    return new Outcome(made, fresh, failed, leftOut);
  }

  /** For one frame, with the grid of positions, which may be another for each. */
  private long need(Path file) {
    PictureMemory.Claim had = PictureMemory.of(file);
    int n = had.channels();
    Overscan o = options.overscan();
    PictureSize made =
        options.direction() == Direction.ORIGINAL_TO_UNDISTORTED
            ? PictureSize.of(o.width(), o.height())
            : o.original();
    return had.reading()
        + PictureMemory.numbers(had.size(), n) // in linear light
        + PictureMemory.numbers(made, n)
        + PictureMemory.writing(made, n)
        + PictureMemory.numbers(made, PositionGrid.NUMBERS);
  }

  private void make(int frame, String how) throws IOException {
    Path file = source.file(frame);
    String identity = Stamp.identity(file);
    Raster from = RasterReader.read(file);
    int w = options.overscan().original().width();
    int h = options.overscan().original().height();
    if (options.direction() == Direction.UNDISTORTED_TO_ORIGINAL) {
      w = options.overscan().width();
      h = options.overscan().height();
    }
    if (from.width() != w || from.height() != h) {
      throw new InputError(
          file.toString(),
          "",
          "the picture is " + from.width() + "x" + from.height() + ", not " + w + "x" + h,
          "");
    }
    Remap remap = new Remap(grid(frame), options.filter(), options.light());
    Raster old = spare.poll();
    Raster to = remap.apply(from, old == null ? remap.empty(from) : old, 1);
    Path place = target.file(frame);
    SampleKind kind = RasterWriter.kindFor(target.suffix(), options.depth().orElse(from.kind()));
    RasterWriter.write(Proxy.of(to, options.proxy()).as(kind), place);
    leftOut.addAll(to.tags().notIn(TagHome.ofName(target.suffix())));
    spare.add(to);
    stamp.add(frame, how, identity, place);
  }

  /** Of what does not change it is worked out once. */
  private PositionGrid grid(int frame) {
    Object bending = options.bending().at(frame);
    Grid g = grid;
    if (g == null || !g.bending.equals(bending)) {
      synchronized (this) {
        g = grid;
        if (g == null || !g.bending.equals(bending)) {
          g = new Grid(bending, options.grid(frame));
          grid = g;
        }
      }
    }
    return g.grid;
  }

  /** Threads of a run, and waiting for them. */
  private static final class Work {

    static java.util.concurrent.ThreadFactory named() {
      return r -> {
        Thread t = new Thread(r, "plate worker");
        t.setDaemon(true);
        return t;
      };
    }
  }
}
