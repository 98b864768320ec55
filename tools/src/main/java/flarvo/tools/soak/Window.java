package flarvo.tools.soak;

import flarvo.project.UserFolder;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;

/** A window in a process of its own, and what it told. */
final class Window implements AutoCloseable {

  private static final long LONGEST_SECONDS = 90;

  private final Process process;
  private final PrintWriter to;
  private final List<String> told = new ArrayList<>();
  private final Thread ears;

  Window(Path project, Path home) throws IOException {
    process =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-Xmx1g",
                "-D" + UserFolder.PROPERTY + "=" + home,
                "-cp",
                System.getProperty("java.class.path"),
                SoakedMain.class.getName(),
                project.toString())
            .redirectError(ProcessBuilder.Redirect.DISCARD)
            .start();
    to = new PrintWriter(process.getOutputStream(), true, StandardCharsets.UTF_8);
    ears = new Thread(this::listen, "told by " + process.pid());
    ears.setDaemon(true);
    ears.start();
  }

  private void listen() {
    try (BufferedReader in =
        new BufferedReader(
            new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        synchronized (told) {
          told.add(line);
          told.notifyAll();
        }
      }
    } catch (IOException e) {
      // The process was ended; what came before counts.
    }
  }

  void say(String line) {
    to.println(line);
  }

  /** Waits for a line that is told after a place in the list. */
  String await(int after, Predicate<String> line) throws InterruptedException {
    long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(LONGEST_SECONDS);
    synchronized (told) {
      int at = after;
      while (true) {
        for (; at < told.size(); at++) {
          if (line.test(told.get(at))) {
            return told.get(at);
          }
        }
        long left = TimeUnit.NANOSECONDS.toMillis(until - System.nanoTime());
        if (left <= 0 || !ears.isAlive() && !process.isAlive()) {
          throw new IllegalStateException("the window did not answer; it told " + told);
        }
        told.wait(Math.min(left, 500));
      }
    }
  }

  void awaitReady() throws InterruptedException {
    await(0, "ready"::equals);
  }

  /** How many lines it told by now. */
  int count() {
    synchronized (told) {
      return told.size();
    }
  }

  /** Ends it without a word, as a crash does; tells when, in milliseconds. */
  long kill() throws InterruptedException {
    long at = System.currentTimeMillis();
    process.destroyForcibly().waitFor();
    ears.join(TimeUnit.SECONDS.toMillis(LONGEST_SECONDS));
    return at;
  }

  /** Names of edits that were made before a time. */
  List<String> editsBefore(long millis) {
    synchronized (told) {
      return told.stream()
          .map(l -> l.split(" "))
          .filter(w -> w[0].equals("edit") && Long.parseLong(w[2]) <= millis)
          .map(w -> w[1])
          .toList();
    }
  }

  /** Ends it as its user does. */
  void quit() throws InterruptedException {
    say("quit");
    if (!process.waitFor(LONGEST_SECONDS, TimeUnit.SECONDS)) {
      throw new IllegalStateException("the window does not close");
    }
  }

  @Override
  public void close() {
    process.destroyForcibly();
  }
}
