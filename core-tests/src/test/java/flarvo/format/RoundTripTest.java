package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.LensShift;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.proof.Check;
import flarvo.proof.Proof;
import flarvo.receive.InFile;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * What is read is what was written, but for what the format says it cannot carry: number by number,
 * without the proof.
 */
class RoundTripTest {

  private static final int SHOTS = Integer.getInteger("flarvo.shots", 40);

  /** Of the scene's reach; 32-bit floats around its middle. */
  private static final double PLACE = 1e-6;

  private static final double DOUBLES_PX = 1e-4;
  private static final double FLOATS_PX = 5e-3;

  @TempDir private Path dir;

  static List<String> formats() {
    return Formats.all().stream().filter(SceneFormat::writes).map(SceneFormat::id).toList();
  }

  @ParameterizedTest
  @MethodSource("formats")
  void whatIsReadIsWhatWasWritten(String id) {
    SceneFormat format = Formats.byId(id);
    List<Dialect> dialects = Dialects.shipped().all();
    List<String> wrong = new ArrayList<>();
    for (int seed = 0; seed < SHOTS; seed++) {
      Shot s = new GeneratedShots(seed).next();
      Dialect d = dialects.get(seed % dialects.size());
      String what = differences(s, format, d, seed);
      if (!what.isEmpty()) {
        wrong.add("shot " + seed + " in " + d.name() + ": " + what);
      }
    }
    assertThat(wrong).as(id).isEmpty();
  }

  @Test
  void fiftyThousandTrackersComeBack() {
    for (String id : List.of("usd-crate", "fbx-binary", "alembic", "gltf-binary", "scene-json")) {
      Shot s = flarvo.TestShots.walk(2, 50_000, 4);
      assertThat(differences(s, Formats.byId(id), Dialects.shipped().get("anim-zup-m"), 0))
          .as(id)
          .isEmpty();
    }
  }

  @Test
  void aShotWithNothingButItsFramesComesBackEmpty() {
    Shot s = flarvo.TestShots.walk(3, 0, 4);
    for (String id : formats()) {
      assertThat(differences(s, Formats.byId(id), Dialects.shipped().get("anim-zup-m"), 0))
          .as(id)
          .isEmpty();
    }
  }

  /** Whatever sets are called and wherever they hang, each has the size that it was given. */
  @Test
  void locatorsComeBackAsLargeAsTheyWere() {
    List<Dialect> dialects = Dialects.shipped().all();
    List<String> wrong = new ArrayList<>();
    int compared = 0;
    for (int seed = 0; seed < SHOTS; seed++) {
      Random r = new Random(seed);
      Shot s = new GeneratedShots(seed).next();
      s =
          s.withTrackers(
              s.trackers().stream()
                  .map(t -> t.withMarker(Math.pow(10, 3 * r.nextDouble() - 2)))
                  .toList());
      Dialect d = dialects.get(seed % dialects.size());
      List<SceneFormat> all =
          Formats.all().stream().filter(f -> f.writes() && f.holdsLocatorSizes()).toList();
      SceneFormat f = all.get(seed % all.size());
      Path file = dir.resolve("size" + seed + f.extensions().get(0));
      Dispatcher.send(s, new Delivery("x", d, f, Contents.TRACKERS, "x"), file, Progress.NONE);
      List<Check> sizes =
          Proof.of(s, file, d, Contents.TRACKERS, 0.1, Progress.NONE).checks().stream()
              .filter(c -> c.name().equals("locatorSize"))
              .toList();
      compared += sizes.size();
      if (sizes.isEmpty() ? s.trackerCount() > 0 : !sizes.get(0).holds()) {
        wrong.add("shot " + seed + " as " + f.id() + " in " + d.name() + ": " + sizes);
      }
    }
    assertThat(wrong).isEmpty();
    assertThat(compared).isGreaterThan(SHOTS / 2);
  }

