package flarvo.format;

/**
 * How much a hostile file may make us do.
 *
 * @param largestFile bytes
 * @param deepest nesting of blocks
 * @param mostFrames frames evaluated for one camera
 */
public record ReadLimits(long largestFile, int deepest, int mostFrames) {

  public static final ReadLimits USUAL = new ReadLimits(1L << 30, 64, 1_000_000);
}
