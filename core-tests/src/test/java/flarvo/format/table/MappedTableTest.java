package flarvo.format.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.HostileFiles;
import flarvo.TestShots;
import flarvo.convention.AngleUnit;
import flarvo.convention.FilmBack;
import flarvo.convention.LinearUnit;
import flarvo.convention.RotationOrder;
import flarvo.convention.SignedAxis;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Tables that nobody described: what is guessed of them, and what a mapping makes of them. */
class MappedTableTest {

  private static final PictureSize HD = TestShots.HD;
  private static final Shot TRUTH = TestShots.walk(20, 12, 3);

  @TempDir private Path dir;

  private static FileScene read(String text, TableMapping m) {
    return MappedTable.read("t.txt", text, m, ReadLimits.USUAL, Progress.NONE);
  }

  private interface RowWriter {
    String row(String tracker, int frame, double x, double y);
  }

  private static String tracks(RowWriter w) {
    StringBuilder s = new StringBuilder();
    Pinhole h = new Pinhole(TRUTH.camera().orElseThrow(), HD);
    double[] px = new double[3];
    TrackerSet t = TRUTH.trackers().get(0);
    for (int i = 0; i < t.size(); i++) {
      for (int f = TRUTH.frames().first(); f <= TRUTH.frames().last(); f++) {
        h.at(f).project(t, i, px);
        s.append(w.row(t.names().get(i), f, px[0], px[1])).append('\n');
      }
    }
    return s.toString();
  }

  private static void isTheTruth(Observations o, double limit) {
    Pinhole h = new Pinhole(TRUTH.camera().orElseThrow(), HD);
    double[] px = new double[3];
    TrackerSet t = TRUTH.trackers().get(0);
    assertThat(o.names()).containsExactlyInAnyOrderElementsOf(t.names());
    for (int i = 0; i < t.size(); i++) {
      for (int r = o.firstRow(t.names().get(i)); r < o.endRow(t.names().get(i)); r++) {
        h.at(o.frame(r)).project(t, i, px);
        assertThat(o.x(r)).isCloseTo(px[0], within(limit));
        assertThat(o.y(r)).isCloseTo(px[1], within(limit));
      }
    }
    assertThat(o.size()).isEqualTo(t.size() * TRUTH.frames().count());
  }

  @Test
  void sharesOfThePictureFromTheBottomWithCommasAreReadBack() {
    String text =
        tracks(
            (n, f, x, y) ->
                String.format(Locale.ROOT, "%s;%d;%.9f;%.9f", n, f, x / 1920, 1 - y / 1080)
                    .replace('.', ','));
    TableMapping m = TableGuess.of(text);
    assertThat(m.layout().between()).isEqualTo(TableLayout.Between.SEMICOLON);
    assertThat(m.layout().decimalComma()).isTrue();
    assertThat(m.layout().header()).isFalse();
    assertThat(m.columns())
        .extracting(TableColumn::role)
        .containsExactly(
            ColumnRole.TRACKER, ColumnRole.FRAME, ColumnRole.PIXEL_X, ColumnRole.PIXEL_Y);
    assertThat(m.pixels().scale()).isIn(PixelReading.Scale.EACH, PixelReading.Scale.HALF_EACH);
    assertThat(m.kind()).as("not before the picture's size is known").isEmpty();
    TableMapping whole =
        m.withPicture(Optional.of(HD))
            .withPixels(
                new PixelReading(
                    PixelReading.Origin.BOTTOM_LEFT, true, PixelReading.Scale.EACH, false));
    isTheTruth(read(text, whole).observations(), 1e-5);
  }

