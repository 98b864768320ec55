package flarvo.tools.soak;

import flarvo.convention.Dialects;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.recipe.Recipe;
import flarvo.recipe.RecipeJson;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;

/**
 * A recipe over several shots, killed at random moments; now and then another solve takes a shot's
 * place while it is dead. A run that is not killed proves everything, and writes exactly what a run
 * writes into an empty folder.
 */
record KilledRun(int kills, long seed) {

  private static final int SHOTS = 6;

  Outcome run(Path folder, Path demo) throws IOException, InterruptedException {
    Path shots = folder.resolve("shots");
    for (int i = 0; i < SHOTS; i++) {
      lay(demo, i % 2, shots.resolve("sh" + i));
    }
    Path recipe = folder.resolve("recipe.json");
    Files.writeString(recipe, recipe(demo), StandardCharsets.UTF_8);
    Random random = new Random(seed);
    List<String> faults = new ArrayList<>();
    Path out = folder.resolve("out");
    long from = System.nanoTime();
    command(recipe, shots, folder.resolve("usual")).waitFor();
    int usual = (int) ((System.nanoTime() - from) / 1_000_000);
    for (int i = 0; i < kills; i++) {
      Process p = command(recipe, shots, out);
      Thread.sleep(random.nextInt(usual + 50));
      p.destroyForcibly().waitFor();
      if (random.nextInt(4) == 0) {
        int shot = random.nextInt(SHOTS);
        SoakMain.remove(shots.resolve("sh" + shot));
        lay(demo, random.nextInt(2), shots.resolve("sh" + shot));
      }
      if (random.nextInt(12) == 0) {
        compare(recipe, shots, out, folder.resolve("clean" + i), "kill " + (i + 1), faults);
      }
    }
    compare(recipe, shots, out, folder.resolve("clean"), "in the end", faults);
    return new Outcome("running killed", kills, faults);
  }

  /** The demo's board, by each shot's own proposals. */
  private static String recipe(Path demo) {
    ProjectFile project = ProjectFile.read(demo);
    ProjectLoader loader = new ProjectLoader(project, Dialects.shipped());
    Recipe made =
        Recipe.of(project.name(), loader.open(project.shots().get(0), Progress.NONE))
            .recipe()
            .takingProposals();
    return RecipeJson.text(made);
  }

  private static void lay(Path demo, int which, Path shot) throws IOException {
    String name = which == 0 ? "mer_020_dome" : "mer_030_cart";
    Files.createDirectories(shot);
    try (Stream<Path> all = Files.list(demo.resolveSibling(name).resolve("incoming"))) {
      for (Path f : all.toList()) {
        Files.copy(f, shot.resolve(f.getFileName()));
      }
    }
  }

  private static void compare(
      Path recipe, Path shots, Path out, Path clean, String when, List<String> faults)
      throws IOException, InterruptedException {
    for (Path to : List.of(out, clean)) {
      int code = command(recipe, shots, to).waitFor();
      if (code != 0) {
        faults.add(when + ": a run that was not killed ends with " + code);
      }
    }
    Map<String, byte[]> a = files(out);
    Map<String, byte[]> b = files(clean);
    b.forEach(
        (name, bytes) -> {
          if (!Arrays.equals(bytes, a.get(name))) {
            faults.add(when + ": " + name + " is not what a clean run makes");
          }
        });
    // A shot that took another's place may have left a file that its board has no longer.
    a.keySet().stream()
        .filter(name -> name.endsWith(".part"))
        .forEach(name -> faults.add(when + ", left lying: " + name));
  }

  private static Map<String, byte[]> files(Path folder) throws IOException {
    Map<String, byte[]> out = new TreeMap<>();
    try (Stream<Path> all = Files.list(folder)) {
      for (Path p : all.filter(Files::isRegularFile).toList()) {
        out.put(p.getFileName().toString().toLowerCase(Locale.ROOT), Files.readAllBytes(p));
      }
    }
    return out;
  }

  private static Process command(Path recipe, Path shots, Path out) throws IOException {
    return new ProcessBuilder(
            Path.of(System.getProperty("java.home"), "bin", "java").toString(),
            "-XX:TieredStopAtLevel=1",
            "-XX:+UseSerialGC",
            "-cp",
            System.getProperty(KilledCommand.CLASSES),
            "flarvo.cli.Main",
            "run",
            recipe.toString(),
            "--shots",
            shots + "/sh*",
            "--jobs",
            "2",
            "--quiet",
            "--out",
            out.toString())
        .redirectErrorStream(true)
        .redirectOutput(ProcessBuilder.Redirect.DISCARD)
        .start();
  }
}
