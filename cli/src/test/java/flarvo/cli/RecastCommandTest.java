package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Motion, film and time recast on the command line, and proven there. */
class RecastCommandTest {

  private static final Path SOLVE =
      Path.of("../demo/meridian/mer_010_terrace/solve/mer_010_terrace_solve.usda");

  @TempDir private Path dir;

  private Said convert(Path out, Object... more) {
    return run(args("convert", SOLVE, "--to", "comp-yup", "--out", out, more));
  }

  private Said prove(Path delivered, Object... more) {
    return run(args("prove", SOLVE, "--to", "comp-yup", delivered, "--json", more));
  }

  private static Object[] args(Object... all) {
    Object[] last = (Object[]) all[all.length - 1];
    Object[] out = new Object[all.length - 1 + last.length];
    System.arraycopy(all, 0, out, 0, all.length - 1);
    System.arraycopy(last, 0, out, all.length - 1, last.length);
    return out;
  }

  @Test
  void aCameraIsHeldProvenAndHandedBack() {
    Path held = dir.resolve("held.usda");
    Said s = convert(held, "--hold-camera", "10", "--moving-as", "terrace");
    assertThat(s.code()).as(s.err()).isZero();
    assertThat(s.out()).contains("the camera is held where it is at frame 10");
    Said p = prove(held, "--hold-camera", "10", "--moving-as", "terrace");
    assertThat(p.code()).as(p.out()).isZero();
    assertThat(p.out()).contains("samePicture");
    // Proven as if nothing had been held, it does not hold.
    assertThat(prove(held).code()).isEqualTo(1);

    Path back = dir.resolve("back.usda");
    assertThat(
            run("convert", held, "--to", "comp-yup", "--hold-group", "terrace,10", "--out", back)
                .code())
        .isZero();
    Said same = prove(back);
    assertThat(same.code()).as(same.out()).isZero();
    assertThat(same.json().get("maxDriftPx").asDouble()).isLessThan(1e-3);
  }

  @Test
  void aPartOfThePictureAndAnotherTimeAreProven() throws IOException {
    Path cut = dir.resolve("cut.usda");
    String[] crop = {"--crop", "100,50,640x360", "--resize", "1280x720"};
    assertThat(convert(cut, (Object[]) crop).code()).isZero();
    Said p = prove(cut, (Object[]) crop);
    assertThat(p.code()).as(p.out()).isZero();
    assertThat(run("inspect", cut, "--json").out()).contains("1280");

    Path ramp = dir.resolve("ramp.csv");
    Files.writeString(ramp, "new,old\n1,90\n2,88\n3,86.5\n4,84\n");
    Path slow = dir.resolve("slow.usda");
    assertThat(convert(slow, "--retime", ramp).out()).contains("frames 1-4");
    assertThat(prove(slow, "--retime", ramp).code()).isZero();
    Files.writeString(ramp, "1,90\n3,88\n");
    assertThat(convert(slow, "--overwrite", "--retime", ramp).err())
        .contains("line 2")
        .contains("frame 2 is expected");
  }

  /** The terrace's solve as if it had been made on an object that stands in it. */
  @Test
  void anObjectThatWasSolvedByItselfComesAlong() {
    Path part = dir.resolve("part.usda");
    assertThat(convert(part, "--first-frame", "0").code()).isZero();
    Path both = dir.resolve("both.usda");
    Object[] object = {
      "--object", part, "--object-name", "cart", "--object-length", "t020,t018,2.5"
    };
    Said s = convert(both, object);
    assertThat(s.code()).as(s.err()).isZero();
    assertThat(prove(both, object).code()).isZero();
    assertThat(run("inspect", both, "--json").out()).contains("cart");
    Path none = dir.resolve("none.usda");
    assertThat(convert(none, "--object", part).err()).contains("one camera cannot know");
    assertThat(convert(none, "--object", part, "--object-length", "a,b").err())
        .contains("Give A,B,METRES");
    assertThat(convert(none, "--object-scale", "2").err()).contains("without --object");
    assertThat(
            convert(none, "--object", part, "--object-scale", "2", "--object-away", "t020,1,x")
                .err())
        .contains("'x' is no number");
  }

  @Test
  void whatMeansNothingIsRefused() {
    Path out = dir.resolve("out.usda");
    assertThat(convert(out, "--hold-camera", "1", "--hold-group", "a,1").err())
        .contains("two things");
    assertThat(convert(out, "--hold-group", "cart").err()).contains("Give a group and a frame");
    assertThat(convert(out, "--hold-group", "cart,1").err()).contains("no group 'cart' moves");
    assertThat(convert(out, "--zoom-on", "lens").err()).contains("focal-length or film-back");
    assertThat(convert(out, "--crop", "1,2").err()).contains("100,50,1600x900");
    assertThat(convert(out, "--moving-as", "x").err()).contains("without anything held");
    assertThat(out).doesNotExist();
  }

  @Test
  void theLensCalculatorSettlesALens() {
    Said s =
        run(
            "lens-calc",
            "--size",
            "1920x1080",
            "--focal",
            "18",
            "--back",
            "36",
            "--on",
            "24",
            "--json");
    assertThat(s.json().get("acrossDegrees").asDouble()).isCloseTo(90, within(1e-9));
    assertThat(s.json().get("focalMmOn").asDouble()).isCloseTo(12, within(1e-9));
    assertThat(run("lens-calc", "--size", "1920x1080", "--focal", "18").err())
        .contains("does not settle");
    assertThat(run("lens-calc", "--size", "1920x1080", "--angle-across", "90").out())
        .contains("focal length     open")
        .contains("90.0000°");
  }
}
