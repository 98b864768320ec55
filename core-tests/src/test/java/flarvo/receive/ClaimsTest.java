package flarvo.receive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import flarvo.work.Progress;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What each kind of source claims, and what a dropped folder brings. */
class ClaimsTest {

  @TempDir private Path dir;

  private static final String CAMERA =
      """
      #usda 1.0
      ( %s )
      def Camera "cam" {
        float focalLength%s
        float horizontalAperture = 0.36
        float verticalAperture = 0.2025
        double3 xformOp:translate.timeSamples = { 1: (0, 0, 0), 2: (%s, 0, 0), 3: (0, 0, 0) }
        uniform token[] xformOpOrder = ["xformOp:translate"]
      }
      def Xform "far" {
        double3 xformOp:translate = (0, 0, -10)
        uniform token[] xformOpOrder = ["xformOp:translate"]
      }
      """;

  private Path camera(String head, String focal, String move) throws IOException {
    return Files.writeString(dir.resolve("c.usda"), CAMERA.formatted(head, focal, move));
  }

  private void plates(String folder, String name, int... frames) throws IOException {
    Path f = Files.createDirectories(dir.resolve(folder));
    for (int n : frames) {
      ImageIO.write(
          new BufferedImage(64, 36, BufferedImage.TYPE_INT_RGB),
          "png",
          f.resolve(String.format(name, n)).toFile());
    }
  }

  private Ledger ledger(Path... files) {
    ShotIntake in = new ShotIntake();
    for (Path f : files) {
      in.add(f, IntakeOptions.NONE, Progress.NONE);
    }
    return LedgerMaker.of(in.received(IntakeOptions.NONE), Rulings.NONE);
  }

  private static String text(Ledger l, Fact<?> f, String source) {
    return String.join(
        "; ",
        l.of(f, source).stream().map(c -> c.assumed() ? "(" + c.text() + ")" : c.text()).toList());
  }

  @Test
  void aSilentFileAssumesAndATalkingOneSays() throws IOException {
    Ledger silent = ledger(camera("", " = 0.35", "1"));
    assertThat(text(silent, Fact.RATE, "c.usda")).isEqualTo("(24)");
    assertThat(text(silent, Fact.UP_AXIS, "c.usda")).isEqualTo("(+Y)");
    assertThat(text(silent, Fact.UNIT, "c.usda")).isEqualTo("(cm)");
    Ledger said =
        ledger(
            camera("upAxis = \"Z\"\n metersPerUnit = 1\n timeCodesPerSecond = 25", " = 0.35", "1"));
    assertThat(text(said, Fact.RATE, "c.usda")).isEqualTo("25");
    assertThat(text(said, Fact.UP_AXIS, "c.usda")).isEqualTo("+Z");
    assertThat(text(said, Fact.FIRST_FRAME, "c.usda")).isEqualTo("1");
    assertThat(text(said, Fact.FRAME_COUNT, "c.usda")).isEqualTo("3");
  }

  @Test
  void theMoveAndAChangingLensAreReadFromTheData() throws IOException {
    String head = "metersPerUnit = 1\n timeCodesPerSecond = 25";
    Ledger walk = ledger(camera(head, ".timeSamples = { 1: 0.35, 3: 0.5 }", "1"));
    assertThat(text(walk, Fact.MOVE, "c.usda")).isEqualTo("free");
    assertThat(text(walk, Fact.FOCAL_LENGTH, "c.usda")).isEqualTo("35–50 mm, changing");
    Ledger pan = ledger(camera(head, " = 0.35", "0.001"));
    assertThat(text(pan, Fact.MOVE, "c.usda")).isEqualTo("tripod");
    assertThat(text(pan, Fact.FOCAL_LENGTH, "c.usda")).isEqualTo("35 mm");
  }

  @Test
  void aFolderBringsEverythingInItAndSaysWhatItLeaves() throws IOException {
    camera("timeCodesPerSecond = 25", " = 0.35", "1");
    plates("plates/clean_undist", "b.%04d.png", 1, 2, 3);
    plates("plates/raw", "a.%04d.png", 1, 3);
    Files.writeString(dir.resolve("log.txt"), "25 fps");
    Files.write(dir.resolve("mystery.bin"), new byte[] {0, 1, 2, 3});
    ShotIntake in = new ShotIntake();
    in.add(dir, IntakeOptions.NONE, Progress.NONE);
    ReceivedSet set = in.received(IntakeOptions.NONE);
    assertThat(set.files()).hasSize(1);
    assertThat(set.plates()).hasSize(2);
    assertThat(set.logs()).hasSize(1);
    assertThat(set.notes().toString()).contains("mystery.bin");
    Ledger l = LedgerMaker.of(set, Rulings.NONE);
    assertThat(text(l, Fact.UNDISTORTED, "clean_undist/b.####.png")).isEqualTo("(undistorted)");
    assertThat(l.of(Fact.FRAME_COUNT, "raw/a.####.png").get(0).place())
        .isEqualTo("1 frames missing");
  }

  @Test
  void aLensWithoutAnUndistortedPlateIsAQuestionWithoutAProposal() throws IOException {
    plates("raw", "a.%04d.png", 1, 2, 3);
    Path lens =
        Files.writeString(
            dir.resolve("l.json"), "{\"model\":\"radial\",\"coefficients\":{\"k1\":0.1}}");
    Ledger l = ledger(camera("timeCodesPerSecond = 25", " = 0.35", "1"), dir.resolve("raw"), lens);
    Conflict c = l.conflict(Fact.UNDISTORTED).orElseThrow();
    assertThat(c.proposal()).isEmpty();
    assertThat(c.reason()).contains("undistorted picture");
    assertThat(l.proposals().texts()).doesNotContainKey(Fact.UNDISTORTED);
  }

  @Test
  void nobodySaysARate() throws IOException {
    Conflict c = ledger(camera("", " = 0.35", "1")).conflict(Fact.RATE).orElseThrow();
    assertThat(c.sentence()).isEqualTo("no file states a rate");
    assertThat(c.proposal()).isEqualTo("24");
  }

  @Test
  void anEngravedFocalLengthIsOnlyMentioned() throws IOException {
    Path log = Files.writeString(dir.resolve("n.txt"), "lens: 32 mm, rate 25");
    String head = "metersPerUnit = 1\n timeCodesPerSecond = 25";
    Ledger l = ledger(camera(head, " = 0.35", "1"), log);
    Conflict c = l.conflict(Fact.FOCAL_LENGTH).orElseThrow();
    assertThat(c.sentence()).contains("35.000 mm").contains("32 mm (line 1)");
    assertThat(c.proposal()).isEmpty();
  }

  @Test
  void anEmptyFolderIsAnError() {
    assertThatThrownBy(() -> ledger(dir))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("nothing in this folder");
  }
}
