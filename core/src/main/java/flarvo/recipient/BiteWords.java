package flarvo.recipient;

import flarvo.convention.Dialect;
import flarvo.convention.FrameNumbering;
import flarvo.convention.LinearUnit;
import flarvo.convention.RatePolicy;
import flarvo.format.SceneFormat;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import flarvo.scene.ShotCamera;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/** What a setting that differs does in the recipient's scene, and what avoids it. */
final class BiteWords {

  private final Dialect own;
  private final Meant meant;
  private final SceneFormat format;
  private final Values right;
  private final Values believed;

  BiteWords(Dialect own, Meant meant, SceneFormat format, Values right, Values believed) {
    this.own = own;
    this.meant = meant;
    this.format = format;
    this.right = right;
    this.believed = believed;
  }

  /** Empty where the difference has no effect. */
  Optional<Bite> of(Setting s, OptionalDouble px) {
    return switch (s) {
      case RATE -> Optional.of(rate(px));
      case FRAME_POLICY -> Optional.of(policy(px));
      case FIRST_FRAME -> Optional.of(firstFrame(px));
      case RANGE -> Optional.of(range());
      case UNIT -> unit();
      case AXES -> axes();
      case CAMERA_AXES -> Optional.of(cameraAxes(px));
      case FILM_BACK -> Optional.of(filmBack(px));
      case FIT -> Optional.of(fit(px));
      case SHIFT -> Optional.of(shift(px));
      case PICTURE -> Optional.of(picture(px));
    };
  }

  private Bite rate(OptionalDouble px) {
    Rate has = believed.rate();
    Rate file = right.rate();
    String scene = "The recipient's scene is at " + has.display() + " and this file at ";
    String ask = "Set the scene to " + file.display() + " before importing";
    if (px.isEmpty()) {
      return new Bite(
          Setting.RATE,
          false,
          scene
              + file.display()
              + ": every picture meets its frame, and plays "
              + times(has.toDouble() / file.toDouble())
              + " as fast",
          px,
          ask,
          Optional.empty());
    }
    FrameNumbering n = meant.dialect().frames();
    return new Bite(
        Setting.RATE,
        true,
        scene
            + file.display()
            + ", with its keys in seconds: the camera would run "
            + times(file.toDouble() / has.toDouble())
            + " as fast as the picture",
        px,
        ask,
        change(
            "Deliver at " + has.display() + ", frame for frame",
            meant
                .dialect()
                .withFrames(
                    new FrameNumbering(n.firstFrame(), Optional.of(has), RatePolicy.KEEP_FRAMES))));
  }

  private Bite policy(OptionalDouble px) {
    FrameNumbering n = meant.dialect().frames();
    return new Bite(
        Setting.FRAME_POLICY,
        true,
        "This file keeps seconds and the recipient lays one picture a frame: they would drift apart",
        px,
        "Conform the plates to " + right.rate().display() + " first",
        change(
            "Deliver frame for frame",
            meant
                .dialect()
                .withFrames(new FrameNumbering(n.firstFrame(), n.rate(), RatePolicy.KEEP_FRAMES))));
  }

  private Bite firstFrame(OptionalDouble px) {
    int by = believed.first() - right.first();
    String late =
        Math.abs(by) + (Math.abs(by) == 1 ? " frame " : " frames ") + (by > 0 ? "late" : "early");
    boolean numbered = own.frames().firstFrame().isEmpty();
    String scene =
        numbered
            ? "The recipient lays each picture on its own number, from " + believed.first()
            : "The recipient's scene starts at " + believed.first();
    FrameNumbering n = meant.dialect().frames();
    FrameNumbering other =
        new FrameNumbering(
            numbered ? OptionalInt.empty() : OptionalInt.of(believed.first()),
            n.rate(),
            n.policy());
    return new Bite(
        Setting.FIRST_FRAME,
        true,
        scene + ", and this file at " + right.first() + ": its picture would be " + late,
        px,
        "Lay the first picture of the plate on frame " + right.first(),
        change("Deliver from frame " + believed.first(), meant.dialect().withFrames(other)));
  }