  /** Every way to write a 2D position, by its definition: forth here, back there. */
  @Test
  void everyWayToWriteAPixelLeadsBack() {
    PictureSize wide = new PictureSize(1000, 400, 2);
    Random r = new Random(3);
    for (PixelReading.Origin o : PixelReading.Origin.values()) {
      for (PixelReading.Scale s : PixelReading.Scale.values()) {
        for (boolean up : new boolean[] {false, true}) {
          for (boolean centres : new boolean[] {false, true}) {
            PixelReading p = new PixelReading(o, up, s, centres);
            double x = 1000 * r.nextDouble();
            double y = 400 * r.nextDouble();
            double ox = o == PixelReading.Origin.CENTRE ? 500 : 0;
            double oy =
                o == PixelReading.Origin.CENTRE
                    ? 200
                    : o == PixelReading.Origin.BOTTOM_LEFT ? 400 : 0;
            double half = centres ? 0.5 : 0;
            double vx = x - ox - half;
            double vy = up ? oy - y - half : y - oy - half;
            // On this picture a pixel is twice as wide as it is high.
            double kx =
                switch (s) {
                  case PIXELS -> 1;
                  case WIDTH, EACH -> 1000;
                  default -> 500;
                };
            double ky =
                switch (s) {
                  case PIXELS -> 1;
                  case WIDTH -> 2000;
                  case HALF_WIDTH -> 1000;
                  case EACH -> 400;
                  case HALF_EACH -> 200;
                };
            assertThat(p.x(vx / kx, wide)).as(p.toString()).isCloseTo(x, within(1e-9));
            assertThat(p.y(vy / ky, wide)).as(p.toString()).isCloseTo(y, within(1e-9));
          }
        }
      }
    }
  }

  @Test
  void fixedColumnsHoldNamesWithBlanksAndNumbersThatTouch() {
    String text =
        tracks((n, f, x, y) -> String.format(Locale.ROOT, "point %-6s%5d%12.6f%12.6f", n, f, x, y));
    TableLayout layout =
        new TableLayout(
            TableLayout.Between.FIXED, 0, false, false, List.of(12, 17, 29), TableShape.ROWS);
    TableMapping m = TableGuess.columns(text, layout);
    assertThat(m.kind()).contains(TableMapping.Kind.TRACKS);
    FileScene s = read(text, m);
    assertThat(s.observations().names()).allMatch(n -> n.startsWith("point "));
    assertThat(s.observations().size()).isEqualTo(12 * 20);
  }

