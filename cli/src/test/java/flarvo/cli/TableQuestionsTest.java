package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A table that does not say what it means is a question with the option that settles it. */
class TableQuestionsTest {

  private static final String BARE =
      "1001 1 2 3 10 20 30 35 36 24\n1002 2 2 3 10 20 30 35 36 24\n1003 3 2 3 10 20 30 35 36 24\n";

  @TempDir private Path dir;

  private Path file(String text) throws IOException {
    return Files.writeString(dir.resolve("t.txt"), text);
  }

  @Test
  void columnsWithoutNamesAreAskedForAndTheAnswerIsAtHand() throws IOException {
    Path t = file(BARE);
    Said asked = run("inspect", t);
    assertThat(asked.code()).isEqualTo(ExitCode.BAD_INPUT);
    assertThat(asked.err())
        .contains(
            "columns have no names",
            "--columns \"frame,tx,ty,tz,rx,ry,rz,focal,film_width_mm,film_height_mm\"");
    String words = "frame,tx,ty,tz,rx,ry,rz,focal,film_width_mm,film_height_mm";
    Said order = run("inspect", t, "--columns", words);
    assertThat(order.err()).contains("--rotation-order");
    Said read = run("inspect", t, "--columns", words, "--rotation-order", "zxy", "--json");
    assertThat(read.code()).as(read.err()).isZero();
    JsonNode n = new ObjectMapper().readTree(read.out());
    n = n.isArray() ? n.get(0) : n;
    assertThat(n.get("cameras").get(0).get("firstFrame").asInt()).isEqualTo(1001);
    assertThat(n.get("columns").asText()).isEqualTo(words);
  }

  /** The answers change what is read: a turned sign, another order, other angles. */
  @ParameterizedTest
  @CsvSource({
    "tz, XYZ, deg, 3",
    "-tz, XYZ, deg, -3",
    "tz, ZYX, deg, 3",
    "tz, XYZ, rad, 3",
  })
  void answersCount(String z, String order, String angles, double expected) throws IOException {
    Path t = file(BARE);
    Path out = dir.resolve("o.json");
    Said said =
        run(
            "convert",
            t,
            "--out",
            out,
            "--to",
            "comp-yup",
            "--size",
            "1920x1080",
            "--columns",
            "frame,tx,ty," + z + ",rx,ry,rz,focal,film_width_mm,film_height_mm",
            "--rotation-order",
            order,
            "--angles",
            angles);
    assertThat(said.code()).as(said.err()).isZero();
    Said shown = run("inspect", out, "--json", "--geometry");
    JsonNode n = new ObjectMapper().readTree(shown.out());
    n = n.isArray() ? n.get(0) : n;
    JsonNode pose = n.get("cameras").get(0).get("poses").get(0);
    assertThat(pose.get("position").get(2).asDouble()).isCloseTo(expected, within(1e-9));
    double turn = angles.equals("rad") ? 1 : Math.PI / 180;
    double x = 10 * turn;
    double y = 20 * turn;
    double c = Math.cos(30 * turn);
    double s = Math.sin(30 * turn);
    // The view is -z of the last turn: about z first, z stays where it is until the others turn it.
    double[] view =
        order.equals("XYZ")
            ? turned(new double[] {0, Math.sin(x), -Math.cos(x)}, y, c, s)
            : new double[] {-Math.sin(y), Math.sin(x) * Math.cos(y), -Math.cos(x) * Math.cos(y)};
    for (int k = 0; k < 3; k++) {
      assertThat(pose.get("view").get(k).asDouble()).isCloseTo(view[k], within(1e-6));
    }
  }

  /** About y and then about z. */
  private static double[] turned(double[] v, double y, double c, double s) {
    double x = v[0] * Math.cos(y) + v[2] * Math.sin(y);
    double z = -v[0] * Math.sin(y) + v[2] * Math.cos(y);
    return new double[] {x * c - v[1] * s, x * s + v[1] * c, z};
  }

  @Test
  void aSavedMappingAnswersEverything() throws IOException {
    Path t = file(BARE);
    Path mapping =
        Files.writeString(
            dir.resolve("map.json"),
            """
            {"name": "theirs", "layout": {"between": "blanks"}, "order": "ZXY",
             "columns": ["frame", "tx", "ty", "tz", "rx", "ry", "rz", "focal",
                         "film_width_mm", "film_height_mm"]}
            """);
    assertThat(run("inspect", t, "--mapping", mapping).code()).isZero();
    assertThat(run("inspect", t, "--mapping", "nobody's").err()).contains("no saved mapping");
  }

  @Test
  void wordsThatMeanNothingAreRefused() throws IOException {
    Path t = file(BARE);
    assertThat(run("inspect", t, "--columns", "frame,what").err()).contains("--columns", "'what'");
    assertThat(run("inspect", t, "--y", "sideways").err()).contains("--y takes up or down");
    assertThat(run("inspect", t, "--rotation-order", "XXY").err()).contains("--rotation-order");
  }

  /** y up from the bottom: what is 100 px above the lower edge is 980 below the upper one. */
  @Test
  void tracksFromTheBottomAreTurnedOver() throws IOException {
    Path t = file("track;frame;x;y\na;1;10;100\na;2;11;101\nb;1;5;7\n");
    Said down = run("inspect", t, "--json");
    assertThat(down.code()).as(down.err()).isZero();
    Said up = run("inspect", t, "--y", "up");
    assertThat(up.code()).isEqualTo(ExitCode.BAD_INPUT);
    assertThat(up.err()).contains("picture's size", "--size");
    assertThat(run("inspect", t, "--y", "up", "--size", "1920x1080").code()).isZero();
  }
}
