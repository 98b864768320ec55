package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Part;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.report.InputError;
import flarvo.scene.ClipRange;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Deliveries of which one field is changed in the file on disk, with an editor or in its bytes, as
 * by a tool that wrote one thing wrong. Nothing of ours writes the damage.
 */
class DamagedFilesTest {

  private static final Dialect TO = Dialects.shipped().get("comp-yup");

  private static final Contents ALL = Contents.WITH_GEOMETRY;
  private static final Contents GEOMETRY = Contents.of(Part.GEOMETRY);

  /** What of a file is looked for, and what stands there instead. */
  private record Edit(String format, Contents of, String what, String find, String put) {}

  @TempDir private Path dir;

  private final Shot shot = CartShot.shot();
  private final List<String> unseen = new ArrayList<>();
  private int seen;

  @BeforeEach
  void nothingYet() {
    unseen.clear();
    seen = 0;
  }

  private Path write(SceneFormat format, Contents of, String name) {
    Path file = dir.resolve(name + format.extensions().get(0));
    Dispatcher.send(shot, new Delivery("x", TO, format, of, "x"), file, Progress.NONE);
    return file;
  }

  /** Whether the proof passes a file; one that cannot be read has been noticed. */
  private boolean passes(Path file, Contents of) {
    try {
      return Proof.of(shot, file, TO, of, 0.01, Progress.NONE).holds();
    } catch (InputError e) {
      assertThat(e.getMessage()).isNotBlank();
      return false;
    }
  }

  private void noticed(String what, Path file, Contents of) {
    if (passes(file, of)) {
      unseen.add(what);
    } else {
      seen++;
    }
  }

  private static List<Edit> edits() {
    List<Edit> e = new ArrayList<>();
    usd(e);
    fbx(e);
    gltf(e);
    json(e);
    tables(e);
    return e;
  }

  private static void usd(List<Edit> e) {
    String f = "usd-text";
    e.add(new Edit(f, ALL, "unit", "metersPerUnit = 1\\b", "metersPerUnit = 0.01"));
    e.add(new Edit(f, ALL, "up axis", "upAxis = \"Y\"", "upAxis = \"Z\""));
    e.add(new Edit(f, ALL, "time codes", "timeCodesPerSecond = 24", "timeCodesPerSecond = 25"));
    e.add(new Edit(f, ALL, "start", "startTimeCode = 1001", "startTimeCode = 1002"));
    e.add(new Edit(f, ALL, "end", "endTimeCode = 1060", "endTimeCode = 1059"));
    e.add(new Edit(f, ALL, "focal length", "focalLength = 0.28", "focalLength = 0.281"));
    e.add(new Edit(f, ALL, "back's width", "(horizontalAperture = 0.)24576", "$124676"));
    e.add(new Edit(f, ALL, "back's height", "(verticalAperture = 0.)13824", "$113924"));
    e.add(new Edit(f, ALL, "shift", "(horizontalApertureOffset = )0", "$10.001"));
    e.add(new Edit(f, ALL, "shift upwards", "(verticalApertureOffset = )0", "$1-0.001"));
    e.add(new Edit(f, ALL, "near plane", "clippingRange = \\(0.51305", "clippingRange = (9.5"));
    e.add(new Edit(f, ALL, "far plane", "190.11398\\)", "10)"));
    e.add(new Edit(f, ALL, "projection", "\"perspective\"", "\"orthographic\""));
    e.add(new Edit(f, ALL, "camera's name", "Camera \"shotcam\"", "Camera \"shotcan\""));
    e.add(new Edit(f, ALL, "one frame's place", "1030: \\(0.8029", "1030: (0.8039"));
    e.add(new Edit(f, ALL, "one frame's number", "1030: \\(0.8029", "1030.5: (0.8029"));
    e.add(new Edit(f, ALL, "order of rotation", "rotateZXY", "rotateXYZ"));
    e.add(
        new Edit(
            f,
            ALL,
            "order of operations",
            "\\[\"xformOp:translate\", \"xformOp:rotateZXY\"\\]",
            "[\"xformOp:rotateZXY\", \"xformOp:translate\"]"));
    e.add(new Edit(f, ALL, "a tracker's name", "\"g_ground_4\"", "\"g_ground_44\""));
    e.add(new Edit(f, ALL, "resolution", "\\(1920, 1080\\)", "(1920, 1200)"));
    e.add(new Edit(f, ALL, "a group's name", "Xform \"wheel\"", "Xform \"weel\""));
    e.add(new Edit(f, GEOMETRY, "a mesh's name", "Mesh \"box\"", "Mesh \"bax\""));
    e.add(new Edit(f, GEOMETRY, "a corner", "\\(0, 0, 0\\), \\(1.7, 0", "(0, 0, 0), (1.71, 0"));
    e.add(new Edit(f, GEOMETRY, "a face", "(faceVertexIndices = \\[\\d+, )\\d+", "$17"));
    e.add(new Edit(f, Contents.TRACKERS, "a point", "0.7238046430996392", "0.7248046430996392"));
  }

