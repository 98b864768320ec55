package flarvo.cli;

import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.motion.Framing;
import flarvo.motion.Held;
import flarvo.motion.Parent;
import flarvo.motion.Parents;
import flarvo.motion.Recast;
import flarvo.motion.Retime;
import flarvo.motion.Stand;
import flarvo.motion.ZoomOn;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import java.nio.file.Path;
import java.util.Optional;
import picocli.CommandLine.Option;

/** How motion, film and time are recast on the way. */
final class RecastOptions {

  @Option(
      names = "--hold-camera",
      paramLabel = "WHERE",
      description =
          "hold the camera; the scene moves instead. A frame of the delivery's plates, or a pose"
              + " x,y,z,pan,tilt,roll in metres and degrees, or the name of another camera whose"
              + " motion it takes")
  private String holdCamera;

  @Option(
      names = "--hold-group",
      paramLabel = "NAME,WHERE",
      description = "hold a group that moves, at a frame or pose; the camera moves instead")
  private String holdGroup;

  @Option(
      names = "--moving-as",
      paramLabel = "NAME",
      description = "name of the group that moves then")
  private String into;

  @Option(
      names = "--zoom-on",
      paramLabel = "LENGTH",
      description = "which length changes when the camera zooms: focal-length or film-back")
  private String zoom;

  @Option(
      names = "--crop",
      paramLabel = "X,Y,WxH",
      description = "a part of the picture, in pixels from the top left; the film back follows")
  private String crop;

  @Option(
      names = "--bake-shift",
      description =
          "no lens shift: the picture and the film back grow until the lens is in their middle")
  private boolean bakeShift;

  @Option(
      names = "--resize",
      paramLabel = "WxH",
      converter = Converters.Size.class,
      description = "the picture, or the part of it, at another resolution")
  private PictureSize resize;

  @Option(
      names = "--unsqueeze",
      description = "an anamorphic picture with square pixels, as wide as it is shown")
  private boolean unsqueeze;

  @Option(
      names = "--parent",
      paramLabel = "NAME[,SCALE…]",
      description =
          "everything is parented to a node of that name: NAME, NAME,SCALE or"
              + " NAME,SCALE,X,Y,Z,PAN,TILT,ROLL; lengths below it are divided by its scale")
  private String parent;

  @Option(
      names = "--camera-in",
      paramLabel = "GROUP",
      description = "the camera is parented to a moving group; its keys are in the group's space")
  private String cameraIn;

  @Option(
      names = "--bake-groups",
      description = "moving groups are not nested; their keys are in world space")
  private boolean bakeGroups;

  @Option(
      names = "--retime",
      paramLabel = "CSV",
      description = "another time: new frame and the plate frame that it shows, a line each")
  private Path retime;

  /**
   * @param shot as it is before
   * @throws InputError when an option means nothing
   */
  Recast recast(Shot shot) {
    return new Recast(time(), held(), zoom(), framing(shot), parents());
  }

  private Parents parents() {
    return new Parents(
        bakeGroups, Optional.ofNullable(cameraIn), Optional.ofNullable(parent).map(Parent::parse));
  }

  private Optional<Retime> time() {
    return Optional.ofNullable(retime)
        .map(p -> Retime.parse(p.toString(), TextSource.read(p, ReadLimits.USUAL)));
  }

  private Optional<Held> held() {
    if (holdCamera != null && holdGroup != null) {
      throw InputError.words("--hold-camera and --hold-group hold two things", "Give one of them");
    }
    Optional<Held> h = Optional.empty();
    if (holdCamera != null) {
      h = Optional.of(Held.camera(Stand.parse(holdCamera)));
    } else if (holdGroup != null) {
      int comma = holdGroup.indexOf(',');
      try {
        h =
            Optional.of(
                Held.group(
                    holdGroup.substring(0, comma), Stand.parse(holdGroup.substring(comma + 1))));
      } catch (IllegalArgumentException | StringIndexOutOfBoundsException e) {
        throw new InputError(
            "", "", "--hold-group " + holdGroup, "Give a group and a frame: cart,1001", e);
      }
    }
    if (into != null && h.isEmpty()) {
      throw InputError.words("--moving-as without anything held", "Give --hold-camera FRAME");
    }
    return into == null ? h : h.map(x -> new Held(x.group(), x.stand(), into));
  }

  private ZoomOn zoom() {
    return zoom == null
        ? ZoomOn.AS_SHOT
        : ZoomOn.of(zoom)
            .orElseThrow(
                () -> InputError.words("--zoom-on " + zoom, "Give focal-length or film-back"));
  }

  private static ShotCamera camera(Shot shot) {
    return shot.camera()
        .orElseThrow(() -> InputError.words("--bake-shift without a camera", "Leave it out"));
  }

  private Optional<Framing> framing(Shot shot) {
    boolean shifted = bakeShift && Framing.isShifted(camera(shot), shot.picture());
    if (crop == null && resize == null && !unsqueeze && !shifted) {
      return Optional.empty();
    }
    if (crop != null && bakeShift) {
      throw InputError.words("--crop and --bake-shift choose two pictures", "Give one of them");
    }
    PictureSize picture = shot.picture();
    Framing f =
        crop != null
            ? Framing.crop(crop)
            : shifted
                ? Framing.centred(camera(shot), picture)
                : Framing.resize(picture, picture.width(), picture.height());
    if (unsqueeze) {
      PictureSize part = f.picture(picture);
      f = Framing.unsqueezed(part).after(f);
    }
    return Optional.of(resize == null ? f : f.at(resize.width(), resize.height()));
  }
}