  private Bite range() {
    return new Bite(
        Setting.RANGE,
        false,
        "The recipient's scene plays " + believed.range() + " and the shot is " + right.range(),
        OptionalDouble.empty(),
        "Set the frame range to " + right.range(),
        Optional.empty());
  }

  private Optional<Bite> unit() {
    PictureSize picture = meant.source().picture();
    WorldShift w =
        WorldShift.between(right.reading(), right.with(Setting.UNIT, believed).reading(), picture);
    if (w.isNone()) {
      return Optional.empty();
    }
    Dialect other = meant.dialect().withUnitOf(own);
    boolean can = format.nearestSupported(other).spoken().unit().equals(believed.reading().unit());
    if (w.scale() == 1) {
      return Optional.of(
          new Bite(
              Setting.UNIT,
              true,
              String.format(
                  Locale.ROOT,
                  "The recipient's origin is elsewhere in the picture: the scene would stand %.3f m"
                      + " aside",
                  w.offsetMetres()),
              OptionalDouble.empty(),
              "Move the imported scene back to its origin",
              can ? change("Deliver in its pixel space", other) : Optional.empty()));
    }
    double k = w.scale();
    return Optional.of(
        new Bite(
            Setting.UNIT,
            true,
            "The recipient reads a unit as "
                + unit(believed.reading())
                + " and this file means "
                + unit(right.reading())
                + ": everything would be "
                + (k > 1 ? number(k) + " × too large" : number(1 / k) + " × too small"),
            OptionalDouble.empty(),
            "Import at a scale of " + number(1 / k),
            can ? change("Deliver in " + unit(own), other) : Optional.empty()));
  }

  private Optional<Bite> axes() {
    WorldShift w =
        WorldShift.between(
            right.reading(),
            right.with(Setting.AXES, believed).reading(),
            meant.source().picture());
    if (w.isNone()) {
      return Optional.empty();
    }
    Dialect r = right.reading();
    Dialect b = believed.reading();
    String effect =
        w.mirrored()
            ? "would be mirrored"
            : w.tiltDegrees() > 135
                ? "would stand on its head"
                : w.tiltDegrees() > 1e-6 ? "would lie on its side" : "would face another way";
    Dialect other = meant.dialect().withWorld(own.world());
    boolean can = format.nearestSupported(other).spoken().world().equals(b.world());
    return Optional.of(
        new Bite(
            Setting.AXES,
            true,
            "The recipient reads "
                + axes(b)
                + " and this file means "
                + axes(r)
                + ": the scene "
                + effect,
            OptionalDouble.empty(),
            "Turn on the conversion of axes from " + axes(r),
            can ? change("Deliver with " + own.world().up() + " up", other) : Optional.empty()));
  }

  private Bite cameraAxes(OptionalDouble px) {
    Dialect other = meant.dialect().withCamera(own.camera());
    boolean can =
        format.nearestSupported(other).spoken().camera().equals(believed.reading().camera());
    return new Bite(
        Setting.CAMERA_AXES,
        true,
        "The recipient's cameras look along "
            + looks(believed.reading())
            + " and this file's along "
            + looks(right.reading())
            + ": the camera would look elsewhere",
        px,
        "Turn the camera so that its "
            + looks(right.reading())
            + " becomes "
            + looks(believed.reading()),
        can
            ? change("Deliver cameras that look along " + own.camera().view(), other)
            : Optional.empty());
  }

