package flarvo.format;

/**
 * How a file is read: how much a hostile one may make us do, and what of it is taken otherwise.
 *
 * @param largestFile bytes
 * @param deepest nesting of blocks
 * @param mostFrames frames evaluated for one camera
 * @param mostNumbers numbers that one array may unpack to
 * @param mostObjects objects of one scene, after everything it refers to is put together
 * @param mostFiles files that one scene may be put together from
 * @param reach where those files may lie
 * @param snapKeys whether keys between frames count as if they lay on the nearest one
 */
public record ReadLimits(
    long largestFile,
    int deepest,
    int mostFrames,
    int mostNumbers,
    int mostObjects,
    int mostFiles,
    Reach reach,
    boolean snapKeys) {

  public static final ReadLimits USUAL =
      new ReadLimits(1L << 30, 64, 200_000, 16_000_000, 1_000_000, 4_000, Reach.BESIDE, false);

  /** The same for files in other places. */
  public ReadLimits withReach(Reach r) {
    return new ReadLimits(
        largestFile, deepest, mostFrames, mostNumbers, mostObjects, mostFiles, r, snapKeys);
  }

  /** The same with keys snapped to frames, or not. */
  public ReadLimits withSnapKeys(boolean wanted) {
    return new ReadLimits(
        largestFile, deepest, mostFrames, mostNumbers, mostObjects, mostFiles, reach, wanted);
  }
}
