package flarvo.receive;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.format.table.TableAdvice;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * 2D tracks whose table does not say where 0, 0 lies are told by the camera that came with them.
 */
class FittingTracksTest {

  private static final Shot TRUTH = TestShots.walk(20, 12, 3);
  private static final int H = TestShots.HD.height();
  private static final int W = TestShots.HD.width();

  @TempDir private Path dir;

  @BeforeEach
  void write() throws IOException {
    ShotCamera c = TRUTH.camera().orElseThrow();
    StringBuilder s = new StringBuilder("# camera: main\n# picture: 1920x1080\n");
    s.append("frame,tx,ty,tz,qw,qx,qy,qz,focal,film_width_mm,film_height_mm\n");
    for (int f = c.frames().first(); f <= c.frames().last(); f++) {
      Pose p = c.poses().at(f);
      Vec3 v = p.position();
      Rotation q = p.rotation();
      Optics o = c.optics().at(f);
      s.append(f).append(',').append(v.x()).append(',').append(v.y()).append(',').append(v.z());
      s.append(',').append(q.w()).append(',').append(q.x()).append(',').append(q.y());
      s.append(',').append(q.z()).append(',').append(o.focalLengthMm());
      s.append(',').append(o.filmWidthMm()).append(',').append(o.filmHeightMm()).append('\n');
    }
    Files.writeString(dir.resolve("camera.csv"), s);
    StringBuilder t = new StringBuilder("tracker,x,y,z\n");
    TrackerSet set = TRUTH.trackers().get(0);
    for (int i = 0; i < set.size(); i++) {
      Vec3 v = set.position(i);
      t.append(String.join(",", set.names().get(i), v.x() + "", v.y() + "", v.z() + "\n"));
    }
    Files.writeString(dir.resolve("points.csv"), t);
  }

  private interface Written {
    double[] xy(double x, double y);
  }

  private ReceivedSet received(String comment, Written w, TableAdvice advice) throws IOException {
    StringBuilder s = new StringBuilder(comment);
    s.append("track;frame;x;y\n");
    Pinhole h = new Pinhole(TRUTH.camera().orElseThrow(), TestShots.HD);
    double[] px = new double[3];
    TrackerSet t = TRUTH.trackers().get(0);
    for (int i = 0; i < t.size(); i++) {
      for (int f = TRUTH.frames().first(); f <= TRUTH.frames().last(); f++) {
        h.at(f).project(t, i, px);
        double[] xy = w.xy(px[0], px[1]);
        s.append(
            String.format(Locale.ROOT, "%s;%d;%.6f;%.6f%n", t.names().get(i), f, xy[0], xy[1]));
      }
    }
    Files.writeString(dir.resolve("tracks.txt"), s);
    IntakeOptions options = IntakeOptions.NONE.withSize(TestShots.HD);
    ShotIntake in = new ShotIntake(advice);
    for (String f : new String[] {"camera.csv", "points.csv", "tracks.txt"}) {
      in.add(dir.resolve(f), options, Progress.NONE);
    }
    return in.received(options);
  }

  private static double worst(ReceivedSet set) {
    Observations o = set.shot("s", Rulings.NONE).observations();
    Pinhole h = new Pinhole(TRUTH.camera().orElseThrow(), TestShots.HD);
    TrackerSet t = TRUTH.trackers().get(0);
    double[] px = new double[3];
    double worst = 0;
    for (int i = 0; i < t.size(); i++) {
      for (int f = TRUTH.frames().first(); f <= TRUTH.frames().last(); f++) {
        h.at(f).project(t, i, px);
        int row = o.row(t.names().get(i), f);
        worst = Math.max(worst, Math.hypot(o.x(row) - px[0], o.y(row) - px[1]));
      }
    }
    return worst;
  }

  @ParameterizedTest
  @CsvSource({"down, 0", "up, 0", "up, 1", "down, 1"})
  void theFitTellsWhichWayYGrows(String y, int centre) throws IOException {
    ReceivedSet set =
        received(
            "",
            (px, py) ->
                new double[] {
                  centre == 1 ? px - W / 2.0 : px,
                  (y.equals("up") ? -1 : 1) * (centre == 1 ? py - H / 2.0 : py)
                      + (y.equals("up") && centre == 0 ? H : 0)
                },
            TableAdvice.NONE);
    assertThat(worst(set)).isLessThan(1e-4);
    String notes = set.notes().toString();
    if (y.equals("down") && centre == 0) {
      assertThat(notes).contains("from the top left, y down");
    } else {
      assertThat(notes).contains("which fits", "y " + y);
    }
  }

  @Test
  void whatTheTableSaysIsNotTried() throws IOException {
    Written up = (x, y) -> new double[] {x, H - y};
    assertThat(worst(received("# y: up\n", up, TableAdvice.NONE))).isLessThan(1e-4);
    ReceivedSet lies = received("# origin: top left\n", up, TableAdvice.NONE);
    assertThat(worst(lies)).as("it says otherwise, and that counts").isGreaterThan(100);
  }

  @Test
  void theWindowTellsItToo() throws IOException {
    received("", (x, y) -> new double[] {x, H - y}, TableAdvice.NONE);
    ReceivedSet set =
        ShotIntake.of(
                java.util.List.of(
                    dir.resolve("camera.csv"),
                    dir.resolve("points.csv"),
                    dir.resolve("tracks.txt")),
                Progress.NONE)
            .received(IntakeOptions.NONE);
    assertThat(set.notes().toString()).contains("which fits");
    assertThat(worst(set)).isLessThan(1e-4);
  }
}
