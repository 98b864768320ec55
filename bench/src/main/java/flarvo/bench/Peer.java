package flarvo.bench;

import java.io.IOException;
import java.io.Reader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.concurrent.TimeUnit;

/** Programs that measure a library that we did not write, and print milliseconds. */
final class Peer {

  private Peer() {}

  /** The peer's own best time, without its start; empty where it is not here, or fails. */
  static OptionalDouble python(Path peers, String script, String... arguments) throws IOException {
    List<String> all = new ArrayList<>(List.of(peers.resolve(script).toString()));
    all.addAll(List.of(arguments));
    return time(peers.resolve("../.peers/bin/python").normalize(), all.toArray(String[]::new));
  }

  /** Its time, and how many times as long ours took, in milliseconds. */
  static String words(String peer, double ours, OptionalDouble theirs) {
    return theirs.isPresent()
        ? String.format(
            Locale.ROOT,
            "%s %.0f ms; ratio %.2f",
            peer,
            theirs.getAsDouble(),
            ours / theirs.getAsDouble())
        : peer + " is not here; './flarvo peers' fetches it";
  }

  /**
   * The peer's own best time, by a script of the glTF libraries, which stand beside their packages.
   */
  static OptionalDouble node(Path peers, String script, String... arguments) throws IOException {
    Path at = peers.resolve("../.peers/gltf").normalize().resolve(script);
    if (!Files.isReadable(at)) {
      return OptionalDouble.empty();
    }
    List<String> command = new ArrayList<>(List.of("node", at.toString()));
    command.addAll(List.of(arguments));
    return time(command);
  }

  /** The same of any program. */
  static OptionalDouble time(Path program, String... arguments) throws IOException {
    if (!Files.isExecutable(program)) {
      return OptionalDouble.empty();
    }
    List<String> command = new ArrayList<>(List.of(program.toString()));
    command.addAll(List.of(arguments));
    return time(command);
  }

  private static OptionalDouble time(List<String> command) throws IOException {
    Process p = new ProcessBuilder(command).redirectError(ProcessBuilder.Redirect.DISCARD).start();
    try (Reader out = p.inputReader()) {
      StringBuilder text = new StringBuilder();
      for (int c = out.read(); c >= 0; c = out.read()) {
        text.append((char) c);
      }
      if (p.waitFor(1, TimeUnit.MINUTES) && p.exitValue() == 0) {
        return OptionalDouble.of(Double.parseDouble(text.toString().strip()));
      }
      return OptionalDouble.empty();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return OptionalDouble.empty();
    }
  }
}
