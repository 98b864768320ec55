package flarvo.receive;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.RotationOrder;
import flarvo.format.FileScene;
import flarvo.format.table.TableAdvice;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Tables of known truth in random layouts, as people and programs write them. Each must be read
 * right, or be a question; none may be read wrong.
 */
class ForeignTablesTest {

  private static final int TABLES = 600;
  private static final int ROWS = 12;
  private static final List<RotationOrder> ORDERS = List.of(RotationOrder.values());

  @TempDir private Path dir;
  private String question = "";

  private enum Outcome {
    RIGHT,
    ASKED,
    WRONG
  }

  /** How the text of one table is written. */
  private record Style(
      String between,
      boolean comma,
      int header,
      boolean unitRow,
      boolean footer,
      boolean trailing,
      boolean blankCell,
      boolean thousands,
      int encoding) {

    static Style of(Random r) {
      String between = new String[] {",", ";", "\t", " ", "   "}[r.nextInt(5)];
      boolean cells = !between.isBlank() || between.equals("\t");
      return new Style(
          between,
          !between.equals(",") && r.nextInt(3) == 0,
          r.nextInt(5),
          cells && r.nextInt(5) == 0,
          r.nextInt(5) == 0,
          cells && r.nextInt(5) == 0,
          cells && r.nextInt(5) == 0,
          !between.equals(",") && !between.isBlank() && r.nextInt(4) == 0,
          r.nextInt(4));
    }

    /** The columns' names in one of four ways; none in the fifth. */
    String[] names(String[][] all) {
      String[] out = new String[all.length];
      for (int i = 0; i < out.length; i++) {
        String n = all[i][Math.min(header, all[i].length - 1)];
        out[i] = between.isBlank() && !between.equals("\t") ? n.replace(' ', '_') : n;
      }
      return out;
    }
  }

  /** How the rotations of a camera are written. */
  private enum Turned {
    ANGLES,
    QUATERNION,
    MATRIX_4,
    MATRIX_3;

    /**
     * @param flag the quaternion's real part last; the matrix for row vectors
     */
    String[][] names(boolean flag, String first, String others) {
      List<String> out = new ArrayList<>();
      switch (this) {
        case ANGLES -> {
          for (String axis : new String[] {"X", "Y", "Z"}) {
            out.add(
                "r"
                    + axis.toLowerCase(Locale.ROOT)
                    + first
                    + "|Rotate "
                    + axis
                    + others
                    + "|rotate"
                    + axis
                    + others
                    + "|Rotation "
                    + axis
                    + others);
          }
        }
        case QUATERNION -> {
          for (String axis : (flag ? "X Y Z W" : "W X Y Z").split(" ")) {
            out.add(
                (flag ? "q" : "r")
                    + axis.toLowerCase(Locale.ROOT)
                    + "|Quat "
                    + axis
                    + "|quat"
                    + axis
                    + "|Quaternion "
                    + axis);
          }
        }
        default -> {
          int n = this == MATRIX_4 ? 4 : 3;
          for (int i = 0; i < n * n; i++) {
            String one = (i / n + 1) + "" + (i % n + 1);
            String zero = (i / n) + "" + (i % n);
            out.add(
                "m" + zero + "|M " + one + "|matrix" + one + "|m[" + i / n + "][" + i % n + "]");
          }
        }
      }
      return columns(out.toArray(String[]::new));
    }

    double[] numbers(double[] angles, Rotation q, Vec3 at, boolean flag) {
      double[] m = q.toRows();
      return switch (this) {
        case ANGLES -> angles;
        case QUATERNION ->
            flag
                ? new double[] {q.x(), q.y(), q.z(), q.w()}
                : new double[] {q.w(), q.x(), q.y(), q.z()};
        case MATRIX_3 -> m;
        case MATRIX_4 ->
            flag
                ? new double[] {
                  m[0], m[3], m[6], 0, m[1], m[4], m[7], 0, m[2], m[5], m[8], 0, at.x(), at.y(),
                  at.z(), 1
                }
                : new double[] {
                  m[0], m[1], m[2], at.x(), m[3], m[4], m[5], at.y(), m[6], m[7], m[8], at.z(), 0,
                  0, 0, 1
                };
      };
    }
  }

  private static String number(double v, Style s) {
    String t = String.format(Locale.ROOT, s.thousands ? "%,.9f" : "%.9f", v);
    return s.comma ? t.replace(',', '\'').replace('.', ',').replace('\'', '.') : t;
  }

