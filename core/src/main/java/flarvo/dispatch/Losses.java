package flarvo.dispatch;

import flarvo.convention.Dialect;
import flarvo.convention.FrameMap;
import flarvo.convention.LensShift;
import flarvo.format.SceneFormat;
import flarvo.motion.Held;
import flarvo.motion.Parent;
import flarvo.motion.Recast;
import flarvo.report.Figures;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Inset;
import flarvo.scene.Optics;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What of this very shot a format and a recipient lose or take otherwise. */
public final class Losses {

  private Losses() {}

  /**
   * What a delivery loses or changes, the plates that go with it included.
   *
   * @param shot as it lies over those plates
   */
  public static List<Note> of(Shot shot, Delivery delivery) {
    List<Note> notes = new ArrayList<>(of(shot, delivery.format(), delivery.dialect()));
    if (delivery.contents().has(Part.TRACKS)) {
      notes.removeIf(n -> n.where().equals(DeliveredTracks.SUBJECT)); // they lie beside the file
    }
    textures(shot, delivery, notes);
    if (shot.trackers().stream().anyMatch(TrackerSet::isCloud)
        && delivery.contents().has(Part.TRACKERS)
        && delivery.format().cannotCarry().contains(SceneFormat.CLOUDS)) {
      notes.add(
          Note.lost(
              "trackers",
              delivery.format().title() + " files hold no clouds of points; all go as locators"));
    }
    if (shot.trackers().stream().anyMatch(t -> t.marker().isPresent())
        && delivery.contents().has(Part.TRACKERS)
        && !delivery.format().holdsLocatorSizes()) {
      notes.add(
          Note.lost("trackers", delivery.format().title() + " files hold no size of locators"));
    }
    if (!delivery.contents().leftOut().isEmpty()) {
      notes.add(
          Note.lost(
              "contents",
              "left out as asked: " + String.join(", ", delivery.contents().leftOut())));
    }
    Recast recast = delivery.extract().recast();
    recast
        .held()
        .ifPresent(
            h ->
                notes.add(
                    Note.changed(
                        "motion",
                        (h.group().isPresent() ? "group " + h.group().get() : "the camera")
                            + " "
                            + h.stand().words()
                            + "; the rest moves instead, as group "
                            + h.into())));
    boolean moves =
        delivery.contents().has(Part.TRACKERS) || delivery.contents().has(Part.GEOMETRY);
    if (recast.held().isPresent() && !moves) {
      notes.add(
          Note.lost(
              "motion", "nothing that moves instead goes with it: send trackers or geometry"));
    }
    recast.parents().under().ifPresent(p -> notes.add(parent(p, delivery.format())));
    if (recast.parents().cameraIn().isPresent()
        && delivery.format().cannotCarry().contains(SceneFormat.PARENTS)) {
      notes.add(
          Note.lost(
              "camera",
              delivery.format().title()
                  + " files hold cameras in no group; its poses are the world's"));
    }
    Extract e = delivery.extract();
    if (e.hasHandles()) {
      notes.add(
          Note.changed(
              "frames",
              Math.max(0, -e.head())
                  + " frames are added at the head and "
                  + Math.max(0, -e.tail())
                  + " at the tail; every motion is held on them, and no plate shows them"));
    }
    if (recast.changesPicture()) {
      notes.add(
          Note.lost(
              "plate",
              "the plates are not "
                  + (recast.framing().isPresent() ? "cut" : "retimed")
                  + " here; they do not go with it"));
    }
    for (PlateSequence p : shot.plates()) {
      if (p.role() == PlateRole.ORIGINAL && delivery.plate() != PlateRole.ORIGINAL) {
        notes.add(
            Note.changed(
                "plate",
                "there are no "
                    + delivery.plate().word()
                    + " plates; the original ones"
                    + " go with it"));
      }
      p.inner().ifPresent(in -> notes.add(overscan(shot, p, in)));
    }
    return notes;
  }

  private static void textures(Shot shot, Delivery delivery, List<Note> notes) {
    SceneFormat format = delivery.format();
    Contents c = delivery.contents();
    boolean card = c.has(Part.CARD);
    boolean textured =
        c.hasMeshes() && shot.meshes().stream().anyMatch(m -> m.texture().isPresent());
    if (card && format.cannotCarry().contains(SceneFormat.MESHES)) {
      notes.add(Note.lost("picture card", format.title() + " files contain no meshes"));
      return;
    }
    if (card && shot.camera().isEmpty()) {
      notes.add(Note.lost("picture card", "the shot has no camera for it to stand behind"));
      return;
    }
    if (card && shot.plates().isEmpty()) {
      notes.add(Note.lost("picture card", "no plates go with it; the card is bare"));
    }
    if ((textured || card && !shot.plates().isEmpty())
        && format.cannotCarry().contains(SceneFormat.TEXTURES)) {
      notes.add(
          Note.lost(
              card ? "picture card" : "geometry",
              format.title() + " files refer to no pictures; the card is bare"));
    } else if (card
        && !shot.plates().isEmpty()
        && format.cannotCarry().contains(SceneFormat.SEQUENCES)) {
      notes.add(
          Note.lost(
              "picture card",
              format.title() + " files hold no sequences; it shows the first frame's plate"));
    }
  }

