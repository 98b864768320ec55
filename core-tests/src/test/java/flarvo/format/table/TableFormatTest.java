package flarvo.format.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.format.FileScene;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.format.SceneFormatContract;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.scene.Vec3;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class TableFormatTest extends SceneFormatContract {

  private static final String CAMERA =
      "frame,tx,ty,tz,rx,ry,rz,focal_mm,film_width_mm,film_height_mm\n";

  @Override
  protected SceneFormat format() {
    return new TableFormat();
  }

  @Override
  protected double limitPx() {
    return 1e-8;
  }

  @Test
  void readsTwoDimensionalTracks() throws IOException {
    FileScene s = read(file("tracker,frame,x,y\nb,1002,3.5,4\na,1001,1,2\nb,1001,3,4\n"));
    assertThat(s.observations().size()).isEqualTo(3);
    assertThat(s.observations().x(s.observations().row("b", 1002))).isEqualTo(3.5);
    assertThat(s.range().orElseThrow().value().count()).isEqualTo(2);
  }

  @Test
  void readsTrackerPositionsWithCommentsAndSpaces() throws IOException {
    FileScene s = read(file("# rows: 2\n\ntracker, x, y, z\np 1, 1, 2, 3\n\"p,2\", -1,0,1e3\n"));
    assertThat(s.trackers().get(0).names()).containsExactly("p 1", "p,2");
    assertThat(s.trackers().get(0).position(1)).isEqualTo(new Vec3(-1, 0, 1000));
  }

  @Test
  void framesWithoutARowAreInterpolatedAndSaid() throws IOException {
    FileScene s = read(file(CAMERA + "1,0,0,0,0,0,0,35,36,24\n3,2,4,6,0,40,0,35,36,24\n"));
    var pose = s.cameras().get(0).camera().poses().at(2);
    assertThat(pose.position()).isEqualTo(new Vec3(1, 2, 3));
    assertThat(
            pose.rotation()
                .angleTo(flarvo.scene.Rotation.about(new Vec3(0, 1, 0), Math.toRadians(20))))
        .isLessThan(1e-12);
    assertThat(s.notes()).anyMatch(n -> n.text().contains("1 frames without a row"));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "1,0,0,zero,0,0,0,35,36,24|line 2, column tz",
        "1,0,0,NaN,0,0,0,35,36,24|line 2, column tz",
        "1,0,0,0,0,0,0,35,36|line 2, column film_height_mm",
        "1.5,0,0,0,0,0,0,35,36,24|not an integer frame",
        "1,0,0,0,0,0,0,-35,36,24|focal length",
        "1,0,0,0,0,0,0,35,0,24|film back",
        "1,0,0,0,0,0,\"0|corrupt",
      })
  void badRowsAreRefusedWithLineAndColumn(String row, String place) {
    assertThatThrownBy(() -> read(file(CAMERA + row + "\n")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(place);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "frame,tx,ty,tz,rx,ry,rz|no rows",
        "apples,pears;1,2|no supported columns",
        "tracker,frame,x,y;a,1,0,0;a,1,1,1|twice at frame 1",
        "frame,frame,x;1,1,1|two columns",
        "# rows: 5;tracker,x,y,z;a,1,2,3|claims 5 rows and holds 1",
        "# rate: 0/0;tracker,x,y,z;a,1,2,3|comment 'rate'",
      })
  void badTablesAreRefused(String lines, String cause) {
    assertThatThrownBy(() -> read(file(lines.replace(';', '\n') + "\n")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(cause);
  }

  /** 2.54 mm to the right is −0.1 inch of film back, and +2.54 of principal point. */
  @Test
  void aShiftIsSpelledInTheDialectsUnitAndSign() throws IOException {
    Shot shifted = TestShots.walk(1, 2, 1);
    shifted =
        new Shot(
            "s",
            shifted.picture(),
            shifted.rate(),
            shifted.frames(),
            1001,
            List.of(
                shifted
                    .cameras()
                    .get(0)
                    .withOptics(
                        shifted.cameras().get(0).optics().map(o -> o.withPrincipal(2.54, 0)))),
            shifted.trackers(),
            shifted.observations(),
            List.of(),
            shifted.level());
    Dialects all = Dialects.shipped();
    assertThat(Files.readString(send(shifted, all.get("anim-yup-cm"), "a")))
        .contains("shift_x", ",-0.1,");
    assertThat(Files.readString(send(shifted, all.get("comp-yup"), "b"))).contains(",2.54,");
    assertThat(Files.readString(send(shifted, all.get("comp-pixels"), "c")))
        .doesNotContain("shift_x");
  }

  @Test
  void aFrameGivenTwiceIsRefused() {
    assertThatThrownBy(
            () -> read(file(CAMERA + "1,0,0,0,0,0,0,35,36,24\n1,0,0,0,0,0,0,35,36,24\n")))
        .hasMessageContaining("given twice");
  }

  @Test
  void aTableThatSpansTheWorldIsRefused() {
    assertThatThrownBy(
            () -> read(file(CAMERA + "1,0,0,0,0,0,0,35,36,24\n90000000,0,0,0,0,0,0,35,36,24\n")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("spans");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "tracker,frame,x,y\na,1,1.5,-2e1\na,3,4,5\n",
        "tracker\tframe\tx\ty\r\na\t1\t1.5\t-20\r\n\r\na\t3\t4\t5\r\n",
        "# from a spreadsheet\ntracker;frame;x;y\n# half-way\na;1;1,5;-20,0\na;3;4;5\n",
        "\"tracker\";\"frame\";\"x\";\"y\"\n\"a\";1;\"1,5\";-20\na;3;4;5\n",
        "y , x , frame , tracker\n -20 , 1.5 , 1 , a \n5,4,3,a\n"
      })
  void tablesOfEveryDelimiter(String text) throws IOException {
    Path f = file(text);
    assertThat(Formats.recognise(f).id()).isEqualTo("table");
    var o = read(f).observations();
    assertThat(o.size()).isEqualTo(2);
    assertThat(o.x(o.row("a", 1))).isEqualTo(1.5);
    assertThat(o.y(o.row("a", 1))).isEqualTo(-20);
    assertThat(o.frame(o.row("a", 3))).isEqualTo(3);
  }

  @Test
  void rowsComeInAnyOrderAndTwiceIsRefused() throws IOException {
    var o = read(file("tracker,frame,x,y\nb,3,1,1\na,9,9,9\nb,1,2,2\nb,2,3,3\n")).observations();
    assertThat(o.x(o.row("b", 1))).isEqualTo(2);
    assertThat(o.x(o.row("b", 3))).isEqualTo(1);
    assertThat(o.x(o.row("a", 9))).isEqualTo(9);
    Path twice = file("tracker,frame,x,y\nb,3,1,1\na,9,9,9\nb,3,2,2\n");
    assertThatThrownBy(() -> read(twice)).hasMessageContaining("twice at frame 3");
  }
}
