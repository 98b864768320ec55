package flarvo.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class AtomicFileTest {

  @TempDir private Path dir;

  @Test
  void aWriteThatFailsHalfWayKeepsTheOldFileAndLeavesNothing() throws IOException {
    Path f = dir.resolve("a.txt");
    AtomicFile.write(f, out -> out.write("old".getBytes(StandardCharsets.UTF_8)));
    assertThatThrownBy(
            () ->
                AtomicFile.write(
                    f,
                    out -> {
                      out.write(new byte[100_000]);
                      throw new IOException("disk full");
                    }))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("disk full");
    assertThatThrownBy(
            () ->
                AtomicFile.write(
                    f,
                    out -> {
                      out.write(1);
                      throw new IllegalStateException("bug");
                    }))
        .isInstanceOf(IllegalStateException.class);
    assertThat(f).hasContent("old");
    try (Stream<Path> all = Files.list(dir)) {
      assertThat(all).containsExactly(f);
    }
  }

  @Test
  void foldersAreMadeAndAFolderInTheWayIsAnError() {
    Path deep = dir.resolve("x/y/z.txt");
    AtomicFile.write(deep, out -> out.write(7));
    assertThat(deep).exists();
    assertThatThrownBy(() -> AtomicFile.write(dir.resolve("x/y"), out -> out.write(7)))
        .isInstanceOf(InputError.class);
  }
}