  private static void fbx(List<Edit> e) {
    String f = "fbx-text";
    e.add(new Edit(f, ALL, "parent", "(C: \"OO\", \\d+, )0\n", "$11\n"));
    e.add(new Edit(f, ALL, "unit", "(\"UnitScaleFactor\".*, )100", "$11"));
    e.add(new Edit(f, ALL, "up axis", "(\"UpAxis\".*, )1", "$12"));
    e.add(new Edit(f, ALL, "time mode", "(\"TimeMode\".*, )11", "$110"));
    e.add(new Edit(f, ALL, "start", "(\"TimeSpanStart\".*, )1926347673250", "$11928272096500"));
    e.add(new Edit(f, ALL, "end", "(\"LocalStop\".*, )2039888645000", "$12037964221750"));
    e.add(new Edit(f, ALL, "focal length", "(\"FocalLength\".*, )28", "$128.02"));
    e.add(new Edit(f, ALL, "back's width", "(\"FilmWidth\".*, )0.96", "$10.97"));
    e.add(new Edit(f, ALL, "back's height", "(\"FilmHeight\".*, )0.54", "$10.55"));
    e.add(new Edit(f, ALL, "back's aspect", "(\"FilmAspectRatio\".*, )1.7", "$11.8"));
    e.add(new Edit(f, ALL, "shift", "(\"FilmOffsetX\".*, )0", "$10.001"));
    e.add(new Edit(f, ALL, "near plane", "(\"NearPlane\".*, )0.5", "$19.5"));
    e.add(new Edit(f, ALL, "far plane", "(\"FarPlane\".*, )190", "$11"));
    e.add(new Edit(f, ALL, "picture's width", "(\"AspectWidth\".*, )1920", "$12048"));
    e.add(new Edit(f, ALL, "pixel aspect", "(\"PixelAspectRatio\".*, )1", "$12"));
    e.add(new Edit(f, ALL, "camera's name", "Model::shotcam", "Model::shotcan"));
    e.add(new Edit(f, ALL, "one key", "a: 0.28404072,0.30193514", "a: 0.28404072,0.31193514"));
    e.add(new Edit(f, ALL, "a key's time", "(a: 1926347673250,19282)72096500", "$182096500"));
    e.add(new Edit(f, Contents.TRACKERS, "a point", "0.7238046430996392", "0.7248046430996392"));
    e.add(new Edit(f, Contents.TRACKERS, "a name", "Model::g_ground_4\"", "Model::g_ground_0\""));
    e.add(new Edit(f, GEOMETRY, "a corner", "a: -0.85,-0.85", "a: -0.86,-0.85"));
  }

