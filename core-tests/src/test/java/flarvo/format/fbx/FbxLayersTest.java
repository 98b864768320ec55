package flarvo.format.fbx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.report.Note;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Animation layers, inherit types and what curves do beyond their keys. */
class FbxLayersTest {

  @TempDir private Path dir;

  private final List<String> layers = new ArrayList<>();
  private final StringBuilder objects = new StringBuilder();
  private final StringBuilder links = new StringBuilder();
  private int number = 1000;

  /**
   * Three trees whose models have pivots, all orders and inherit types and four layers of every
   * mode, as the independent reader of {@code peers/fbx} evaluated them.
   */
  @Test
  void treesUnderLayersAreWhereAnotherReaderSaysTheyAre() throws IOException, URISyntaxException {
    FileScene s = read(Path.of(getClass().getResource("trees.fbx").toURI()));
    Map<String, TrackerSet> sets = new HashMap<>();
    s.trackers().forEach(t -> t.names().forEach(n -> sets.put(n, t)));
    List<String> rows = Files.readAllLines(Path.of(getClass().getResource("trees.csv").toURI()));
    double worst = 0;
    for (String row : rows.subList(1, rows.size())) {
      String[] w = row.split(",", -1);
      TrackerSet t = sets.get(w[0]);
      Vec3 at = t.position(t.names().indexOf(w[0]), Integer.parseInt(w[1]));
      Vec3 theirs =
          new Vec3(Double.parseDouble(w[2]), Double.parseDouble(w[3]), Double.parseDouble(w[4]));
      worst = Math.max(worst, at.minus(theirs).length() / Math.max(10, theirs.length()));
    }
    assertThat(rows).hasSizeGreaterThan(50);
    assertThat(worst).isLessThan(1e-6);
  }

  /** x of one null: 2 by itself, 3 by the lowest layer, 10 by the one above. */
  @ParameterizedTest
  @CsvSource({
    "0, 100, 13", // additive
    "0, 50, 8",
    "0, 0, 3",
    "1, 50, 10", // override: the weight does not count
    "2, 100, 10", // pass-through
    "2, 25, 4.75",
    "0, 130, 13",
    "0, -20, 3"
  })
  void aLayerMeetsTheOneBelow(int mode, double weight, double expected) throws IOException {
    layer("base", 0, 100, "");
    layer("top", mode, weight, "");
    drive(0, "Lcl Translation", 3);
    drive(1, "Lcl Translation", 10);
    assertThat(x()).isCloseTo(expected, within(1e-12));
  }

  @Test
  void scalesMultiplyUnlessTheLayerAddsThem() throws IOException {
    layer("base", 0, 100, "");
    layer("top", 0, 50, "");
    drive(0, "Lcl Scaling", 3);
    drive(1, "Lcl Scaling", 4);
    assertThat(childX()).isCloseTo(2 + 3 * 2, within(1e-12)); // 3 · √4, of a child at 1
    layers.set(
        1, layers.get(1).replace("}", "P: \"ScaleAccumulationMode\", \"\", \"\", \"\",1\n}"));
    assertThat(childX()).isCloseTo(2 + 3 + 2, within(1e-12));
  }

  @Test
  void mutedLayersDoNotCountAndThatIsSaid() throws IOException {
    layer("base", 0, 100, "");
    layer("shake", 0, 100, "P: \"Mute\", \"bool\", \"\", \"\",1\n");
    drive(0, "Lcl Translation", 3);
    drive(1, "Lcl Translation", 10);
    assertThat(x()).isEqualTo(3);
    assertThat(read(file()).notes()).extracting(Note::text).anyMatch(t -> t.contains("[shake]"));
  }

  @Test
  void aSoloedLayerSilencesTheOthers() throws IOException {
    layer("base", 0, 100, "");
    layer("fix", 0, 100, "P: \"Solo\", \"bool\", \"\", \"\",1\n");
    layer("shake", 0, 100, "");
    drive(0, "Lcl Translation", 3);
    drive(1, "Lcl Translation", 10);
    drive(2, "Lcl Translation", 100);
    assertThat(x()).isEqualTo(12); // on top of the null's own 2
    assertThat(read(file()).notes())
        .extracting(Note::text)
        .anyMatch(t -> t.contains("[base, shake]"));
  }

  /** The order is the stack's, not that in which curves come. */
  @Test
  void theStackOrdersItsLayers() throws IOException {
    layer("base", 0, 100, "");
    layer("first", 1, 100, "");
    layer("second", 1, 100, "");
    drive(2, "Lcl Translation", 30);
    drive(1, "Lcl Translation", 20);
    assertThat(x()).isEqualTo(30);
  }

  /** Each animates the weight of the other: nothing may run in circles. */
  @Test
  void weightsThatDependOnEachOtherEnd() throws IOException {
    layer("a", 0, 100, "");
    layer("b", 0, 50, "");
    layer("c", 0, 50, "");
    drive(1, "Lcl Translation", 10);
    weight(1, 2, 100);
    weight(2, 1, 100);
    assertThat(x()).isEqualTo(12);
  }

