package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Extract;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.Part;
import flarvo.format.Formats;
import flarvo.lens.BrownConrady;
import flarvo.lens.Distortion;
import flarvo.lens.Lens;
import flarvo.lens.LensTrack;
import flarvo.motion.Framing;
import flarvo.motion.Recast;
import flarvo.receive.ReceivedFile;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** 2D tracks that go out beside a scene. */
class TracksDeliveryTest {

  private static final PictureSize PICTURE = PictureSize.of(480, 270);
  private static final PictureSize LARGE = PictureSize.of(529, 298); // odd: half a pixel

  /** Names that a table has to put into quotes. */
  private static final List<String> AWKWARD =
      List.of("#1", "a,b", "say \"x\"", "at the wall", "żółw");

  @TempDir private Path dir;

  private static Distortion brown(double k1) {
    return new BrownConrady(k1, 0.01, 0.002, -0.001, 0, 0, 0, 0);
  }

  /** It breathes. */
  private static LensTrack lens() {
    TreeMap<Integer, Distortion> keys = new TreeMap<>();
    keys.put(1001, brown(-0.08));
    keys.put(1006, brown(-0.05));
    return new LensTrack(Lens.centred(brown(-0.08)), keys);
  }

  /** Seen with half a pixel of noise, some trackers now and then. */
  private Shot shot(PlateRole... roles) {
    Shot s = TestShots.walkFrom(1001, 6, 40, 5);
    TrackerSet t = s.trackers().get(0);
    List<String> names = new ArrayList<>(t.names());
    for (int i = 0; i < AWKWARD.size(); i++) {
      names.set(i, AWKWARD.get(i));
    }
    double[] at = new double[3 * t.size()];
    for (int i = 0; i < t.size(); i++) {
      at[3 * i] = t.x(i);
      at[3 * i + 1] = t.y(i);
      at[3 * i + 2] = t.z(i);
    }
    TrackerSet walls = TrackerSet.of("walls", names, at);
    TrackerSet cart = TrackerSet.of("cart", List.of("c1", "c2"), new double[] {0, 1, 0, 1, 1, 0});
    Random r = new Random(7);
    Observations.Builder seen = new Observations.Builder();
    Pinhole eye = new Pinhole(s.camera().orElseThrow(), PICTURE);
    double[] p = new double[3];
    for (TrackerSet set : List.of(walls, cart)) {
      for (int i = 0; i < set.size(); i++) {
        for (int f = 1001; f <= 1006; f++) {
          eye.at(f).project(set, i, p);
          if (p[2] > 0 && r.nextInt(4) > 0) {
            seen.add(
                set.names().get(i),
                f,
                p[0] + 0.5 * r.nextGaussian(),
                p[1] + 0.5 * r.nextGaussian());
          }
        }
      }
    }
    List<PlateSequence> plates = new ArrayList<>();
    for (PlateRole role : roles) {
      plates.add(
          new PlateSequence(
                  dir.resolve(role.word()),
                  "p.",
                  4,
                  ".exr",
                  s.frames(),
                  List.of(),
                  role == PlateRole.ORIGINAL ? PICTURE : LARGE,
                  role)
              .around(PICTURE));
    }
    Shot bare =
        new Shot(
            s.name(),
            PICTURE,
            s.rate(),
            s.frames(),
            s.sourceFirstFrame(),
            s.cameras(),
            List.of(walls, cart),
            seen.build(),
            List.of(),
            s.level());
    return bare.withPlates(plates);
  }

  private static Delivery delivery(String dialect, String format, Extract extract) {
    Dialect d = Dialects.shipped().get(dialect);
    String ending = Formats.byId(format).extensions().get(0);
    return new Delivery(
        "d",
        d,
        Formats.byId(format),
        Contents.CAMERA_AND_TRACKERS.with(Part.TRACKS, true),
        extract,
        "d" + ending);
  }

  private Path file(Delivery d) {
    return dir.resolve("out").resolve(d.fileName());
  }

  private Path table() {
    return dir.resolve("out").resolve("d_tracks.csv");
  }

  private ProofReport send(Outgoing from, Delivery d) {
    return Handover.send(from, d, file(d), 0.001, List.of(), Progress.NONE).proof();
  }