  /** Empty where everything is the same. */
  private String differences(Shot shot, SceneFormat format, Dialect d, int seed) {
    Dialect spoken = format.nearestSupported(d).spoken();
    Path file = dir.resolve(format.id() + seed + format.extensions().get(0));
    Contents c = Contents.WITH_GEOMETRY;
    Dispatcher.Sent sent =
        Dispatcher.send(shot, new Delivery("x", d, format, c, "x"), file, Progress.NONE);
    ReceivedFile read = ReceivedFile.read(file, Optional.of(d), Progress.NONE);
    int by = sent.frames().isOffset() ? sent.frames().recipientFirst() - shot.frames().first() : 0;
    if (!sent.frames().isOffset()) {
      return ""; // resampled; the proof's business
    }
    if (says(sent, "times below 0")) {
      by -= sent.frames().recipientFirst(); // it begins at 0 there
    }
    if (says(sent, "times are 32-bit numbers") && shot.frames().count() < 3) {
      return ""; // nothing tells the rate of so few keys so far out
    }
    IntakeOptions options = IntakeOptions.NONE.withSize(shot.picture());
    List<String> wrong = new ArrayList<>();
    cameras(shot, inFile(read.cameras(shot.picture(), options)), format, spoken, by, wrong);
    trackers(shot, inFile(read.trackers(shot.picture(), options)), format, by, sent.notes(), wrong);
    if (!format.cannotCarry().contains(SceneFormat.MESHES)) {
      meshes(shot, inFile(read.meshes(shot.picture(), options)), by, wrong);
    }
    return String.join("; ", wrong);
  }

  private static boolean says(Dispatcher.Sent sent, String what) {
    return sent.notes().stream().anyMatch(n -> n.toString().contains(what));
  }

  private static void cameras(
      Shot shot,
      List<ShotCamera> found,
      SceneFormat format,
      Dialect spoken,
      int by,
      List<String> wrong) {
    int due = format.cannotCarry().contains(SceneFormat.MORE_CAMERAS) ? 1 : shot.cameras().size();
    if (found.size() != due) {
      wrong.add(found.size() + " cameras for " + due);
      return;
    }
    boolean floats = format.id().matches("(fbx|gltf|usd).*"); // of lenses, in USD
    for (int i = 0; i < due; i++) {
      ShotCamera a = shot.cameras().get(i);
      ShotCamera b = found.get(i).shifted(-by);
      boolean shifted = a.optics().at(a.frames().first()).principalXMm() != 0;
      boolean zooms = !a.optics().isConstant();
      if (shifted && spoken.film().shift() == LensShift.IGNORED) {
        continue; // said as lost
      }
      boolean held = zooms && format.cannotCarry().contains("a focal length that changes");
      FrameRange frames = shot.frames();
      if (frames.count() == 1 && format.timeInSeconds()) {
        b = b.shifted(frames.first() - b.frames().first()); // one key tells no rate; said
      }
      if (!b.frames().equals(frames)) {
        wrong.add(a.name() + " on " + b.frames() + " for " + frames);
        continue;
      }
      int last = held ? frames.first() : frames.last();
      double px = worst(a, b, shot, frames.first(), last);
      if (!(px <= (floats ? FLOATS_PX : DOUBLES_PX))) {
        wrong.add(a.name() + " " + px + " px off");
      }
      if (!plain(a.name()).equals(plain(b.name()))) {
        wrong.add(a.name() + " is called " + b.name());
      }
    }
  }

  /** Of points spread over the picture, near and far. */
  private static double worst(ShotCamera a, ShotCamera b, Shot shot, int first, int last) {
    Random r = new Random(1);
    Pinhole p = new Pinhole(a, shot.picture());
    Pinhole q = new Pinhole(b, shot.picture());
    double[] x = new double[3];
    double[] y = new double[3];
    double worst = 0;
    for (int f = first; f <= last; f++) {
      p.at(f);
      q.at(f);
      for (int i = 0; i < 9; i++) {
        Vec3 way =
            p.ray(
                r.nextDouble() * shot.picture().width(), r.nextDouble() * shot.picture().height());
        Vec3 at = a.poses().at(f).position().plus(way.times(2 + 30 * r.nextDouble()));
        p.project(at.x(), at.y(), at.z(), x);
        q.project(at.x(), at.y(), at.z(), y);
        double d = Math.hypot(x[0] - y[0], x[1] - y[1]);
        worst = d <= worst ? worst : Double.isNaN(d) ? Double.POSITIVE_INFINITY : d;
      }
    }
    return worst;
  }

