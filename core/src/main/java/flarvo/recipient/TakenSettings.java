package flarvo.recipient;

import flarvo.convention.BackPolicy;
import flarvo.convention.Dialect;
import flarvo.convention.LensShift;
import flarvo.convention.SceneSetting;
import flarvo.format.FileCamera;
import flarvo.format.FileScene;
import flarvo.format.Sourced;
import flarvo.receive.ReceivedFile;
import flarvo.scene.Optics;
import flarvo.scene.ShotCamera;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** The settings of a recipient's scene after an import, in words. */
final class TakenSettings {

  private final FileScene whole;
  private final ReceivedFile file;
  private final Dialect own;
  private final Values scene;
  private final List<Taken> out = new ArrayList<>();

  /**
   * @param came the file with all that it states
   * @param file the same with what the recipient looks for
   */
  TakenSettings(ReceivedFile came, ReceivedFile file, Dialect own, Values scene) {
    this.whole = came.scene();
    this.file = file;
    this.own = own;
    this.scene = scene;
  }

  List<Taken> all() {
    FileScene s = file.scene();
    out.add(
        new Taken(
            Setting.RATE,
            scene.rate().display(),
            whence(SceneSetting.RATE, s.rate(), whole.rate())));
    Taken.Whence range = whence(SceneSetting.RANGE, s.range(), whole.range());
    out.add(new Taken(Setting.RANGE, scene.range().toString(), range));
    boolean numbered = own.frames().firstFrame().isEmpty();
    out.add(
        new Taken(
            Setting.FIRST_FRAME,
            "the plate starts at "
                + scene.first()
                + (numbered ? ", by its own numbers" : ", the scene's first frame"),
            numbered ? Taken.Whence.OWN : range));
    Dialect d = scene.reading();
    out.add(
        new Taken(
            Setting.UNIT,
            d.pixels().isPresent() ? "pixels" : d.unit().toString(),
            ruled(whence(SceneSetting.UNIT, s.unit(), whole.unit()), d.unit().equals(own.unit()))));
    out.add(
        new Taken(
            Setting.AXES,
            d.world().up() + " up, " + d.handedness().word() + "-handed",
            ruled(whence(SceneSetting.AXES, s.up(), whole.up()), d.world().equals(own.world()))));
    s.cameras().stream().findFirst().ifPresent(this::camera);
    out.add(
        new Taken(
            Setting.PICTURE,
            BiteWords.size(scene.picture()),
            whence(SceneSetting.PICTURE, s.picture(), whole.picture())));
    return out;
  }

  private void camera(FileCamera c) {
    Dialect d = scene.reading();
    out.add(
        new Taken(
            Setting.CAMERA_AXES,
            "looks along " + d.camera().view() + ", " + d.camera().up() + " up",
            d.camera().equals(own.camera()) ? Taken.Whence.OWN : Taken.Whence.FILE));
    boolean always = d.film().policy() == BackPolicy.ALWAYS_ASSUMED;
    Taken.Whence back =
        always
            ? Taken.Whence.IGNORED
            : c.filmBackStated() || c.verticalAngleOnly() ? Taken.Whence.FILE : Taken.Whence.SILENT;
    ShotCamera cam = c.camera();
    Optics o = cam.optics().at(cam.frames().first());
    out.add(
        new Taken(
            Setting.FILM_BACK,
            c.verticalAngleOnly()
                ? "by the vertical angle of view"
                : back == Taken.Whence.FILE
                    ? back(o.filmWidthMm(), o.filmHeightMm())
                    : back(d.film().assumed().widthMm(), d.film().assumed().heightMm()),
            back));
    out.add(
        new Taken(
            Setting.FIT,
            c.fit().orElse(d.film().fit()).word(),
            c.fit().isPresent() ? Taken.Whence.FILE : Taken.Whence.OWN));
    boolean ignored = d.film().shift() == LensShift.IGNORED;
    out.add(
        new Taken(
            Setting.SHIFT,
            ignored ? "none" : o.principalXMm() == 0 && o.principalYMm() == 0 ? "0" : "as stated",
            ignored ? Taken.Whence.IGNORED : Taken.Whence.FILE));
  }

  private static String back(double w, double h) {
    return String.format(Locale.ROOT, "%.4g × %.4g mm", w, h);
  }

  /** A format's rule holds where a file is silent. */
  private static Taken.Whence ruled(Taken.Whence w, boolean own) {
    return w == Taken.Whence.FILE || own ? w : Taken.Whence.FILE;
  }

  private Taken.Whence whence(
      SceneSetting s, Optional<? extends Sourced<?>> read, Optional<? extends Sourced<?>> states) {
    if (read.filter(f -> !f.assumed()).isPresent()) {
      return Taken.Whence.FILE;
    }
    boolean stated = states.filter(f -> !f.assumed()).isPresent();
    boolean overlooked =
        file.format().states().contains(s)
            ? own.defaults().ignores().contains(s)
            : s == SceneSetting.PICTURE; // beside a camera it is stated, and read by few
    return stated && overlooked ? Taken.Whence.IGNORED : Taken.Whence.SILENT;
  }
}
