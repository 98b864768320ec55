package flarvo.decision;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.level.Statement;
import flarvo.motion.ObjectScale;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.scene.FrameRange;
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
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A solve made on an object, decided into a shot, undone, stored and replayed. */
class MotionDecisionTest {

  private static final FrameRange FRAMES = new FrameRange(1, 12);

  @TempDir private Path dir;

  private Path file;
  private DecisionHistory history;

  private static Shot shot(double turn, String prefix) {
    PoseTrack poses =
        PoseTrack.of(
            FRAMES,
            f ->
                new Pose(
                    new Vec3(0.1 * f, 1.5, 6), Rotation.about(new Vec3(0, 1, 0), turn * (f - 1))));
    return new Shot(
        "s",
        PictureSize.of(1920, 1080),
        Rate.FPS_24,
        FRAMES,
        1,
        List.of(
            new ShotCamera(
                "cam",
                poses,
                OpticsTrack.constant(FRAMES, Optics.centred(28, 24.576, 13.824)),
                Optional.empty())),
        List.of(
            TrackerSet.of(
                "trackers",
                List.of(prefix + "1", prefix + "2", prefix + "3"),
                new double[] {0, 0, 0, 1, 0, 0, 0, 1, -1})),
        Observations.NONE,
        List.of(),
        Similarity.IDENTITY);
  }

  @BeforeEach
  void open() {
    file = dir.resolve("cart.usda");
    Delivery d =
        new Delivery(
            "d",
            Dialect.CANONICAL,
            Formats.byId("usd-text"),
            Contents.CAMERA_AND_TRACKERS,
            "cart.usda");
    Dispatcher.send(shot(0.02, "c"), d, file, Progress.NONE);
    history = new DecisionHistory(ShotState.of(shot(0, "t")));
  }

  private void decide(Decision d) {
    history.add(Decided.of(history.present(), d, Progress.NONE));
  }

  private TrackerSet cart() {
    return history.present().shot().levelled().contents().trackers().get(1);
  }

  private double length() {
    return cart().position(0, 5).minus(cart().position(1, 5)).length();
  }

  private void add(ObjectScale s) {
    decide(new MotionDecision.AddMovingObject("cart", List.of(file), s));
  }

  @Test
  void anObjectIsAddedScaledAndTakenOut() {
    add(new ObjectScale.Factor(0.5));
    assertThat(cart().moves()).isTrue();
    assertThat(cart().names()).containsExactly("c1", "c2", "c3");
    assertThat(length()).isCloseTo(0.5, within(1e-6));
    decide(new MotionDecision.ScaleMovingObject("cart", new ObjectScale.Length("c1", "c2", 0.58)));
    assertThat(length()).isCloseTo(0.58, within(1e-9));
    assertThat(history.undoTitle()).contains("scale moving object cart");
    history.undo();
    assertThat(length()).isCloseTo(0.5, within(1e-6));
    history.redo();
    decide(new MotionDecision.RemoveMovingObject("cart"));
    assertThat(history.present().shot().trackers()).hasSize(1);
    history.undo();
    history.undo();
    history.undo();
    assertThat(history.present().objects()).isEmpty();
  }

  /** A length in metres is a length in metres, whatever the level makes of the scene. */
  @Test
  void theScaleFollowsTheLevel() {
    add(new ObjectScale.Length("c1", "c2", 0.58));
    decide(new LevelDecision.AddStatement(new Statement.Distance("t1", "t2", 3.0)));
    assertThat(history.present().level().scale()).isCloseTo(3, within(1e-9));
    assertThat(length()).isCloseTo(0.58, within(1e-9));
  }

  @Test
  void whatCannotBeIsRefusedAndChangesNothing() {
    assertThatThrownBy(() -> add(new ObjectScale.Length("c1", "nobody", 1)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no tracker 'nobody'");
    add(new ObjectScale.Factor(1));
    assertThatThrownBy(() -> add(new ObjectScale.Factor(1)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("an object cart already");
    assertThatThrownBy(() -> decide(new MotionDecision.RemoveMovingObject("van")))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no moving object van");
    assertThat(history.present().objects()).hasSize(1);
  }

  @Test
  void itIsStoredReadAgainAndReplayed() throws Exception {
    add(new ObjectScale.Length("c1", "c2", 0.58));
    DecisionJson json = new DecisionJson(dir, Dialects.shipped());
    String text = json.write(history.log()).toString();
    assertThat(text).contains("\"cart.usda\"").doesNotContain(dir.toString());
    DecisionHistory back =
        DecisionHistory.restored(
            history.base(),
            json.read(StrictJson.of(new ObjectMapper().readTree(text), "decisions")),
            Progress.NONE);
    assertThat(back.present().shot()).isEqualTo(history.present().shot());
    Replay r = Replay.same(history.base(), history.log(), Progress.NONE);
    assertThat(r.complete()).isTrue();
    assertThat(r.history().present().shot()).isEqualTo(history.present().shot());
  }
}
