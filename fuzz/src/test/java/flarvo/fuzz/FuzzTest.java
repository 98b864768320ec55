package flarvo.fuzz;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Some fuzzing over all readers; {@code ./flarvo fuzz} takes as long as it is given. */
class FuzzTest {

  private static final Path CORPUS = Path.of("corpus");

  /** As many on a busy machine as on a quiet one. */
  private static final long INPUTS = 4000;

  private static final long MOST_SECONDS = 600;

  /** The same at each run: what a test meets must not hang on luck. */
  private static final int START = 7;

  @TempDir Path dir;

  @Test
  void noReaderFailsOnMutatedFiles() throws Exception {
    Path seeds = dir.resolve("seeds");
    MixedReader.seeds(CORPUS, seeds);
    for (Reader r : Reader.all()) {
      Path beside = CORPUS.resolve(r.name()).resolve("beside");
      if (Files.isDirectory(beside)) {
        copy(beside, seeds.resolve("beside"));
      }
    }
    Session.Result result =
        new Session(MixedReader.NAME, seeds, MOST_SECONDS, INPUTS, START, dir.resolve("out")).run();
    System.out.println(result.line());
    assertThat(result.findings()).as(() -> log(result)).isEmpty();
    assertThat(result.inputs()).isGreaterThanOrEqualTo(INPUTS);
  }

  /** Each seed must be worth its place: something is read from it, not refused. */
  @Test
  void everySeedIsReadWhole() throws IOException {
    List<Reader> readers = new ArrayList<>(Reader.all());
    readers.addAll(Reader.decoded());
    for (Reader r : readers) {
      Path folder = CORPUS.resolve(r.name());
      Path work = Files.createDirectories(dir.resolve(r.name()));
      if (Files.isDirectory(folder.resolve("beside"))) {
        copy(folder.resolve("beside"), work);
      }
      try (Stream<Path> list = Files.list(folder)) {
        for (Path p : list.filter(Files::isRegularFile).toList()) {
          if (!p.toString().endsWith(".dict")) {
            read(r, Files.copy(p, work.resolve("seed-" + p.getFileName())));
          }
        }
      }
    }
  }

  /** What the fuzzer found once ends in a clear error, or in something read. */
  @Test
  void whatWasFoundStaysMended() throws IOException {
    for (Reader r : Reader.all()) {
      Path folder = Path.of("found", r.name());
      if (Files.isDirectory(folder)) {
        ReaderTarget.fuzzerInitialize(
            new String[] {r.name(), Files.createDirectories(dir.resolve(r.name())).toString()});
        try (Stream<Path> list = Files.list(folder)) {
          for (Path p : list.toList()) {
            byte[] data = Files.readAllBytes(p);
            assertThatCode(() -> ReaderTarget.fuzzerTestOneInput(data))
                .as(p.toString())
                .doesNotThrowAnyException();
          }
        }
      }
    }
  }

  private static void read(Reader r, Path seed) {
    try {
      r.read().accept(seed);
    } catch (InputError e) {
      // Files of points or tracks alone make no shot; anything else is a bad seed.
      assertThat(e.getMessage()).contains("camera");
    }
  }

  private static void copy(Path from, Path to) throws IOException {
    Files.createDirectories(to);
    try (Stream<Path> list = Files.list(from)) {
      for (Path p : (Iterable<Path>) list::iterator) {
        if (!Files.exists(to.resolve(p.getFileName()))) {
          Files.copy(p, to.resolve(p.getFileName()));
        }
      }
    }
  }

  private static String log(Session.Result result) {
    try {
      List<String> lines = Files.readAllLines(result.log());
      int from = 0;
      while (from < lines.size() && !lines.get(from).contains("== Java Exception")) {
        from++;
      }
      return String.join("\n", lines.subList(from, Math.min(lines.size(), from + 60)));
    } catch (IOException e) {
      return e.toString();
    }
  }
}