  private static void gltf(List<Edit> e) {
    String f = "gltf-text";
    e.add(new Edit(f, ALL, "angle", "\"yfov\" : 0.484", "\"yfov\" : 0.485"));
    e.add(new Edit(f, ALL, "aspect", "\"aspectRatio\" : 1.77", "\"aspectRatio\" : 1.87"));
    e.add(new Edit(f, ALL, "near plane", "\"znear\" : 0.5", "\"znear\" : 9.5"));
    e.add(new Edit(f, ALL, "far plane", "\"zfar\" : 190.1", "\"zfar\" : 10.1"));
    e.add(new Edit(f, ALL, "scene", "\"scene\" : 0", "\"scene\" : 1"));
    e.add(new Edit(f, ALL, "animated node", "(\"target\" : \\{\\s*\"node\" : )1,", "$12,"));
    e.add(new Edit(f, ALL, "animated path", "\"path\" : \"rotation\"", "\"path\" : \"scale\""));
    e.add(new Edit(f, ALL, "a point", "0.72380465, 2.1064615", "0.72480465, 2.1064615"));
    e.add(new Edit(f, ALL, "a name", "\"g_ground_4\"", "\"g_ground_0\""));
    e.add(new Edit(f, ALL, "children", "\"children\" : \\[ 3, 4, ", "\"children\" : [ 4, "));
    e.add(new Edit(f, ALL, "keys", "\"count\" : 60", "\"count\" : 59"));
    e.add(new Edit(f, GEOMETRY, "a mesh", "\"mesh\" : 1", "\"mesh\" : 2"));
  }

  private static void json(List<Edit> e) {
    String f = "scene-json";
    e.add(new Edit(f, ALL, "rate", "\"rate\":\"24\"", "\"rate\":\"25\""));
    e.add(new Edit(f, ALL, "frames", "\"frames\":\\[1001,1060\\]", "\"frames\":[1001,1059]"));
    e.add(new Edit(f, ALL, "picture", "1920,1080,1.0", "1920,1080,2.0"));
    e.add(new Edit(f, ALL, "unit", "\"metresPerUnit\":1.0", "\"metresPerUnit\":0.01"));
    e.add(new Edit(f, ALL, "axes", "\"right\":\"\\+X\"", "\"right\":\"-X\""));
    e.add(new Edit(f, ALL, "first frame", "\"firstFrame\":1001", "\"firstFrame\":1000"));
    e.add(new Edit(f, ALL, "a mesh's group", "\"box\",\"in\":1", "\"box\",\"in\":2"));
    e.add(new Edit(f, Contents.CAMERA, "one frame's place", "0.3377239503", "0.3387239503"));
  }

  private static void tables(List<Edit> e) {
    String f = "table";
    e.add(new Edit(f, Contents.CAMERA, "rate", "# rate: 24", "# rate: 25"));
    e.add(new Edit(f, Contents.CAMERA, "rotation", "rotation: ZXY", "rotation: XYZ"));
    e.add(new Edit(f, Contents.CAMERA, "picture", "1920x1080", "2048x1152"));
    e.add(new Edit(f, Contents.CAMERA, "frame", "\n1002,", "\n1003,"));
    e.add(new Edit(f, Contents.CAMERA, "angle", "5.068587", "5.168587"));
    e.add(new Edit(f, Contents.CAMERA, "lens", "(\n1030,.*,)28.0,", "$128.1,"));
    e.add(new Edit(f, Contents.CAMERA, "back's height", "(\n1030,.*,)13.824,", "$113.924,"));
    e.add(new Edit(f, Contents.CAMERA, "shift", "(\n1030,.*,)0.0,0.0", "$10.0,0.01"));
    e.add(new Edit(f, Contents.TRACKERS, "a point", "0.7238046430", "0.7248046430"));
    e.add(new Edit(f, Contents.TRACKERS, "a name", "g_ground_4,", "g_ground_44,"));
  }

  @Test
  void everyEditedFieldIsNoticed() throws IOException {
    for (Edit e : edits()) {
      SceneFormat format = Formats.byId(e.format());
      Path file = write(format, e.of(), "edited");
      assertThat(passes(file, e.of())).as("as it was sent: " + e).isTrue();
      String text = Files.readString(file, StandardCharsets.ISO_8859_1);
      Matcher m = Pattern.compile(e.find()).matcher(text);
      String changed = m.replaceFirst(e.put());
      assertThat(changed).as("the edit finds its place: " + e).isNotEqualTo(text);
      Files.writeString(file, changed, StandardCharsets.ISO_8859_1);
      noticed(e.format() + ": " + e.what(), file, e.of());
    }
    assertThat(unseen).isEmpty();
    assertThat(seen).isGreaterThanOrEqualTo(60);
  }

