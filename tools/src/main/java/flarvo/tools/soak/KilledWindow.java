package flarvo.tools.soak;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * The window killed at random moments while somebody edits, or edits, saves and sends. An edit that
 * is older than five seconds must be in the project or in what the next start offers.
 *
 * @param busy whether it saves and sends too
 */
record KilledWindow(boolean busy, int kills, long seed) {

  /** What may be lost, in milliseconds. */
  private static final long MAY_BE_LOST = 5_000;

  /** Longest time from the first edit to the kill, in milliseconds. */
  private static final int LONGEST = 9_000;

  private static final int EDITS_A_RUN = 1_000;
  private static final int TELLS_EVERY = 25;

  Outcome run(Path folder, Path demo) throws IOException, InterruptedException {
    Site site =
        Site.in(Files.createDirectories(folder.resolve("shot")), folder.resolve("home"), demo);
    Random random = new Random(seed);
    List<String> faults = new ArrayList<>();
    for (int i = 0; i < kills; i++) {
      String at = "kill " + (i + 1) + ": ";
      try (Window w = new Window(site.project(), site.home())) {
        w.awaitReady();
        w.say("edits " + i * EDITS_A_RUN + " " + (80 + random.nextInt(600)));
        if (busy) {
          w.say("saves " + (200 + random.nextInt(2_000)));
          w.say("sends " + (300 + random.nextInt(2_000)));
        }
        Thread.sleep(random.nextInt(LONGEST));
        long killed = w.kill();
        List<String> due = w.editsBefore(killed - MAY_BE_LOST);
        site.faults(due).forEach(f -> faults.add(at + f));
        site.discard();
        if ((i + 1) % TELLS_EVERY == 0) {
          System.out.println(kind() + ": " + (i + 1) + " so far, " + faults.size() + " faults");
        }
      } catch (IllegalStateException e) {
        faults.add(at + e.getMessage());
      }
    }
    lastRun(site, faults);
    return new Outcome(kind(), kills, faults);
  }

  private String kind() {
    return busy ? "killed while saving and sending" : "killed while editing";
  }

  /** A run that ends well leaves nothing lying about. */
  private void lastRun(Site site, List<String> faults) throws IOException, InterruptedException {
    try (Window w = new Window(site.project(), site.home())) {
      w.awaitReady();
      w.say("edit " + kills * EDITS_A_RUN);
      w.await(0, l -> l.startsWith("edit"));
      w.say("send");
      w.await(0, l -> l.contains("mer_010_terrace_comp.csv") || l.contains("Compositing"));
      w.say("save");
      w.await(0, l -> l.startsWith("said Saved"));
      w.quit();
    }
    site.faults(List.of(String.format(java.util.Locale.ROOT, "k%06d", kills * EDITS_A_RUN)))
        .forEach(faults::add);
    site.litter().forEach(l -> faults.add("left lying: " + l));
  }
}
