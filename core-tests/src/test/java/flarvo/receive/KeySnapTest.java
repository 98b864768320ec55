package flarvo.receive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.format.KeySnap;
import flarvo.proof.DriftReport;
import flarvo.proof.KeySnapEffect;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files whose keys all lie a little after their frames: snapped, each is on its frame again. */
class KeySnapTest {

  private static final FrameRange FRAMES = new FrameRange(1001, 1012);
  private static final double LATE = 0.04; // frames

  @TempDir private Path dir;

  private static Shot shot() {
    PoseTrack path =
        PoseTrack.of(
            FRAMES,
            f ->
                new Pose(
                    new Vec3(0.3 * (f - 1001), 0.02 * (f - 1001) * (f - 1001), 8),
                    Rotation.about(new Vec3(0, 1, 0), 0.01 * (f - 1001))));
    Group cart =
        Group.moving(
            "cart",
            PoseTrack.of(
                FRAMES, f -> new Pose(new Vec3(-1, 0, 0.4 * (f - 1001)), Rotation.IDENTITY)));
    double[] xyz = {0, 0, 0, 1, 1, 0, 2, 0, 1, 1.5, 0.5, -2};
    List<String> names = List.of("a", "b", "c", "d");
    return new Shot(
        "s",
        PictureSize.of(1920, 1080),
        Rate.FPS_24,
        FRAMES,
        1001,
        List.of(
            new ShotCamera(
                "cam",
                path,
                OpticsTrack.constant(FRAMES, Optics.centred(30, 24.576, 13.824)),
                Optional.empty())),
        List.of(
            TrackerSet.of("still", names, xyz),
            TrackerSet.of("cart", List.of("k", "l", "m", "n"), xyz).inGroup(Optional.of(cart))),
        Observations.NONE,
        List.of(),
        List.of(),
        Similarity.IDENTITY);
  }

  private Path written(String format) {
    Path file = dir.resolve("s" + Formats.byId(format).extensions().get(0));
    Delivery d =
        new Delivery(
            "d",
            Dialect.CANONICAL,
            Formats.byId(format),
            Contents.CAMERA_AND_TRACKERS,
            file.getFileName().toString());
    Dispatcher.send(shot(), d, file, Progress.NONE);
    return file;
  }

  private static void replace(Path file, String pattern, java.util.function.UnaryOperator<String> f)
      throws IOException {
    Matcher m = Pattern.compile(pattern).matcher(Files.readString(file));
    StringBuilder out = new StringBuilder();
    while (m.find()) {
      m.appendReplacement(out, Matcher.quoteReplacement(f.apply(m.group())));
    }
    m.appendTail(out);
    Files.writeString(file, out.toString());
  }

  /** A file's keys moved, in the file. */
  private Path late(String format) throws IOException {
    Path file = written(format);
    switch (format) {
      case "usd-text" ->
          replace(
              file,
              "(?m)^ *10\\d\\d(\\.0)?: ",
              s -> "    " + (Double.parseDouble(s.replace(":", "")) + LATE) + ": ");
      case "fbx-text" ->
          replace(
              file,
              "KeyTime: \\*\\d+ \\{\\s*a: [^}]*\\}",
              s -> {
                String[] head = s.split("a: ", 2);
                List<String> ticks = new ArrayList<>();
                for (String t : head[1].replace("}", "").split(",")) {
                  long tick = Long.parseLong(t.strip());
                  ticks.add(Long.toString(tick + Math.round(LATE / 24 * 46_186_158_000L)));
                }
                return head[0] + "a: " + String.join(",", ticks) + "\n}";
              });
      case "gltf-binary", "alembic" -> binary(file, format.equals("alembic"));
      default -> throw new IllegalArgumentException(format);
    }
    return file;
  }

