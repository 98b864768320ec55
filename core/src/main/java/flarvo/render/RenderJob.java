package flarvo.render;

import flarvo.plate.PictureMemory;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.plate.remap.SequenceName;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateSequence;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import flarvo.work.MemoryShare;
import flarvo.work.Progress;
import flarvo.work.Workers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Witness pictures and passes of a shot, several frames at once.
 *
 * @param scene what is drawn
 * @param look how
 * @param plates behind it; empty for grey
 * @param keyed plates with alpha that lie over it, as large as those behind it; empty for none
 * @param trackers whether the trackers are marked
 * @param overscan pixels more on each side than the plates have
 * @param witness where pictures for eyes go; empty for none
 * @param passes where multichannel OpenEXR goes; empty for none
 */
public record RenderJob(
    RenderScene scene,
    RenderLook look,
    Optional<PlateSequence> plates,
    Optional<PlateSequence> keyed,
    boolean trackers,
    int overscan,
    Optional<SequenceName> witness,
    Optional<SequenceName> passes) {

  private static final int COLOUR_AND_ALPHA = 4;

  /**
   * What came of it.
   *
   * @param made frames written
   * @param failed why a frame could not be made, by frame
   */
  public record Outcome(List<Integer> made, NavigableMap<Integer, String> failed) {
    public Outcome {
      made = List.copyOf(made);
    }
  }

  public RenderJob {
    if (scene.shot().camera().isEmpty()) {
      throw InputError.words("the shot has no camera to render through", "Add one first");
    }
    if (overscan < 0 || overscan > 4096) {
      throw InputError.words(
          "an overscan of " + overscan + " px is none", "Give 0 to 4096 pixels a side");
    }
    if (passes.isPresent() && !passes.get().suffix().endsWith(".exr")) {
      throw InputError.words("passes are written as OpenEXR", "Call them name.####.exr");
    }
    PictureSize behind = behind(scene, plates);
    keyed
        .filter(k -> !k.size().equals(behind))
        .ifPresent(
            k -> {
              throw new InputError(
                  k.pattern(),
                  "",
                  "the keyed plates are " + k.size() + " and the picture " + behind,
                  "Undistort them like the others");
            });
  }

  /** Everything that a run over some frames would write. */
  public List<Path> files(FrameRange frames) {
    List<Path> all = new ArrayList<>();
    for (int f = frames.first(); f <= frames.last(); f++) {
      int frame = f;
      witness.ifPresent(w -> all.add(w.file(frame)));
      passes.ifPresent(p -> all.add(p.file(frame)));
    }
    return all;
  }

  /** The picture that passes have: the plates' with their overscan, and what was asked for. */
  public PictureSize picture() {
    PictureSize own = behind(scene, plates);
    return new PictureSize(
        own.width() + 2 * overscan, own.height() + 2 * overscan, own.pixelAspect());
  }

  /**
   * Renders frames. A frame that cannot be made is named and the others go on; no picture is left
   * half written.
   *
   * @param frames inside those of the shot
   * @param jobs frames at once, where there is memory for so many
   * @throws InputError when nothing is asked for, the folder cannot be made, or the frames are not
   *     the shot's
   * @throws flarvo.work.Cancelled when the user stopped; what is complete stays
   */
  public Outcome run(FrameRange frames, int jobs, Progress progress) {
    if (witness.isEmpty() && passes.isEmpty()) {
      throw InputError.words("there is nothing to render", "Ask for witness pictures or passes");
    }
    FrameRange own = scene.shot().camera().orElseThrow().frames();
    if (!own.contains(frames.first()) || !own.contains(frames.last())) {
      throw InputError.words("frames " + frames + " are not all in the shot", "It has " + own);
    }
    witness.ifPresent(RenderJob::folder);
    passes.ifPresent(RenderJob::folder);
    NavigableMap<Integer, String> failed = new TreeMap<>();
    List<Integer> made = new ArrayList<>();
    MemoryShare memory = MemoryShare.ofHeap();
    AtomicInteger done = new AtomicInteger();
    List<Callable<Boolean>> tasks = new ArrayList<>();
    for (int f = frames.first(); f <= frames.last(); f++) {
      int frame = f;
      tasks.add(
          () -> {
            progress.step(done.get(), frames.count());
            try {
              memory.run(
                  need(),
                  "frame " + frame,
                  () -> {
                    frame(frame, progress);
                    return null;
                  });
              synchronized (made) {
                made.add(frame);
              }
            } catch (InputError e) {
              synchronized (failed) {
                failed.put(frame, e.getMessage());
              }
            }
            progress.step(done.incrementAndGet(), frames.count());
            return true;
          });
    }
    Workers.all(Math.max(1, jobs), "render", tasks);
    made.sort(Integer::compare);
    return new Outcome(made, failed);
  }

  private static void folder(SequenceName name) {
    try {
      Files.createDirectories(name.folder());
    } catch (java.io.IOException e) {
      throw new InputError(
          name.folder().toString(), "", "the folder cannot be made", "Check its rights", e);
    }
  }

  /** For one frame: its passes, and the pictures that lie behind and over them. */
  private long need() {
    PictureSize size = picture();
    int passes = FramePasses.CHANNELS.size();
    int layers = (plates.isPresent() ? 2 : 0) + (keyed.isPresent() ? 2 : 0) + 1;
    return PictureMemory.numbers(size, passes)
        + PictureMemory.writing(size, passes)
        + layers * new PictureMemory.Claim(size, COLOUR_AND_ALPHA).reading();
  }

  private void frame(int frame, Progress progress) {
    Raster drawn = FramePasses.of(scene, eye(), picture(), frame, look, progress);
    passes.ifPresent(p -> RasterWriter.write(drawn, p.file(frame)));
    witness.ifPresent(w -> RasterWriter.write(over(drawn, frame), w.file(frame)));
  }

  /**
   * The witness picture of one frame, 8 bits in sRGB, of the size of {@link #picture}. Nothing is
   * written.
   *
   * @throws InputError when the frame has no plate, or it cannot be read
   * @throws flarvo.work.Cancelled when the user stopped
   */
  public Raster witness(int frame, Progress progress) {
    return over(FramePasses.of(scene, eye(), picture(), frame, look, progress), frame);
  }

  private ShotCamera eye() {
    ShotCamera camera = scene.shot().camera().orElseThrow();
    PictureSize size = picture();
    PictureSize own = scene.shot().picture();
    Optional<PlateSequence> lie = plates.map(p -> p.placed(own));
    double left = lie.map(PlateSequence::overscanX).orElse(0.0) + overscan;
    double top = lie.map(PlateSequence::overscanY).orElse(0.0) + overscan;
    return camera.withOptics(camera.optics().map(o -> o.over(own, size, left, top)));
  }

  private Raster over(Raster drawn, int frame) {
    PictureSize size = picture();
    Raster plate = plates.isEmpty() ? null : framed(read(plates.get(), frame), size);
    Raster over = keyed.isEmpty() ? null : framed(cutOut(keyed.get(), frame), size);
    return Witness.of(plate, over, drawn, spots(eye(), size, frame));
  }

  private static PictureSize behind(RenderScene scene, Optional<PlateSequence> plates) {
    return plates.map(PlateSequence::size).orElse(scene.shot().picture());
  }

  private static Raster read(PlateSequence plates, int frame) {
    if (!plates.frames().contains(frame) || plates.missing().contains(frame)) {
      throw InputError.words("frame " + frame + " has no plate", "Add it, or leave the frame out");
    }
    Raster r = RasterReader.read(plates.file(frame));
    if (r.width() != plates.size().width() || r.height() != plates.size().height()) {
      throw new InputError(
          plates.file(frame).toString(),
          "",
          "it is " + r.width() + "x" + r.height() + " and the others " + plates.size(),
          "Request a new copy");
    }
    return r;
  }

  private static Raster cutOut(PlateSequence keyed, int frame) {
    Raster r = read(keyed, frame);
    if (r.channel("A") < 0) {
      throw new InputError(
          keyed.file(frame).toString(),
          "",
          "the keyed plate has no alpha",
          "Request it with alpha, or leave it out");
    }
    return r;
  }

  /** With the overscan that was asked for: black round the plate. */
  private Raster framed(Raster r, PictureSize size) {
    if (overscan == 0) {
      return r;
    }
    Raster out = Raster.empty(size.width(), size.height(), r.channels(), r.kind());
    int n = r.channels().size();
    for (int y = 0; y < r.height(); y++) {
      System.arraycopy(
          r.values(),
          y * r.width() * n,
          out.values(),
          ((y + overscan) * size.width() + overscan) * n,
          r.width() * n);
    }
    return out.with(r.tags());
  }

  /** Trackers that are followed at a frame; without 2D tracks, all in front of the camera. */
  private List<Witness.Spot> spots(ShotCamera eye, PictureSize size, int frame) {
    List<Witness.Spot> out = new ArrayList<>();
    if (!trackers) {
      return out;
    }
    WorldShot shot = scene.shot();
    Pinhole p = new Pinhole(eye, size).at(frame);
    double[] px = new double[3];
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        boolean live =
            shot.observations().isEmpty() || shot.observations().row(t.names().get(i), frame) >= 0;
        p.project(t, i, px);
        if (live && px[2] > 0) {
          out.add(new Witness.Spot(px[0], px[1], px[2]));
        }
      }
    }
    return out;
  }
}
