package flarvo.plate;

/**
 * A decoded picture: one packed ARGB int a pixel, rows from the top. The array is handed out
 * uncopied, because a frame is large and shown once; it must not be changed.
 */
public record PlateImage(int width, int height, int[] argb) {

  /** Memory that the pixels take. */
  public long bytes() {
    return 4L * argb.length;
  }
}