  private Bite filmBack(OptionalDouble px) {
    Dialect d = meant.dialect();
    Optional<Optics> o = firstOptics();
    String its =
        o.map(x -> String.format(Locale.ROOT, "%.4g × %.4g mm", x.filmWidthMm(), x.filmHeightMm()))
            .orElse("another");
    boolean always = own.film().policy() == flarvo.convention.BackPolicy.ALWAYS_ASSUMED;
    String has =
        String.format(
            Locale.ROOT,
            "%.4g × %.4g mm",
            own.film().assumed().widthMm(),
            own.film().assumed().heightMm());
    return new Bite(
        Setting.FILM_BACK,
        true,
        always
            ? "The recipient keeps its own film back of "
                + has
                + ", whatever the file states: its angle of view would be another"
            : "This file was scaled for a film back that the recipient does not keep: its angle of"
                + " view would be another",
        px,
        "Set the film back to " + its,
        change(
            always ? "Scale the lens to " + has : "Deliver the film back as it is",
            d.withFilm(d.film().withBackOf(own.film()))));
  }

  private Optional<Optics> firstOptics() {
    Optional<ShotCamera> c = meant.source().camera();
    return c.map(x -> x.optics().at(x.frames().first()));
  }

  private Bite fit(OptionalDouble px) {
    Dialect d = meant.dialect();
    return new Bite(
        Setting.FIT,
        true,
        "The recipient fits the film back by "
            + believed.reading().film().fit().word()
            + " and this file means by "
            + right.reading().film().fit().word()
            + ": its angle of view would be another",
        px,
        "Set the film fit to " + right.reading().film().fit().word(),
        change(
            "Deliver for a fit by " + own.film().fit().word(),
            d.withFilm(d.film().withFit(own.film().fit()))));
  }

  private Bite shift(OptionalDouble px) {
    PictureSize p = meant.source().picture();
    String ask =
        firstOptics()
            .map(
                o ->
                    String.format(
                        Locale.ROOT,
                        "Shift the plate in the view by %.2f, %.2f px (right, up)",
                        -o.principalXMm() / o.filmWidthMm() * p.width(),
                        -o.principalYMm() / o.filmHeightMm() * p.height()))
            .orElse("Shift the plate in the view");
    return new Bite(
        Setting.SHIFT,
        true,
        "The recipient ignores lens shift: its picture would stand aside",
        px,
        ask,
        Optional.empty());
  }

  private Bite picture(OptionalDouble px) {
    PictureSize has = believed.picture();
    PictureSize plate = right.picture();
    double wider = has.aspect() / plate.aspect();
    boolean sameView = Math.abs(wider - 1) < 1e-9;
    boolean harms = px.isPresent() && !sameView;
    String effect;
    if (harms) {
      effect =
          ", and fits the film back by "
              + believed.reading().film().fit().word()
              + ": its angle of view would be another";
    } else if (sameView) {
      effect = ": the same view in other pixels";
    } else {
      effect = ": it would show " + (wider < 1 ? "more" : "less") + " above and below";
    }
    return new Bite(
        Setting.PICTURE,
        harms,
        "The recipient's scene renders " + size(has) + " and the plate is " + size(plate) + effect,
        px,
        "Set the render size to " + size(plate),
        Optional.empty());
  }

  /** Pixels, and their aspect where they are not square. */
  static String size(PictureSize p) {
    return p.width()
        + " × "
        + p.height()
        + (p.pixelAspect() == 1 ? "" : ", pixel aspect " + number(p.pixelAspect()));
  }

  private Optional<Bite.Change> change(String says, Dialect d) {
    return Optional.of(new Bite.Change(says, d));
  }

  private static String axes(Dialect d) {
    return d.world().up() + " up, " + d.world().away() + " away";
  }

  private static String looks(Dialect d) {
    return d.camera().view() + " with " + d.camera().up() + " up";
  }

  private static String unit(Dialect d) {
    if (d.pixels().isPresent()) {
      return "a pixel";
    }
    LinearUnit u = d.unit();
    return u.name().map(n -> "1 " + n).orElse(number(u.metresPerUnit()) + " m");
  }

  private static String times(double k) {
    return number(k) + " ×";
  }

  static String number(double d) {
    return String.format(Locale.ROOT, "%.6g", d)
        .replaceAll("(\\.\\d*?)0+$", "$1")
        .replaceAll("\\.$", "");
  }
}
