package flarvo.scene;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * Numbered pictures on disk: {@code folder/prefix####suffix}.
 *
 * @param padding least number of digits; 0 means no padding
 * @param missing frames inside the range that have no file, rising
 * @param inner where the shot's picture lies in them; empty where they are the shot's picture
 */
public record PlateSequence(
    Path folder,
    String prefix,
    int padding,
    String suffix,
    FrameRange frames,
    List<Integer> missing,
    PictureSize size,
    PlateRole role,
    PlateFacts facts,
    Optional<Inset> inner) {

  /** A sequence without overscan. */
  public PlateSequence(
      Path folder,
      String prefix,
      int padding,
      String suffix,
      FrameRange frames,
      List<Integer> missing,
      PictureSize size,
      PlateRole role,
      PlateFacts facts) {
    this(folder, prefix, padding, suffix, frames, missing, size, role, facts, Optional.empty());
  }

  /** A sequence of which only its size is known. */
  public PlateSequence(
      Path folder,
      String prefix,
      int padding,
      String suffix,
      FrameRange frames,
      List<Integer> missing,
      PictureSize size,
      PlateRole role) {
    this(folder, prefix, padding, suffix, frames, missing, size, role, PlateFacts.UNKNOWN);
  }

  public PlateSequence {
    missing = List.copyOf(missing);
  }

  /** The file of a frame, whether it is there or not. */
  public Path file(int frame) {
    return folder.resolve(fileName(frame));
  }

  /** Name of the file of a frame, without its folder. */
  public String fileName(int frame) {
    String digits = padding == 0 ? "%d" : "%0" + padding + "d";
    return prefix + String.format(Locale.ROOT, digits, frame) + suffix;
  }

  /** {@code name.####.jpg}: how people write a sequence down. */
  public String pattern() {
    return prefix + "#".repeat(Math.max(1, padding)) + suffix;
  }

  /** The same for another role. */
  public PlateSequence withRole(PlateRole r) {
    return new PlateSequence(
        folder, prefix, padding, suffix, frames, missing, size, r, facts, inner);
  }

  /** The same with overscan around a picture in their middle; none where that is their own size. */
  public PlateSequence around(PictureSize picture) {
    return around(Inset.centred(picture, size));
  }

  /** The same with the shot's picture somewhere in them. */
  public PlateSequence around(Inset picture) {
    return new PlateSequence(
        folder,
        prefix,
        padding,
        suffix,
        frames,
        missing,
        size,
        role,
        facts,
        picture.isAllOf(size) ? Optional.empty() : Optional.of(picture));
  }

  /** The same; where it was not said where the picture lies in them, it is in their middle. */
  public PlateSequence placed(PictureSize picture) {
    return inner.isPresent() ? this : around(picture);
  }

  /** Size of the shot's picture: without the overscan. */
  public PictureSize picture() {
    return inner.map(Inset::picture).orElse(size);
  }

  /** Pixels of overscan at the left; below zero where the plates begin within the picture. */
  public double overscanX() {
    return inner.map(Inset::left).orElse(0.0);
  }

  /** Pixels of overscan at the top, likewise. */
  public double overscanY() {
    return inner.map(Inset::top).orElse(0.0);
  }
}
