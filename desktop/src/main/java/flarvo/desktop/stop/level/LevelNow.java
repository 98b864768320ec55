package flarvo.desktop.stop.level;

import flarvo.level.LevelReading;
import java.util.List;

/**
 * What the statements come to.
 *
 * @param wrong sentences on what looks wrong
 */
public record LevelNow(LevelReading reading, List<String> wrong) {}
