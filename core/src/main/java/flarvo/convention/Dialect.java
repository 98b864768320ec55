package flarvo.convention;

import flarvo.scene.PictureSize;
import java.util.Objects;
import java.util.Optional;

/**
 * How one sender or recipient speaks. Data, stored as JSON by {@link DialectJson}; the arithmetic
 * is {@link SpaceChange}.
 *
 * @param name descriptive: department and convention, such as {@code anim-zup-m}
 * @param pixels present when the world is measured in pixels; then {@code unit} follows from it
 */
public record Dialect(
    String name,
    String description,
    WorldAxes world,
    CameraAxes camera,
    LinearUnit unit,
    Optional<PixelSpace> pixels,
    RotationOrder rotationOrder,
    AngleUnit angles,
    FrameNumbering frames,
    FilmConvention film,
    DialectDefaults defaults) {

  /** How this program speaks inside; also the sender of a file that needs no other reading. */
  public static final Dialect CANONICAL =
      new Dialect(
          "canonical",
          "Right-handed, +Y up, metres, cameras look along -Z, plate frames",
          WorldAxes.CANONICAL,
          CameraAxes.CANONICAL,
          LinearUnit.METRE,
          Optional.empty(),
          RotationOrder.ZXY,
          AngleUnit.DEGREES,
          FrameNumbering.PLATE,
          FilmConvention.COMMON,
          DialectDefaults.COMMON);

  public Dialect {
    if (name.isBlank()) {
      throw new IllegalArgumentException("a dialect needs a name");
    }
    Objects.requireNonNull(description);
    Objects.requireNonNull(world);
    Objects.requireNonNull(camera);
    Objects.requireNonNull(rotationOrder);
    Objects.requireNonNull(angles);
    Objects.requireNonNull(frames);
    Objects.requireNonNull(film);
    Objects.requireNonNull(defaults);
    if (pixels.isPresent()) {
      unit = new LinearUnit(1 / pixels.get().pixelsPerMetre());
    }
  }

  /** Of its world axes. */
  public Handedness handedness() {
    return world.handedness();
  }

  /** The exact way from canonical space to this dialect and back. */
  public SpaceChange spaceChange(PictureSize picture) {
    return new SpaceChange(this, picture);
  }

  /** The same under another name. */
  public Dialect named(String other) {
    return new Dialect(
        other,
        description,
        world,
        camera,
        unit,
        pixels,
        rotationOrder,
        angles,
        frames,
        film,
        defaults);
  }

  /** The same with other words for people. */
  public Dialect described(String words) {
    return new Dialect(
        name, words, world, camera, unit, pixels, rotationOrder, angles, frames, film, defaults);
  }

  public Dialect withWorld(WorldAxes w) {
    return new Dialect(
        name, description, w, camera, unit, pixels, rotationOrder, angles, frames, film, defaults);
  }

  public Dialect withCamera(CameraAxes c) {
    return new Dialect(
        name, description, world, c, unit, pixels, rotationOrder, angles, frames, film, defaults);
  }

  /** Another unit; leaves pixel space. */
  public Dialect withUnit(LinearUnit u) {
    return new Dialect(
        name,
        description,
        world,
        camera,
        u,
        Optional.empty(),
        rotationOrder,
        angles,
        frames,
        film,
        defaults);
  }

  /** The same with other Euler angles. */
  public Dialect withRotation(RotationOrder order, AngleUnit unitOfAngles) {
    return new Dialect(
        name,
        description,
        world,
        camera,
        unit,
        pixels,
        order,
        unitOfAngles,
        frames,
        film,
        defaults);
  }

  /** The same with the unit of another, pixel space included. */
  public Dialect withUnitOf(Dialect other) {
    return new Dialect(
        name,
        description,
        world,
        camera,
        other.unit,
        other.pixels,
        rotationOrder,
        angles,
        frames,
        film,
        defaults);
  }

  public Dialect withFrames(FrameNumbering f) {
    return new Dialect(
        name, description, world, camera, unit, pixels, rotationOrder, angles, f, film, defaults);
  }

  public Dialect withFilm(FilmConvention f) {
    return new Dialect(
        name, description, world, camera, unit, pixels, rotationOrder, angles, frames, f, defaults);
  }

  @Override
  public String toString() {
    return name;
  }
}