  /** Rows of cells as text, with all that a style puts around them. */
  private static String text(
      Style s, List<String> comments, String[][] names, String[] units, List<String[]> rows) {
    StringBuilder out = new StringBuilder();
    comments.forEach(c -> out.append("# ").append(c).append('\n'));
    String end = (s.trailing ? s.between : "") + "\n";
    if (s.header < 4) {
      out.append(String.join(s.between, s.names(names))).append(end);
    }
    if (s.unitRow) {
      out.append(String.join(s.between, units)).append(end);
    }
    for (int i = 0; i < rows.size(); i++) {
      String[] row = rows.get(i).clone();
      if (s.blankCell && i == rows.size() / 2) {
        row[row.length - 1] = "";
      }
      out.append(String.join(s.between, row)).append(end);
    }
    if (s.footer) {
      out.append("end of data\n");
    }
    return out.toString();
  }

  private FileScene read(String text, Style s) throws IOException {
    Charset charset =
        s.encoding == 2
            ? StandardCharsets.UTF_16LE
            : s.encoding == 3 ? StandardCharsets.UTF_16BE : StandardCharsets.UTF_8;
    String marked = s.encoding == 0 ? text : "\uFEFF" + text;
    Path file = Files.write(dir.resolve("table.txt"), marked.getBytes(charset));
    ShotIntake intake = new ShotIntake(TableAdvice.NONE);
    Optional<ReceivedFile> f =
        intake.mapped(file, IntakeOptions.NONE.withSize(PictureSize.of(1920, 1080)));
    return f.orElseGet(() -> ReceivedFile.read(file, Optional.empty(), Progress.NONE)).scene();
  }

  private interface Check {
    boolean isRight(FileScene s);
  }

  private Outcome outcome(String text, Style s, Check check) throws IOException {
    try {
      return check.isRight(read(text, s)) ? Outcome.RIGHT : Outcome.WRONG;
    } catch (InputError e) {
      question = e.reason();
      return Outcome.ASKED;
    }
  }

  private static String[][] columns(String... words) {
    String[][] out = new String[words.length][];
    for (int i = 0; i < words.length; i++) {
      out[i] = words[i].split("\\|", -1);
    }
    return out;
  }

  private Outcome camera(Random r) throws IOException {
    Style s = Style.of(r);
    Turned turned = Turned.values()[r.nextInt(4)];
    boolean realLast = r.nextBoolean();
    boolean radians = turned == Turned.ANGLES && s.header < 4 && r.nextInt(3) == 0;
    RotationOrder order = ORDERS.get(r.nextInt(6));
    int timed = Math.max(0, r.nextInt(5) - 2); // frames, seconds, timecode
    List<String> comments = new ArrayList<>();
    comments.add("solved camera");
    if (r.nextInt(4) > 0) {
      comments.add(
          new String[] {"rotation order: ", "Rotate Order = ", "order: "}[r.nextInt(3)] + order);
      comments.add("matrix: camera to world");
      comments.add(new String[] {"rate: 25", "fps = 25", "Frame Rate: 25 fps"}[r.nextInt(3)]);
    }
    String rad = radians ? " [rad]" : " (deg)";
    String[][] at3 =
        columns(
            "tx|Translate X|translateX|Position X [m]",
            "ty|Translate Y|translateY|Position Y [m]",
            "tz|Translate Z|translateZ|Position Z [m]");
    List<String[]> all = new ArrayList<>();
    all.addAll(
        List.of(
            columns(
                new String[] {
                      "frame|Frame|frame|Frame",
                      "time|Time [s]|seconds|Time",
                      "tc|Timecode|timecode|TC"
                    }
                    [timed])));
    if (turned != Turned.MATRIX_4) {
      all.addAll(List.of(at3));
    }
    all.addAll(List.of(turned.names(realLast, radians ? rad : "", rad)));
    all.addAll(
        List.of(
            columns(
                "focal|Focal Length|focalLength|Focal Length [mm]",
                "film_width|Film Width|filmWidth|Sensor Width",
                "film_height|Film Height|filmHeight|Sensor Height")));
    String[][] names = all.toArray(String[][]::new);
    List<Pose> poses = new ArrayList<>();
    List<Optics> optics = new ArrayList<>();
    List<String[]> rows = new ArrayList<>();
    int first = r.nextInt(2) * 1000 + 1;
    for (int i = 0; i < ROWS; i++) {
      double a = 80 * (r.nextDouble() - 0.5);
      double b = 80 * (r.nextDouble() - 0.5);
      double c = 80 * (r.nextDouble() - 0.5);
      Rotation turn = order.compose(Math.toRadians(a), Math.toRadians(b), Math.toRadians(c));
      Vec3 at = new Vec3(9 * r.nextGaussian(), 9 * r.nextGaussian(), 9 * r.nextGaussian());
      double focal = 20 + 40 * r.nextDouble();
      poses.add(new Pose(at, turn));
      optics.add(Optics.centred(focal, 36, 20.25));
      List<String> row = new ArrayList<>();
      row.add(
          switch (timed) {
            case 0 -> Integer.toString(first + i);
            case 1 -> number((first + i) / 25.0, s);
            default ->
                String.format(Locale.ROOT, "00:00:%02d:%02d", (first + i) / 25, (first + i) % 25);
          });
      for (double v : new double[] {at.x(), at.y(), at.z()}) {
        if (turned != Turned.MATRIX_4) {
          row.add(number(v, s));
        }
      }
      double[] angles = {a, b, c};
      if (radians) {
        java.util.Arrays.setAll(angles, k -> Math.toRadians(angles[k]));
      }
      for (double v : turned.numbers(angles, turn, at, realLast)) {
        row.add(number(v, s));
      }
      for (double v : new double[] {focal, 36, 20.25}) {
        row.add(number(v, s));
      }
      rows.add(row.toArray(String[]::new));
    }
    String[] units = new String[names.length];
    java.util.Arrays.setAll(
        units, i -> i == 0 ? "-" : i < 4 ? "m" : i < names.length - 3 ? "deg" : "mm");
    if (radians) {
      java.util.Arrays.setAll(units, i -> i == 0 ? "-" : i < 4 ? "m" : i < 7 ? "rad" : "mm");
    }
    String text = text(s, comments, names, units, rows);
    int skipped = s.blankCell ? ROWS / 2 : -1;
    return outcome(
        text,
        s,
        scene -> {
          if (scene.cameras().size() != 1 || scene.trackerCount() > 0) {
            return false;
          }
          ShotCamera c = scene.cameras().get(0).camera();
          boolean same = c.frames().first() == first && c.frames().count() == ROWS;
          for (int i = 0; i < ROWS && same; i++) {
            Pose p = c.poses().at(first + i);
            Optics o = c.optics().at(first + i);
            same =
                i == skipped
                    || p.position().minus(poses.get(i).position()).length() < 1e-6
                        && p.rotation().angleTo(poses.get(i).rotation()) < 1e-6
                        && Math.abs(o.focalLengthMm() / optics.get(i).focalLengthMm() - 1) < 1e-6;
          }
          return same;
        });
  }

