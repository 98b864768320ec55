package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Plain imports on the command line. */
class ImportAsCommandTest {

  @TempDir Path dir;
  private Path solve;

  /** A camera that moves along X, a tenth of a metre a frame, and three points 10 m away. */
  @BeforeEach
  void solve() throws Exception {
    solve = dir.resolve("solve.csv");
    StringBuilder rows =
        new StringBuilder(
            "# rate=24\n# rotation=XYZ\n# angles=degrees\n"
                + "frame,tx,ty,tz,rx,ry,rz,focal_mm,film_width_mm,film_height_mm\n");
    for (int f = 1001; f <= 1012; f++) {
      rows.append(
          String.format(Locale.ROOT, "%d,%.3f,0,0,0,0,0,25,24,13.5%n", f, (f - 1001) * 0.1));
    }
    Files.writeString(solve, rows.toString());
    Files.writeString(
        dir.resolve("solve.trackers.csv"), "tracker,x,y,z\na,0,0,-10\nb,1,1,-10\nc,-1,0.5,-10\n");
  }

  private Path sent(String name, Object... options) {
    Path out = dir.resolve(name);
    Object[] all = new Object[options.length + 6];
    all[0] = "convert";
    all[1] = solve;
    all[2] = "--out";
    all[3] = out;
    all[4] = "--size";
    all[5] = "1920x1080";
    System.arraycopy(options, 0, all, 6, options.length);
    assertThat(run(all).err()).isEmpty();
    return out;
  }

  @Test
  void aFileThatSuitsItsRecipientHolds() {
    Path fbx = sent("ok.fbx", "--to", "anim-yup-cm");
    Said s = run("import-as", "anim-yup-cm", fbx);
    assertThat(s.err()).isEmpty();
    assertThat(s.code()).as(s.out()).isZero();
    assertThat(s.out())
        .startsWith("anim-yup-cm: A plain import is right as it comes.")
        .contains("Rate               24  (from the file)")
        .contains("assumed: the plate is numbered as the file's frames");
  }

  @Test
  void whatWouldBeWrongHasADriftAndTwoWaysOut() {
    Path fbx = sent("late.fbx", "--to", "track-zup", "--first-frame", "0");
    Said s = run("import-as", "track-zup", fbx, "--json");
    assertThat(s.code()).as(s.out()).isEqualTo(1);
    JsonNode r = s.json().get("imports").get(0);
    assertThat(r.get("holds").asBoolean()).isFalse();
    JsonNode b = r.get("bites").get(0);
    assertThat(b.get("setting").asText()).isEqualTo("first-frame");
    // 0.1 m at 10 m through 25 mm on a back of 24 mm, 1920 wide.
    assertThat(b.get("driftPx").asDouble()).isCloseTo(0.1 / 10 * 25 / 24 * 1920, within(1e-3));
    assertThat(b.get("change").asText()).isEqualTo("Deliver from frame 1");
    assertThat(b.get("ask").asText()).isEqualTo("Lay the first picture of the plate on frame 0");
    assertThat(r.get("pictureFirst").asInt()).isEqualTo(1);
    Said text = run("import-as", "track-zup", fbx);
    assertThat(text.out()).contains("WRONG").contains("sender:    Deliver from frame 1");
  }

  @Test
  void platesThatAreNumberedOtherwiseAreGiven() {
    Path usd = sent("own.usda", "--to", "comp-yup", "--first-frame", "1");
    assertThat(run("import-as", "comp-yup", usd).code()).isZero();
    Said s = run("import-as", "comp-yup", usd, "--plate-first", "1001", "--json");
    assertThat(s.code()).isEqualTo(1);
    assertThat(s.json().get("imports").get(0).get("bites").get(0).get("says").asText())
        .contains("from 1001, and this file at 1: its picture would be 1000 frames late");
  }

  @Test
  void aShotIsPassedOn() {
    Path fbx = sent("chain.fbx", "--to", "anim-zup-cm");
    Said s =
        run(
            "import-as",
            "anim-zup-cm",
            fbx,
            "--then",
            "engine-yup-m",
            "--then",
            "track-zup:usd-text",
            "--json");
    assertThat(s.err()).isEmpty();
    JsonNode all = s.json().get("imports");
    assertThat(all).hasSize(3);
    assertThat(all.get(2).get("recipient").asText()).isEqualTo("track-zup");
    assertThat(all.get(2).get("totalDriftPx").asDouble())
        .isCloseTo(0.1 / 10 * 25 / 24 * 1920, within(1e-2));
    assertThat(all.get(1).get("totalDriftPx").asDouble()).isLessThan(0.01);
    assertThat(s.code()).isEqualTo(1);
    assertThat(run("import-as", "anim-zup-cm", fbx, "--then", "engine-yup-m").out())
        .contains("since the first file");
  }

  @Test
  void whatAFileDoesNotStateIsSaidAndNotCalledRight() {
    Path points = dir.resolve("solve.trackers.csv");
    assertThat(run("import-as", "anim-zup-m", points).out())
        .contains("the file does not state: rate, frame range, unit, world axes");
    Path fbx = sent("whole.fbx", "--to", "anim-yup-cm");
    assertThat(run("import-as", "anim-yup-cm", fbx).out()).doesNotContain("does not state");
  }

  @Test
  void whatCannotBeReadOrIsNotKnownIsOneError() throws Exception {
    Path fbx = sent("x.fbx", "--to", "anim-zup-m");
    assertThat(run("import-as", "nobody", fbx).err()).contains("there is no dialect 'nobody'");
    assertThat(run("import-as", "anim-zup-m", fbx, "--then", "anim-zup-m:zip").err())
        .contains("there is no format 'zip'");
    Path bad = Files.writeString(dir.resolve("bad.usda"), "#usda 1.0\n(");
    Said s = run("import-as", "anim-zup-m", bad);
    assertThat(s.code()).isEqualTo(2);
    assertThat(s.err().strip().lines()).hasSize(1);
  }
}