  private List<String> failed(Outgoing from, Delivery d) {
    return failed(Handover.prove(from, d, file(d), 0.001, List.of(), Progress.NONE));
  }

  private static List<String> failed(ProofReport r) {
    return r.checks().stream().filter(c -> !c.holds()).map(Check::name).toList();
  }

  private Observations read() {
    return ReceivedFile.read(table(), Optional.empty(), Progress.NONE).scene().observations();
  }

  /** Every place of the table where the shot has it, moved as somebody who knows would move it. */
  private void assertPlaces(Shot s, int later, Map<String, double[]> expected) {
    Observations found = read();
    assertThat(found.size()).isEqualTo(expected.size());
    for (String name : s.observations().names()) {
      for (int f = 1001; f <= 1006; f++) {
        double[] e = expected.get(name + " " + f);
        int row = found.row(name, f + later);
        assertThat(row >= 0).as(name + " on " + f).isEqualTo(e != null);
        if (e != null) {
          assertThat(found.x(row)).isCloseTo(e[0], within(1e-6));
          assertThat(found.y(row)).isCloseTo(e[1], within(1e-6));
        }
      }
    }
  }

  private interface Move {
    double[] of(int frame, double x, double y);
  }

  private static Map<String, double[]> places(Shot s, Move move) {
    Map<String, double[]> out = new HashMap<>();
    Observations o = s.observations();
    for (String name : o.names()) {
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        out.put(name + " " + o.frame(row), move.of(o.frame(row), o.x(row), o.y(row)));
      }
    }
    return out;
  }

  @Test
  void theyLieOnThePlatesThatGoAlongUnderTheFilesFrames() {
    for (String format : List.of("usd-text", "usd-crate", "fbx-binary", "alembic", "gltf-binary")) {
      // The recipient's first frame is 0, its plates have overscan.
      Shot s = shot(PlateRole.UNDISTORTED, PlateRole.ORIGINAL);
      Outgoing from = new Outgoing(s, Optional.of(lens()));
      Delivery d = delivery("engine-zup-left-cm", format, Extract.WHOLE);
      ProofReport r = send(from, d);
      assertThat(failed(r)).as(format).isEmpty();
      assertThat(r.checks()).extracting(Check::name).contains("tracks", "tracksFit");
      assertPlaces(s, -1001, places(s, (f, x, y) -> new double[] {x + 24.5, y + 14}));
      assertThat(r.losses().toString())
          .contains("on the undistorted plates of 529x298")
          .doesNotContain("contain no 2D tracks");
    }
  }

  @Test
  void onOriginalPlatesTheyAreBentByTheLens() {
    Shot s = shot(PlateRole.UNDISTORTED, PlateRole.ORIGINAL);
    Outgoing from = new Outgoing(s, Optional.of(lens()));
    Delivery d = delivery("anim-yup-cm", "usd-text", Extract.behind(PlateRole.ORIGINAL));
    ProofReport r = send(from, d);
    assertThat(failed(r)).isEmpty();
    assertPlaces(
        s,
        0,
        places(
            s,
            (f, x, y) -> {
              double[] p = new double[2];
              lens().at(f).on(PICTURE).toOriginal(x, y, p);
              return p;
            }));
    assertThat(r.losses().toString()).contains("on the original plates of 480x270;");
    // Without a lens they stay straight, and that is said.
    ProofReport unknown = send(Outgoing.of(s), d);
    assertThat(failed(unknown)).isEmpty();
    assertThat(unknown.losses().toString()).contains("no lens is known");
    assertPlaces(s, 0, places(s, (f, x, y) -> new double[] {x, y}));
  }

  /** A lens so strong that the corners of a straight picture are on no place of the original. */
  @Test
  void whatTheLensCannotReachIsSaidToBeLost() {
    Shot s = shot(PlateRole.ORIGINAL);
    LensTrack strong = LensTrack.of(Lens.centred(new BrownConrady(-0.9, 0, 0, 0, 0, 0, 0, 0)));
    Delivery d = delivery("anim-yup-cm", "usd-text", Extract.behind(PlateRole.ORIGINAL));
    ProofReport r = send(new Outgoing(s, Optional.of(strong)), d);
    int left = s.observations().size() - read().size();
    assertThat(left).isBetween(1, s.observations().size() - 1);
    assertThat(r.losses().toString())
        .contains("2D tracks: " + left + " places lie beyond where the lens folds");
  }

  @Test
  void groupsAndFramesThatStayBehindAreNotInTheTable() {
    Shot s = shot();
    Delivery all = delivery("anim-yup-cm", "usd-text", Extract.WHOLE.leavingOff(1, 2));
    Delivery d = all.withContents(all.contents().leavingOut(Set.of("cart")));
    assertThat(failed(send(Outgoing.of(s), d))).isEmpty();
    Map<String, double[]> left = places(s, (f, x, y) -> new double[] {x, y});
    left.keySet().removeIf(k -> k.matches("c\\d .*|.* 100[156]"));
    assertThat(left).isNotEmpty();
    assertPlaces(s, -1, left); // the recipient's first frame is 1001, and is the plates' 1002
  }

  @Test
  void whatIsDamagedOnDiskDoesNotHold() throws IOException {
    Shot s = shot(PlateRole.UNDISTORTED);
    Outgoing from = Outgoing.of(s);
    Delivery d = delivery("engine-zup-left-cm", "usd-text", Extract.WHOLE);
    assertThat(failed(send(from, d))).isEmpty();
    String good = Files.readString(table());
    List<String> lines = good.lines().toList();
    String row = lines.get(20);

    String[] cells = row.split(",(?=[^,]*$)");
    Files.writeString(
        table(), good.replace(row, cells[0] + "," + (cells[1] + "1").replace(".", "1.")));
    assertThat(failed(from, d)).contains("tracks");
    Files.writeString(table(), good.replace(row + "\n", ""));
    assertThat(failed(from, d)).contains("tracks");
    Files.writeString(table(), good + "another,2,1.0,1.0\n");
    assertThat(failed(from, d)).contains("tracks");
    // The whole table is somebody else's: of plates without overscan, or one frame late.
    Files.writeString(table(), numbers(good, 0, -24.5));
    assertThat(failed(from, d)).containsExactly("tracks", "tracksFit");
    Files.writeString(table(), numbers(good, 1, 0));
    assertThat(failed(from, d)).containsExactly("tracks", "tracksFit");
    Files.writeString(table(), "no table");
    assertThat(failed(from, d)).containsExactly("tracks");
    Files.delete(table());
    assertThat(failed(from, d)).containsExactly("tracks");
    Files.writeString(table(), good);
    assertThat(failed(from, d)).isEmpty();
  }

  private static String numbers(String table, int later, double right) {
    StringBuilder out = new StringBuilder();
    for (String line : table.lines().toList()) {
      String[] c = line.split(",");
      if (line.startsWith("# ") || c[c.length - 1].equals("y")) {
        out.append(line).append('\n');
        continue;
      }
      int n = c.length;
      String name =
          line.substring(0, line.length() - (c[n - 3] + c[n - 2] + c[n - 1]).length() - 3);
      out.append(name).append(',').append(Integer.parseInt(c[n - 3]) + later);
      out.append(',').append(Double.parseDouble(c[n - 2]) + right);
      out.append(',').append(c[n - 1]).append('\n');
    }
    return out.toString();
  }

  @Test
  void whatIsNotThereIsSaidAndNotWritten() {
    Shot s = shot();
    Delivery d = delivery("anim-yup-cm", "usd-text", Extract.WHOLE);
    ProofReport none = send(Outgoing.of(s.withObservations(Observations.NONE)), d);
    assertThat(table()).doesNotExist();
    assertThat(none.losses().toString()).contains("2D tracks: there are none");
    Extract cropped =
        Extract.WHOLE.recast(Recast.NONE.withFraming(Optional.of(Framing.crop("48,27,96x54"))));
    ProofReport crop = send(Outgoing.of(s), delivery("anim-yup-cm", "usd-text", cropped));
    assertThat(table()).doesNotExist();
    assertThat(crop.losses().toString())
        .contains("2D tracks: they belong to the plates' own picture and time");
  }
}
