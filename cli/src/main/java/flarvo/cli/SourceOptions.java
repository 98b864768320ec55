package flarvo.cli;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FilmBack;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.scene.PictureSize;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** What the user says about the files that come in; shared by several commands. */
final class SourceOptions {

  @Option(names = "--from", paramLabel = "D", description = "sender's dialect")
  private String from;

  @Option(
      names = "--size",
      paramLabel = "WxH",
      converter = Converters.Size.class,
      description = "image resolution")
  private PictureSize size;

  @Option(
      names = "--pixel-aspect",
      paramLabel = "A",
      description = "width of a pixel over its height; default: as the files state")
  private Double pixelAspect;

  @Option(
      names = "--film-back",
      paramLabel = "WxH",
      converter = Converters.Back.class,
      description = "film back in millimetres, in place of the file's")
  private FilmBack filmBack;

  @Option(
      names = "--camera",
      paramLabel = "NAME",
      description = "one camera by its name; usually all")
  private String camera;

  @Option(
      names = "--take",
      paramLabel = "NAME",
      description = "take of the animation; default: the first")
  private String take;

  @Option(
      names = "--snap-keys",
      description = "keys that lie between frames count as if they lay on the nearest one")
  private boolean snapKeys;

  @Mixin private TableOptions tables;

  @Mixin private OutsideOption outside;

  /** An intake that asks by its errors what it is not sure of. */
  ShotIntake intake() {
    return new ShotIntake(tables.advice());
  }

  IntakeOptions options(Dialects dialects) {
    IntakeOptions o = IntakeOptions.NONE.withReach(outside.reach()).withSnapKeys(snapKeys);
    if (from != null) {
      Dialect d = dialects.get(from);
      o = o.withFrom(d);
    }
    if (size != null) {
      o = o.withSize(size);
    }
    if (pixelAspect != null) {
      o = o.withPixelAspect(Converters.aspect(pixelAspect));
    }
    if (filmBack != null) {
      o = o.withFilmBack(filmBack);
    }
    if (camera != null) {
      o = o.withCamera(camera);
    }
    if (take != null) {
      o = o.withTake(take);
    }
    return o;
  }
}
