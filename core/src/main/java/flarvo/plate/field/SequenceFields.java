package flarvo.plate.field;

import flarvo.plate.PictureMemory;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.plate.remap.SequenceName;
import flarvo.plate.tag.TagHome;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PlateSequence;
import flarvo.work.MemoryShare;
import flarvo.work.Progress;
import flarvo.work.Workers;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collections;
import java.util.List;
import java.util.NavigableMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;

/**
 * Takes the frames of interlaced plates apart. Frame n of a sequence that begins with a becomes a +
 * 2 (n − a) and the one after it where fields are split, and stays n where they are blended.
 */
public final class SequenceFields {

  /**
   * What came of a run.
   *
   * @param frames that the new sequence reaches over
   * @param failed why a frame could not be made, by frame of the source
   * @param leftOut names of what the plates say and pictures of the new format cannot
   */
  public record Outcome(
      FrameRange frames,
      int written,
      NavigableMap<Integer, String> failed,
      SortedSet<String> leftOut) {}

  private SequenceFields() {}

  /**
   * Makes a sequence.
   *
   * @param order of the fields; of no matter where they are blended
   * @param jobs pictures at once, where there is memory for so many
   * @throws InputError when the target is the source, or its folder cannot be made
   * @throws flarvo.work.Cancelled when the user stopped; what is complete stays
   */
  public static Outcome run(
      PlateSequence source,
      SequenceName target,
      FieldMethod method,
      FieldOrder order,
      int jobs,
      Progress progress) {
    FrameRange in = source.frames();
    FrameRange out = new FrameRange(in.first(), in.first() + method.frames() * in.count() - 1);
    Path there = target.file(in.first()).normalize();
    if (source.file(in.first()).toAbsolutePath().normalize().equals(there)) {
      throw new InputError(
          there.toString(), "", "this is the source", "Write to another folder or name");
    }
    try {
      Files.createDirectories(target.folder());
    } catch (IOException e) {
      throw new InputError(
          target.folder().toString(), "", "the folder cannot be made", "Check its rights", e);
    }
    NavigableMap<Integer, String> failed = new TreeMap<>();
    SortedSet<String> leftOut = Collections.synchronizedSortedSet(new TreeSet<>());
    MemoryShare memory = MemoryShare.ofHeap();
    AtomicInteger done = new AtomicInteger();
    AtomicInteger written = new AtomicInteger();
    Workers.all(
        jobs,
        "fields",
        IntStream.rangeClosed(in.first(), in.last())
            .mapToObj(
                f ->
                    (java.util.concurrent.Callable<Void>)
                        () -> {
                          progress.step(done.getAndIncrement(), in.count());
                          try {
                            int to = in.first() + method.frames() * (f - in.first());
                            Path file = source.file(f);
                            leftOut.addAll(
                                memory.run(
                                    need(file),
                                    file.toString(),
                                    () -> make(file, target, to, method, order)));
                            written.addAndGet(method.frames());
                          } catch (InputError e) {
                            synchronized (failed) {
                              failed.put(f, e.getMessage());
                            }
                          }
                          return null;
                        })
            .toList());
    return new Outcome(out, written.get(), failed, leftOut);
  }

  /** A frame, and both pictures that are made of it. */
  private static long need(Path file) {
    PictureMemory.Claim had = PictureMemory.of(file);
    return had.reading()
        + 2 * PictureMemory.numbers(had.size(), had.channels())
        + PictureMemory.writing(had.size(), had.channels());
  }

  private static List<String> make(
      Path file, SequenceName target, int to, FieldMethod method, FieldOrder order) {
    Raster r = RasterReader.read(file);
    List<Raster> made =
        method == FieldMethod.BLEND
            ? List.of(FieldSplit.blended(r))
            : List.of(
                FieldSplit.field(r, order),
                FieldSplit.field(
                    r, order == FieldOrder.UPPER ? FieldOrder.LOWER : FieldOrder.UPPER));
    for (int i = 0; i < made.size(); i++) {
      Raster m = made.get(i);
      RasterWriter.write(
          m.as(RasterWriter.kindFor(target.suffix(), m.kind())), target.file(to + i));
    }
    return r.tags().notIn(TagHome.ofName(target.suffix()));
  }
}
