package flarvo.trace;

import flarvo.scene.Luma;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;

/** Frames with their smaller ones, the latest kept: large plates must not fill the memory. */
final class LevelsCache {

  private static final long MOST_PIXELS = 60_000_000;

  private final IntFunction<Optional<Luma>> plates;
  private final Map<Integer, Optional<Levels>> kept =
      new LinkedHashMap<>(64, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Integer, Optional<Levels>> e) {
          return size() > Math.max(2, MOST_PIXELS / pixels);
        }
      };
  private long pixels = 1;

  /**
   * @param plates brightness by plate frame; empty where one is missing
   */
  LevelsCache(IntFunction<Optional<Luma>> plates) {
    this.plates = plates;
  }

  /** A frame; empty where it is missing. */
  Optional<Levels> at(int frame) {
    Optional<Levels> known = kept.get(frame);
    if (known == null) {
      known = plates.apply(frame).map(l -> Levels.of(frame, l));
      known.ifPresent(l -> pixels = (long) l.whole().width * l.whole().height * 4 / 3);
      kept.put(frame, known);
    }
    return known;
  }
}
