package flarvo.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.decision.Decided;
import flarvo.decision.ReceiveDecision;
import flarvo.decision.VetDecision;
import flarvo.desktop.state.ViewSettings;
import flarvo.desktop.stop.Fact;
import flarvo.desktop.view.DrawContext;
import flarvo.lens.Direction;
import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.LensModel;
import flarvo.lens.LensTrack;
import flarvo.lens.Normalisation;
import flarvo.lens.RadialPolynomial;
import flarvo.lens.fit.StraightLine;
import flarvo.plate.Raster;
import flarvo.plate.RasterReader;
import flarvo.plate.RasterWriter;
import flarvo.plate.remap.Overscan;
import flarvo.plate.remap.PositionGrid;
import flarvo.scene.Inset;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.vet.adjust.AdjustOptions;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.Stream;
import javafx.event.ActionEvent;
import javafx.scene.control.Button;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.image.WritableImage;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.util.WaitForAsyncUtils;

/** The stop Plate: the lens over the picture, the wipe, and undistorted plates. */
@Tag("numeric")
class PlateTest extends WindowHarness {

  private PlateSequence plates(PlateRole role) {
    return session.shot().get().plate(role).orElseThrow();
  }

  private LensMapper mapper() {
    LensTrack track = session.lens().get().track().orElseThrow();
    return track.at(frame()).on(session.shot().get().picture());
  }

  @Test
  void theReceivedLensIsSaidAndPlatesStandSideBySide(FxRobot robot) {
    robot.type(KeyCode.DIGIT5);
    assertThat(session.stop().get()).isEqualTo("plate");
    assertThat(robot.lookup(".sentence").queryAs(Label.class).getText())
        .contains("is off by 43.9 px")
        .contains("drawn through the lens");
    assertThat(robot.lookup("#plate-lens").<ComboBox<String>>query().getValue())
        .isEqualTo("mer_010_terrace_lens.json");
    assertThat(
            robot.lookup(".number").match(Label.class::isInstance).queryAllAs(Label.class).stream()
                .map(Label::getText))
        .contains("Radial polynomial", "0.06200", "0.01400");
    assertThat(robot.lookup(".note").queryAllAs(Label.class).stream().map(Label::getText))
        .anyMatch(s -> s.contains("terrace_undist.####.jpg") && s.contains("same size"));
  }

  /** The terrace filmed again at half the rate, each frame of two fields. */
  @Test
  void interlacedPlatesAreSaidAndSplit(FxRobot robot) throws Exception {
    PlateSequence p = plates(PlateRole.ORIGINAL);
    Path folder = Files.createDirectories(dir.resolve("plates/take3"));
    for (int f = 0; f < 5; f++) {
      Raster first = RasterReader.read(p.file(1001 + 2 * f));
      Raster second = RasterReader.read(p.file(1002 + 2 * f));
      int row = first.width() * first.channels().size();
      for (int y = 1; y < first.height(); y += 2) {
        System.arraycopy(second.values(), y * row, first.values(), y * row, row);
      }
      RasterWriter.write(first, folder.resolve("take3." + (1001 + f) + ".png"));
    }
    onWindow(() -> session.project().open(List.of(folder)));
    await(() -> session.state().get().shot().camera().isEmpty());
    robot.type(KeyCode.DIGIT5);
    await(() -> robot.lookup("#plate-fields-original").tryQuery().isPresent());
    assertThat(robot.lookup("#plate-fields-original").queryAs(Label.class).getText())
        .isEqualTo(
            "The plates are interlaced: combing on 4 of 4 frames with motion, upper field"
                + " first.");
    assertThat(robot.lookup(".sentence").queryAs(Label.class).getText())
        .contains("The original plates are interlaced. Split or blend their fields");
    robot.interact(robot.lookup("#plate-split-fields").queryButton()::fire);
    Path made = folder.resolveSibling("take3_fields");
    await(() -> Files.exists(made.resolve("take3.1010.png")));
    await(
        () ->
            robot.lookup(".note").queryAllAs(Label.class).stream()
                .anyMatch(l -> l.getText().contains("Frames 1001-1010 at double rate are in")));
    assertThat(RasterReader.read(made.resolve("take3.1002.png")).at(300, 201, 1))
        .isEqualTo(RasterReader.read(folder.resolve("take3.1001.png")).at(300, 201, 1));
  }

