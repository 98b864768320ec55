package flarvo.format.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.convention.RotationOrder;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.work.Progress;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Tables with columns or a block for each tracker, with times for frames, with matrices. */
class TableShapeTest {

  private static FileScene read(String text, TableMapping m) {
    return MappedTable.read("t.txt", text, m, ReadLimits.USUAL, Progress.NONE);
  }

  private static Observations tracks(String text) {
    TableMapping m = TableGuess.of(text);
    assertThat(TableAdvice.NONE.doubts(text, m)).isEmpty();
    return read(text, m).observations();
  }

  private static void holds(Observations o, String tracker, int frame, double x, double y) {
    int row = o.row(tracker, frame);
    assertThat(row).as(tracker + " " + frame).isNotNegative();
    assertThat(o.x(row)).isCloseTo(x, within(1e-9));
    assertThat(o.y(row)).isCloseTo(y, within(1e-9));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "frame;a_x;a_y;b_x;b_y\n1;10.5;20;;\n2;11;21.5;30;40\n",
        "frame,b.u,b.v,a.u,a.v\n1,,,10.5,20\n2,30,40,11,21.5\n",
        "Frame\ta X [px]\ta Y [px]\tb X [px]\tb Y [px]\n1\t10.5\t20\t\t\n2\t11\t21.5\t30\t40\n",
      })
  void columnsForEachTracker(String text) {
    Observations o = tracks(text);
    assertThat(o.names()).containsExactlyInAnyOrder("a", "b");
    holds(o, "a", 1, 10.5, 20);
    holds(o, "a", 2, 11, 21.5);
    holds(o, "b", 2, 30, 40);
    assertThat(o.size()).isEqualTo(3);
    TableMapping m = TableGuess.of(text);
    assertThat(m.layout().shape()).isEqualTo(TableShape.COLUMNS);
    assertThat(read(text, m).notes())
        .as("a tracker that is not seen is no fault of the table")
        .noneMatch(n -> n.text().contains("blank"));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "a\n1 10.5 20\n2 11 21.5\nb\n2 30 40\n",
        "Track: a\n2\nframe x y\n1 10.5 20\n2 11 21.5\n\nTrack: b\n1\nframe x y\n2 30 40\n",
        "[a]\n1;10,5;20,0\n2;11,0;21,5\n[b]\n2;30,0;40,0\n",
        "solved tracks\nversion 3\npoint a\n1\t10.5\t20\n2\t11\t21.5\npoint b\n2\t30\t40\n",
      })
  void aBlockForEachTracker(String text) {
    Observations o = tracks(text);
    assertThat(o.names()).containsExactlyInAnyOrder("a", "b");
    holds(o, "a", 1, 10.5, 20);
    holds(o, "a", 2, 11, 21.5);
    holds(o, "b", 2, 30, 40);
    assertThat(o.size()).isEqualTo(3);
  }

  @Test
  void aBlockThatWasCutOffIsAnError() {
    String text = "a\n2\n1 10.5 20\n2 11 21.5\nb\n3\n1 30.5 40\n2 31 40\n";
    TableMapping m = TableGuess.of(text);
    assertThatThrownBy(() -> read(text, m))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("line 5")
        .hasMessageContaining("'b' claims 3 rows and has 2");
  }

  @Test
  void linesWithoutRowsAreSaid() {
    String text = "made by hand\na\n1 10.5 20\n2 11 21.5\nb\n2 30 40\n";
    assertThat(read(text, TableGuess.of(text)).notes())
        .anyMatch(n -> n.text().contains("made by hand"));
  }

  @Test
  void errorsNameTheLineOfTheText() {
    String wide = "frame;a_x;a_y;b_x;b_y\n1;10;20;30;40\n2;10;20;oops;40\n";
    assertThatThrownBy(() -> read(wide, TableGuess.of(wide)))
        .hasMessageContaining("line 3")
        .hasMessageContaining("'oops'");
    String blocks = "a\n1 10.5 20\n2 11 21.5\nb\n2 oops 40\n";
    TableMapping m = TableGuess.of("a\n1 10.5 20\n2 11 21.5\nb\n2 30.5 40\n");
    assertThatThrownBy(() -> read(blocks, m)).hasMessageContaining("line 5");
  }

  @Test
  void timecodeAndSecondsBecomeFrames() {
    String rows = "a;00:00:04:01;10;20\na;00:00:04:02;11;20\n";
    TableMapping m = TableGuess.of("track;tc;x;y\n" + rows);
    assertThat(m.lacks()).contains("the rate is needed");
    Optional<Rate> rate = Optional.of(Rate.FPS_24);
    holds(read("track;tc;x;y\n" + rows, m.withRate(rate)).observations(), "a", 98, 11, 20);
    String timed = "# fps: 25\ntrack;time;x;y\na;4.040;10;20\na;4.080;11;20\na;4.120;12;20\n";
    holds(read(timed, TableGuess.of(timed)).observations(), "a", 102, 11, 20);
    assertThatThrownBy(() -> read(timed, TableGuess.of(timed).withRate(rate)))
        .as("between two frames of another rate")
        .hasMessageContaining("4.08 s is frame 97.92 at 24 fps");
  }

  @Test
  void anIntegerCalledATimeIsNotTakenForSeconds() {
    TableMapping m = TableGuess.of("track;time;x;y\na;1001;10.5;20\na;1002;11;20\n");
    assertThat(m.has(ColumnRole.SECONDS)).isFalse();
    assertThat(m.lacks()).contains("frame");
  }

  @Test
  void matricesAreReadBothWaysRound() {
    Rotation q = RotationOrder.XYZ.compose(0.3, -0.7, 1.1);
    double[] r = q.toRows();
    StringBuilder header = new StringBuilder("# matrix: camera to world\nframe");
    for (int i = 0; i < 16; i++) {
      header.append(",m").append(i / 4).append(i % 4);
    }
    header.append(",focal,filmwidth,filmheight\n");
    double[][] both = {
      {r[0], r[1], r[2], 5, r[3], r[4], r[5], 6, r[6], r[7], r[8], 7, 0, 0, 0, 1},
      {r[0], r[3], r[6], 0, r[1], r[4], r[7], 0, r[2], r[5], r[8], 0, 5, 6, 7, 1},
    };
    for (double[] m : both) {
      StringBuilder row = new StringBuilder();
      for (double v : m) {
        row.append(',').append(v);
      }
      String text = header + "1" + row + ",35,36,24\n2" + row + ",35,36,24\n";
      TableMapping guess = TableGuess.of(text);
      assertThat(TableAdvice.NONE.doubts(text, guess)).isEmpty();
      var pose = read(text, guess).cameras().get(0).camera().poses().at(2);
      assertThat(pose.rotation().angleTo(q)).isLessThan(1e-12);
      assertThat(pose.position().z()).isEqualTo(7);
      String silent = text.substring(text.indexOf('\n') + 1);
      assertThat(TableAdvice.NONE.doubts(silent, TableGuess.of(silent)))
          .as("without the comment it may as well lead from the world to the camera")
          .isNotEmpty();
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "1,0,0, 0,1,0, 0,0,-1",
        "1,0,0, 0,2,0, 0,0,1",
        "1,0.2,0, 0,1,0, 0,0,1",
        "0,0,0,0,0,0,0,0,0"
      })
  void aMatrixThatMirrorsOrShearsIsAnError(String m) {
    String columns =
        "frame,tx,ty,tz,m00,m01,m02,m10,m11,m12,m20,m21,m22,focal,filmwidth,filmheight";
    String row = "1,0,0,0," + m + ",35,36,24\n";
    String text = columns + "\n" + row + row.replaceFirst("1", "2");
    assertThatThrownBy(() -> read(text, TableGuess.of(text)))
        .hasMessageContaining("no rotation")
        .hasMessageContaining("line 2");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"a\t1\t1,234.5\t20.25\n", "a\t1\t1.234,5\t20,25\n", "a\t1\t1'234.5\t20.25\n"})
  void thousandsMayBeSetApart(String row) {
    String text = "track\tframe\tx\ty\n" + row + row.replaceFirst("\t1\t", "\t2\t");
    holds(tracks(text), "a", 2, 1234.5, 20.25);
  }

  @Test
  void aCommaThatMayBeEitherIsAsked() {
    String text = "track\tframe\tx\ty\na\t1\t1,234\t20\na\t2\t1,235\t20\n";
    assertThat(TableAdvice.NONE.doubts(text, TableGuess.of(text)))
        .anyMatch(d -> d.what().contains("1,234"));
  }

  /** A camera's table with a rotation that is not understood must not pass for points. */
  @Test
  void aCameraNeverPassesForPoints() {
    String lens = "frame,x,y,z,alpha,beta,gamma,focal\n1,1,2,3,4,5,6,35\n2,1,2,3,4,5,6,35\n";
    assertThat(TableGuess.of(lens).kind()).isEmpty();
    String bare = "frame,x,y,z,alpha,beta,gamma\n1,1,2,3,4,5,6\n2,1,2,3,4,5,6\n";
    assertThat(TableAdvice.NONE.doubts(bare, TableGuess.of(bare)))
        .anyMatch(d -> d.what().contains("alpha, beta, gamma"));
  }

  @Test
  void shapeAndRateComeBackFromJson() throws IOException {
    ObjectMapper mapper = new ObjectMapper();
    for (TableShape s : TableShape.values()) {
      TableMapping m =
          TableMapping.of(
                  TableLayout.of(TableLayout.Between.TAB, 0, true, false).withShape(s),
                  List.of(TableColumn.of(ColumnRole.TIMECODE), TableColumn.of(ColumnRole.M12)))
              .withRate(Optional.of(Rate.NTSC_24));
      String text = mapper.writeValueAsString(TableMappingJson.write(m));
      assertThat(TableMappingJson.read(mapper.readTree(text))).isEqualTo(m);
    }
  }
}
