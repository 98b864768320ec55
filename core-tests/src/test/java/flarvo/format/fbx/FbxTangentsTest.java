package flarvo.format.fbx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Every mode of tangents that a key can have. */
class FbxTangentsTest {

  @TempDir private Path dir;

  private static Path resource(String name) throws URISyntaxException {
    return Path.of(FbxTangentsTest.class.getResource(name).toURI());
  }

  /**
   * 120 random curves of thirteen modes, as the independent reader of {@code peers/fbx} evaluated
   * them. It takes 0.333333 for a third, hence the limit.
   */
  @Test
  void curvesOfEveryModeRunAsAnotherReaderSaysTheyDo() throws IOException, URISyntaxException {
    FileScene s =
        new FbxTextFormat()
            .read(resource("tangents.fbx"), Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
    Map<String, TrackerSet> nodes = new HashMap<>();
    s.trackers().forEach(t -> t.names().forEach(n -> nodes.put(n, t)));
    List<String> rows = Files.readAllLines(resource("tangents.csv"));
    double worst = 0;
    for (String row : rows.subList(1, rows.size())) {
      String[] w = row.split(",", -1);
      TrackerSet t = nodes.get(w[0]);
      Vec3 at = t.position(t.names().indexOf(w[0]), Integer.parseInt(w[1]));
      double[] ours = {at.x(), at.y(), at.z()};
      for (int k = 0; k < 3; k++) {
        double theirs = Double.parseDouble(w[2 + k]);
        worst = Math.max(worst, Math.abs(ours[k] - theirs) / Math.max(10, Math.abs(theirs)));
      }
    }
    assertThat(rows).hasSizeGreaterThan(500);
    assertThat(worst).isLessThan(1e-5);
  }

  /**
   * One null whose x runs through three keys at 0, 1 and 3 seconds; the middle one is asked for.
   */
  private double at(double seconds, double[] values, long flags, double... data)
      throws IOException {
    StringBuilder attributes = new StringBuilder();
    for (int k = 0; k < 3; k++) {
      for (int i = 0; i < 4; i++) {
        float v = k == 1 && i < data.length ? (float) data[i] : 0;
        attributes.append(attributes.length() == 0 ? "" : ",").append(Float.floatToRawIntBits(v));
      }
    }
    long second = FbxTime.TICKS_PER_SECOND;
    String text =
        String.format(
            Locale.ROOT,
            """
            AnimationCurve: 7, "AnimCurve::", "" {
              KeyTime: *3 {
                a: 0,%d,%d
              }
              KeyValueFloat: *3 {
                a: %s,%s,%s
              }
              KeyAttrFlags: *3 {
                a: 1032,%d,1032
              }
              KeyAttrDataFloat: *12 {
                a: %s
              }
              KeyAttrRefCount: *3 {
                a: 1,1,1
              }
            }
            """,
            second,
            3 * second,
            values[0],
            values[1],
            values[2],
            flags,
            attributes);
    Path file = Files.writeString(dir.resolve("curve.fbx"), "FBXVersion: 7500\n" + text);
    FbxNode root =
        new FbxTextParser(file.toString(), Files.readString(file), ReadLimits.USUAL, Progress.NONE)
            .parse();
    return FbxCurve.read(root.child("AnimationCurve").orElseThrow(), file.toString())
        .at(seconds * second);
  }

  /** Of a cubic from slope 0 to the slope m over one second: v(½) − mean = −m/8. */
  private double slopeOfTheMiddleKey(double[] values, long flags, double... data)
      throws IOException {
    double half = at(0.5, values, flags, data);
    return -8 * (half - (values[0] + values[1]) / 2);
  }

  @Test
  void anAutomaticTangentIsTheMeanOfItsChords() throws IOException {
    double[] v = {0, 6, 2};
    // Chords: over all 2/3, left 6, right −2; a third of the time lies to the left.
    double expected = 0.5 * (2.0 / 3) + 0.5 * (6 * (2.0 / 3) + -2 * (1.0 / 3));
    assertThat(slopeOfTheMiddleKey(v, 0x108)).isCloseTo(expected, within(1e-6));
    assertThat(slopeOfTheMiddleKey(v, 0x2108)).isCloseTo(2.0 / 3, within(1e-6));
  }

  @Test
  void aClampedTangentIsFlatWhereTheCurveIs() throws IOException {
    assertThat(slopeOfTheMiddleKey(new double[] {0, 2, 2}, 0x1108)).isCloseTo(0, within(1e-6));
    assertThat(slopeOfTheMiddleKey(new double[] {0, 6, 2}, 0x4108)).isCloseTo(0, within(1e-6));
    assertThat(slopeOfTheMiddleKey(new double[] {0, 1, 9}, 0x4108)).isPositive();
  }

  @Test
  void whatAUserDrewIsASlopeAndWhatIsAutomaticIsNot() throws IOException {
    double[] v = {0, 6, 2};
    // The slope left of a key stands with the key before it, which has none here.
    assertThat(slopeOfTheMiddleKey(v, 0x408, 50)).isCloseTo(0, within(1e-6));
    assertThat(slopeOfTheMiddleKey(v, 0x908, 50)).isNotCloseTo(50, within(1.0));
  }

  /**
   * Kochanek and Bartels: full tension stands still, none of anything is the mean of the chords.
   */
  @Test
  void tensionContinuityAndBias() throws IOException {
    double[] v = {0, 6, 2};
    assertThat(slopeOfTheMiddleKey(v, 0x208, 1, 0, 0)).isCloseTo(0, within(1e-6));
    assertThat(slopeOfTheMiddleKey(v, 0x208, 0, 0, 0)).isCloseTo(2, within(1e-6));
    assertThat(slopeOfTheMiddleKey(v, 0x208, 0, 0, 1)).isCloseTo(6, within(1e-6));
    assertThat(slopeOfTheMiddleKey(v, 0x208, 0, 1, 0)).isCloseTo(-2, within(1e-6));
  }
}
