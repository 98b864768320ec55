package flarvo.format;

import flarvo.scene.ShotCamera;

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
 */
public record FileCamera(
    ShotCamera camera,
    int keys,
    int offGridKeys,
    boolean filmBackStated,
    boolean focalLengthStated,
    boolean verticalAngleOnly) {

  public FileCamera(
      ShotCamera camera,
      int keys,
      int offGridKeys,
      boolean filmBackStated,
      boolean focalLengthStated) {
    this(camera, keys, offGridKeys, filmBackStated, focalLengthStated, false);
  }

  /** A camera whose file states only its vertical field of view. */
  public static FileCamera byVerticalAngle(ShotCamera camera, int keys, int offGridKeys) {
    return new FileCamera(camera, keys, offGridKeys, false, true, true);
  }

  /** A camera whose file states everything about it. */
  public static FileCamera whole(ShotCamera camera) {
    return new FileCamera(camera, camera.frames().count(), 0, true, true);
  }
}
