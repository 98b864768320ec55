package flarvo.recipe;

import flarvo.report.InputError;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import flarvo.work.Workers;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableSet;
import java.util.TreeSet;
import java.util.concurrent.Callable;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;

/** Many shots through a recipe, several at once. */
public final class RecipeRun {

  private final Recipe recipe;
  private final RunOptions options;
  private final String recipeText;

  private RecipeRun(Recipe recipe, RunOptions options) {
    this.recipe = recipe;
    this.options = options;
    recipeText = RecipeJson.text(recipe);
  }

  /**
   * Runs a recipe. Shots that were done before, and whose files are as they were, are left alone.
   *
   * @param shots folders, each of one shot, which is named after it
   * @param told each result as it comes, on any thread
   * @return the results, in the order of the folders
   * @throws InputError when two shots have the same name, or the recipe sends nothing
   * @throws Cancelled when the user stopped; what was proven stays, and is fresh the next time
   */
  public static List<ShotResult> run(
      Recipe recipe,
      List<Path> shots,
      RunOptions options,
      Consumer<ShotResult> told,
      Progress progress) {
    if (recipe.deliveries().isEmpty()) {
      throw InputError.words("the recipe has no delivery", "Add one to its shot's board");
    }
    return new RecipeRun(recipe, options).run(named(shots), told, progress);
  }

  private static Map<String, Path> named(List<Path> shots) {
    Map<String, Path> all = new LinkedHashMap<>();
    for (Path p : shots) {
      Path folder = p.toAbsolutePath().normalize();
      String name = String.valueOf(folder.getFileName());
      Path other = all.put(name, folder);
      if (other != null && !other.equals(folder)) {
        throw InputError.words(
            "two shots are called " + name + ": " + other + " and " + folder,
            "Run them separately, into different folders");
      }
    }
    return all;
  }

  private List<ShotResult> run(
      Map<String, Path> shots, Consumer<ShotResult> told, Progress progress) {
    AtomicInteger done = new AtomicInteger();
    List<Callable<ShotResult>> all = new ArrayList<>();
    shots.forEach(
        (name, folder) ->
            all.add(
                () -> {
                  ShotResult r = one(name, folder, within(progress, done, shots.size()));
                  progress.step(done.incrementAndGet(), shots.size());
                  told.accept(r);
                  return r;
                }));
    return Workers.all(options.jobs(), "shot worker", all);
  }

  /** Shots are counted whole; a wish to stop reaches into each. */
  private static Progress within(Progress whole, AtomicInteger done, int count) {
    return new Progress() {
      @Override
      public void at(long part, long parts) {
        whole.at(done.get(), count);
      }

      @Override
      public boolean isCancelled() {
        return whole.isCancelled();
      }
    };
  }

  private ShotResult one(String name, Path folder, Progress progress) {
    long begun = System.nanoTime();
    String said;
    try {
      RunRecord record = RunRecord.of(options.out(), name, key(folder));
      if (record.done().filter(r -> !ShotRun.lacksNote(r, options)).isPresent()) {
        return record.done().get();
      }
      return new ShotRun(recipe, options, folder, name, record).run(progress);
    } catch (Cancelled e) {
      throw e;
    } catch (InputError e) {
      said = e.getMessage();
    } catch (RuntimeException | OutOfMemoryError | StackOverflowError e) {
      // A fault of ours in one shot holds nobody else up, and is said.
      said = "internal error: " + e;
    }
    double seconds = (System.nanoTime() - begun) / 1e9;
    return new ShotResult(
        name, ShotResult.State.FAILED, said, List.of(), List.of(), List.of(), seconds);
  }

  /** Of the recipe, and of the names, sizes and times of all files of the shot. */
  private String key(Path folder) {
    if (!Files.isDirectory(folder)) {
      throw new InputError(folder.toString(), "", "there is no such folder", "Check --shots");
    }
    try {
      MessageDigest d = MessageDigest.getInstance("SHA-256");
      d.update(recipeText.getBytes(StandardCharsets.UTF_8));
      Listing files = new Listing(folder, options.out());
      for (Path part : options.parts(folder)) {
        Files.walkFileTree(part, files);
      }
      files.lines.forEach(l -> d.update(l.getBytes(StandardCharsets.UTF_8)));
      return HexFormat.of().formatHex(d.digest(), 0, 16);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    } catch (IOException | UncheckedIOException e) {
      throw new InputError(folder.toString(), "", "the folder cannot be read", "", e);
    }
  }

  /** Visits the files of a shot, without what recipes write into it or beside it. */
  private static final class Listing extends SimpleFileVisitor<Path> {
    private final Path folder;
    private final Path out;
    private final NavigableSet<String> lines = new TreeSet<>(); // no disk has an order of its own

    Listing(Path folder, Path out) {
      this.folder = folder;
      this.out = out.toAbsolutePath().normalize();
    }

    @Override
    public FileVisitResult preVisitDirectory(Path dir, BasicFileAttributes a) {
      boolean made = String.valueOf(dir.getFileName()).endsWith("_undistorted");
      return made || dir.equals(out) ? FileVisitResult.SKIP_SUBTREE : FileVisitResult.CONTINUE;
    }

    @Override
    public FileVisitResult visitFile(Path file, BasicFileAttributes a) {
      lines.add(
          folder.relativize(file) + " " + a.size() + " " + a.lastModifiedTime().toMillis() + "\n");
      return FileVisitResult.CONTINUE;
    }
  }
}
