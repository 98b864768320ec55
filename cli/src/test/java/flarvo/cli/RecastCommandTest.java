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

  private static Object[] with(Object[] words, Object more) {
    Object[] out = java.util.Arrays.copyOf(words, words.length + 1);
    out[words.length] = more;
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

    // The part is off the centre, which glTF cannot say; unless it is baked.
    Path glb = dir.resolve("cut.glb");
    Object[] plain = {"convert", cut, "--from", "comp-yup", "--to", "engine-yup-m", "--out", glb};
    assertThat(run(plain).out()).contains("lens shift");
    String[] bake = {"--overwrite", "--bake-shift"};
    Said kept = run(args(with(plain, (Object) bake)));
    assertThat(kept.code()).as(kept.err()).isZero();
    assertThat(kept.out()).doesNotContain("lens shift");
    Object[] proof = {
      "prove", cut, glb, "--from", "comp-yup", "--to", "engine-yup-m", "--limit", "0.02"
    };
    assertThat(run(proof).code()).isEqualTo(1);
    Said right = run(args(with(proof, (Object) new String[] {"--bake-shift"})));
    assertThat(right.code()).as(right.out()).isZero();
    String[] both = {"--overwrite", "--bake-shift", "--crop", "1,2,3x4"};
    assertThat(run(args(with(plain, (Object) both))).err()).contains("--crop and --bake-shift");
    Path same = dir.resolve("same.usda");
    assertThat(convert(same, "--bake-shift").out()).doesNotContain("not cut here"); // no shift
    assertThat(prove(same).code()).isZero();

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
  void parentsHandlesAndPosesAreProven() {
    Path under = dir.resolve("under.usda");
    String[] parent = {"--parent", "rig,100,1,0,2,30,0,0", "--handles", "8,4"};
    Said s = convert(under, (Object[]) parent);
    assertThat(s.code()).as(s.err()).isZero();
    assertThat(s.out()).contains("everything is parented to this node, scaled 100");
    Said p = prove(under, (Object[]) parent);
    assertThat(p.code()).as(p.out()).isZero();
    assertThat(p.out()).contains("parentPlace", "cameraParent", "samePicture");
    // Nobody's wish: the picture is the same, and it is said. Another wish: it does not hold.
    Said unasked = prove(under, "--handles", "8,4");
    assertThat(unasked.code()).isZero();
    assertThat(unasked.out()).contains("this parent is scaled 100 in the file");
    assertThat(prove(under, "--handles", "8,4", "--parent", "rig,10,1,0,2,30,0,0").code())
        .isEqualTo(1);
    assertThat(run("inspect", under).out()).contains("parent rig: scale 100, at 1.0000 0.0000 2.0");

    // Delivered once more, the parent is gone and the picture is the same.
    Path bare = dir.resolve("bare.usda");
    assertThat(run("convert", under, "--to", "comp-yup", "--out", bare).code()).isZero();
    assertThat(run("inspect", bare, "--json").json().get("parents")).isEmpty();
    assertThat(prove(bare, "--handles", "8,4").code()).isZero();

    Path still = dir.resolve("still.usda");
    String[] pose = {"--hold-camera", "0,1.6,4,10,-5,0", "--moving-as", "world"};
    assertThat(convert(still, (Object[]) pose).out()).contains("is held at 0 1.6 4 m, pan 10°");
    assertThat(prove(still, (Object[]) pose).code()).isZero();
    Path rides = dir.resolve("rides.usda");
    Said r =
        run(
            "convert",
            still,
            "--to",
            "comp-yup",
            "--camera-in",
            "world",
            "--bake-groups",
            "--out",
            rides);
    assertThat(r.code()).as(r.err()).isZero();
    assertThat(run("inspect", rides, "--json").json().get("cameras").get(0).get("in").asText())
        .isEqualTo("world");
  }

  @Test
  void keysBetweenFramesAreSnapped() throws IOException {
    Path late = dir.resolve("late.usda");
    assertThat(convert(late).code()).isZero();
    String text =
        java.util.regex.Pattern.compile("(?m)^( *)(\\d+): ")
            .matcher(Files.readString(late))
            .replaceAll("$1$2.03: ");
    Files.writeString(late, text);
    Path out = dir.resolve("snapped.usda");
    Said s = run("convert", late, "--to", "comp-yup", "--snap-keys", "--out", out);
    assertThat(s.code()).as(s.err()).isZero();
    assertThat(s.out())
        .contains("96 of 96 keys lay between frames and were snapped, by up to 0.0300 frames")
        .containsPattern("snapping them moves the picture by up to [0-9.]+ px, at frame \\d+");
    assertThat(prove(out).code()).isZero();
    Path asIs = dir.resolve("as-is.usda");
    assertThat(run("convert", late, "--to", "comp-yup", "--out", asIs).code()).isZero();
    assertThat(prove(asIs).code()).isEqualTo(1);
  }

  @Test
  void whatMeansNothingIsRefused() {
    Path out = dir.resolve("out.usda");
    assertThat(convert(out, "--parent", "rig,1,2,1").err()).contains("one scale, the same along");
    assertThat(convert(out, "--parent", "rig,0").err()).contains("must be positive");
    assertThat(convert(out, "--hold-camera", "B").err()).contains("no other camera 'B'");
    assertThat(convert(out, "--leave-off", "8,0", "--handles", "8,0").err())
        .contains("at the same end");
    assertThat(convert(out, "--camera-in", "cart").err()).contains("no group 'cart' moves");
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
