package flarvo.recipient;

import flarvo.convention.Dialect;
import flarvo.convention.FrameMap;
import flarvo.convention.FrameNumbering;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Part;
import flarvo.format.SceneFormat;
import flarvo.proof.DriftMeter;
import flarvo.proof.DriftReport;
import flarvo.receive.ReceivedFile;
import flarvo.scene.FrameRange;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import flarvo.work.TempFolder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A file that is passed on: each recipient imports it plainly, saves its scene in its own
 * conventions, and the next opens that.
 */
public final class ImportChain {

  /**
   * One recipient after the first.
   *
   * @param format in which the one before saves
   */
  public record Hop(Dialect recipient, SceneFormat format) {}

  /**
   * What one recipient made of it.
   *
   * @param imported against what the one before had in its scene
   * @param totalPx largest drift against what was sent at first; NaN without a camera
   * @param totalScale size over the size that was sent at first
   * @param notSaved frames of its scene that the recipient loses when it saves, because its range
   *     ends before them; empty for the last, which saves nothing
   */
  public record Step(
      PlainImport imported, double totalPx, double totalScale, Optional<FrameRange> notSaved) {}

  private ImportChain() {}

  /**
   * Passes a file through its recipients.
   *
   * @param first who opens the file
   * @param then who comes after, in order
   * @throws flarvo.report.InputError when a scene cannot be saved in a format
   */
  public static List<Step> through(
      ReceivedFile file, Dialect first, Meant meant, List<Hop> then, Progress progress) {
    List<Step> out = new ArrayList<>();
    WorldShot source = meant.source();
    try (TempFolder folder = TempFolder.make("chain")) {
      StandIn at = StandIn.of(file, first, meant);
      double scale = 1;
      WorldShot probed = Probed.of(source);
      List<TrackerSet> points = probed.trackers();
      for (int i = 0; ; i++) {
        PlainImport here = at.imported(progress);
        scale *= here.world().scale();
        points = at.carried(points);
        boolean last = i == then.size();
        out.add(
            new Step(
                here,
                total(probed, here.seen(), points, progress),
                scale,
                last ? Optional.empty() : at.lost()));
        if (last) {
          return List.copyOf(out);
        }
        Hop next = then.get(i);
        at = pass(at, here, next, folder.path().resolve(i + next.format().extensions().get(0)));
      }
    }
  }

  private static StandIn pass(StandIn from, PlainImport here, Hop next, Path file) {
    Dialect own =
        here.recipient()
            .withFrames(
                new FrameNumbering(
                    java.util.OptionalInt.of(here.range().first()),
                    Optional.of(here.rate()),
                    here.recipient().frames().policy()));
    WorldShot scene = from.scene();
    Contents all =
        scene.cameras().isEmpty()
            ? Contents.TRACKERS
            : scene.trackerCount() == 0 ? Contents.of(Part.CAMERA) : Contents.CAMERA_AND_TRACKERS;
    Delivery d = new Delivery(own.name(), own, next.format(), all, file.getFileName().toString());
    Dispatcher.send(scene.contents(), d, file, Progress.NONE);
    WorldShot before = here.seen();
    FrameMap map =
        new FrameMap(
            before.frames(),
            before.rate(),
            here.pictureFirst(),
            here.rate(),
            here.recipient().frames().policy());
    return StandIn.of(
        ReceivedFile.read(file, Optional.of(own), Progress.NONE),
        next.recipient(),
        new Meant(before, own, map));
  }

  /**
   * Largest drift since the first file.
   *
   * @param points the probed ones as they came along, for files without trackers
   */
  private static double total(
      WorldShot probed, WorldShot seen, List<TrackerSet> points, Progress progress) {
    if (probed.cameras().isEmpty() || seen.cameras().isEmpty()) {
      return Double.NaN;
    }
    DriftReport d =
        new DriftMeter(probed)
            .measure(
                seen.cameras().get(0),
                seen.trackerCount() > 0 ? seen.trackers() : points,
                progress);
    return d.compared() == 0 ? Double.NaN : d.maxPx();
  }
}