  /** Keys: 1 at one second, 3 at two. */
  @ParameterizedTest
  @CsvSource({
    "C, -1, 4.25, 3",
    "K, -1, 4.25, 7.5", // two units a second
    "R, -1, 4.25, 1.5",
    "R, 1, 4.25, 3",
    "R, 0, 4.25, 3",
    "M, -1, 2.25, 2.5",
    "M, -1, 3.25, 1.5",
    "M, -1, 4.25, 2.5",
    "A, -1, 4.25, 5.5",
    "A, -1, 2.25, 3.5"
  })
  void aCurveGoesOnAfterItsKeys(String mode, int repeats, double seconds, double expected) {
    FbxCurve c = curve("Post", mode, repeats);
    double tick = seconds * FbxTime.TICKS_PER_SECOND;
    double found = c.at(tick);
    // A mirrored second starts from its end.
    assertThat(found)
        .isCloseTo(mode.equals("A") ? expected + (seconds > 4 ? 2 : 0) : expected, within(1e-9));
  }

  @ParameterizedTest
  @CsvSource({"C, 0.25, 1", "K, 0.25, -0.5", "R, 0.25, 1.5", "M, 0.25, 2.5", "A, 0.25, -0.5"})
  void aCurveComesFromBeforeItsKeys(String mode, double seconds, double expected) {
    double tick = seconds * FbxTime.TICKS_PER_SECOND;
    assertThat(curve("Pre", mode, -1).at(tick)).isCloseTo(expected, within(1e-9));
  }

  private static FbxCurve curve(String end, String mode, int repeats) {
    long second = FbxTime.TICKS_PER_SECOND;
    String text =
        "AnimationCurve: 7, \"c\", \"\" {\n KeyTime: *2 {\n a: "
            + second
            + ","
            + 2 * second
            + "\n }\n KeyValueFloat: *2 {\n a: 1,3\n }\n "
            + (end + "-Extrapolation: {\n Type: " + mode + "\n Repetition: " + repeats + "\n }\n}");
    FbxNode root = new FbxTextParser("t", text, ReadLimits.USUAL, Progress.NONE).parse();
    return FbxCurve.read(root.children.get(0), "t");
  }

  private void layer(String name, int mode, double weight, String more) {
    layers.add(
        "AnimationLayer: "
            + (20 + layers.size())
            + (", \"AnimLayer::" + name + "\", \"\" {\n Properties70: {\n")
            + ("P: \"BlendMode\", \"enum\", \"\", \"\"," + mode + "\n")
            + ("P: \"Weight\", \"Number\", \"\", \"A\"," + weight + "\n")
            + (more + " }\n}\n"));
  }

  private void drive(int layer, String property, double value) {
    connect(layer, 100, property, "d|X", value);
  }

  private void weight(int of, int in, double value) {
    connect(in, 20 + of, "Weight", "d|Weight", value);
  }

  private void connect(int layer, int target, String property, String channel, double value) {
    int node = number++;
    int curve = number++;
    objects.append("AnimationCurveNode: ").append(node).append(", \"T\", \"\" {\n}\n");
    objects.append("AnimationCurve: ").append(curve).append(", \"c\", \"\" {\n KeyTime: *1 {\n");
    objects.append(" a: 0\n }\n KeyValueFloat: *1 {\n a: ").append(value).append("\n }\n}\n");
    links.append("C: \"OO\",").append(node).append(',').append(20 + layer).append('\n');
    links.append("C: \"OP\",").append(node).append(',').append(target);
    links.append(", \"").append(property).append("\"\n");
    links.append("C: \"OP\",").append(curve).append(',').append(node);
    links.append(", \"").append(channel).append("\"\n");
  }

  private Path file() throws IOException {
    StringBuilder text =
        new StringBuilder("FBXHeaderExtension: {\n FBXVersion: 7500\n}\nObjects: {\n");
    text.append("AnimationStack: 10, \"AnimStack::take\", \"\" {\n}\n");
    layers.forEach(text::append);
    text.append(model(100, "holds", 2)).append(model(101, "child", 1)).append(objects);
    text.append("}\nConnections: {\nC: \"OO\",100,0\nC: \"OO\",101,100\n");
    for (int i = 0; i < layers.size(); i++) {
      text.append("C: \"OO\",").append(20 + i).append(",10\n");
    }
    text.append(links).append("}\n");
    return Files.writeString(dir.resolve("layers.fbx"), text);
  }

  private static String model(int id, String name, double x) {
    return "Model: "
        + id
        + (", \"Model::" + name + "\", \"Null\" {\n Properties70: {\n")
        + ("P: \"Lcl Translation\", \"Lcl Translation\", \"\", \"A\"," + x + ",0,0\n }\n}\n");
  }

  private double x() throws IOException {
    return childX() - 1;
  }

  private double childX() throws IOException {
    TrackerSet t = read(file()).trackers().get(0);
    return t.position(t.names().indexOf("child"), 0).x();
  }

  private static FileScene read(Path file) {
    return new FbxTextFormat().read(file, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }
}