  private static String plain(String s) {
    return s.replaceAll("[^\\p{L}\\p{N}]", "_");
  }

  /** A place of every tracker by its name, with where it hangs. */
  private record Place(TrackerSet set, int number) {
    Vec3 at(int frame) {
      return set.position(number, frame);
    }

    String tree() {
      return RoundTripTest.tree(set.group());
    }
  }

  private static String tree(Optional<Group> g) {
    return g.map(Group::path).orElse(List.of()).stream()
        .filter(x -> x.moves() || !x.name().equals(ShotCentre.NODE))
        .map(x -> plain(x.name()))
        .toList()
        .toString();
  }

  private static Map<String, Place> places(List<TrackerSet> sets) {
    Map<String, Place> out = new LinkedHashMap<>();
    for (TrackerSet t : sets) {
      for (int i = 0; i < t.size(); i++) {
        out.put(t.names().get(i), new Place(t, i));
      }
    }
    return out;
  }

  private static void trackers(
      Shot shot,
      List<TrackerSet> came,
      SceneFormat format,
      int by,
      List<Note> notes,
      List<String> wrong) {
    boolean still = format.cannotCarry().contains(SceneFormat.MOVING_GROUPS);
    Map<String, Place> found = places(came);
    Map<String, Place> due =
        places(shot.trackers().stream().filter(t -> !still || !t.moves()).toList());
    if (found.size() != due.size()) {
      wrong.add(found.size() + " trackers for " + due.size());
    }
    for (Map.Entry<String, Place> e : due.entrySet()) {
      Place a = e.getValue();
      Place b = found.get(e.getKey());
      if (b == null) {
        String name = e.getKey();
        boolean said = notes.stream().anyMatch(n -> n.toString().contains(name));
        if (!said) {
          wrong.add("'" + name + "' is gone without a word");
        }
        continue;
      }
      if (!still && !a.tree().equals(b.tree())) {
        wrong.add(e.getKey() + " hangs in " + b.tree() + " and not in " + a.tree());
      }
      for (int f = shot.frames().first(); f <= shot.frames().last(); f++) {
        Vec3 at = a.at(f);
        double off = at.minus(b.at(f + by)).length();
        if (!(off <= PLACE * Math.max(10, at.length()))) {
          wrong.add(e.getKey() + " " + off + " m off at " + f);
          return;
        }
      }
    }
  }

  private static void meshes(Shot shot, List<Mesh> found, int by, List<String> wrong) {
    if (found.size() != shot.meshes().size()) {
      wrong.add(found.size() + " meshes for " + shot.meshes().size());
      return;
    }
    for (Mesh a : shot.meshes()) {
      Mesh b = found.stream().filter(m -> m.name().equals(a.name())).findFirst().orElse(null);
      if (b == null || !tree(a.group()).equals(tree(b.group()))) {
        wrong.add(a.name() + (b == null ? " is gone" : " hangs in " + tree(b.group())));
        continue;
      }
      int[] ours = a.triangles();
      int[] theirs = b.triangles();
      int[] ownPoints = a.faceIndices();
      int[] otherPoints = b.faceIndices();
      if (ours.length != theirs.length) {
        wrong.add(a.name() + " has other faces");
        continue;
      }
      for (int f = shot.frames().first(); f <= shot.frames().last(); f++) {
        for (int i = 0; i < ours.length; i++) {
          Vec3 at = a.position(ownPoints[ours[i]], f);
          double off = at.minus(b.position(otherPoints[theirs[i]], f + by)).length();
          if (!(off <= PLACE * Math.max(10, at.length()))) {
            wrong.add(a.name() + " " + off + " m off at " + f);
            return;
          }
        }
      }
      for (int i = 0; i < ours.length && a.uvs().length > 0; i++) {
        for (int k = 0; k < 2; k++) {
          double u = a.uvs()[2 * ours[i] + k];
          if (b.uvs().length == 0 || !(Math.abs(u - b.uvs()[2 * theirs[i] + k]) < 1e-6)) {
            wrong.add(a.name() + " has other UVs");
            return;
          }
        }
      }
    }
  }

  /** Sources and what is read of them have the same frames here. */
  private static <T> List<T> inFile(List<InFile<T>> all) {
    return all.stream().map(InFile::inFile).toList();
  }
}
