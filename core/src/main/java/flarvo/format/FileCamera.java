package flarvo.format;

import flarvo.convention.FilmFit;
import flarvo.scene.Group;
import flarvo.scene.PoseTrack;
import flarvo.scene.ShotCamera;
import java.util.Optional;

/**
 * A camera as a file holds it, evaluated once a file frame.
 *
 * @param camera in the file's space, unit and frames; its film back is the stated one and need not
 *     have the picture's aspect
 * @param keys number of keys or samples the file stores for it
 * @param offGridKeys how many of them lie between frames
 * @param filmBackStated false when the format's fallback stands in
 * @param focalLengthStated false when the format's fallback stands in
 * @param verticalAngleOnly the file states the vertical angle of view and no film back; the width
 *     follows from the picture
 * @param fit how film back and picture come together, where the file states it
 * @param group that it hangs in; its poses are of the file's world all the same
 */
public record FileCamera(
    ShotCamera camera,
    int keys,
    int offGridKeys,
    boolean filmBackStated,
    boolean focalLengthStated,
    boolean verticalAngleOnly,
    Optional<FilmFit> fit,
    Optional<Group> group) {

  public FileCamera(
      ShotCamera camera,
      int keys,
      int offGridKeys,
      boolean filmBackStated,
      boolean focalLengthStated) {
    this(
        camera,
        keys,
        offGridKeys,
        filmBackStated,
        focalLengthStated,
        false,
        Optional.empty(),
        Optional.empty());
  }

  /** A camera whose file states only its vertical field of view. */
  public static FileCamera byVerticalAngle(ShotCamera camera, int keys, int offGridKeys) {
    return new FileCamera(
        camera, keys, offGridKeys, false, true, true, Optional.empty(), Optional.empty());
  }

  /** The same whose file states how film back and picture come together. */
  public FileCamera withFit(Optional<FilmFit> f) {
    return new FileCamera(
        camera, keys, offGridKeys, filmBackStated, focalLengthStated, verticalAngleOnly, f, group);
  }

  /** The same in another group. */
  public FileCamera inGroup(Optional<Group> g) {
    return new FileCamera(
        camera, keys, offGridKeys, filmBackStated, focalLengthStated, verticalAngleOnly, fit, g);
  }

  /** The same with other poses. */
  FileCamera withPoses(PoseTrack poses) {
    return new FileCamera(
        camera.withPoses(poses),
        keys,
        offGridKeys,
        filmBackStated,
        focalLengthStated,
        verticalAngleOnly,
        fit,
        group);
  }

  /** A camera whose file states everything about it. */
  public static FileCamera whole(ShotCamera camera) {
    return new FileCamera(camera, camera.frames().count(), 0, true, true);
  }
}
