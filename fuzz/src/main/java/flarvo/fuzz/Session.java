package flarvo.fuzz;

import com.code_intelligence.jazzer.Jazzer;
import flarvo.report.InputError;
import java.io.File;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * One reader fuzzed in a process of its own, with half a gigabyte of heap.
 *
 * @param reader its name
 * @param seeds inputs to begin with; files that they refer to lie in a folder {@code beside} among
 *     them, words of the format in {@code words.dict}
 * @param inputs after which it ends before the time is over; −1 for as many as there are
 * @param start of the random numbers; 0 for another one at each run
 * @param folder for the log, what was found, and the inputs that reached something new
 */
record Session(String reader, Path seeds, long seconds, long inputs, int start, Path folder) {

  /** An input that takes longer by the clock ends the process, in seconds. */
  private static final int HANGS = 60;

  private static final int MOST_FINDINGS = 20;
  private static final Pattern DONE = Pattern.compile("(?:Done |#)(\\d+)[ \\t]");
  private static final Pattern FINDING = Pattern.compile("== Java Exception: (.*)");

  /**
   * @param findings one line each
   */
  record Result(String reader, long inputs, List<String> findings, Path log) {
    String line() {
      String head =
          String.format(
              Locale.ROOT,
              "%-12s %,12d inputs  %s",
              reader,
              inputs,
              findings.isEmpty() ? "nothing found" : findings.size() + " found, see " + log);
      return findings.isEmpty() ? head : head + "\n    " + String.join("\n    ", findings);
    }
  }

  /** Runs until the time is over or there is too much to look at. */
  Result run() throws IOException, InterruptedException {
    if (!Files.isDirectory(seeds)) {
      throw new InputError(seeds.toString(), "", "the reader has no seeds", "Add some");
    }
    Path found = folder.resolve("corpus");
    Files.createDirectories(found);
    Path work = workFolder();
    Path log = folder.resolve("log.txt");
    try {
      lay(seeds.resolve("beside"), work);
      Process p = begin(found, work, log);
      boolean ended = p.waitFor(seconds + 3L * HANGS, TimeUnit.SECONDS);
      if (!ended) {
        p.destroyForcibly().waitFor();
      }
      return result(p.exitValue(), ended, log);
    } finally {
      remove(work);
    }
  }

  /** In memory where the system has a place for that: each input is written to a file. */
  private static Path workFolder() throws IOException {
    Path memory = Path.of("/dev/shm");
    return Files.isWritable(memory)
        ? Files.createTempDirectory(memory, "flarvo-fuzz")
        : Files.createTempDirectory("flarvo-fuzz");
  }

  private static void lay(Path beside, Path work) throws IOException {
    if (Files.isDirectory(beside)) {
      try (Stream<Path> list = Files.list(beside)) {
        for (Path p : list.toList()) {
          Files.copy(p, work.resolve(p.getFileName()));
        }
      }
    }
  }

  private Process begin(Path found, Path work, Path log) throws IOException {
    List<String> line = new ArrayList<>();
    line.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    line.addAll(List.of("-Xmx512m", "-XX:+UseSerialGC", "-XX:-OmitStackTraceInFastThrow"));
    if (inputs >= 0) {
      line.add("-XX:TieredStopAtLevel=1"); // a short run would be half spent on compiling
    }
    line.addAll(List.of("-Djava.awt.headless=true", "-Djava.io.tmpdir=" + work));
    line.addAll(List.of("-cp", System.getProperty("java.class.path"), Jazzer.class.getName()));
    line.add("--target_class=" + ReaderTarget.class.getName());
    line.add("--target_args=" + reader + " " + work);
    line.add("--instrumentation_includes=flarvo.**");
    line.add("--custom_hook_includes=flarvo.**");
    line.add("--keep_going=" + MOST_FINDINGS);
    line.add("--reproducer_path=" + work);
    line.add("-artifact_prefix=" + folder + File.separator);
    line.add("-max_total_time=" + seconds);
    line.add("-runs=" + inputs);
    line.add("-seed=" + start);
    line.add("-timeout=" + HANGS);
    line.add("-max_len=65536");
    line.add("-rss_limit_mb=2048"); // of the whole process, the fuzzer's own memory included
    line.add("-print_final_stats=1");
    Path words = seeds.resolve("words.dict");
    if (Files.isRegularFile(words)) {
      line.add("-dict=" + words);
    }
    line.add(found.toString());
    line.add(seeds.toString());
    return new ProcessBuilder(line).redirectErrorStream(true).redirectOutput(log.toFile()).start();
  }

  private Result result(int exit, boolean ended, Path log) throws IOException {
    String text = Files.readString(log, StandardCharsets.ISO_8859_1);
    long inputs = 0;
    Matcher m = DONE.matcher(text);
    while (m.find()) {
      inputs = Math.max(inputs, Long.parseLong(m.group(1)));
    }
    List<String> findings = new ArrayList<>();
    Matcher f = FINDING.matcher(text);
    while (f.find()) {
      findings.add(f.group(1).strip());
    }
    if (!ended || (exit != 0 && findings.isEmpty())) {
      findings.add(
          ended ? "the process ended with exit code " + exit : "the process had to be ended");
    }
    return new Result(reader, inputs, findings, log);
  }

  private static void remove(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path p : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.deleteIfExists(p);
      }
    }
  }
}
