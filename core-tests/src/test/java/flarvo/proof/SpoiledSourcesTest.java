package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.IOException;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * What a writer can get wrong of layers, tangents, pivots and the like: each is changed in the text
 * of a file, and what is made of that file is proven against the file as it was.
 */
class SpoiledSourcesTest {

  private static final Dialect TO = Dialects.shipped().get("comp-yup");

  @TempDir private Path dir;

  private String resource(String name) throws IOException, URISyntaxException {
    return Files.readString(Path.of(getClass().getResource("/flarvo/format/fbx/" + name).toURI()));
  }

  private Shot shot(String text) throws IOException {
    Path file = Files.writeString(dir.resolve("source.fbx"), text);
    return new ShotIntake()
        .add(file, IntakeOptions.NONE, Progress.NONE)
        .received(IntakeOptions.NONE)
        .shotOrPoints("source", IntakeOptions.NONE);
  }

  private boolean holds(Shot good, Shot sent) {
    Path file = dir.resolve("delivered.json");
    Dispatcher.send(
        sent,
        new Delivery("x", TO, Formats.byId("scene-json"), Contents.TRACKERS, "x"),
        file,
        Progress.NONE);
    return Proof.of(good, file, TO, Contents.TRACKERS, 0.01, Progress.NONE).holds();
  }

  /** The n-th match of a pattern replaced. */
  private static String replaced(String text, String what, int n, String with) {
    Matcher m = Pattern.compile(what).matcher(text);
    for (int i = 0; m.find(); i++) {
      if (i == n) {
        StringBuilder out = new StringBuilder(text);
        String now = Pattern.compile(what).matcher(m.group()).replaceFirst(with);
        return out.replace(m.start(), m.end(), now).toString();
      }
    }
    return text;
  }

  private static Map<String, String> ofTrees(String t) {
    Map<String, String> kinds = new LinkedHashMap<>();
    String number = "([-0-9.e]+)";
    for (int i = 0; i < 4; i++) {
      for (int mode = 0; mode < 3; mode++) {
        String with = "$1" + mode;
        kinds.put(
            "layer " + i + " blends by " + mode,
            replaced(t, "(\"BlendMode\", \"enum\", \"\", \"\",)\\d", i, with));
      }
      kinds.put(
          "layer " + i + " weighs 40",
          replaced(t, "(\"Weight\", \"Number\", \"\", \"A\",)" + number, i, "$140"));
      for (String what : List.of("Rotation", "Scale")) {
        for (int mode = 0; mode < 2; mode++) {
          kinds.put(
              "layer " + i + " accumulates " + what + " by " + mode,
              replaced(
                  t,
                  "(\"" + what + "AccumulationMode\", \"enum\", \"\", \"\",)\\d",
                  i,
                  "$1" + mode));
        }
      }
      for (String flag : List.of("Mute", "Solo")) {
        kinds.put(
            "layer " + i + ": " + flag,
            replaced(
                t,
                "P: \"BlendMode\"",
                i,
                "P: \"" + flag + "\", \"bool\", \"\", \"\",1\nP: \"BlendMode\""));
      }
    }
    for (int order = 0; order < 6; order++) {
      kinds.put(
          "order " + order,
          replaced(t, "(\"RotationOrder\", \"enum\", \"\", \"A\",)\\d", 0, "$1" + order));
    }
    for (int type = 0; type < 3; type++) {
      kinds.put(
          "inherit " + type,
          replaced(t, "(\"InheritType\", \"enum\", \"\", \"A\",)\\d", 1, "$1" + type));
    }
    for (String p :
        List.of(
            "RotationOffset",
            "RotationPivot",
            "ScalingOffset",
            "ScalingPivot",
            "PreRotation",
            "PostRotation")) {
      kinds.put(p, replaced(t, "(\"" + p + "\", \"Vector3D\", \"\", \"A\",)" + number, 0, "$19.5"));
    }
    for (String p : List.of("Lcl Translation", "Lcl Rotation", "Lcl Scaling")) {
      kinds.put(
          p, t.replaceAll("(P: \"" + p + "\", \"" + p + "\", \"\", \"A\",)" + number, "$11.25"));
    }
    for (char mode : "CRMA".toCharArray()) {
      for (String end : List.of("Pre", "Post")) {
        kinds.put(
            end + "-Extrapolation " + mode,
            t.replaceAll("(" + end + "-Extrapolation:  \\{\\s*Type: )[A-Z]", "$1" + mode));
      }
    }
    kinds.put("repetitions", t.replaceAll("(Repetition: )-?\\d", "$11"));
    kinds.put("keys constant", t.replaceAll("(KeyAttrFlags: \\*\\d+ \\{\\s*a: )4,", "$12,"));
    kinds.put("keys linear", t.replaceAll("(KeyAttrFlags: \\*\\d+ \\{\\s*a: )2,", "$14,"));
    kinds.put("keys next", t.replaceAll("(KeyAttrFlags: \\*\\d+ \\{\\s*a: )2,", "$1258,"));
    kinds.put(
        "a key's value", replaced(t, "(KeyValueFloat: \\*\\d+ \\{\\s*a: )" + number, 3, "$199"));
    return kinds;
  }

  private static final int[] FLAGS = {
    0x2, 0x102, 0x4, 0x408, 0xC08, 0x108, 0x908, 0x1108, 0x4108, 0x2108, 0x6108, 0x208
  };

  private static Map<String, String> ofTangents(String t) {
    Map<String, String> kinds = new TreeMap<>();
    for (int from : FLAGS) {
      for (int to : FLAGS) {
        if (from != to) {
          kinds.put(
              String.format("tangents %x as %x", from, to),
              t.replaceAll("(?<=[ ,])" + from + "(?=[,\\s])", Integer.toString(to)));
        }
      }
    }
    return kinds;
  }

  @Test
  void whatAWriterGetsWrongOfLayersAndTreesIsSeen() throws IOException, URISyntaxException {
    all(resource("trees.fbx"), ofTrees(resource("trees.fbx")), 40);
  }

  @Test
  void everyModeOfTangentsTakenForAnotherIsSeen() throws IOException, URISyntaxException {
    all(resource("tangents.fbx"), ofTangents(resource("tangents.fbx")), 80);
  }

  /** Kinds that leave every place as it was, to a hair, are none here. */
  private void all(String text, Map<String, String> kinds, int fewest) throws IOException {
    Shot good = shot(text);
    assertThat(holds(good, good)).isTrue();
    List<String> unseen = new ArrayList<>();
    int seen = 0;
    for (Map.Entry<String, String> kind : kinds.entrySet()) {
      if (kind.getValue().equals(text)) {
        continue;
      }
      Shot bad = shot(kind.getValue());
      if (bad.trackers().equals(good.trackers())) {
        continue;
      }
      if (holds(good, bad)) {
        unseen.add(kind.getKey());
      } else {
        seen++;
      }
    }
    assertThat(unseen).isEmpty();
    assertThat(seen).isGreaterThanOrEqualTo(fewest);
  }
}
