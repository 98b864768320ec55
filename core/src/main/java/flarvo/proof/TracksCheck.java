package flarvo.proof;

import flarvo.dispatch.DeliveredTracks;
import flarvo.lens.LensMapper;
import flarvo.lens.LensTrack;
import flarvo.receive.InFile;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** 2D tracks that lie beside a delivery, read from disk. */
final class TracksCheck {

  /** They are written to a millionth of a pixel. */
  private static final double SAME_PX = 1e-5;

  private TracksCheck() {}

  /** Whether they are those of the shot, tracker by tracker and frame by frame. */
  static Check same(DeliveredTracks sent) {
    Observations wanted = sent.numbered();
    String expected = wanted.size() + " places of " + wanted.names().size() + " trackers";
    Observations found;
    try {
      found = read(sent);
    } catch (InputError e) {
      return new Check("tracks", false, expected, e.reason());
    }
    if (found.size() != wanted.size()) {
      return new Check("tracks", false, expected, found.size() + " places");
    }
    double worst = 0;
    for (String name : wanted.names()) {
      for (int row = wanted.firstRow(name); row < wanted.endRow(name); row++) {
        int at = found.row(name, wanted.frame(row));
        if (at < 0) {
          String where = name + " is missing on frame " + wanted.frame(row);
          return new Check("tracks", false, expected, where);
        }
        worst =
            Math.max(worst, Math.hypot(found.x(at) - wanted.x(row), found.y(at) - wanted.y(row)));
      }
    }
    return new Check(
        "tracks", worst <= SAME_PX, expected, String.format(Locale.ROOT, "%.6f px", worst));
  }

  /**
   * Whether the camera and the trackers of the file fit them on the file's own frames, as well as
   * the shot's fit the shot's: what neither of the files can show alone, such as plates with
   * overscan behind a camera without. Empty where the file has no camera or no trackers, or another
   * time than the tracks.
   *
   * @param source what was sent
   * @param file as its recipient reads it
   * @param limitPx largest difference of the two medians
   */
  static Optional<Check> fit(
      DeliveredTracks sent, WorldShot source, ReceivedFile file, double limitPx) {
    List<InFile<ShotCamera>> cameras =
        file.cameras(source.picture(), IntakeOptions.NONE.withSize(source.picture()));
    List<TrackerSet> trackers =
        file.trackers(source.picture(), IntakeOptions.NONE).stream().map(InFile::inFile).toList();
    if (cameras.isEmpty() || trackers.isEmpty() || source.camera().isEmpty()) {
      return Optional.empty();
    }
    Observations found;
    try {
      found = read(sent);
    } catch (InputError e) {
      return Optional.empty(); // said by the other check
    }
    int shift = sent.number().applyAsInt(source.frames().first()) - source.frames().first();
    PictureSize picture = source.picture();
    double own =
        median(
            source.camera().get(), source.trackers(), sent.onPlates(), picture, sent.bentBy(), 0);
    double theirs = median(cameras.get(0).inFile(), trackers, found, picture, sent.bentBy(), shift);
    if (Double.isNaN(own)) {
      return Optional.empty(); // no tracker of the file was seen
    }
    return Optional.of(
        new Check(
            "tracksFit",
            Math.abs(own - theirs) <= limitPx,
            String.format(Locale.ROOT, "%.4f px from the trackers, as in the shot", own),
            String.format(Locale.ROOT, "%.4f px", theirs)));
  }

  private static Observations read(DeliveredTracks sent) {
    return ReceivedFile.read(sent.file(), Optional.empty(), Progress.NONE).scene().observations();
  }

  /**
   * Median distance of trackers from where they were seen, in pixels; NaN where none is seen.
   *
   * @param shift of the tracks' frames against those of the plates, which the lens is known for
   */
  private static double median(
      ShotCamera camera,
      List<TrackerSet> trackers,
      Observations seen,
      PictureSize picture,
      Optional<LensTrack> lens,
      int shift) {
    double[] all = new double[seen.size()];
    int n = 0;
    Pinhole eye = new Pinhole(camera, picture);
    double[] p = new double[3];
    List<int[]> next = new ArrayList<>(); // of each set, the row of each tracker to be met next
    for (TrackerSet t : trackers) {
      next.add(t.names().stream().mapToInt(seen::firstRow).toArray());
    }
    for (int f = camera.frames().first(); f <= camera.frames().last(); f++) {
      eye.at(f);
      int frame = f;
      Optional<LensMapper> bend = lens.map(l -> l.at(frame - shift).on(picture));
      for (int k = 0; k < trackers.size(); k++) {
        TrackerSet t = trackers.get(k);
        int[] rows = next.get(k);
        for (int i = 0; i < rows.length; i++) {
          int row = rowAt(seen, t, i, rows, f);
          if (row < 0) {
            continue;
          }
          eye.project(t, i, p);
          boolean there = p[2] > 0 && (bend.isEmpty() || bend.get().toOriginal(p[0], p[1], p));
          all[n++] = there ? Math.hypot(p[0] - seen.x(row), p[1] - seen.y(row)) : Double.MAX_VALUE;
        }
      }
    }
    if (n == 0) {
      return Double.NaN;
    }
    Arrays.sort(all, 0, n);
    return all[n / 2];
  }

  /** The row of a tracker at a frame, or −1; frames are asked for in their order. */
  private static int rowAt(Observations seen, TrackerSet t, int i, int[] rows, int frame) {
    if (rows[i] < 0) {
      return -1;
    }
    if (seen.frame(rows[i]) < frame) { // the first of them lie before the camera's
      int end = seen.endRow(t.names().get(i));
      while (rows[i] < end && seen.frame(rows[i]) < frame) {
        rows[i]++;
      }
      if (rows[i] == end) {
        rows[i] = -1;
        return -1;
      }
    }
    return seen.frame(rows[i]) == frame ? rows[i] : -1;
  }
}
