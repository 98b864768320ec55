package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialects;
import flarvo.decision.Decided;
import flarvo.decision.DecisionHistory;
import flarvo.decision.LevelDecision;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Extract;
import flarvo.dispatch.Outgoing;
import flarvo.format.Formats;
import flarvo.level.Statement;
import flarvo.motion.Held;
import flarvo.motion.Recast;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.proof.Check;
import flarvo.proof.Handover;
import flarvo.proof.ProofReport;
import flarvo.scene.Pose;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The cart was solved as if the camera moved round it; it is handed on as it was filmed. */
class CartHandsTest {

  private static final Path MERIDIAN = Path.of("meridian");
  private static final int HELD = 1;

  private static Shot shot;

  @TempDir private Path dir;

  /** As it came, with the length that the log knows set between two features of the case. */
  @BeforeAll
  static void open() {
    ProjectFile p = ProjectFile.read(MERIDIAN.resolve("project.json"));
    DecisionHistory h =
        new ProjectLoader(p, Dialects.shipped()).open(p.shots().get(2), Progress.NONE);
    Map<String, Vec3> truth = truth();
    List<String> known =
        h.present().shot().trackers().stream()
            .flatMap(t -> t.names().stream())
            .filter(truth::containsKey)
            .toList();
    String a = known.get(0);
    String b =
        known.stream()
            .max(
                (x, y) ->
                    Double.compare(
                        truth.get(x).minus(truth.get(a)).length(),
                        truth.get(y).minus(truth.get(a)).length()))
            .orElseThrow();
    double length = truth.get(b).minus(truth.get(a)).length();
    h.add(
        Decided.of(
            h.present(),
            new LevelDecision.AddStatement(new Statement.Distance(a, b, length)),
            Progress.NONE));
    shot = h.present().staged();
    assertThat(shot.level().scale()).isCloseTo(1, within(0.02));
  }

  /** Features of the cart in its own space. */
  private static Map<String, Vec3> truth() {
    return TrackerSet.stillPositions(List.of(CartTracks.make().truth()));
  }

  private static Delivery delivery(String format, Recast r) {
    return new Delivery(
        "d",
        Dialects.shipped().get("anim-yup-cm"),
        Formats.byId(format),
        Contents.CAMERA_AND_TRACKERS,
        Extract.WHOLE.recast(r),
        "d");
  }

  private static Recast held() {
    return Recast.NONE.withHeld(Optional.of(Held.camera(HELD)));
  }

  @Test
  void theCartRollsAsItDid() {
    Shot held = Held.camera(HELD).of(shot).levelled().contents();
    Pose at = CartTruth.SHOT.cartAt(HELD).orElseThrow();
    Map<String, Vec3> truth = truth();
    TrackerSet cart = held.trackers().get(0);
    assertThat(cart.moves()).isTrue();
    int compared = 0;
    double worst = 0;
    double longest = 0;
    for (int i = 0; i < cart.size(); i++) {
      Vec3 x = truth.get(cart.names().get(i));
      if (x == null) {
        continue;
      }
      // How far it came, in the world in which the camera stands: no origin is needed.
      Vec3 from = CartTruth.SHOT.cartAt(HELD).orElseThrow().toWorld(x);
      Vec3 to = CartTruth.SHOT.cartAt(60).orElseThrow().toWorld(x);
      double path = to.minus(from).length();
      double came = cart.position(i, 60).minus(cart.position(i, HELD)).length();
      worst = Math.max(worst, Math.abs(came / path - 1));
      longest = Math.max(longest, path);
      compared++;
    }
    assertThat(compared).isGreaterThan(20);
    assertThat(longest).isGreaterThan(1.5);
    assertThat(worst).as("relative to " + at).isLessThan(0.005);
    // And the camera does not.
    assertThat(held.camera().orElseThrow().poses().at(60))
        .isEqualTo(held.camera().orElseThrow().poses().at(HELD));
  }

  @Test
  void itIsHandedOnInEverySceneFormat() {
    for (String f :
        List.of(
            "usd-text",
            "usd-crate",
            "fbx-binary",
            "fbx-text",
            "alembic",
            "gltf-binary",
            "scene-json")) {
      Path file = dir.resolve(f + Formats.byId(f).extensions().get(0));
      ProofReport r =
          Handover.send(
                  Outgoing.of(shot), delivery(f, held()), file, 0.01, List.of(), Progress.NONE)
              .proof();
      assertThat(r.holds()).as(f + " " + r.sentence()).isTrue();
      assertThat(r.checks()).extracting(Check::name).contains("samePicture");
      if (f.equals("scene-json")) { // the others have lenses as 32-bit floats
        assertThat(r.drift().orElseThrow().maxPx()).as(f).isLessThan(1e-6);
      }
    }
  }

  @Test
  void andBack() {
    Shot back = Held.group("object", HELD).of(Held.camera(HELD).of(shot));
    for (int f = 1; f <= 60; f++) {
      Pose p = shot.camera().orElseThrow().poses().at(f);
      Pose q = back.camera().orElseThrow().poses().at(f);
      assertThat(q.position().minus(p.position()).length()).isLessThan(1e-12);
    }
    assertThat(back.trackers().get(0).moves()).isFalse();
    assertThat(
            back.trackers().get(0).position(3).minus(shot.trackers().get(0).position(3)).length())
        .isLessThan(1e-12);
  }
}
