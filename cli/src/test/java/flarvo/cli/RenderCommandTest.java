package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Witness pictures and passes of the demo from the command line. */
class RenderCommandTest {

  private static final Path PROJECT = Path.of("../demo/meridian/project.json").toAbsolutePath();

  @TempDir private Path dir;

  @Test
  void picturesPassesMovieAndAnimation() {
    Path out = dir.resolve("out");
    Said r =
        run(
            "render",
            PROJECT,
            "--shot",
            "mer_010_terrace",
            "--out",
            out,
            "--passes",
            "--frames",
            "1010-1012",
            "--movie",
            out.resolve("t.mp4"),
            "--animation",
            out.resolve("t.gif"),
            "--json");
    assertThat(r.code()).as(r.err()).isZero();
    assertThat(r.json().get("frames")).hasSize(3);
    assertThat(r.json().get("picture").get(0).asInt()).isEqualTo(960);
    for (String f :
        new String[] {
          "mer_010_terrace_witness.1010.png", "mer_010_terrace_passes.1012.exr", "t.mp4", "t.gif"
        }) {
      assertThat(out.resolve(f)).isNotEmptyFile();
    }
    assertThat(out.resolve("mer_010_terrace_witness.1013.png")).doesNotExist();
    // What is there is kept.
    Said again =
        run("render", PROJECT, "--shot", "mer_010_terrace", "--out", out, "--frames", "1012-1014");
    assertThat(again.code()).isNotZero();
    assertThat(again.err()).contains("the file exists");
    assertThat(out.resolve("mer_010_terrace_witness.1013.png")).doesNotExist();
  }

  @Test
  void whatCannotBeDoneIsSaid() {
    assertThat(refused("--holdout", "wall")).contains("nothing called 'wall' to hold out");
    assertThat(refused("--frames", "soon")).contains("'soon' is not a frame range");
    assertThat(refused("--frames", "1012-1010")).contains("1012");
    assertThat(refused("--frames", "900-901")).contains("not all in the shot");
    assertThat(refused("--light", "0,-1,0")).contains("under the ground");
    assertThat(refused("--light", "up")).contains("'up' is no direction");
    assertThat(refused("--no-witness", "--movie", "m.mp4")).contains("made of witness pictures");
    assertThat(refused("--overscan", "-1")).contains("overscan");
  }

  private String refused(String... words) {
    Object[] all = new Object[6 + words.length];
    all[0] = "render";
    all[1] = PROJECT;
    all[2] = "--shot";
    all[3] = "mer_010_terrace";
    all[4] = "--out";
    all[5] = dir.resolve("none");
    System.arraycopy(words, 0, all, 6, words.length);
    Said r = run(all);
    assertThat(r.code()).isNotZero();
    assertThat(dir.resolve("none")).doesNotExist();
    return r.err();
  }
}
