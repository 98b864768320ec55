package flarvo.motion;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Extract;
import flarvo.dispatch.Losses;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.Part;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.proof.Check;
import flarvo.proof.Handover;
import flarvo.proof.Proof;
import flarvo.proof.ProofReport;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What was recast, in files: written, read as the recipient would, and held against the shot. */
class RecastDeliveryTest {

  @TempDir private Path dir;

  private static final Map<String, Recast> RECASTS = new LinkedHashMap<>();

  static {
    Recast n = Recast.NONE;
    RECASTS.put("camera", n.withHeld(Optional.of(Held.camera(1010))));
    RECASTS.put("cart", n.withHeld(Optional.of(Held.group("cart", 1004))));
    RECASTS.put("back", n.withZoom(ZoomOn.FILM_BACK));
    RECASTS.put("crop", n.withFraming(Optional.of(new Framing(200.5, 100, 960, 540, 1280, 720))));
    RECASTS.put("squeeze", n.withFraming(Optional.of(new Framing(0, 0, 1920, 1080, 960, 1080))));
    RECASTS.put("time", n.withRetime(Optional.of(Retime.reversed(new FrameRange(1001, 1024)))));
    RECASTS.put(
        "all",
        new Recast(
            Optional.of(Retime.reversed(new FrameRange(1001, 1024))),
            Optional.of(Held.camera(1001)),
            ZoomOn.FILM_BACK,
            Optional.of(new Framing(100, 50, 1600, 900, 1920, 1080)),
            Parents.NONE));
  }

  /** Where a format knows neither zoom nor lens shift, without them. */
  private static Shot shot(SceneFormat f) {
    Shot s = RecastTest.shot(5);
    ShotCamera c = s.cameras().get(0);
    boolean simple = f.id().startsWith("gltf");
    return s.withCameras(
        List.of(
            simple
                ? c.withOptics(OpticsTrack.constant(c.frames(), Optics.centred(35, 24.576, 13.824)))
                : c));
  }

  private Delivery delivery(SceneFormat f, String dialect, Recast r) {
    return new Delivery(
        "d",
        Dialects.shipped().get(dialect),
        f,
        Contents.CAMERA_AND_TRACKERS,
        Extract.WHOLE.recast(r),
        "d" + f.extensions().get(0));
  }

  @Test
  void everyFormatThatCarriesMotionHoldsThePicture() {
    List<String> wrong = new ArrayList<>();
    int sent = 0;
    for (SceneFormat f : Formats.all()) {
      boolean carries = f.writes() && !f.cannotCarry().contains(SceneFormat.MOVING_GROUPS);
      for (Map.Entry<String, Recast> e : RECASTS.entrySet()) {
        boolean shifts = e.getValue().framing().isPresent();
        if (!carries || f.id().startsWith("gltf") && shifts) {
          continue; // glTF has no lens shift, and a part of the picture has one
        }
        boolean lost =
            e.getValue().zoom() == ZoomOn.FILM_BACK
                && f.cannotCarry().contains(SceneFormat.CHANGING_BACK);
        Delivery d = delivery(f, "anim-zup-m", e.getValue());
        Path file = dir.resolve(f.id() + "-" + e.getKey() + f.extensions().get(0));
        ProofReport r =
            Handover.send(Outgoing.of(shot(f)), d, file, 0.02, List.of(), Progress.NONE).proof();
        sent++;
        List<Check> bad = r.checks().stream().filter(c -> !c.holds()).toList();
        if (lost) {
          // What cannot be carried is said before, and never passes.
          assertThat(r.holds()).as(f.id() + e.getKey()).isFalse();
          assertThat(Losses.of(d.extract().of(shot(f)), d).toString())
              .contains("one film back and lens shift, and they change");
          continue;
        }
        if (!r.holds() || r.checks().stream().noneMatch(c -> c.name().equals("samePicture"))) {
          wrong.add(f.id() + " " + e.getKey() + " " + r.sentence() + " " + bad);
        }
      }
    }
    System.out.println("recast deliveries: " + sent);
    assertThat(sent).isGreaterThan(30);
    assertThat(wrong).isEmpty();
  }

