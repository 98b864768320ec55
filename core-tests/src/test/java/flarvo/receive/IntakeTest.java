package flarvo.receive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialects;
import flarvo.convention.FilmBack;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.Shot;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class IntakeTest {

  private static final String CAMERA =
      "def Camera \"%s\" { float focalLength = 35 %s\n"
          + " double3 xformOp:translate.timeSamples = { 1: (0, 0, 170), 3: (0, 0, 180) }\n"
          + " uniform token[] xformOpOrder = [\"xformOp:translate\"] }\n";

  @TempDir private Path dir;
  private final IntakeOptions sized = IntakeOptions.NONE.withSize(PictureSize.of(1920, 1080));

  private Path usd(String text) throws IOException {
    Path f = dir.resolve("f.usda");
    Files.writeString(f, "#usda 1.0\n" + text);
    return f;
  }

  private static Shot shot(IntakeOptions o, Path... files) {
    ShotIntake in = new ShotIntake();
    for (Path f : files) {
      in.add(f, o, Progress.NONE);
    }
    return in.shot("s", o);
  }

  @Test
  void aCameraWithoutFilmBackIsOneClearErrorUntilOneIsGiven() throws IOException {
    Path f = usd(CAMERA.formatted("cam", ""));
    assertThatThrownBy(() -> shot(sized, f))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("camera cam")
        .hasMessageContaining("no film back")
        .hasMessageContaining("--film-back");
    Optics o = shot(sized.withFilmBack(new FilmBack(36, 24)), f).cameras().get(0).optics().at(1);
    // 36 × 24 at 16:9, fitted by width.
    assertThat(o.filmHeightMm()).isCloseTo(20.25, within(1e-9));
  }

  @Test
  void theFilesOwnUnitAndAxisCountBeforeTheSenders() throws IOException {
    Path f =
        usd(
            "( metersPerUnit = 0.01 upAxis = \"Z\" )\n"
                + CAMERA.formatted("cam", "float horizontalAperture = 36"));
    Vec3 p = shot(sized, f).cameras().get(0).poses().at(1).position();
    assertThat(p.minus(new Vec3(0, 1.7, 0)).length()).isLessThan(1e-12);
    Vec3 q =
        shot(sized.withFrom(Dialects.shipped().get("anim-yup-m")), f)
            .cameras()
            .get(0)
            .poses()
            .at(1)
            .position();
    assertThat(q.minus(p).length()).isLessThan(1e-12);
  }

  @Test
  void aSilentFileIsReadAsItsSenderSpeaks() throws IOException {
    Path f = usd(CAMERA.formatted("cam", "float horizontalAperture = 0.36"));
    Vec3 p =
        shot(sized.withFrom(Dialects.shipped().get("anim-zup-m")), f)
            .cameras()
            .get(0)
            .poses()
            .at(1)
            .position();
    assertThat(p.minus(new Vec3(0, 170, 0)).length()).isLessThan(1e-9);
  }

  @Test
  void theFirstFrameIsLaidOnThePlate() throws IOException {
    Path f = usd(CAMERA.formatted("cam", "float horizontalAperture = 36"));
    Shot s = shot(sized.withPlateFirst(1001), f);
    assertThat(s.frames()).isEqualTo(new FrameRange(1001, 1003));
    assertThat(s.sourceFirstFrame()).isEqualTo(1);
  }

  @Test
  void aCameraIsChosenByName() throws IOException {
    Path f =
        usd(
            CAMERA.formatted("one", "float horizontalAperture = 36")
                + CAMERA.formatted("two", "float horizontalAperture = 24"));
    Shot s = shot(sized.withCamera("two"), f);
    assertThat(s.cameras()).hasSize(1);
    assertThat(s.cameras().get(0).optics().at(1).filmWidthMm()).isEqualTo(24);
    assertThatThrownBy(() -> shot(sized.withCamera("three"), f))
        .hasMessageContaining("one")
        .hasMessageContaining("two");
  }

  @Test
  void whatIsMissingIsSaid() throws IOException {
    Path f = usd("def Scope \"empty\" { }");
    assertThatThrownBy(() -> shot(sized, f)).hasMessageContaining("no camera");
    Path c = usd(CAMERA.formatted("cam", "float horizontalAperture = 36"));
    assertThatThrownBy(() -> shot(IntakeOptions.NONE, c))
        .hasMessageContaining("no resolution stated");
    Path junk = dir.resolve("junk.usda");
    Files.writeString(junk, "PK not a scene");
    assertThatThrownBy(() -> shot(sized, junk)).hasMessageContaining("unrecognised file format");
  }

  @Test
  void tracksJoinTheirCamera() throws IOException {
    Path f = usd(CAMERA.formatted("cam", "float horizontalAperture = 36"));
    Path t = dir.resolve("t.csv");
    Files.writeString(t, "tracker,frame,x,y\na,1,5,6\n");
    Shot s = shot(sized, f, t);
    assertThat(s.observations().size()).isEqualTo(1);
  }
}