  @Test
  void whereFixedColumnsBeginIsSeen() {
    StringBuilder text = new StringBuilder();
    for (String name : List.of("a one", "b", "and more words", "longer names")) {
      text.append(String.format(Locale.ROOT, "%-15s%4d%8.1f%n", name, 1001, 12.5 * name.length()));
    }
    assertThat(LayoutGuess.cuts(text.toString())).containsExactly(15, 22);
    assertThat(TableGuess.of(text.toString()).layout().between())
        .isEqualTo(TableLayout.Between.FIXED);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "point,frm,u,v|TRACKS",
        "Track Name;Frame No.;Pixel X;Pixel Y|TRACKS",
        "name\tx [cm]\ty [cm]\tz [cm]|POINTS",
        "id frame x y tx ty tz|TRACKS_AND_POINTS",
        "frame,posX,posY,posZ,rotX (rad),rotY (rad),rotZ (rad),vfov|CAMERA",
        "\"f\",\"x\",\"y\",\"z\",\"pan\",\"tilt\",\"roll\",\"vfov\"|CAMERA",
      })
  void headersAreUnderstood(String header, TableMapping.Kind kind) {
    char between =
        header.contains("\t")
            ? '\t'
            : header.contains(";") ? ';' : header.contains(",") ? ',' : ' ';
    int columns = header.split(String.valueOf(between)).length;
    StringBuilder text = new StringBuilder("# a comment\n" + header + "\n");
    for (int i = 0; i < 5; i++) {
      for (int c = 0; c < columns; c++) {
        text.append(c == 0 ? "" : String.valueOf(between))
            .append(i + c)
            .append(".5".repeat(c > 1 ? 1 : 0));
      }
      text.append('\n');
    }
    TableMapping m = TableGuess.of(text.toString());
    assertThat(m.layout().header()).isTrue();
    assertThat(m.kind()).contains(kind);
    if (header.contains("[cm]")) {
      assertThat(m.unit()).contains(LinearUnit.CENTIMETRE);
    }
    if (header.contains("(rad)")) {
      assertThat(m.angles()).isEqualTo(AngleUnit.RADIANS);
    }
  }

  private static String cameraRows(int step, String focal) {
    StringBuilder s = new StringBuilder("A title that nobody asked for\n");
    for (int f = 0; f <= 40; f += step) {
      s.append(
          String.format(
              Locale.ROOT,
              "%d %.6f %.6f %.6f %.6f 0 0 %s%n",
              f,
              0.1 * f,
              2.0,
              -f / 4.0,
              0.5 * f,
              focal));
    }
    return s.toString();
  }

  @Test
  void sparseRowsAreInterpolatedAndItIsSaid() {
    String text = cameraRows(10, "30.5");
    TableMapping m = TableGuess.of(text);
    assertThat(m.layout().skip()).isEqualTo(1);
    m = m.withFilm(Optional.of(new FilmBack(24, 13.5))).withFrameShift(1001);
    assertThat(m.kind()).contains(TableMapping.Kind.CAMERA);
    FileScene s = read(text, m);
    var c = s.cameras().get(0).camera();
    assertThat(c.frames().first()).isEqualTo(1001);
    assertThat(c.frames().count()).isEqualTo(41);
    for (int f = 0; f <= 40; f++) {
      Pose p = c.poses().at(1001 + f);
      assertThat(p.position().minus(new Vec3(0.1 * f, 2, -f / 4.0)).length()).isLessThan(1e-6);
      Rotation r = Rotation.about(new Vec3(1, 0, 0), Math.toRadians(0.5 * f));
      assertThat(p.rotation().angleTo(r)).isLessThan(1e-7);
    }
    assertThat(s.notes().toString()).contains("36 frames without a row are interpolated");
  }

  /** One camera, its lens told in four ways, is one camera. */
  @Test
  void theLensMayBeAnAngleOrPixels() {
    double mm = 30.5;
    Optics o = Optics.centred(mm, 24, 13.5);
    double px = mm / 24 * 1920;
    double across = Math.toDegrees(2 * Math.atan(12 / mm));
    double upright = Math.toDegrees(2 * Math.atan(6.75 / mm));
    record Way(FocalReading reading, double value) {}
    for (Way w :
        List.of(
            new Way(FocalReading.PIXELS, px),
            new Way(FocalReading.HORIZONTAL_ANGLE, across),
            new Way(FocalReading.VERTICAL_ANGLE, upright))) {
      String text = cameraRows(10, Double.toString(w.value));
      TableMapping m = TableGuess.of(text).withFocal(w.reading).withPicture(Optional.of(HD));
      Optics read = read(text, m).cameras().get(0).camera().optics().at(20);
      assertThat(read.focalLengthMm() / read.filmHeightMm())
          .as(w.toString())
          .isCloseTo(o.focalLengthMm() / o.filmHeightMm(), within(1e-9));
    }
  }

  @Test
  void signsOrdersUnitsAndAxesCount() {
    String text = "1,2,3,4,0.1,0.2,0.3,35\n2,2,3,4,0.1,0.2,0.3,35\n";
    TableMapping m =
        TableGuess.of(text)
            .withFilm(Optional.of(new FilmBack(24, 13.5)))
            .withAngles(AngleUnit.RADIANS, RotationOrder.ZXY)
            .withSpace(Optional.of(LinearUnit.MILLIMETRE), Optional.of(SignedAxis.POSITIVE_Z))
            .withColumn(2, new TableColumn(ColumnRole.Y, true))
            .withColumn(6, new TableColumn(ColumnRole.TURN_Z, true));
    FileScene s = read(text, m);
    Pose p = s.cameras().get(0).camera().poses().at(1);
    assertThat(p.position()).isEqualTo(new Vec3(2, -3, 4));
    assertThat(p.rotation().angleTo(RotationOrder.ZXY.compose(0.1, 0.2, -0.3))).isLessThan(1e-12);
    assertThat(s.unit().orElseThrow().value()).isEqualTo(LinearUnit.MILLIMETRE);
    assertThat(s.up().orElseThrow().value()).isEqualTo(SignedAxis.POSITIVE_Z);
    assertThat(s.unit().orElseThrow().assumed()).isFalse();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "t1 1 2.5\nt1 2 3.5 4.5\n",
        "t1 1 2.5 x\nt1 2 3.5 4.5\n",
        "t1 1.5 2.5 1\nt1 2 3.5 4.5\n",
        "t1 1 2.5 1\nt1 1 3.5 4.5\n",
        "t1 1 NaN 1\nt1 2 3.5 4.5\n",
      })
  void aBadRowIsAnErrorWithItsPlace(String text) {
    TableMapping m =
        TableMapping.of(
            TableLayout.of(TableLayout.Between.BLANKS, 0, false, false),
            List.of(
                TableColumn.of(ColumnRole.TRACKER),
                TableColumn.of(ColumnRole.FRAME),
                TableColumn.of(ColumnRole.PIXEL_X),
                TableColumn.of(ColumnRole.PIXEL_Y)));
    assertThatThrownBy(() -> read(text, m))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("t.txt");
  }

  @Test
  void whatIsMissingIsSaid() {
    TableMapping m = TableGuess.of("1,2,3,4,5,6,7\n2,3,4,5,6,7,8\n");
    assertThatThrownBy(() -> read("1,2\n", m.withColumn(0, TableColumn.UNUSED)))
        .hasMessageContaining("no column holds");
    assertThat(
            m.withColumn(0, TableColumn.of(ColumnRole.X))
                .withColumn(1, TableColumn.of(ColumnRole.X))
                .lacks())
        .contains("two columns hold the position x");
  }

  @Test
  void aMappingComesBackFromItsJson() throws IOException {
    TableMapping m =
        TableGuess.of(cameraRows(5, "30.5"))
            .withName("rig \u00e9 \"one\"")
            .withPixels(
                new PixelReading(
                    PixelReading.Origin.CENTRE, true, PixelReading.Scale.HALF_WIDTH, true))
            .withAngles(AngleUnit.RADIANS, RotationOrder.YZX)
            .withFocal(FocalReading.PIXELS)
            .withFrameShift(-7)
            .withSpace(Optional.of(new LinearUnit(0.37)), Optional.of(SignedAxis.POSITIVE_Z))
            .withPicture(Optional.of(new PictureSize(1828, 1556, 2)))
            .withFilm(Optional.of(new FilmBack(21.95, 18.6)))
            .withColumn(2, new TableColumn(ColumnRole.Y, true));
    ObjectMapper mapper = new ObjectMapper();
    String text = mapper.writeValueAsString(TableMappingJson.write(m));
    assertThat(TableMappingJson.read(mapper.readTree(text))).isEqualTo(m);
    assertThatThrownBy(
            () -> TableMappingJson.read(mapper.readTree(text.replace("\"YZX\"", "\"YYY\""))))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void proseIsNoTable() {
    assertThat(TableGuess.isTable("Shot 010, terrace.\nCamera: 35 mm, progressive.\n")).isFalse();
    assertThat(TableGuess.isTable("1 2\n")).isFalse();
    assertThat(TableGuess.isTable("1 2\n3 4\n")).isTrue();
  }

  @Test
  void garbledTablesEndInAnErrorOrAScene() throws IOException {
    String text = tracks((n, f, x, y) -> String.format(Locale.ROOT, "%s %d %.3f %.3f", n, f, x, y));
    byte[] whole = text.substring(0, 1500).getBytes(java.nio.charset.StandardCharsets.UTF_8);
    HostileFiles.garbled(
        whole,
        dir.resolve("t.txt"),
        file -> {
          try {
            TableMapping m = TableGuess.of(Files.readString(file));
            MappedTable.read(file, m, ReadLimits.USUAL, Progress.NONE);
          } catch (IOException e) {
            throw new InputError(file.toString(), "", "no UTF-8", "", e);
          }
        });
  }
}