  /** For recipients that know no lens shift: the film back grows until there is none. */
  @Test
  void aLensShiftIsBakedIntoTheFilmBack() {
    Shot s = RecastTest.shot(5);
    ShotCamera c = s.cameras().get(0);
    Optics shifted = new Optics(35, 24.576, 13.824, 1.3, -0.7);
    Shot off = s.withCameras(List.of(c.withOptics(OpticsTrack.constant(c.frames(), shifted))));
    assertThat(Framing.isShifted(off.camera().orElseThrow(), off.picture())).isTrue();
    SceneFormat gltf = Formats.byId("gltf-binary");
    Delivery plain = delivery(gltf, "engine-yup-m", Recast.NONE);
    Path file = dir.resolve("shift.glb");
    assertThat(
            Handover.send(Outgoing.of(off), plain, file, 0.02, List.of(), Progress.NONE)
                .proof()
                .holds())
        .isFalse();

    Framing f = Framing.centred(off.camera().orElseThrow(), off.picture());
    // 1920 pixels over 24.576 mm: the lens is 101.6 px right of the middle and 54.7 px below it.
    assertThat(f.outWidth()).isEqualTo(1920 + 204);
    assertThat(f.outHeight()).isEqualTo(1080 + 110);
    Delivery baked = delivery(gltf, "engine-yup-m", Recast.NONE.withFraming(Optional.of(f)));
    Optics made = baked.extract().of(off).camera().orElseThrow().optics().at(1001);
    assertThat(Math.abs(made.principalXMm()) + Math.abs(made.principalYMm())).isLessThan(1e-12);
    Path other = dir.resolve("baked.glb");
    ProofReport r =
        Handover.send(Outgoing.of(off), baked, other, 0.02, List.of(), Progress.NONE).proof();
    assertThat(r.holds()).as(r.sentence()).isTrue();
    assertThat(r.checks()).extracting(Check::name).contains("samePicture");
    assertThat(r.losses().toString()).doesNotContain("principal point");
    // All of the old picture is in it.
    assertThat(f.u(0)).isBetween(0.0, 1e-6 + f.outWidth() - 1920.0);
    assertThat(f.u(1920)).isLessThanOrEqualTo(f.outWidth() + 1e-6);
    assertThat(f.v(0)).isGreaterThanOrEqualTo(-1e-6);
    assertThat(f.v(1080)).isLessThanOrEqualTo(f.outHeight() + 1e-6);

    Shot moves =
        s.withCameras(
            List.of(
                c.withOptics(
                    OpticsTrack.of(
                        c.frames(), t -> shifted.withPrincipal(1.3 + 0.001 * t, -0.7)))));
    assertThatThrownBy(() -> Framing.centred(moves.camera().orElseThrow(), moves.picture()))
        .hasMessageContaining("the lens shift changes, as on frame 1002");
  }

  /** Eight frames before and four after the shot: everything stays as at the ends. */
  @Test
  void handlesAreHeldAndProvenAgainstTheShotsEnds() throws IOException {
    for (SceneFormat f : Formats.all()) {
      if (!f.writes() || f.cannotCarry().contains(SceneFormat.MOVING_GROUPS)) {
        continue;
      }
      Delivery d = delivery(f, "anim-zup-m", RECASTS.get("camera"));
      Delivery longer = d.withExtract(d.extract().leavingOff(-8, -4));
      Path file = dir.resolve("longer-" + f.id() + f.extensions().get(0));
      ProofReport r =
          Handover.send(Outgoing.of(shot(f)), longer, file, 0.02, List.of(), Progress.NONE).proof();
      assertThat(r.holds()).as(f.id() + r.sentence()).isTrue();
      assertThat(r.losses().toString())
          .contains("8 frames are added at the head and 4 at the tail");
    }
    SceneFormat usd = Formats.byId("usd-text");
    Delivery d = delivery(usd, "comp-yup", Recast.NONE);
    d = d.withExtract(d.extract().leavingOff(-8, 2));
    Path file = dir.resolve("longer.usda");
    Handover.send(Outgoing.of(shot(usd)), d, file, 0.02, List.of(), Progress.NONE);
    String text = Files.readString(file);
    // A key on an added frame that was moved: the camera drifts where it should stand.
    int keys = text.indexOf("xformOp:translate.timeSamples");
    int at = text.indexOf(": (", text.indexOf('\n', keys)) + 3;
    int comma = text.indexOf(',', at);
    double was = Double.parseDouble(text.substring(at, comma));
    Files.writeString(file, text.substring(0, at) + (was + 0.2) + text.substring(comma));
    ProofReport r =
        Proof.of(shot(usd), file, d.dialect(), d.contents(), d.extract(), 0.02, Progress.NONE);
    assertThat(r.checks())
        .filteredOn(c -> c.name().equals("samePicture"))
        .singleElement()
        .matches(c -> !c.holds());
  }

  /** The check knows nothing of how it was made: what is wrong in the file is noticed. */
  @Test
  void aHeldCameraThatMovesInTheFileDoesNotHold() throws IOException {
    Delivery d = delivery(Formats.byId("usd-text"), "comp-yup", RECASTS.get("camera"));
    Path file = dir.resolve("held.usda");
    SceneFormat f = d.format();
    assertThat(
            Handover.send(Outgoing.of(shot(f)), d, file, 0.02, List.of(), Progress.NONE)
                .proof()
                .holds())
        .isTrue();
    // The same file proven as if it had been held elsewhere, or not at all.
    for (Recast other :
        List.of(
            Recast.NONE,
            Recast.NONE.withHeld(Optional.of(Held.camera(1002))),
            RECASTS.get("cart"))) {
      ProofReport r =
          Proof.of(
              shot(f),
              file,
              d.dialect(),
              d.contents(),
              Extract.WHOLE.recast(other),
              0.02,
              Progress.NONE);
      assertThat(r.holds()).isFalse();
    }
    // A scale that was lost on the way moves what hangs in the group.
    String text = Files.readString(file);
    int at =
        text.indexOf("points = [(") < 0
            ? text.indexOf("xformOp:translate = (")
            : text.indexOf("points = [(");
    assertThat(at).isPositive();
    int open = text.indexOf('(', at) + 1;
    int comma = text.indexOf(',', open);
    double was = Double.parseDouble(text.substring(open, comma));
    Files.writeString(file, text.substring(0, open) + (was + 0.05) + text.substring(comma));
    ProofReport r =
        Proof.of(shot(f), file, d.dialect(), d.contents(), d.extract(), 0.02, Progress.NONE);
    assertThat(r.checks()).filteredOn(c -> c.name().equals("samePicture")).noneMatch(Check::holds);
  }