  private static Note parent(Parent p, SceneFormat format) {
    return format.cannotCarry().contains(SceneFormat.PARENTS)
        ? Note.lost(
            p.name(),
            format.title()
                + " files hold no parent with a place and a scale; places are the world's")
        : Note.changed(
            p.name(),
            "everything is parented to this node"
                + (p.place().scale() == 1
                    ? ""
                    : String.format(
                        Locale.ROOT,
                        ", scaled %s; lengths below it are %s of the world's",
                        Figures.of(p.place().scale()),
                        Figures.of(1 / p.place().scale()))));
  }

  private static Note overscan(Shot shot, PlateSequence p, Inset inner) {
    String what =
        (inner.isCutBy(p.size()) ? "the plates show a part, " : "the plates have overscan, ")
            + p.size()
            + (inner.isCutBy(p.size()) ? " of " : " round ")
            + inner.picture()
            + (inner.isCentredIn(p.size()) ? "" : ", off its centre");
    return shot.picture().equals(p.size())
        ? Note.changed("film back", what + "; the film back matches them")
        : Note.lost(
            "film back",
            what + ", and the camera's picture is " + shot.picture() + "; it does not fit them");
  }

  /** What of a shot a format and a dialect cannot carry. */
  public static List<Note> of(Shot shot, SceneFormat format, Dialect to) {
    List<Note> notes = new ArrayList<>(format.nearestSupported(to).notes());
    Optional<ShotCamera> camera = shot.camera();
    Dialect spoken = format.nearestSupported(to).spoken();
    if (camera.isPresent()
        && spoken.film().shift() == LensShift.IGNORED
        && isShifted(camera.get())) {
      notes.add(
          Note.lost(
              "lens shift",
              (to.film().shift() == LensShift.IGNORED ? to.name() : format.title())
                  + " does not understand a principal point off the centre"));
    }
    if (!shot.observations().isEmpty()) {
      notes.add(Note.lost(DeliveredTracks.SUBJECT, format.title() + " files contain no 2D tracks"));
    }
    if (!shot.meshes().isEmpty() && format.cannotCarry().contains(SceneFormat.MESHES)) {
      notes.add(Note.lost("geometry", format.title() + " files contain no meshes"));
    }
    FrameMap map = to.frames().mapFor(shot.frames(), shot.rate());
    if (!map.recipientRate().equals(shot.rate())) {
      notes.add(
          map.isOffset()
              ? Note.changed(
                  "rate",
                  "frames are kept, so the shot lasts longer or shorter at "
                      + map.recipientRate().display())
              : Note.changed(
                  "rate", "seconds are kept, so the camera is resampled between frames"));
    }
    cameras(shot, format, notes);
    groups(shot, notes);
    int moving =
        shot.trackers().stream().filter(TrackerSet::moves).mapToInt(TrackerSet::size).sum();
    if (moving > 0 && format.cannotCarry().contains(SceneFormat.MOVING_GROUPS)) {
      notes.add(
          Note.lost(
              "trackers",
              format.title()
                  + " files contain places only; "
                  + moving
                  + " that move are left out"));
    }
    return notes;
  }

  /** What moves on a part of the frames only, such as an object that was solved on few. */
  private static void groups(Shot shot, List<Note> notes) {
    Held.moving(shot)
        .forEach(
            (name, g) -> {
              FrameRange known = g.motion().orElseThrow().frames();
              if (known.first() > shot.frames().first() || known.last() < shot.frames().last()) {
                notes.add(
                    Note.changed(
                        "group " + name,
                        "its motion is known on frames "
                            + known
                            + " of "
                            + shot.frames()
                            + "; beyond them it stands still"));
              }
            });
  }

  private static boolean backChanges(ShotCamera c) {
    Optics first = c.optics().at(c.frames().first());
    for (int f = c.frames().first(); f <= c.frames().last(); f++) {
      Optics o = c.optics().at(f);
      if (o.filmWidthMm() != first.filmWidthMm()
          || o.principalXMm() != first.principalXMm()
          || o.principalYMm() != first.principalYMm()) {
        return true;
      }
    }
    return false;
  }

  private static void cameras(Shot shot, SceneFormat format, List<Note> notes) {
    if (format.cannotCarry().contains(SceneFormat.CHANGING_BACK)
        && shot.cameras().stream().anyMatch(Losses::backChanges)) {
      notes.add(
          Note.lost(
              "film back",
              format.title()
                  + " files hold one film back and lens shift, and they change; put the zoom on the"
                  + " focal length"));
    }
    if (format.cannotCarry().contains(SceneFormat.CLIP)
        && shot.cameras().stream().anyMatch(c -> c.clip().isPresent())) {
      notes.add(Note.lost("clipping planes", format.title() + " files contain none"));
    }
    if (shot.cameras().size() > 1 && format.cannotCarry().contains(SceneFormat.MORE_CAMERAS)) {
      notes.add(
          Note.lost(
              "cameras",
              "only '"
                  + shot.cameras().get(0).name()
                  + "' of "
                  + shot.cameras().size()
                  + " is sent"));
      return;
    }
    for (ShotCamera c : shot.cameras()) {
      if (!c.frames().equals(shot.frames())) {
        notes.add(
            Note.changed(
                "camera " + c.name(),
                "it spans "
                    + c.frames()
                    + "; sent on "
                    + shot.frames()
                    + ", held where it has none"));
      }
    }
  }

  private static boolean isShifted(ShotCamera c) {
    for (int f = c.frames().first(); f <= c.frames().last(); f++) {
      Optics o = c.optics().at(f);
      if (o.principalXMm() != 0 || o.principalYMm() != 0) {
        return true;
      }
    }
    return false;
  }
}
