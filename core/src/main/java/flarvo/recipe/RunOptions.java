package flarvo.recipe;

import flarvo.report.InputError;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * How shots go through a recipe.
 *
 * @param out folder of the deliveries
 * @param jobs shots at once
 * @param overwrite whether files may be replaced that no run of the recipe wrote
 * @param sendIncomplete whether a shot is sent of which a decision could not be applied
 * @param within the parts of each shot's folder that are received, such as {@code incoming}; empty
 *     for all of it
 * @param notes whether each shot gets a hand-over note beside its deliveries
 */
public record RunOptions(
    Path out,
    int jobs,
    boolean overwrite,
    boolean sendIncomplete,
    List<String> within,
    boolean notes) {

  public RunOptions {
    within = List.copyOf(within);
    if (jobs < 1) {
      throw new IllegalArgumentException("--jobs takes a number from 1 on, not " + jobs);
    }
  }

  /** All of each shot's folder, replacing nothing. */
  public RunOptions(Path out, int jobs) {
    this(out, jobs, false, false, List.of(), false);
  }

  /**
   * The parts of a shot's folder that are received, each of which has to be there.
   *
   * @throws InputError when one is not, or leads out of the folder
   */
  List<Path> parts(Path folder) {
    if (within.isEmpty()) {
      return List.of(folder);
    }
    List<Path> all = new ArrayList<>();
    for (String w : within) {
      Path part = folder.resolve(w).normalize();
      if (!part.startsWith(folder) || !Files.exists(part)) {
        throw new InputError(part.toString(), "", "there is no such part of the shot", "");
      }
      all.add(part);
    }
    return all;
  }
}