  private Outcome points(Random r) throws IOException {
    Style s = Style.of(r);
    List<Vec3> truth = new ArrayList<>();
    List<String[]> rows = new ArrayList<>();
    for (int i = 0; i < ROWS; i++) {
      Vec3 v = new Vec3(9 * r.nextGaussian(), 9 * r.nextGaussian(), 9 * r.nextGaussian());
      truth.add(v);
      rows.add(new String[] {"pt" + i, number(v.x(), s), number(v.y(), s), number(v.z(), s)});
    }
    String text =
        text(
            s,
            List.of("points"),
            columns(
                "name|Name|trackName|Point",
                "x|X|posX|Position X",
                "y|Y|posY|Position Y",
                "z|Z|posZ|Position Z"),
            new String[] {"-", "m", "m", "m"},
            rows);
    int skipped = s.blankCell ? ROWS / 2 : -1;
    return outcome(
        text,
        s,
        scene -> {
          if (!scene.cameras().isEmpty() || scene.trackers().size() != 1) {
            return false;
          }
          TrackerSet t = scene.trackers().get(0);
          for (int i = 0; i < ROWS; i++) {
            int at = t.names().indexOf("pt" + i);
            if (i == skipped
                ? at >= 0
                : at < 0 || t.position(at).minus(truth.get(i)).length() > 1e-6) {
              return false;
            }
          }
          return true;
        });
  }

