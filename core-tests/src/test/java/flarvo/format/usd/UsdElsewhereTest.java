package flarvo.format.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Relocates, expressions and value clips; the numbers are the reference library's. */
class UsdElsewhereTest {

  private static final String ASSET =
      """
      #usda 1.0
      def Xform "A" {
          double3 xformOp:translate = (1, 0, 0)
          uniform token[] xformOpOrder = ["xformOp:translate"]
          def Xform "B" {
              double3 xformOp:translate = (0, 2, 0)
              uniform token[] xformOpOrder = ["xformOp:translate"]
              def Xform "C" {
                  double3 xformOp:translate = (0, 0, 3)
                  uniform token[] xformOpOrder = ["xformOp:translate"]
              }
          }
      }
      """;

  @TempDir private Path dir;

  private FileScene read(String text) throws IOException {
    Path file = Files.writeString(dir.resolve("root.usda"), text);
    return new UsdTextFormat().read(file, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }

  private static Vec3 place(FileScene s, String name, int frame) {
    for (TrackerSet t : s.trackers()) {
      int i = t.names().indexOf(name);
      if (i >= 0) {
        return t.position(i, frame);
      }
    }
    throw new AssertionError(name + " is not in " + s.trackers());
  }

  private static String moving(String relocates) {
    return "#usda 1.0\n(\n relocates = {\n"
        + relocates
        + "\n }\n)\n"
        + """
        def Xform "World" {
            double3 xformOp:translate = (10, 0, 0)
            uniform token[] xformOpOrder = ["xformOp:translate"]
            def Xform "other" {
                double3 xformOp:translate = (0, 20, 0)
                uniform token[] xformOpOrder = ["xformOp:translate"]
            }
            def Xform "ref" ( prepend references = @./asset.usda@</A> ) {
            }
        }
        """;
  }

  @Test
  void whatIsMovedHangsInItsNewPlace() throws IOException {
    Files.writeString(dir.resolve("asset.usda"), ASSET);
    FileScene s = read(moving("</World/ref/B/C>: </World/other/C2>"));
    assertThat(place(s, "C2", 0)).isEqualTo(new Vec3(10, 20, 3));
    assertThat(place(s, "B", 0)).isEqualTo(new Vec3(11, 2, 0)); // nothing hangs in it any more
    FileScene gone = read(moving("</World/ref/B/C>: <>"));
    assertThat(gone.trackers()).flatExtracting(TrackerSet::names).doesNotContain("C");
  }

  /**
   * A rig that moves what it refers to, referenced by the scene, which moves it on: by either way
   * it hangs where the last of them put it.
   */
  @Test
  void relocatesOfAReferencedFileHoldWhereItIsReferenced() throws IOException {
    Files.writeString(dir.resolve("asset.usda"), ASSET);
    Files.writeString(dir.resolve("rig.usda"), moving("</World/ref/B/C>: </World/other/C2>"));
    String scene =
        """
        #usda 1.0
        (
        %s
        )
        def Xform "Top" {
            double3 xformOp:translate = (100, 0, 0)
            uniform token[] xformOpOrder = ["xformOp:translate"]
            def Xform "rig" ( prepend references = @./rig.usda@</World> ) {
                %s
            }
            def Xform "last" {
                double3 xformOp:translate = (0, 0, 1000)
                uniform token[] xformOpOrder = ["xformOp:translate"]
            }
        }
        """;
    FileScene once = read(scene.formatted("", ""));
    assertThat(once.trackers()).flatExtracting(TrackerSet::names).doesNotContain("C");
    assertThat(place(once, "C2", 0)).isEqualTo(new Vec3(110, 20, 3));
    assertThat(place(once, "B", 0)).isEqualTo(new Vec3(111, 2, 0));
    FileScene over =
        read(
            scene.formatted(
                "", "over \"other\" { over \"C2\" { double3 xformOp:translate = (0, 0, 7) } }"));
    assertThat(place(over, "C2", 0)).isEqualTo(new Vec3(110, 20, 7));
    FileScene twice =
        read(scene.formatted("relocates = { </Top/rig/other/C2>: </Top/last/C3> }", ""));
    assertThat(place(twice, "C3", 0)).isEqualTo(new Vec3(100, 0, 1003));
    assertThat(twice.trackers()).flatExtracting(TrackerSet::names).doesNotContain("C", "C2");
    assertThat(twice.notes()).extracting(Note::text).noneMatch(t -> t.contains("relocates"));
  }

  /** The scene chooses a variant of what the rig moves, though the move happens below it. */
  @Test
  void aVariantOfWhatIsMovedIsChosenFromAbove() throws IOException {
    Files.writeString(
        dir.resolve("asset.usda"),
        """
        #usda 1.0
        def Xform "A" ( prepend variantSets = "v" variants = { string v = "one" } ) {
            variantSet "v" = {
                "one" { def Xform "C" {
                    double3 xformOp:translate = (1, 0, 0)
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                } }
                "two" { def Xform "C" {
                    double3 xformOp:translate = (2, 0, 0)
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                } }
            }
        }
        """);
    Files.writeString(dir.resolve("rig.usda"), moving("</World/ref/C>: </World/other/C2>"));
    String scene =
        "#usda 1.0\ndef \"Top\" ( prepend references = @./rig.usda@</World> ) {\n over \"ref\" %s {}\n}\n";
    assertThat(place(read(scene.formatted("")), "C2", 0)).isEqualTo(new Vec3(11, 20, 0));
    assertThat(place(read(scene.formatted("( variants = { string v = \"two\" } )")), "C2", 0))
        .isEqualTo(new Vec3(12, 20, 0));
  }

  @Test
  void aRelocateFromTooDeepAPlaceIsAnError() throws IOException {
    String deep = "/World" + "/a".repeat(100_000);
    assertThatThrownBy(() -> read(moving("<" + deep + ">: </World/other/D>")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("too deep");
  }

  @Test
  void relocatesThatRunInACircleAreAnError() throws IOException {
    Files.writeString(dir.resolve("asset.usda"), ASSET);
    assertThatThrownBy(
            () ->
                read(moving("</World/ref/B>: </World/other/D>,\n</World/other/D>: </World/ref/B>")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("circle");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "'plain' | plain",
        "`'x_${V}.usd'` | x_one.usd",
        "`\"${DEEP}\"` | one",
        "`if(eq(${V}, 'one'), 'a', 'b')` | a",
        "`if(not(eq(${V}, 'one')), 'a', 'b')` | b",
        "`if(and(defined('N'), geq(${N}, 3)), 'a', 'b')` | a",
        "`if(or(lt(${N}, 3), contains(['one', 'two'], ${V})), 'a', 'b')` | a",
        "`at(['x', 'y', 'z'], -1)` | z",
        "`if(eq(len('abc'), ${N}), 'three', 'other')` | three",
      })
  void expressionsAreEvaluated(String expression, String text) {
    Map<String, Object> variables = Map.of("V", "one", "DEEP", "`${V}`", "N", 3.0);
    String plain = expression.equals("plain") ? "plain" : expression;
    assertThat(UsdExpression.text(plain, variables)).contains(text);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "`${NOBODY}`",
        "`if(`",
        "`what(1)`",
        "`at([], 3)`",
        "`'open`",
        "`${SELF}`",
        "`3`",
        "`and(` "
      })
  void expressionsThatMeanNothingAreEmpty(String expression) {
    assertThat(UsdExpression.text(expression.strip(), Map.of("SELF", "`${SELF}`")))
        .isEqualTo(Optional.empty());
  }

  @Test
  void variablesChooseReferences() throws IOException {
    Files.writeString(dir.resolve("asset.usda"), ASSET);
    FileScene s =
        read(
            """
            #usda 1.0
            (
                expressionVariables = { string KIND = "asset" }
            )
            def Xform "W" ( prepend references = @`"./${KIND}.usda"`@</A> ) {
            }
            """);
    assertThat(place(s, "C", 0)).isEqualTo(new Vec3(1, 2, 3));
    FileScene none = read(Files.readString(dir.resolve("root.usda")).replace("${KIND}", "${WHAT}"));
    assertThat(none.notes()).extracting(Note::text).anyMatch(t -> t.contains("${WHAT}"));
  }

  private void clip(String name, int base) throws IOException {
    Files.writeString(
        dir.resolve(name),
        """
        #usda 1.0
        def Xform "M" {
            def Xform "loc" {
                double3 xformOp:translate.timeSamples = { 0: (%d, 0, 0), 4: (%d, 0, 0), 8: (%d, 0, 0) }
            }
        }
        """
            .formatted(base, base + 4, base + 8));
  }

  private static String clipped(String active, String times, String own) {
    return """
    #usda 1.0
    (
        startTimeCode = 1
        endTimeCode = 20
    )
    def Xform "W" (
        clips = {
            dictionary default = {
                double2[] active = [%s]
                asset[] assetPaths = [@./c1.usda@, @./c2.usda@]
                string primPath = "/M"
                double2[] times = [%s]
            }
        }
    )
    {
        def Xform "loc" {
            double3 xformOp:translate%s
            uniform token[] xformOpOrder = ["xformOp:translate"]
        }
        def Xform "still" {
            double3 xformOp:translate = (7, 8, 9)
            uniform token[] xformOpOrder = ["xformOp:translate"]
        }
    }
    """
        .formatted(active, times, own);
  }

  /** A template, of which each clip becomes active later or earlier than its name says. */
  private static String template(String name, double stride, double offset) {
    return """
    #usda 1.0
    (
        startTimeCode = -3
        endTimeCode = 9
    )
    def Xform "W" (
        clips = {
            dictionary default = {
                string templateAssetPath = "./%s.usda"
                double templateStartTime = 1
                double templateEndTime = %s
                double templateStride = %s
                double templateActiveOffset = %s
                string primPath = "/M"
            }
        }
    )
    {
        def Xform "loc" {
            double3 xformOp:translate
            uniform token[] xformOpOrder = ["xformOp:translate"]
        }
    }
    """
        .formatted(name, stride < 1 ? 2 : 5, stride, offset);
  }

  @Test
  void aTemplateWhoseClipsAreActiveLaterOrEarlier() throws IOException {
    for (int k = 1; k <= 5; k += 2) {
      StringBuilder samples = new StringBuilder();
      for (int t = -5; t < 15; t++) {
        samples.append(t).append(": (").append(100 * k + t * t).append(", 0, 0), ");
      }
      Files.writeString(dir.resolve("t.00" + k + ".usda"), samplesOf(samples));
    }
    runs(
        read(template("t.###", 2, 0.5)),
        new double[][] {
          {-3, 100.5}, {0, 100.5}, {1, 101}, {2, 104}, {3, 109}, {4, 316}, {5, 325}, {6, 530.5}
        });
    runs(
        read(template("t.###", 2, -0.75)),
        new double[][] {
          {0, 100.25}, {1, 101}, {2, 104}, {3, 309}, {4, 316}, {5, 525}, {6, 533.25}, {9, 533.25}
        });
    runs(
        read(template("t.###", 2, 1.5)),
        new double[][] {
          {-3, 100.5}, {0, 100}, {1, 101}, {2, 104}, {3, 109}, {4, 116}, {5, 325}, {7, 542.5}
        });
    String beyondItsNeighbour = template("t.###", 2, 2.5);
    assertThatThrownBy(() -> read(beyondItsNeighbour))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("'xformOp:translate' is listed but has no value");
  }

  @Test
  void aTemplateOfPartsOfAFrame() throws IOException {
    for (double k = 1; k <= 2; k += 0.5) {
      String first = k + ": (" + 10 * k + ", 0, 0), ";
      String second = (k + 0.25) + ": (" + (10 * k + 1) + ", 0, 0)";
      Files.writeString(
          dir.resolve(String.format(Locale.ROOT, "p.%.2f.usda", k)), samplesOf(first + second));
    }
    runs(read(template("p.#.##", 0.5, 0)), new double[][] {{0, 10}, {1, 10}, {2, 20}, {3, 20}});
    runs(read(template("p.#.##", 0.5, 0.25)), new double[][] {{0, 10}, {1, 10}, {2, 16}, {3, 21}});
  }

  private static String samplesOf(CharSequence samples) {
    return """
    #usda 1.0
    def Xform "M" {
        def Xform "loc" {
            double3 xformOp:translate.timeSamples = { %s }
        }
    }
    """
        .formatted(samples);
  }

  /** The first clip counts before it becomes active too. */
  @Test
  void theFirstClipCountsFromTheBeginning() throws IOException {
    clip("c1.usda", 0);
    clip("c2.usda", 100);
    runs(
        read(clipped("(3, 0), (6, 1)", "", "")),
        new double[][] {{1, 1}, {2, 2}, {3, 3}, {6, 106}, {7, 107}});
  }

  private static void runs(FileScene s, double[][] expected) {
    for (double[] e : expected) {
      assertThat(place(s, "loc", (int) e[0]).x()).as("frame " + e[0]).isCloseTo(e[1], within(1e-9));
    }
  }

  @Test
  void clipsGiveValuesOneAfterTheOther() throws IOException {
    clip("c1.usda", 0);
    clip("c2.usda", 100);
    String active = "(1, 0), (10.5, 1)";
    runs(
        read(clipped(active, "(1, 0), (5, 4), (9, 6), (10.5, 0), (20, 8)", "")),
        new double[][] {
          {1, 0}, {2, 1}, {5, 4}, {7, 5}, {9, 6}, {10, 52}, {11, 100.42105263157895}, {20, 108}
        });
    runs(
        read(clipped(active, "(1, 0), (21, 20)", "")),
        new double[][] {{5, 4}, {9, 8}, {10, 74.66666666666667}, {11, 108}, {20, 108}});
    runs(
        read(clipped("(1, 0), (6, 1)", "", "")),
        new double[][] {{1, 1}, {3, 3}, {5, 55}, {6, 106}, {7, 107}, {8, 108}, {12, 108}});
  }

  @Test
  void whatTheLayerItselfSaysIsStronger() throws IOException {
    clip("c1.usda", 0);
    clip("c2.usda", 100);
    FileScene s = read(clipped("(1, 0), (6, 1)", "", " = (7, 7, 7)"));
    assertThat(place(s, "loc", 3)).isEqualTo(new Vec3(7, 7, 7));
    assertThat(place(s, "still", 3)).isEqualTo(new Vec3(7, 8, 9));
  }

  /** Evaluated by the reference library. */
  @Test
  void splinesRunFromKnotToKnot() throws IOException {
    FileScene s =
        read(
            """
            #usda 1.0
            (
                startTimeCode = -1
                endTimeCode = 14
            )
            def Xform "loc" {
                double xformOp:translateX.spline = {
                    bezier,
                    pre: linear,
                    post: sloped(2),
                    1: 0; pre (1, 0.5); post curve (1.5, -0.25),
                    5: 4; pre (1, 0.5); post linear,
                    9: -2; post held,
                    12: 1.5 & 3; post curve (1.5, -0.25); { string note = "kept" },
                }
                uniform token[] xformOpOrder = ["xformOp:translateX"]
            }
            """);
    runs(
        s,
        new double[][] {
          {0, 0.25},
          {1, 0},
          {2, 0.30019554387334035},
          {3, 1.4088957228609593},
          {4, 2.876067805533614},
          {5, 4},
          {7, 1},
          {9, -2},
          {10, -2},
          {12, 3},
          {13, 5}
        });
  }

  @Test
  void aSplineThatIsGarbledIsAnError() {
    for (String spline :
        new String[] {
          "{ }", "{ bezier, 2: 1, 1: 2 }", "{ what, 1: 2 }", "{ 1: 2; post over (1) }"
        }) {
      assertThatThrownBy(
              () -> read("#usda 1.0\ndef Xform \"a\" {\n double x.spline = " + spline + "\n}\n"))
          .as(spline)
          .isInstanceOf(InputError.class);
    }
  }

  @Test
  void aClipThatIsMissingIsSaid() throws IOException {
    clip("c1.usda", 0);
    FileScene s = read(clipped("(1, 0), (6, 1)", "", ""));
    assertThat(s.notes()).extracting(Note::text).anyMatch(t -> t.contains("c2.usda"));
    runs(s, new double[][] {{1, 1}, {3, 3}, {5, 4}});
  }
}
