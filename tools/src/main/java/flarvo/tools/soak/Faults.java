package flarvo.tools.soak;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** A full disk, a disk that lets nothing be written, a folder that is gone, two windows. */
final class Faults {

  /** Bytes of the small disk. */
  private static final int SMALL = 2 << 20;

  private final Path folder;
  private final Path demo;
  private final List<String> faults = new ArrayList<>();

  Faults(Path folder, Path demo) {
    this.folder = folder;
    this.demo = demo;
  }

  Outcome run() throws IOException, InterruptedException {
    int tries = 2;
    vanishedFolder();
    twoWindows();
    Path disk = Files.createDirectories(folder.resolve("disk"));
    if (command("mount", "-t", "tmpfs", "-o", "size=" + SMALL, "tmpfs", disk.toString())) {
      tries += 2;
      try {
        fullDisk(disk);
        readOnlyDisk(disk);
      } finally {
        command("umount", "-l", disk.toString());
      }
    } else {
      System.out.println(
          "full and read-only disks: not tried; only the system's administrator may mount one");
    }
    return new Outcome("faults of disks, and two windows", tries, faults);
  }

  private static boolean command(String... words) throws IOException, InterruptedException {
    try {
      return new ProcessBuilder(words)
              .redirectErrorStream(true)
              .redirectOutput(ProcessBuilder.Redirect.DISCARD)
              .start()
              .waitFor()
          == 0;
    } catch (IOException e) {
      return false; // there is no such command here
    }
  }

  private Site site(Path at, String home) throws IOException {
    return Site.in(Files.createDirectories(at), folder.resolve(home), demo);
  }

  private void check(boolean good, String what) {
    if (!good) {
      faults.add(what);
    }
  }

  /**
   * A disk that is full refuses a save with a word; what was there stays, and saving works again.
   */
  private void fullDisk(Path disk) throws IOException, InterruptedException {
    Site site = site(disk.resolve("full"), "home-full");
    String before = Files.readString(site.project());
    try (Window w = new Window(site.project(), site.home())) {
      w.awaitReady();
      w.say("edit 1");
      Path filler = disk.resolve("filler");
      fill(filler);
      int from = w.count();
      w.say("save");
      String said = w.await(from, l -> l.startsWith("said ") && l.contains("project.json"));
      check(said.contains("space"), "a full disk is not named: " + said);
      check(Files.readString(site.project()).equals(before), "the project changed on a full disk");
      from = w.count();
      w.say("send");
      said = w.await(from, l -> l.contains("deliveries"));
      check(said.contains("space"), "a full disk is not named when sending: " + said);
      Files.delete(filler);
      from = w.count();
      w.say("save");
      w.await(from, l -> l.startsWith("said Saved"));
      w.quit();
    }
    site.faults(List.of("k000001")).forEach(faults::add);
    site.litter().forEach(l -> faults.add("left lying: " + l));
  }

  private static void fill(Path file) throws IOException {
    byte[] block = new byte[1024];
    try (OutputStream out = Files.newOutputStream(file)) {
      while (true) {
        out.write(block);
      }
    } catch (IOException e) {
      // That is what was wanted.
    }
  }

  private void readOnlyDisk(Path disk) throws IOException, InterruptedException {
    Site site = site(disk.resolve("read-only"), "home-read-only");
    String before = Files.readString(site.project());
    command("mount", "-o", "remount,ro", disk.toString());
    try (Window w = new Window(site.project(), site.home())) {
      w.awaitReady();
      w.say("edit 1");
      int from = w.count();
      w.say("save");
      w.await(from, l -> l.startsWith("said ") && l.contains("project.json"));
      Thread.sleep(6_000); // by now it is kept elsewhere
      w.kill();
    } finally {
      command("mount", "-o", "remount,rw", disk.toString());
    }
    check(
        Files.readString(site.project()).equals(before), "the project changed on a read-only disk");
    site.faults(List.of("k000001")).forEach(faults::add);
  }

  /** The project's folder is removed under the open window: the work stays, and can be saved. */
  private void vanishedFolder() throws IOException, InterruptedException {
    Site site = site(folder.resolve("vanishing"), "home-vanishing");
    byte[] project = Files.readAllBytes(site.project());
    try (Window w = new Window(site.project(), site.home())) {
      w.awaitReady();
      w.say("edit 1");
      w.await(0, l -> l.startsWith("edit"));
      SoakMain.remove(site.folder());
      int from = w.count();
      w.say("save");
      w.await(from, l -> l.startsWith("said "));
      Thread.sleep(6_000);
      w.kill();
    }
    // The disk is mounted again: what was not saved is offered.
    if (!Files.exists(site.project())) {
      Files.createDirectories(site.folder());
      Files.write(site.project(), project);
    }
    site.faults(List.of("k000001")).forEach(f -> faults.add("folder gone: " + f));
  }

  /** The second window on a project is told so and saves nothing. */
  private void twoWindows() throws IOException, InterruptedException {
    Site site = site(folder.resolve("two"), "home-two");
    try (Window a = new Window(site.project(), site.home())) {
      a.awaitReady();
      a.say("edit 1");
      a.say("save");
      a.await(0, l -> l.startsWith("said Saved"));
      String saved = Files.readString(site.project(), StandardCharsets.UTF_8);
      try (Window b = new Window(site.project(), site.home())) {
        b.awaitReady();
        b.await(0, l -> l.startsWith("said Read-only"));
        b.say("edit 2");
        int from = b.count();
        b.say("save");
        b.await(from, l -> l.startsWith("said ") && l.contains("has had this project open"));
        check(
            Files.readString(site.project(), StandardCharsets.UTF_8).equals(saved),
            "the second window saved over the first");
        b.quit();
      }
      a.quit();
    }
    site.faults(List.of("k000001", "k000002")).forEach(f -> faults.add("two windows: " + f));
  }
}
