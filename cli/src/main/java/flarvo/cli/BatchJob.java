package flarvo.cli;

import flarvo.report.InputError;
import flarvo.work.AtomicFile;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * A recipe run as an array job of a batch scheduler: one task a shot, and one after all of them
 * that gathers the report. Everything that a task needs stands in one folder, which every node has
 * to see; docs/batch.md says what a task needs and answers, for other schedulers.
 *
 * @param folder of the job
 * @param shots one line each in {@code shots.txt}
 */
record BatchJob(Path folder, List<Path> shots) {

  /** Set by the launcher: what a node starts. */
  private static final String LAUNCHER = "flarvo.launcher";

  private static final String RESULTS = "results";

  /**
   * Writes a job.
   *
   * @param recipe text of the recipe, which the job keeps: it may be edited meanwhile
   * @param options of {@code run}, as typed, without shots, jobs and reports
   * @param reports what the last task writes
   * @throws InputError when the folder cannot be written
   */
  static BatchJob write(
      Path out, String recipe, List<Path> shots, List<String> options, List<Path> reports) {
    Path place = out.toAbsolutePath().normalize();
    int n = 1;
    while (Files.exists(place.resolve(".flarvo-run/jobs/" + n))) {
      n++;
    }
    BatchJob job = new BatchJob(place.resolve(".flarvo-run/jobs/" + n), shots);
    try {
      Files.createDirectories(job.folder.resolve(RESULTS));
      Files.createDirectories(job.folder.resolve("log"));
    } catch (IOException e) {
      throw new InputError(
          job.folder.toString(), "", "the folder cannot be made", "Check its rights", e);
    }
    job.text("recipe.json", recipe);
    job.text("shots.txt", String.join("\n", shots.stream().map(BatchJob::line).toList()) + "\n");
    job.text("task.sh", job.task(place, options));
    job.text("gather.sh", job.gather(reports));
    job.text("submit.sh", job.submit());
    return job;
  }

  private static String line(Path shot) {
    String s = shot.toAbsolutePath().normalize().toString();
    if (s.contains("\n")) {
      throw new InputError(s, "", "a name with a line break cannot be listed", "Rename it");
    }
    return s;
  }

  private String task(Path out, List<String> options) {
    List<String> words = new ArrayList<>(List.of(launcher(), "run", quoted(path("recipe.json"))));
    words.add("--shots \"$shot\" --out " + quoted(out));
    options.forEach(o -> words.add(quoted(o)));
    words.add("--report " + quoted(path(RESULTS)) + "/\"$SLURM_ARRAY_TASK_ID\".json --quiet");
    return """
        #!/bin/sh
        #SBATCH --job-name=flarvo
        #SBATCH --array=1-%d
        #SBATCH --output=%s/%%a.txt
        set -u
        shot=$(sed -n "${SLURM_ARRAY_TASK_ID}p" %s)
        exec %s
        """
        .formatted(shots.size(), path("log"), quoted(path("shots.txt")), String.join(" ", words));
  }

  private String gather(List<Path> reports) {
    StringBuilder s = new StringBuilder();
    for (Path r : reports) {
      s.append(" --report ").append(quoted(r.toAbsolutePath().normalize()));
    }
    return """
        #!/bin/sh
        #SBATCH --job-name=flarvo-gather
        #SBATCH --output=%s/gather.txt
        exec %s gather %s%s
        """
        .formatted(path("log"), launcher(), quoted(folder), s);
  }

  private String submit() {
    return """
        #!/bin/sh
        set -eu
        job=$(sbatch --parsable %s)
        last=$(sbatch --parsable --dependency=afterany:"$job" %s)
        echo "submitted as job $job; job $last gathers the report"
        """
        .formatted(quoted(path("task.sh")), quoted(path("gather.sh")));
  }

  /** Reads the shots of a job. */
  static BatchJob read(Path folder) {
    try {
      return new BatchJob(
          folder.toAbsolutePath().normalize(),
          Files.readAllLines(folder.resolve("shots.txt"), StandardCharsets.UTF_8).stream()
              .map(Path::of)
              .toList());
    } catch (IOException e) {
      throw new InputError(
          folder.toString(), "", "this is no folder of a job", "'run --submit' makes one", e);
    }
  }

  Path recipe() {
    return path("recipe.json");
  }

  /** The report of a shot's task, by its line; there is none where the task was killed. */
  Path result(int line) {
    return path(RESULTS).resolve((line + 1) + ".json");
  }

  /** What a shot's task printed. */
  Path log(int line) {
    return path("log").resolve((line + 1) + ".txt");
  }

  Path submitScript() {
    return path("submit.sh");
  }

  private Path path(String name) {
    return folder.resolve(name);
  }

  private void text(String name, String text) {
    AtomicFile.write(path(name), s -> s.write(text.getBytes(StandardCharsets.UTF_8)));
  }

  private static String launcher() {
    return quoted(System.getProperty(LAUNCHER, "flarvo"));
  }

  /** For a shell: nothing between the quotes means anything but itself. */
  static String quoted(Object word) {
    return "'" + word.toString().replace("'", "'\\''") + "'";
  }
}