  /** A row a tracker and frame; or a column pair a tracker; or a block of rows a tracker. */
  private Outcome tracks(Random r, int shape) throws IOException {
    Style s = Style.of(r);
    int trackers = 3;
    double[][][] truth = new double[trackers][ROWS][2];
    List<String[]> rows = new ArrayList<>();
    for (int k = 0; k < trackers; k++) {
      for (int f = 0; f < ROWS; f++) {
        truth[k][f][0] = 1920 * r.nextDouble();
        truth[k][f][1] = 1080 * r.nextDouble();
      }
    }
    StringBuilder text = new StringBuilder();
    if (shape == 0) {
      for (int k = 0; k < trackers; k++) {
        for (int f = 0; f < ROWS; f++) {
          rows.add(
              new String[] {
                "trk" + k,
                Integer.toString(1001 + f),
                number(truth[k][f][0], s),
                number(truth[k][f][1], s)
              });
        }
      }
      text.append(
          text(
              s,
              List.of("tracks"),
              columns(
                  "tracker|Track|trackName|Feature",
                  "frame|Frame|frame|Frame",
                  "x|X|pixelX|X [px]",
                  "y|Y|pixelY|Y [px]"),
              new String[] {"-", "-", "px", "px"},
              rows));
    } else if (shape == 1) {
      String between = new String[] {"_x _y", ".x .y", "X Y", ":u :v", "_px _py"}[r.nextInt(5)];
      String[] names = new String[1 + 2 * trackers];
      names[0] = "frame";
      for (int k = 0; k < trackers; k++) {
        names[1 + 2 * k] = "trk" + k + between.split(" ")[0];
        names[2 + 2 * k] = "trk" + k + between.split(" ")[1];
      }
      for (int f = 0; f < ROWS; f++) {
        String[] row = new String[names.length];
        row[0] = Integer.toString(1001 + f);
        for (int k = 0; k < trackers; k++) {
          row[1 + 2 * k] = number(truth[k][f][0], s);
          row[2 + 2 * k] = number(truth[k][f][1], s);
        }
        rows.add(row);
      }
      String[][] once = new String[names.length][];
      java.util.Arrays.setAll(once, i -> new String[] {names[i]});
      text.append(
          text(
              s,
              List.of("tracks"),
              once,
              new String[] {"-", "px", "px", "px", "px", "px", "px"},
              rows));
    } else {
      String title = new String[] {"%s", "Track: %s", "track %s", "[%s]", "%s:"}[r.nextInt(5)];
      boolean counted = r.nextInt(3) == 0;
      boolean named = r.nextInt(3) == 0;
      for (int k = 0; k < trackers; k++) {
        text.append(title.formatted("trk" + k)).append('\n');
        text.append(counted ? ROWS + "\n" : "");
        text.append(named ? String.join(s.between, "frame", "x", "y") + "\n" : "");
        for (int f = 0; f < ROWS; f++) {
          text.append(1001 + f).append(s.between).append(number(truth[k][f][0], s));
          text.append(s.between).append(number(truth[k][f][1], s)).append('\n');
        }
      }
    }
    boolean blank = s.blankCell && shape < 2;
    return outcome(
        text.toString(),
        s,
        scene -> {
          Observations o = scene.observations();
          if (!scene.cameras().isEmpty() || o.names().size() != trackers) {
            return false;
          }
          int missing = 0;
          for (int k = 0; k < trackers; k++) {
            for (int f = 0; f < ROWS; f++) {
              int row = o.names().contains("trk" + k) ? o.row("trk" + k, 1001 + f) : -1;
              missing += row < 0 ? 1 : 0;
              if (row >= 0
                  && Math.hypot(o.x(row) - truth[k][f][0], o.y(row) - truth[k][f][1]) > 1e-6) {
                return false;
              }
            }
          }
          return missing == (blank ? 1 : 0);
        });
  }

  @Test
  void tablesInRandomLayoutsAreReadRightOrAsked() throws IOException {
    Map<Outcome, Integer> count = new EnumMap<>(Outcome.class);
    List<String> wrong = new ArrayList<>();
    Map<String, Integer> asked = new java.util.TreeMap<>();
    for (int seed = 0; seed < TABLES; seed++) {
      Random r = new Random(new SplittableRandom(seed).nextLong());
      int kind = r.nextInt(8);
      Outcome o =
          kind < 4 ? camera(r) : kind < 6 ? points(r) : tracks(r, kind == 6 ? 0 : 1 + r.nextInt(2));
      count.merge(o, 1, Integer::sum);
      if (o == Outcome.ASKED) {
        asked.merge(question.replaceAll("[\"'].*", ""), 1, Integer::sum);
      }
      if (o == Outcome.WRONG) {
        wrong.add(
            "seed "
                + seed
                + ":\n"
                + Files.readString(dir.resolve("table.txt"), StandardCharsets.ISO_8859_1)
                    .lines()
                    .limit(6)
                    .reduce("", (a, b) -> a + b + "\n"));
      }
    }
    int right = count.get(Outcome.RIGHT);
    System.out.printf(
        "tables: %d read right, %d asked, %d wrong%n",
        right, count.get(Outcome.ASKED), wrong.size());
    asked.forEach((k, n) -> System.out.println("  " + n + " asked: " + k));
    assertThat(wrong).isEmpty();
    assertThat(right).isGreaterThan(TABLES * 60 / 100);
  }
}
