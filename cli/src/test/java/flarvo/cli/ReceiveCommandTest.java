package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLock;
import flarvo.project.ProjectShot;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The demo's folders, found and added to a project of their own. */
class ReceiveCommandTest {

  private static final Path MERIDIAN = Path.of("../demo/meridian");

  @TempDir private Path dir;

  @Test
  void theDemosShotsAreFoundWithTheirQuestions() throws Exception {
    Path list = dir.resolve("list.csv");
    Files.writeString(
        list,
        "shot,first,last,handles,fps\nmer_010_terrace,1009,1088,8,24000/1001\n"
            + "mer_020_dome,1001,1048,,24\nmer_030_cart,1,60,,\nmer_040,1,2,,\n");
    Path project = dir.resolve("show/project.json");
    Files.createDirectories(project.getParent());
    Said s =
        run(
            "receive",
            MERIDIAN,
            "--list",
            list,
            "--project",
            project,
            "--json",
            "--board",
            "usual");
    assertThat(s.code()).as(s.err()).isEqualTo(1);
    JsonNode shots = s.json().get("shots");
    assertThat(shots.findValuesAsText("name"))
        .containsExactly("mer_010_terrace", "mer_020_dome", "mer_030_cart");
    assertThat(shots.get(0).get("open").findValuesAsText("fact")).contains("rate", "firstFrame");
    assertThat(s.json().get("notes").toString()).contains("mer_040").contains("returns");
    assertThat(shots.get(1).get("notes").toString()).contains("none of them is there");

    ProjectFile made = ProjectFile.read(project);
    assertThat(made.shots()).extracting(ProjectShot::name).hasSize(3);
    assertThat(made.shots().get(0).lists().get(0).shot()).isEqualTo("mer_010_terrace");
    assertThat(made.shots().get(2).deliveries())
        .extracting(d -> d.name())
        .containsExactly("Animation", "Compositing", "Lighting", "Engine");
    assertThat(run("receive", MERIDIAN, "--project", project, "--board", "none").err())
        .contains("there is no saved board 'none'");
    // The files, the list and the plates are found from where the project lies.
    Said sent = run("replay", project, "--shot", "mer_020_dome");
    assertThat(sent.code()).as(sent.err()).isZero();

    Said again = run("receive", MERIDIAN, "--list", list, "--project", project);
    assertThat(again.code()).isZero();
    assertThat(again.out()).contains("in the project already").contains("no shot added");
    assertThat(Files.readString(project)).contains("list.csv");
    Files.writeString(list, "shot\nother\n");
    assertThat(run("replay", project, "--shot", "mer_020_dome").err())
        .contains("mer_020_dome is no longer in the list");
  }

  @Test
  void aProjectThatIsOpenElsewhereIsLeftAlone() throws Exception {
    Path project = dir.resolve("project.json");
    new ProjectFile(project, "show", List.of()).save();
    byte[] before = Files.readAllBytes(project);
    ProjectLock lock = ProjectLock.take(project).orElseThrow();
    try {
      Said s = run("receive", MERIDIAN, "--project", project);
      assertThat(s.code()).isEqualTo(2);
      assertThat(s.err()).contains("the project is open");
      assertThat(Files.readAllBytes(project)).isEqualTo(before);
    } finally {
      lock.release();
    }
  }

  @Test
  void aBrokenShotIsNamedAndTheRestIsAdded() throws Exception {
    for (String name : List.of("roof", "yard", "wall")) {
      Path solve = Files.createDirectories(dir.resolve("show/" + name + "/solve"));
      try (Stream<Path> in = Files.list(MERIDIAN.resolve("mer_030_cart/incoming"))) {
        for (Path p : (Iterable<Path>) in::iterator) {
          Files.copy(p, solve.resolve(p.getFileName()));
        }
      }
    }
    Path glb = dir.resolve("show/yard/solve/mer_030_cart_camera.glb");
    Files.write(glb, java.util.Arrays.copyOf(Files.readAllBytes(glb), 400));
    Files.delete(dir.resolve("show/wall/solve/mer_030_cart_camera.glb"));
    Said s = run("receive", dir.resolve("show"), "--project", dir.resolve("p.json"));
    assertThat(s.code()).isEqualTo(1);
    assertThat(s.out())
        .containsPattern("yard +not added: mer_030_cart_camera.glb")
        .containsPattern("wall +not added: .*no camera")
        .contains("1 shot added");
  }

  @Test
  void foldersOfNamedShots() {
    assertThat(run("folders", dir, "sh010", "sh020").out()).contains("folders of 2 shots");
    assertThat(dir.resolve("sh020/plates/undistorted")).isDirectory();
    assertThat(run("folders", dir, "sh010").out()).contains("nothing to make");
    assertThat(run("folders", dir, "../sh").code()).isEqualTo(2);
    assertThat(run("folders", dir).err()).contains("no shot given");
  }
}