  /** Planes of somebody else's choice, and a point beside the picture, 4 cm from the eye. */
  @Test
  void planesThatCutNothingInThePicturePass() throws IOException {
    Shot beside =
        shot.withTrackers(
            Stream.concat(
                    shot.trackers().stream(),
                    Stream.of(
                        TrackerSet.of("beside", List.of("near"), new double[] {0.3, 2.4, -0.02})))
                .toList());
    Path file = dir.resolve("planes.usda");
    Delivery d = new Delivery("x", TO, Formats.byId("usd-text"), ALL, "x");
    Dispatcher.send(beside, d, file, Progress.NONE);
    Matcher m = Pattern.compile("clippingRange = \\((.*),.*\\)").matcher(Files.readString(file));
    assertThat(m.find()).isTrue();
    assertThat(Double.parseDouble(m.group(1))).isLessThan(0.05); // the writer left it in
    Files.writeString(file, m.replaceFirst("clippingRange = (0.5, 60)"));
    ProofReport p = Proof.of(beside, file, TO, ALL, 0.01, Progress.NONE);
    assertThat(p.checks()).anyMatch(c -> c.name().equals("clipPlanes"));
    assertThat(p.holds()).as(p.sentence()).isTrue();
  }

  /** Where none came with the camera they are ours to choose, and a file may do without. */
  @Test
  void planesThatCameWithTheCameraAreMissed() throws IOException {
    Shot own =
        shot.withCameras(List.of(shot.camera().orElseThrow().withClip(new ClipRange(0.2, 500))));
    Delivery d = new Delivery("x", TO, Formats.byId("usd-text"), ALL, "x");
    for (boolean came : new boolean[] {false, true}) {
      Shot s = came ? own : shot;
      Path file = dir.resolve("silent.usda");
      Dispatcher.send(s, d, file, Progress.NONE);
      String text = Files.readString(file);
      String silent = text.replaceFirst(".*clippingRange = .*\n", "");
      assertThat(silent).isNotEqualTo(text);
      Files.writeString(file, silent);
      ProofReport p = Proof.of(s, file, TO, ALL, 0.01, Progress.NONE);
      assertThat(p.holds()).as(p.sentence()).isEqualTo(!came);
      assertThat(p.checks().stream().anyMatch(c -> c.name().equals("clipPlanes") && !c.holds()))
          .isEqualTo(came);
    }
  }

  /** A number as a binary file holds it, and what stands there instead. */
  private record Patch(String format, String what, double is, double becomes) {}

  private static final List<Patch> PATCHES =
      List.of(
          new Patch("fbx-binary", "focal length", 28, 28.02),
          new Patch("fbx-binary", "back's width", 24.576 / 25.4, 24.6 / 25.4),
          new Patch("fbx-binary", "back's height", 13.824 / 25.4, 13.9 / 25.4),
          new Patch("fbx-binary", "near plane", 0.5130500209741133, 9.5),
          new Patch("fbx-binary", "a point", 0.7238046430996392, 0.7248046430996392),
          new Patch("fbx-binary", "picture's width", 1920, 2048),
          new Patch("alembic", "focal length", 28, 28.02),
          new Patch("alembic", "back's width", 2.4576, 2.46),
          new Patch("alembic", "back's height", 1.3824, 1.39),
          new Patch("alembic", "near plane", 0.5130500209741133, 9.5),
          new Patch("alembic", "a point", 0.7238046430996392, 0.7248046430996392),
          new Patch("alembic", "one frame's place", 0.3377239503157592, 0.3387239503157592));

