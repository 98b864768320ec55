package flarvo.format.fbx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a camera of this format sees: its gate's fit, and the squeeze of its film. */
class FbxGateTest {

  private static final double MM = 25.4;

  @TempDir private Path dir;

  private Path file(String more) throws IOException {
    return Files.writeString(
        dir.resolve("cam.fbx"),
        """
        ; FBX 7.5.0 project file
        FBXHeaderExtension:  {
            FBXVersion: 7500
        }
        GlobalSettings:  {
            Properties70:  {
                P: "TimeMode", "enum", "", "",11
            }
        }
        Objects:  {
          NodeAttribute: 1, "NodeAttribute::cam", "Camera" {
            Properties70: {
              P: "FilmWidth", "double", "Number", "",0.864
              P: "FilmHeight", "double", "Number", "",0.732
              P: "FocalLength", "Number", "", "A",40
              %s
            }
          }
          Model: 2, "Model::cam", "Camera" {
            Properties70: { P: "Lcl Translation", "Lcl Translation", "", "A",10,0,0 }
          }
        }
        Connections: {
          C: "OO",1,2
          C: "OO",2,0
        }
        """
            .formatted(more));
  }

  private Optics seen(String more) throws IOException {
    IntakeOptions o = IntakeOptions.NONE.withSize(PictureSize.of(1920, 1080));
    Shot s = new ShotIntake().add(file(more), o, Progress.NONE).shot("s", o);
    return s.camera().orElseThrow().optics().at(s.frames().first());
  }

  /**
   * By the definitions: the back's width or height decides, whichever lies inside or outside, or
   * both do. The back is 0.864 × 0.732 inches, the picture 16 to 9; a squeeze makes the film
   * higher.
   */
  @ParameterizedTest
  @CsvSource({
    // fit, squeeze, width and height in inches
    "0, 1, 0.864, 0.732",
    "1, 1, 1.3013333333333333, 0.732",
    "2, 1, 0.864, 0.486",
    "3, 1, 0.864, 0.486",
    "4, 1, 1.3013333333333333, 0.732",
    "5, 1, 0.864, 0.732",
    "1, 2, 2.6026666666666667, 1.464",
    "2, 2, 0.864, 0.486",
    "0, 2, 0.864, 1.464"
  })
  void theFitOfTheGateCounts(int fit, double squeeze, double width, double height)
      throws IOException {
    Optics o =
        seen(
            "P: \"GateFit\", \"enum\", \"\", \"\","
                + fit
                + "\nP: \"FilmSqueezeRatio\", \"double\", \"Number\", \"\","
                + squeeze);
    assertThat(o.filmWidthMm()).isCloseTo(width * MM, within(1e-9));
    assertThat(o.filmHeightMm()).isCloseTo(height * MM, within(1e-9));
    assertThat(o.focalLengthMm()).isEqualTo(40);
  }

  /** A ruling on the film back is about another back, and the file's fit is not. */
  @Test
  void aRuledBackIsFittedByTheSendersRule() throws IOException {
    IntakeOptions o =
        IntakeOptions.NONE
            .withSize(PictureSize.of(1920, 1080))
            .withFilmBack(new flarvo.convention.FilmBack(36, 24));
    Shot s =
        new ShotIntake()
            .add(file("P: \"GateFit\", \"enum\", \"\", \"\",1"), o, Progress.NONE)
            .shot("s", o);
    assertThat(s.camera().orElseThrow().optics().at(s.frames().first()).filmWidthMm())
        .isEqualTo(36);
  }

  @Test
  void anOrthographicCameraIsLeftOutAndSaid() throws IOException {
    IntakeOptions o = IntakeOptions.NONE.withSize(PictureSize.of(1920, 1080));
    ReceivedSet came =
        new ShotIntake()
            .add(file("P: \"CameraProjectionType\", \"enum\", \"\", \"\",1"), o, Progress.NONE)
            .received(o);
    assertThat(came.files().get(0).scene().cameras()).isEmpty();
    assertThat(came.notes())
        .extracting(Object::toString)
        .anyMatch(n -> n.contains("cam: it is orthographic"));
  }
}