  /** Over the original, marks go through the lens; over the undistorted plate they do not. */
  @Test
  void marksSitRightOverEitherPlate(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT5);
    double[] corner = {40, 30};
    double[] bent = new double[2];
    mapper().toOriginal(40, 30, bent);
    assertThat(Math.hypot(bent[0] - 40, bent[1] - 30)).isGreaterThan(5);
    double[] p = corner.clone();
    window.picture().context().bend().to(p);
    assertThat(p).isEqualTo(corner);
    onWindow(() -> session.view().plateRole().set(PlateRole.ORIGINAL));
    p = corner.clone();
    window.picture().context().bend().to(p);
    assertThat(p).isEqualTo(bent);
    // A tracker is taken where it is drawn.
    onWindow(() -> session.playhead().frame().set(1040));
    Observations seen = session.shot().get().observations();
    String far = null;
    double most = 0;
    double[] where = new double[2];
    DrawContext c = window.picture().context();
    for (String name : seen.names()) {
      int row = seen.row(name, 1040);
      if (row >= 0) {
        double[] q = {seen.x(row), seen.y(row)};
        c.bend().to(q);
        double moved = Math.hypot(q[0] - seen.x(row), q[1] - seen.y(row));
        if (moved > most) {
          most = moved;
          far = name;
          where = q;
        }
      }
    }
    assertThat(most).isGreaterThan(4);
    var at = window.picture().localToScreen(c.at().x(where[0]), c.at().y(where[1]));
    robot.clickOn(at.getX(), at.getY());
    WaitForAsyncUtils.waitForFxEvents();
    assertThat(session.selection()).containsExactly(far);
  }

  @Test
  void theWipeIsDraggedAndEndsWithTheStop(FxRobot robot) throws Exception {
    robot.type(KeyCode.DIGIT5);
    robot.clickOn("#plate-wipe");
    assertThat(session.view().wipe().get()).isEqualTo(0.5);
    DrawContext c = window.picture().context();
    double w = c.shot().picture().width() * c.at().scale();
    double y = c.at().y(c.shot().picture().height() * 0.7);
    var from = window.picture().localToScreen(c.at().left() + w / 2, y);
    var to = window.picture().localToScreen(c.at().left() + w * 0.75, y);
    robot.moveTo(from.getX(), from.getY()).press(MouseButton.PRIMARY);
    robot.moveTo(to.getX(), to.getY()).release(MouseButton.PRIMARY);
    WaitForAsyncUtils.waitForFxEvents();
    assertThat(session.view().wipe().get()).isCloseTo(0.75, within(0.02));
    // Left of the edge the original is shown, right of it the undistorted plate.
    double[] left = {100, 60};
    double[] right = {930, 60};
    window.picture().context().bend().to(left);
    window.picture().context().bend().to(right);
    assertThat(left[0]).isGreaterThan(101);
    assertThat(right[0]).isEqualTo(930);
    robot.type(KeyCode.DIGIT3);
    assertThat(session.view().wipe().get()).isEqualTo(ViewSettings.NO_WIPE);
    robot.type(KeyCode.DIGIT5);
    assertThat(robot.lookup("#plate-wipe").queryAs(CheckBox.class).isSelected()).isFalse();
  }

  @Test
  void platesAreUndistortedAndOnlyWhatIsMissingIsMadeAgain(FxRobot robot) throws Exception {
    openACopy();
    robot.type(KeyCode.DIGIT5);
    PlateSequence original = plates(PlateRole.ORIGINAL);
    Path folder =
        original.folder().resolveSibling(original.folder().getFileName() + "_undistorted");
    assertThat(folder).doesNotExist();
    PlateSequence received = plates(PlateRole.UNDISTORTED);
    onWindow(() -> robot.lookup("#plate-undistort").queryAs(Button.class).fire());
    await(() -> result(robot).contains("made"));
    assertThat(result(robot)).startsWith("12 made, 0 up to date");
    Path one = folder.resolve("terrace_undistorted.1008.jpg");
    assertThat(one).exists();
    // The demo's own undistorted plate was rendered straight, by the truth.
    Raster made = RasterReader.read(one);
    Raster straight = RasterReader.read(received.file(1008));
    assertThat(psnr(made, straight)).isGreaterThan(30);
    Raster bent = RasterReader.read(original.file(1008));
    assertThat(psnr(bent, straight)).isLessThan(psnr(made, straight) - 5);
    // They are the shot's undistorted plates now; undo takes them out again, and leaves the files.
    assertThat(plates(PlateRole.UNDISTORTED).folder()).isEqualTo(folder);
    assertThat(session.shot().get().plates()).hasSize(3);
    onWindow(() -> session.undo());
    assertThat(plates(PlateRole.UNDISTORTED)).isEqualTo(received);
    assertThat(one).exists();
    // With overscan the shot's picture stays, and lies in the middle of the plates.
    ComboBox<String> overscan = robot.lookup("#plate-overscan").query();
    onWindow(() -> overscan.getEditor().setText("much"));
    onWindow(() -> robot.lookup("#plate-undistort").queryAs(Button.class).fire());
    assertThat(result(robot)).contains("'much' is no overscan");
    onWindow(() -> overscan.getEditor().setText("1000x560"));
    onWindow(() -> robot.lookup("#plate-undistort").queryAs(Button.class).fire());
    await(() -> result(robot).startsWith("12 made"));
    assertThat(result(robot)).contains("1000x560").contains("film back × 1.04167, × 1.03704");
    assertThat(plates(PlateRole.UNDISTORTED).size()).hasToString("1000x560");
    assertThat(session.shot().get().picture()).hasToString("960x540");
    onWindow(() -> session.undo());
    // A part off the centre lies where it belongs.
    onWindow(() -> session.view().trackersShown().set(false));
    onWindow(() -> session.view().plateRole().set(PlateRole.UNDISTORTED));
    await(() -> brightness(0.1, 0.5) > 70);
    double[] before = {brightness(0.4, 0.4), brightness(0.6, 0.3), brightness(0.85, 0.7)};
    onWindow(() -> overscan.getEditor().setText("600x400+300+40"));
    onWindow(() -> robot.lookup("#plate-undistort").queryAs(Button.class).fire());
    await(() -> result(robot).startsWith("12 made"));
    assertThat(result(robot)).contains("× 0.62500, × 0.74074 and the principal point moved");
    assertThat(plates(PlateRole.UNDISTORTED).inner())
        .hasValue(new Inset(original.size(), -300, -40));
    onWindow(() -> session.view().plateRole().set(PlateRole.UNDISTORTED));
    // No plate is left of it; within it every place shows what it showed before.
    await(() -> brightness(0.1, 0.5) < 60 && Math.abs(brightness(0.4, 0.4) - before[0]) < 4);
    assertThat(brightness(0.6, 0.3)).isCloseTo(before[1], within(4.0));
    assertThat(brightness(0.85, 0.7)).isCloseTo(before[2], within(4.0));
    onWindow(() -> session.undo());
    onWindow(() -> overscan.getEditor().setText("none"));
    onWindow(() -> robot.lookup("#plate-undistort").queryAs(Button.class).fire());
    await(() -> result(robot).startsWith("12 made"));
    onWindow(() -> session.undo());
    Files.delete(one);
    onWindow(() -> robot.lookup("#plate-undistort").queryAs(Button.class).fire());
    await(() -> result(robot).contains("made"));
    assertThat(result(robot)).startsWith("1 made, 11 up to date");
    try (Stream<Path> all = Files.list(original.folder())) {
      assertThat(all.toList()).hasSize(12);
    }
  }

  /** Twelve frames of the terrace in a folder that may be written into. */
  private void openACopy() throws Exception {
    Path demo = DemoProject.MERIDIAN.resolve("mer_010_terrace");
    Path shot = dir.resolve("terrace");
    for (String name : List.of("camera.fbx", "lens.json")) {
      copy(demo.resolve("incoming/mer_010_terrace_" + name), shot.resolve("incoming/" + name));
    }
    for (int f = 1001; f <= 1012; f++) {
      for (String p : List.of("original/terrace.", "undistorted/terrace_undist.")) {
        copy(demo.resolve("plates/" + p + f + ".jpg"), shot.resolve("plates/" + p + f + ".jpg"));
      }
    }
    onWindow(
        () -> session.project().open(List.of(shot.resolve("incoming"), shot.resolve("plates"))));
    await(
        () ->
            session.shot().get().plates().size() == 2
                && session.shot().get().plates().get(0).frames().count() == 12);
  }

  private static void copy(Path from, Path to) throws Exception {
    Files.createDirectories(to.getParent());
    Files.copy(from, to);
  }

  private static String result(FxRobot robot) {
    return robot.lookup("#plate-result").queryAs(Label.class).getText();
  }

  private static double psnr(Raster a, Raster b) {
    assertThat(List.of(a.width(), a.height())).isEqualTo(List.of(b.width(), b.height()));
    double s = 0;
    long n = 0;
    for (int y = 20; y < a.height() - 20; y++) {
      for (int x = 20; x < a.width() - 20; x++) {
        for (int c = 0; c < 3; c++) {
          double d = a.at(x, y, c) - b.at(x, y, c);
          s += d * d;
          n++;
        }
      }
    }
    return -10 * Math.log10(s / n);
  }

  @Test
  void withoutALensItIsSaid(FxRobot robot) throws Exception {
    onWindow(
        () ->
            session
                .project()
                .open(
                    List.of(
                        DemoProject.MERIDIAN.resolve(
                            "mer_010_terrace/solve/mer_010_terrace_solve.usda"),
                        DemoProject.MERIDIAN.resolve("mer_010_terrace/plates/original"))));
    await(() -> session.isOpen() && session.lens().get().track().isEmpty());
    robot.type(KeyCode.DIGIT5);
    assertThat(robot.lookup(".sentence").queryAs(Label.class).getText())
        .contains("No lens sheet was received");
    assertThat(robot.lookup("#plate-undistort").queryAs(Button.class).isDisabled()).isTrue();
  }

  private void openTerrace(boolean withLens) throws Exception {
    Path terrace = DemoProject.MERIDIAN.resolve("mer_010_terrace");
    List<Path> files = new ArrayList<>();
    files.add(terrace.resolve("solve/mer_010_terrace_solve.usda"));
    files.add(terrace.resolve("incoming/mer_010_terrace_tracks.csv"));
    files.add(terrace.resolve("plates"));
    if (withLens) {
      files.add(terrace.resolve("incoming/mer_010_terrace_lens.json"));
    }
    onWindow(() -> session.project().open(files));
    await(
        () ->
            session.isOpen()
                && session.lens().get().track().isPresent() == withLens
                && session.shot().get().plates().size() == 2);
  }

  private Optional<Label> check(FxRobot robot, String role) {
    return robot.lookup("#plate-check-" + role).tryQueryAs(Label.class);
  }

  /** The right plates are measured to be right, and the stop is settled by that alone. */
  @Test
  void platesAreMeasuredBehindTheCamera(FxRobot robot) throws Exception {
    openTerrace(true);
    assertThat(fact()).isEqualTo(Fact.Mark.HALF);
    robot.type(KeyCode.DIGIT5);
    await(() -> check(robot, "undistorted").isPresent());
    assertThat(check(robot, "undistorted").orElseThrow().getText())
        .startsWith("Trackers fit these plates to 0.")
        .contains("the original through the lens to 0.");
    assertThat(check(robot, "original").orElseThrow().getText()).contains("through the lens");
    assertThat(fact()).isEqualTo(Fact.Mark.FULL);
    // It stays settled elsewhere, where nothing is measured.
    robot.type(KeyCode.DIGIT6);
    assertThat(fact()).isEqualTo(Fact.Mark.FULL);
    robot.type(KeyCode.DIGIT5);
    // Somebody takes the original for undistorted.
    String pattern = plates(PlateRole.ORIGINAL).pattern();
    onWindow(
        () ->
            session
                .store()
                .decide(new ReceiveDecision.SetPlateRole(pattern, PlateRole.UNDISTORTED)));
    await(() -> robot.lookup(".sentence").queryAs(Label.class).getText().contains("do not belong"));
    assertThat(robot.lookup(".sentence").queryAs(Label.class).getText())
        .contains("they are original, not undistorted");
    assertThat(fact()).isEqualTo(Fact.Mark.HALF);
  }

  private Fact.Mark fact() {
    return window.stops().stream()
        .filter(s -> s.id().equals("plate"))
        .findFirst()
        .orElseThrow()
        .fact()
        .mark();
  }

  /** A lens is traced, fitted, typed over, taken back and chosen again; all of it can be undone. */
  @Test
  void aLensIsFoundFromEdgesThatAreTraced(FxRobot robot) throws Exception {
    openTerrace(false);
    robot.type(KeyCode.DIGIT5);
    onWindow(() -> session.playhead().frame().set(1040));
    robot.type(KeyCode.E);
    assertThat(session.view().plateRole().get()).isEqualTo(PlateRole.ORIGINAL);
    await(() -> window.picture().context().shownPlate() != null);
    trace(robot, 354, 290, 354, 530, 1);
    trace(robot, 230, 432, 204, 518, 2);
    trace(robot, 548, 362, 664, 520, 3);
    trace(robot, 30, 422, 340, 407, 4);
    robot.type(KeyCode.ESCAPE);
    // A click on a line selects it; Delete removes it, undo brings it back.
    StraightLine first = session.state().get().lensWork().lines().get(0);
    click(robot, first.x(5), first.y(5));
    robot.type(KeyCode.DELETE);
    assertThat(session.state().get().lensWork().lines()).hasSize(3);
    onWindow(() -> session.undo());
    assertThat(session.state().get().lensWork().lines()).hasSize(4);
    onWindow(() -> robot.lookup("#plate-fit").queryAs(Button.class).fire());
    await(() -> session.lens().get().track().isPresent());
    assertThat(robot.lookup("#plate-said").queryAs(Label.class).getText())
        .contains("Lines are straight to 0.")
        .contains("With 95 % certainty");
    assertThat(session.lens().get().source()).isEqualTo("fitted to 4 lines");
    // Edges are found without a click, too, and all of them removed in one step.
    onWindow(() -> robot.lookup("#plate-edges").queryAs(Button.class).fire());
    await(() -> session.state().get().lensWork().lines().size() > 20);
    onWindow(() -> session.undo());
    // It bends the right way, by about as much.
    double k1 = session.lens().get().track().orElseThrow().base().distortion().coefficients()[0];
    assertThat(k1).isBetween(0.03, 0.11);
  }

  private void click(FxRobot robot, double x, double y) {
    DrawContext c = window.picture().context();
    var at = window.picture().localToScreen(c.at().x(x), c.at().y(y));
    robot.clickOn(at.getX(), at.getY());
    WaitForAsyncUtils.waitForFxEvents();
  }

  private void trace(FxRobot robot, double ax, double ay, double bx, double by, int count)
      throws Exception {
    click(robot, ax, ay);
    click(robot, bx, by);
    await(() -> session.state().get().lensWork().lines().size() == count);
  }

  @Test
  void aLensIsTypedAndAWrongValueIsSaid(FxRobot robot) throws Exception {
    openTerrace(true);
    robot.type(KeyCode.DIGIT5);
    ComboBox<String> use = robot.lookup("#plate-lens").query();
    onWindow(() -> use.setValue("type values…"));
    onWindow(() -> robot.lookup("#lens-k1").queryAs(TextField.class).setText("much"));
    onWindow(() -> robot.lookup("#lens-use").queryAs(Button.class).fire());
    assertThat(robot.lookup("#lens-wrong").queryAs(Label.class).getText())
        .isEqualTo("'much' is not a number.");
    onWindow(() -> robot.lookup("#lens-k1").queryAs(TextField.class).setText("0.05"));
    onWindow(() -> robot.lookup("#lens-use").queryAs(Button.class).fire());
    assertThat(session.lens().get().source()).isEqualTo("typed");
    assertThat(session.lens().get().track().orElseThrow().base().distortion().coefficients())
        .startsWith(0.05, 0.014);
    onWindow(() -> use.setValue("none"));
    assertThat(session.lens().get().track()).isEmpty();
    assertThat(robot.lookup(".sentence").queryAs(Label.class).getText())
        .startsWith("The plates were said to be without distortion");
    onWindow(() -> use.setValue("mer_010_terrace_lens.json"));
    assertThat(session.lens().get().source()).isEqualTo("mer_010_terrace_lens.json");
    onWindow(() -> session.undo());
    onWindow(() -> session.undo());
    assertThat(session.lens().get().source()).isEqualTo("typed");
  }

  /** Somebody sends distortion maps and no lens; what a map does, only they know. */
  @Test
  void aLensIsFittedToAMap(FxRobot robot) throws Exception {
    openTerrace(false);
    robot.type(KeyCode.DIGIT5);
    PictureSize size = plates(PlateRole.ORIGINAL).size();
    Path map = dir.resolve("map.exr");
    RasterWriter.write(
        PositionGrid.of(
                Lens.centred(new RadialPolynomial(0.062, 0.014, 0, 0)).on(size),
                Direction.ORIGINAL_TO_UNDISTORTED,
                Overscan.none(size))
            .map(size.width(), size.height(), false),
        map);
    ComboBox<String> use = robot.lookup("#plate-lens").query();
    onWindow(() -> use.setValue("from a map…"));
    onWindow(() -> robot.lookup("#map-fit").queryAs(Button.class).fire());
    assertThat(robot.lookup("#map-wrong").queryAs(Label.class).getText())
        .isEqualTo("Choose the file of a map.");
    onWindow(() -> robot.lookup("#map-file").queryAs(TextField.class).setText(map + " "));
    onWindow(
        () ->
            robot
                .lookup("#map-model")
                .<ComboBox<String>>query()
                .setValue(LensModel.RADIAL.title()));
    onWindow(() -> robot.lookup("#map-fit").queryAs(Button.class).fire());
    await(() -> session.lens().get().source().equals("fitted to map.exr"));
    double[] k = session.lens().get().track().orElseThrow().base().distortion().coefficients();
    assertThat(k[0]).isCloseTo(0.062, within(1e-4));
    assertThat(k[1]).isCloseTo(0.014, within(3e-4));
    assertThat(
            robot.lookup(".note").match(Label.class::isInstance).queryAllAs(Label.class).stream()
                .map(Label::getText))
        .anyMatch(
            s -> s.startsWith("Within 0.0") && s.contains("bent inwards (barrel) by 43.9 px"));
    await(() -> check(robot, "original").isPresent());
    assertThat(check(robot, "original").orElseThrow().getText())
        .matches("Trackers fit these plates to 0\\.\\d+ px through the lens\\.");
    assertThat(use.getValue()).isEqualTo("fitted to map.exr");
    onWindow(() -> session.undo());
    assertThat(session.lens().get().track()).isEmpty();
  }

  /** Lens terms that Vet refined are one of the lenses that can be used, and not before. */
  @Test
  void refinedTermsCanBeUsedAsTheLens(FxRobot robot) throws Exception {
    openTerrace(false);
    robot.type(KeyCode.DIGIT5);
    ComboBox<String> use = robot.lookup("#plate-lens").query();
    assertThat(use.getItems()).doesNotContain("refined at Vet");
    onWindow(
        () ->
            session
                .store()
                .workAgain(
                    "Refining",
                    (s, p) ->
                        Decided.of(
                            s, new VetDecision.Refine(AdjustOptions.USUAL.withLensTerms(2)), p),
                    d -> d,
                    d -> {},
                    why -> {}));
    await(() -> use.getItems().contains("refined at Vet"));
    onWindow(() -> use.setValue("refined at Vet"));
    assertThat(session.lens().get().source()).isEqualTo("refined at Vet");
    assertThat(use.getValue()).isEqualTo("refined at Vet");
    assertThat(session.lens().get().track().orElseThrow().base().normalisation())
        .isEqualTo(Normalisation.FOCAL_LENGTH);
    onWindow(() -> session.undo());
    assertThat(session.lens().get().track()).isEmpty();
  }

  /** The screen only: the plate's file is what it was. */
  @Test
  void exposureIsOfTheScreenAndIsTypedInStops(FxRobot robot) throws Exception {
    openTerrace(true);
    robot.type(KeyCode.DIGIT5);
    await(() -> window.picture().context().shownPlate() != null);
    int before = grey();
    TextField stops = robot.lookup("#look-stops").query();
    onWindow(
        () -> {
          stops.setText("-2");
          stops.fireEvent(new ActionEvent());
        });
    await(() -> window.picture().context().shownPlate() != null && grey() < before - 20);
    onWindow(
        () -> {
          stops.setText("99");
          stops.fireEvent(new ActionEvent());
        });
    assertThat(session.message().get()).isEqualTo("Exposure is −12 to 12 stops");
    assertThat(stops.getText()).isEqualTo("-2");
    onWindow(() -> robot.lookup("#look-clear").queryAs(Button.class).fire());
    await(() -> window.picture().context().shownPlate() != null && grey() == before);
  }

  private int grey() {
    return window.picture().context().shownPlate().getPixelReader().getArgb(300, 300) & 255;
  }

  @Test
  void blinkShowsBothPlatesInTurnAndEndsWithTheStop(FxRobot robot) throws Exception {
    openTerrace(true);
    robot.type(KeyCode.DIGIT5);
    onWindow(() -> robot.lookup("#plate-blink").queryAs(CheckBox.class).fire());
    await(() -> session.view().plateRole().get() == PlateRole.ORIGINAL);
    await(() -> session.view().plateRole().get() == PlateRole.UNDISTORTED);
    robot.type(KeyCode.DIGIT3);
    assertThat(robot.lookup("#plate-blink").tryQuery()).isEmpty();
    robot.type(KeyCode.DIGIT5);
    assertThat(robot.lookup("#plate-blink").queryAs(CheckBox.class).isSelected()).isFalse();
    assertThat(session.view().plateRole().get()).isEqualTo(PlateRole.UNDISTORTED);
  }

  /** Dark in the middle, where the lens hardly bends, and brighter outside; one way at a time. */
  @Test
  void theDifferenceIsDarkWhereTheLensHardlyBends(FxRobot robot) throws Exception {
    openTerrace(true);
    robot.type(KeyCode.DIGIT5);
    onWindow(() -> session.view().trackersShown().set(false));
    await(() -> brightness(0.5, 0.7) > 40);
    double plate = brightness(0.5, 0.7);
    // Not clicked: findings that arrive move the desk's rows from under the pointer.
    onWindow(() -> robot.lookup("#plate-wipe").queryAs(ButtonBase.class).fire());
    assertThat(session.view().wipe().get()).isNotEqualTo(ViewSettings.NO_WIPE);
    onWindow(() -> robot.lookup("#plate-difference").queryAs(ButtonBase.class).fire());
    assertThat(session.view().difference().get()).isTrue();
    assertThat(session.view().wipe().get()).isEqualTo(ViewSettings.NO_WIPE);
    await(() -> brightness(0.5, 0.7) < plate / 5);
    await(() -> brightness(0.06, 0.8) > 3 * brightness(0.5, 0.5));
    onWindow(() -> robot.lookup("#plate-blink").queryAs(CheckBox.class).fire());
    assertThat(session.view().difference().get()).isFalse();
    onWindow(() -> session.view().difference().set(true));
    robot.type(KeyCode.DIGIT3);
    assertThat(session.view().difference().get()).isFalse();
  }

  /** Mean green of a square of the picture, 0 to 255; its middle as shares of the picture. */
  private double brightness(double across, double down) throws Exception {
    AtomicReference<WritableImage> image = new AtomicReference<>();
    onWindow(() -> image.set(window.picture().snapshot(null, null)));
    DrawContext c = window.picture().context();
    int x = (int) c.at().x(across * c.shot().picture().width());
    int y = (int) c.at().y(down * c.shot().picture().height());
    double sum = 0;
    for (int j = -20; j < 20; j++) {
      for (int i = -20; i < 20; i++) {
        sum += image.get().getPixelReader().getArgb(x + i, y + j) >> 8 & 255;
      }
    }
    return sum / 1600;
  }
}