  @Test
  void everyPatchedNumberIsNoticed() throws IOException {
    for (Patch p : PATCHES) {
      Path file = write(Formats.byId(p.format()), ALL, "patched");
      assertThat(passes(file, ALL)).as("as it was sent: " + p).isTrue();
      byte[] bytes = Files.readAllBytes(file);
      int at = find(bytes, p.is());
      assertThat(at).as("the number is in the file: " + p).isPositive();
      ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN).putDouble(at, p.becomes());
      Files.write(file, bytes);
      noticed(p.format() + ": " + p.what(), file, ALL);
    }
    assertThat(unseen).isEmpty();
  }

  /** Where a 64-bit number stands, the last bits aside; −1 where it does not. */
  private static int find(byte[] bytes, double value) {
    ByteBuffer b = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
    for (int at = 0; at + 8 <= bytes.length; at++) {
      if (Math.abs(b.getDouble(at) - value) < 1e-12) {
        return at;
      }
    }
    return -1;
  }

  /**
   * Numbers that a proof passes when they are changed, with the reason. Whatever else stands in a
   * file as a number is looked at.
   */
  private static final Map<String, List<String>> FREE =
      Map.of(
          "usd-text",
          List.of(
              "#usda ", // the version of the text
              "clippingRange = ", // planes that cut nothing are as good
              "normals = "), // a normal's length
          "scene-json",
          List.of("\"clip\":["));

  private static final Pattern NUMBER =
      Pattern.compile("(?<![\\w.#\"+-])-?\\d+(?:\\.\\d+)?(?:[eE][-+]?\\d+)?(?![\\w.\"])");

  @Test
  void everyNumberIsLookedAt() throws IOException {
    for (String id : FREE.keySet()) {
      SceneFormat format = Formats.byId(id);
      Path file = write(format, ALL, "numbers");
      String text = Files.readString(file);
      List<int[]> places = new ArrayList<>();
      Matcher m = NUMBER.matcher(text);
      while (m.find()) {
        places.add(new int[] {m.start(), m.end()});
      }
      int step = Math.max(1, places.size() / 400);
      for (int i = 0; i < places.size(); i += step) {
        int[] p = places.get(i);
        String before = text.substring(Math.max(0, p[0] - 40), p[0]);
        String was = text.substring(p[0], p[1]);
        String now = was.contains(".") ? "" + (Double.parseDouble(was) * 1.03 + 0.02) : was + "1";
        Files.writeString(file, text.substring(0, p[0]) + now + text.substring(p[1]));
        String line = before.substring(before.lastIndexOf('\n') + 1);
        if (passes(file, ALL) && !isFree(id, text, p[0], line)) {
          unseen.add(id + ": " + line.strip() + "[" + was + " → " + now + "]");
        } else {
          seen++;
        }
      }
    }
    assertThat(unseen).isEmpty();
    assertThat(seen).isGreaterThan(600);
  }

  private static boolean isFree(String id, String text, int at, String before) {
    if (FREE.get(id).stream().anyMatch(before::contains)) {
      return true;
    }
    String line = text.substring(text.lastIndexOf('\n', at) + 1, at).strip();
    // The time of a group's key, where its neighbours give the same place within the limits.
    if (line.isEmpty() && at > text.indexOf("def Scope \"ground\"")) {
      return true;
    }
    return FREE.get(id).stream().anyMatch(f -> line.startsWith("normal3f[] " + f));
  }

  /** What holds is passed: every writer and dialect, each part alone and all together. */
  @Test
  void soundDeliveriesPass() {
    List<String> refused = new ArrayList<>();
    int passed = 0;
    for (Dialect to : Dialects.shipped().all()) {
      for (String id :
          List.of("usd-text", "usd-crate", "fbx-binary", "alembic", "gltf-binary", "scene-json")) {
        for (Contents of : Arrays.asList(Contents.CAMERA, Contents.TRACKERS, GEOMETRY, ALL)) {
          Path file = dir.resolve("sound" + Formats.byId(id).extensions().get(0));
          Delivery d = new Delivery("x", to, Formats.byId(id), of, "x");
          Dispatcher.send(shot, d, file, Progress.NONE);
          ProofReport p = Proof.of(shot, file, to, of, 0.01, Progress.NONE);
          if (p.holds()) {
            passed++;
          } else {
            refused.add(id + " " + to.name() + " " + of + ": " + p.sentence());
          }
        }
      }
    }
    assertThat(refused).isEmpty();
    assertThat(passed).isGreaterThanOrEqualTo(200);
  }
}
