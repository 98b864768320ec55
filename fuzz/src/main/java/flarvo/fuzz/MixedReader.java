package flarvo.fuzz;

import flarvo.report.InputError;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;

/**
 * All readers in one, for a short run: the fuzzer takes some ten seconds to start. The first byte
 * of an input says which reader the rest is for.
 */
final class MixedReader {

  static final String NAME = "every";

  private static final List<Reader> READERS = Reader.all();

  private MixedReader() {}

  static Reader reader() {
    return new Reader(NAME, ".bin", MixedReader::read);
  }

  private static void read(Path mixed) {
    try {
      byte[] all = Files.readAllBytes(mixed);
      if (all.length < 2) {
        return;
      }
      Reader r = READERS.get((all[0] & 0xFF) % READERS.size());
      Path file = mixed.resolveSibling("mixed" + r.extension());
      Files.write(file, Arrays.copyOfRange(all, 1, all.length));
      r.read().accept(file);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /**
   * Puts the seeds of all readers into one folder, each behind its reader's byte.
   *
   * @param corpus a folder for each reader
   */
  static void seeds(Path corpus, Path into) throws IOException {
    Files.createDirectories(into);
    for (int i = 0; i < READERS.size(); i++) {
      Path folder = corpus.resolve(READERS.get(i).name());
      if (!Files.isDirectory(folder)) {
        throw new InputError(folder.toString(), "", "the reader has no seeds", "Add some");
      }
      try (Stream<Path> list = Files.list(folder)) {
        for (Path p : list.filter(Files::isRegularFile).toList()) {
          byte[] seed = Files.readAllBytes(p);
          byte[] all = new byte[seed.length + 1];
          all[0] = (byte) i;
          System.arraycopy(seed, 0, all, 1, seed.length);
          Files.write(into.resolve(folder.getFileName() + "-" + p.getFileName()), all);
        }
      }
    }
  }
}
