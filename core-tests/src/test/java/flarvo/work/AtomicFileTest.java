package flarvo.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
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

  private static void put(Path f, String text) {
    AtomicFile.write(f, out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
  }

  @Test
  void newFilesFollowTheMaskAndExistingOnesKeepTheirRights() throws IOException {
    Path plain = Files.createFile(dir.resolve("as others make it"));
    Path f = dir.resolve("new.txt");
    put(f, "a");
    assertThat(Files.getPosixFilePermissions(f)).isEqualTo(Files.getPosixFilePermissions(plain));
    for (String rights : new String[] {"rw-rw-r--", "rw-------", "rwxr-xr--"}) {
      Files.setPosixFilePermissions(f, PosixFilePermissions.fromString(rights));
      put(f, rights);
      assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(f))).isEqualTo(rights);
      assertThat(f).hasContent(rights);
    }
  }

  @Test
  void aLinkIsFollowedAndNotReplaced() throws IOException {
    Path real = dir.resolve("shared/real.txt");
    put(real, "old");
    Path link = Files.createSymbolicLink(dir.resolve("link"), Path.of("shared/real.txt"));
    put(link, "new");
    assertThat(link).isSymbolicLink();
    assertThat(real).hasContent("new");
    Path ahead = Files.createSymbolicLink(dir.resolve("ahead"), Path.of("shared/later.txt"));
    put(ahead, "first");
    assertThat(dir.resolve("shared/later.txt")).hasContent("first");
    Path round = dir.resolve("round");
    Files.createSymbolicLink(round, round);
    assertThatThrownBy(() -> put(round, "x")).hasMessageContaining("in a circle");
  }

  @Test
  void aNameMayBeAsLongAsTheDiskAllows() {
    Path f = dir.resolve("x".repeat(251) + ".csv");
    put(f, "long");
    assertThat(f).hasContent("long");
  }

  @Test
  void filesOfOneDeliveryAreMovedTogetherOrNotAtAll() throws IOException {
    Path a = dir.resolve("shot.csv");
    Path b = dir.resolve("shot.trackers.csv");
    put(a, "old a");
    put(b, "old b");
    AtomicFile.Content half =
        out -> {
          out.write(1);
          throw new IOException("disk full");
        };
    assertThatThrownBy(
            () ->
                AtomicFile.write(
                    List.of(
                        new AtomicFile.Target(a, out -> out.write('n')),
                        new AtomicFile.Target(b, half))))
        .hasMessageContaining("shot.trackers.csv");
    assertThat(a).hasContent("old a");
    assertThat(b).hasContent("old b");
    Files.delete(b);
    Files.createDirectories(b.resolve("a folder in the way"));
    assertThatThrownBy(
            () ->
                AtomicFile.write(
                    List.of(
                        new AtomicFile.Target(a, out -> out.write('n')),
                        new AtomicFile.Target(b, out -> out.write('n')))))
        .isInstanceOf(InputError.class);
    assertThat(a).as("moved already, and put back").hasContent("old a");
    try (Stream<Path> all = Files.list(dir)) {
      assertThat(all).containsExactlyInAnyOrder(a, b);
    }
  }

  @Test
  void whatADeadProcessLeftIsRemovedAndWhatALivingOneWritesStays() throws Exception {
    Process child = new ProcessBuilder("sleep", "60").start();
    Process gone = new ProcessBuilder("true").start();
    gone.waitFor();
    Path deep = Files.createDirectories(dir.resolve("deliveries"));
    put(deep.resolve("probe"), "x"); // looked through once; the next folder shows it
    String mine = Leftovers.name(dir).getFileName().toString();
    Path folder = Files.createDirectories(dir.resolve("other"));
    String pid = "-" + ProcessHandle.current().pid() + "-";
    Path dead = Files.createFile(folder.resolve(mine.replace(pid, "-" + gone.pid() + "-")));
    Path living = Files.createFile(folder.resolve(mine.replace(pid, "-" + child.pid() + "-")));
    Path elsewhere = Files.createFile(folder.resolve(".flarvo-1a2b-" + gone.pid() + "-7.part"));
    try {
      put(folder.resolve("f.txt"), "x");
    } finally {
      child.destroy();
    }
    assertThat(dead).doesNotExist();
    assertThat(living).exists();
    assertThat(elsewhere).as("of another machine").exists();
  }
}
