package flarvo.project;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Where settings and kept work lie, and that nothing is lost on the way there. */
class UserFolderTest {

  @TempDir private Path dir;

  private UserFolder.Places places() {
    return new UserFolder.Places(dir.resolve("config"), dir.resolve("data"), dir.resolve("log"));
  }

  private Path old(String name, String text) throws IOException {
    Path p = dir.resolve("old").resolve(name);
    Files.createDirectories(p.getParent());
    return Files.writeString(p, text);
  }

  @Test
  void whatStoodInTheOldFolderIsMovedOver() throws IOException {
    old("preferences.json", "{}");
    old("mappings.json", "[]");
    old("recent.txt", "/a/b.json\n");
    old("recovery/x_y.json", "kept");
    UserFolder.moveOver(dir.resolve("old"), places());
    assertThat(dir.resolve("config/preferences.json")).hasContent("{}");
    assertThat(dir.resolve("config/mappings.json")).hasContent("[]");
    assertThat(dir.resolve("data/recent.txt")).hasContent("/a/b.json\n");
    assertThat(dir.resolve("data/recovery/x_y.json")).hasContent("kept");
    assertThat(dir.resolve("old")).doesNotExist();
    UserFolder.moveOver(dir.resolve("old"), places());
    assertThat(dir.resolve("data/recovery/x_y.json")).hasContent("kept");
  }

  @Test
  void whatIsNewerStaysAndSoDoesTheDemo() throws IOException {
    Path stays = old("preferences.json", "old");
    Path demo = old("demo/project.json", "{}");
    Files.createDirectories(dir.resolve("config"));
    Files.writeString(dir.resolve("config/preferences.json"), "new");
    UserFolder.moveOver(dir.resolve("old"), places());
    assertThat(dir.resolve("config/preferences.json")).hasContent("new");
    assertThat(stays).hasContent("old");
    assertThat(demo).exists();
  }
}
