package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A project's board and its note on the command line, with the demo project. */
class SendAndNoteTest {

  @TempDir Path dir;
  private Path project;

  @BeforeEach
  void demo() throws IOException {
    Path demo = Path.of("../demo/meridian");
    try (Stream<Path> all = Files.walk(demo)) {
      List<Path> files = all.filter(Files::isRegularFile).toList();
      for (Path f : files) {
        Path to = dir.resolve(demo.relativize(f).toString());
        if (!to.toString().contains("deliveries")) {
          Files.createDirectories(to.getParent());
          Files.copy(f, to);
        }
      }
    }
    project = dir.resolve("project.json");
  }

  @Test
  void aBoardIsSentAndItsNoteWritten() throws Exception {
    Said before = run("note", project);
    assertThat(before.code()).isEqualTo(2);
    assertThat(before.err()).contains("none of the shot's deliveries is there");
    Said one = run("send", project, "--recipient", "Animation", "--json");
    assertThat(one.err()).isEmpty();
    assertThat(one.code()).isZero();
    assertThat(one.json().get("deliveries")).hasSize(1);
    assertThat(one.json().get("deliveries").get(0).get("beside")).isEmpty();
    assertThat(dir.resolve("deliveries/mer_010_terrace_anim.usda")).exists();
    Said again = run("send", project);
    assertThat(again.code()).as("nothing is replaced unasked").isEqualTo(2);
    assertThat(again.out())
        .contains("Animation was not sent: ")
        .contains("--overwrite")
        .contains("Game engine holds:");
    Said all = run("send", project, "--overwrite");
    assertThat(all.code()).isZero();
    assertThat(all.out())
        .contains("  wrote mer_010_terrace_comp.csv")
        .contains("  wrote mer_010_terrace_comp.trackers.csv");
    Said note = run("note", project, "--json");
    assertThat(note.err()).isEmpty();
    assertThat(note.code()).isZero();
    JsonNode n = note.json();
    assertThat(n.get("sentence").asText()).startsWith("3 of 3 deliveries proven");
    assertThat(n.get("notSent")).isEmpty();
    Path page = Path.of(n.get("files").get(0).asText());
    assertThat(page).isEqualTo(dir.resolve("deliveries/mer_010_terrace_note.html")).exists();
    Files.delete(dir.resolve("deliveries/mer_010_terrace_comp.csv"));
    Said less = run("note", project);
    assertThat(less.out()).contains("Compositing was not sent and is not in the note");
  }

  @Test
  void tracksGoAlongAndAProofWithoutTheBoardSaysThatItCannotSeeThem() throws Exception {
    String board = Files.readString(project);
    Files.writeString(project, board.replace("\"trackers\" ]", "\"trackers\", \"tracks\" ]"));
    Said sent = run("send", project, "--recipient", "Animation");
    assertThat(sent.code()).as(sent.err()).isZero();
    assertThat(sent.out())
        .contains("  wrote mer_010_terrace_anim_tracks.csv")
        .contains("2D tracks: on the undistorted plates of 960x540");
    Path file = dir.resolve("deliveries/mer_010_terrace_anim.usda");
    String[] prove = {
      "prove",
      dir.resolve("mer_010_terrace/solve/mer_010_terrace_solve.usda").toString(),
      file.toString(),
      "--to",
      "anim-yup-cm"
    };
    assertThat(run((Object[]) prove).out())
        .contains("ignored: mer_010_terrace_anim_tracks.csv: lies beside the file");
    Files.delete(dir.resolve("deliveries/mer_010_terrace_anim_tracks.csv"));
    assertThat(run((Object[]) prove).out()).doesNotContain("lies beside");
  }

  /** Versions count up within a board too; without them the second has no file of its own. */
  @Test
  void twoDeliveriesOfOneNameDoNotOverwriteEachOther() throws Exception {
    String board = Files.readString(project);
    String anim = "mer_010_terrace_anim.usda";
    String engine = "mer_010_terrace_engine.fbx";
    assertThat(board).contains(anim).contains(engine);
    Files.writeString(project, board.replace(engine, "sent.x").replace(anim, "sent.x"));
    Said same = run("send", project, "--overwrite");
    assertThat(same.code()).isEqualTo(2);
    assertThat(same.out())
        .contains("Animation holds:")
        .contains("Game engine was not sent: ")
        .contains("sent.x: is also the file of Animation. Use {recipient} in the name");
    Files.writeString(
        project, board.replace(engine, "s_{version}.x").replace(anim, "s_{version}.x"));
    Said versions = run("send", project, "--overwrite");
    assertThat(versions.code()).as(versions.out()).isZero();
    assertThat(versions.out()).contains("  wrote s_001.x").contains("  wrote s_002.x");
  }

  @Test
  void whoIsNotOnTheBoardIsNamed() {
    Said s = run("send", project, "--recipient", "Nobody");
    assertThat(s.code()).isEqualTo(2);
    assertThat(s.err()).contains("there is no delivery 'Nobody'").contains("Animation");
  }
}