  /** Times are floats of seconds in the one, the first one alone is a double in the other. */
  private static void binary(Path file, boolean firstAlone) throws IOException {
    byte[] all = Files.readAllBytes(file);
    ByteBuffer b = ByteBuffer.wrap(all).order(ByteOrder.LITTLE_ENDIAN);
    int changed = 0;
    for (int i = 0; i + 8 <= all.length; i += firstAlone ? 1 : 4) {
      if (firstAlone && b.getDouble(i) == 1001 / 24.0) {
        b.putDouble(i, (1001 + LATE) / 24);
        changed++;
      } else if (!firstAlone) {
        float v = b.getFloat(i);
        double frame = v * 24.0;
        if (frame > 1000.5 && frame < 1012.5 && Math.abs(frame - Math.rint(frame)) < 1e-4) {
          b.putFloat(i, (float) ((Math.rint(frame) + LATE) / 24));
          changed++;
        }
      }
    }
    assertThat(changed).isPositive();
    Files.write(file, all);
  }

  @Test
  void snappedKeysStandOnTheirFramesAgain() throws IOException {
    for (String format : List.of("usd-text", "fbx-text", "gltf-binary", "alembic")) {
      Path file = late(format);
      IntakeOptions options =
          IntakeOptions.NONE.withSize(PictureSize.of(1920, 1080)).withRate(Rate.FPS_24);
      ReceivedSet lie = new ShotIntake().add(file, options, Progress.NONE).received(options);
      assertThat(lie.keysBetweenFrames()).as(format).isGreaterThanOrEqualTo(12);
      Shot asItLies = lie.shot("s", Rulings.NONE);
      ReceivedSet set = lie.snapKeys(true, Progress.NONE);
      assertThat(set.notes().toString())
          .as(format)
          .contains("lay between frames and were snapped, by up to 0.0400 frames");
      Shot is = set.shot("s", Rulings.NONE);
      Shot was = shot();
      assertThat(is.camera().orElseThrow().frames()).as(format).isEqualTo(FRAMES);
      for (int f = FRAMES.first(); f <= FRAMES.last(); f++) {
        Pose p = is.camera().orElseThrow().poses().at(f);
        Pose q = was.camera().orElseThrow().poses().at(f);
        assertThat(p.position().minus(q.position()).length()).as(format + f).isLessThan(1e-4);
        assertThat(p.rotation().angleTo(q.rotation())).as(format + f).isLessThan(1e-5);
        TrackerSet cart =
            is.trackers().stream().filter(TrackerSet::moves).findFirst().orElseThrow();
        assertThat(cart.position(0, f).minus(was.trackers().get(1).position(0, f)).length())
            .as(format + f)
            .isLessThan(1e-4);
      }
      // What it does in the picture, against how far the camera goes in that time.
      DriftReport d = KeySnapEffect.of(lie, "s", Rulings.NONE, Progress.NONE).orElseThrow();
      assertThat(d.maxPx()).as(format).isBetween(1.0, 12.0);
      assertThat(set.snapKeys(false, Progress.NONE).shot("s", Rulings.NONE).camera())
          .isEqualTo(asItLies.camera());
      Files.delete(file);
    }
  }

  @Test
  void aFileOnItsFramesIsLeftAlone() {
    ReceivedSet set =
        ShotIntake.of(List.of(written("usd-text")), Progress.NONE).received(IntakeOptions.NONE);
    assertThat(set.keysBetweenFrames()).isZero();
    ReceivedSet snapped = set.snapKeys(true, Progress.NONE);
    assertThat(snapped.notes()).isEqualTo(set.notes());
    assertThat(KeySnapEffect.of(set, "s", Rulings.NONE, Progress.NONE)).isEmpty();
  }

  /** The nearest key within half a frame; where there is none, the frame itself. */
  @Test
  void theNearestKeyStandsForAFrame() {
    KeySnap snap = new KeySnap(true);
    snap.goBy(new double[] {0.9, 1.3, 2.6, 7.49, 9.5}, "cam", new ArrayList<>());
    assertThat(snap.at(0)).isEqualTo(0);
    assertThat(snap.at(1)).isEqualTo(0.9);
    assertThat(snap.at(2)).isEqualTo(2);
    assertThat(snap.at(3)).isEqualTo(2.6);
    for (int f = 4; f <= 6; f++) {
      assertThat(snap.at(f)).isEqualTo(f);
    }
    assertThat(snap.at(7)).isCloseTo(7.49, within(1e-12));
    assertThat(snap.at(8)).isEqualTo(8);
    KeySnap off = new KeySnap(false);
    off.goBy(new double[] {0.9}, "cam", new ArrayList<>());
    assertThat(off.at(1)).isEqualTo(1);
  }
}