  /** A camera without any tracker is measured on points that are placed in its view. */
  @Test
  void aCameraAloneIsMeasuredOnPlacedPoints() {
    Shot s = shot(Formats.byId("usd-text")).withTrackers(List.of()).withMeshes(List.of());
    for (String k : List.of("camera", "crop", "time")) {
      Delivery d =
          delivery(Formats.byId("usd-text"), "anim-zup-m", RECASTS.get(k))
              .withContents(Contents.CAMERA);
      Path file = dir.resolve("alone-" + k + ".usda");
      ProofReport r =
          Handover.send(Outgoing.of(s), d, file, 0.02, List.of(), Progress.NONE).proof();
      // That a camera stands still says nothing where what moves instead does not go with it.
      assertThat(r.losses().toString().contains("nothing that moves instead"))
          .isEqualTo(k.equals("camera"));
      assertThat(r.holds()).as(k + " " + r.sentence()).isTrue();
      assertThat(r.checks())
          .filteredOn(c -> c.name().equals("samePicture"))
          .singleElement()
          .satisfies(c -> assertThat(c.found()).contains("places"));
    }
  }

  @Test
  void aMotionThatIsKnownOnFewFramesIsSaid() {
    Shot s = shot(Formats.byId("usd-text"));
    Delivery d = delivery(Formats.byId("usd-text"), "comp-yup", Recast.NONE);
    assertThat(Losses.of(s, d).toString()).doesNotContain("stands still");
    Group few =
        Group.moving(
            "van",
            PoseTrack.of(new FrameRange(1003, 1010), f -> new Pose(Vec3.ZERO, Rotation.IDENTITY)));
    Shot with =
        s.withTrackers(List.of(s.trackers().get(0), s.trackers().get(1).inGroup(Optional.of(few))));
    assertThat(Losses.of(with, d).toString())
        .contains(
            "its motion is known on frames 1003-1010 of 1001-1024; beyond them it stands still");
  }

  /** A mesh in the file is held against the shot before, not only against what was sent. */
  @Test
  void geometryIsMeasuredAgainstTheShotBefore() throws IOException {
    Shot s = shot(Formats.byId("usd-text"));
    for (Contents c : List.of(Contents.WITH_GEOMETRY, Contents.of(Part.GEOMETRY))) {
      Delivery d =
          delivery(Formats.byId("usd-text"), "comp-yup", RECASTS.get("camera")).withContents(c);
      Path file = dir.resolve("solid.usda");
      Files.deleteIfExists(file);
      ProofReport r =
          Handover.send(Outgoing.of(s), d, file, 0.02, List.of(), Progress.NONE).proof();
      assertThat(r.holds()).as(r.sentence()).isTrue();
      assertThat(r.checks()).extracting(Check::name).contains("samePicture");
      // The same file, as if the camera had been held where it was at another frame.
      ProofReport other =
          Proof.of(
              s,
              file,
              d.dialect(),
              c,
              Extract.WHOLE.recast(Recast.NONE.withHeld(Optional.of(Held.camera(1002)))),
              0.02,
              Progress.NONE);
      assertThat(other.holds()).isFalse();
    }
    // A corner that was moved in the file is seen.
    Delivery alone =
        delivery(Formats.byId("usd-text"), "comp-yup", RECASTS.get("camera"))
            .withContents(Contents.of(Part.GEOMETRY));
    Path file = dir.resolve("solid.usda");
    String text = Files.readString(file);
    int at = text.indexOf("point3f[] points = [(") + "point3f[] points = [(".length();
    assertThat(at).isGreaterThan(50);
    int comma = text.indexOf(',', at);
    double was = Double.parseDouble(text.substring(at, comma));
    Files.writeString(file, text.substring(0, at) + (was + 0.5) + text.substring(comma));
    ProofReport r =
        Proof.of(s, file, alone.dialect(), alone.contents(), alone.extract(), 0.02, Progress.NONE);
    assertThat(r.checks())
        .filteredOn(c -> c.name().equals("samePicture"))
        .singleElement()
        .matches(c -> !c.holds());
  }
}
