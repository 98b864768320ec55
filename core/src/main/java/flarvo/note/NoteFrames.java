package flarvo.note;

import flarvo.report.Html;
import flarvo.scene.FrameRange;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateSequence;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import java.util.Locale;
import java.util.Optional;
import java.util.TreeSet;

/** Three frames of the plate, with the trackers where the delivered camera sees them. */
final class NoteFrames {

  private static final int WIDTH = 640;
  private static final float QUALITY = 0.8f;

  private final HandoverNote note;

  NoteFrames(HandoverNote note) {
    this.note = note;
  }

  void addTo(StringBuilder out) {
    Optional<PlateSequence> plates = note.source().plates().stream().findFirst();
    if (plates.isEmpty() || note.seen().isEmpty()) {
      return;
    }
    WorldShot seen = note.seen().get();
    FrameRange r = note.source().frames();
    TreeSet<Integer> frames = new TreeSet<>();
    frames.add(r.first());
    frames.add(r.first() + r.count() / 2);
    frames.add(r.last());
    out.append("<h2>Three frames</h2>\n<p class=\"quiet\">Trackers as ");
    out.append(Html.escaped(note.entries().get(0).delivery().name()));
    out.append("'s file has them, read back from disk.\n<div class=\"three\">");
    for (int f : frames) {
      Optional<String> picture = NotePictures.jpeg(plates.get(), f, WIDTH, QUALITY);
      out.append("<figure><div class=\"plate\">");
      out.append(
          picture
              .map(p -> "<img alt=\"frame " + f + "\" src=\"" + p + "\">")
              .orElse("<p class=\"bad\">This frame of the plate cannot be read."));
      marks(out, seen, f);
      out.append("</div><figcaption>").append(f).append("</figcaption></figure>");
    }
    out.append("</div>\n");
  }

  private static void marks(StringBuilder out, WorldShot seen, int frame) {
    int w = seen.picture().width();
    int h = seen.picture().height();
    double size = w / 160.0;
    out.append(
        String.format(
            Locale.ROOT,
            "<svg viewBox=\"0 0 %d %d\" preserveAspectRatio=\"none\" aria-hidden=\"true\"><path d=\"",
            w,
            h));
    var camera = seen.camera().orElseThrow();
    if (camera.frames().contains(frame)) {
      Pinhole eye = new Pinhole(camera, seen.picture());
      eye.at(frame);
      double[] p = new double[3];
      for (TrackerSet t : seen.trackers()) {
        for (int i = 0; i < t.size(); i++) {
          eye.project(t, i, p);
          if (p[2] > 0 && p[0] >= 0 && p[1] >= 0 && p[0] <= w && p[1] <= h) {
            out.append(
                String.format(
                    Locale.ROOT,
                    "M%.1f %.1fv%.1fm%.1f %.1fh%.1f",
                    p[0],
                    p[1] - size,
                    2 * size,
                    -size,
                    -size,
                    2 * size));
          }
        }
      }
    }
    out.append("\"/></svg>");
  }
}
