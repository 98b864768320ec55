package flarvo.decision;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.receive.Conflict;
import flarvo.receive.Fact;
import flarvo.receive.FilmBacks;
import flarvo.receive.IntakeOptions;
import flarvo.receive.Ledger;
import flarvo.receive.Rulings;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.trace.TraceWork;
import flarvo.vet.MadeShots;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class StateLedgerTest {

  @TempDir private Path dir;

  private static final Shot TRUTH =
      MadeShots.made(MadeShots.Move.HAND_HELD, 2, 0.1, 0, 60, 80, 9).truth();

  /** A camera with a film back of the right shape and the wrong size, and nothing beside it. */
  private ShotState received() throws Exception {
    ShotCamera c = TRUTH.camera().orElseThrow();
    Shot sent =
        TRUTH
            .withTrackers(List.of())
            .withCameras(List.of(c.withOptics(c.optics().map(o -> o.withFilm(36, 20.25)))));
    Path file = dir.resolve("camera.usda");
    Dispatcher.send(
        sent,
        new Delivery(
            "c",
            Dialects.shipped().get("anim-yup-cm"),
            Formats.byId("usd-text"),
            Contents.CAMERA,
            "camera.usda"),
        file,
        Progress.NONE);
    ShotIntake in = new ShotIntake();
    in.add(file, IntakeOptions.NONE, Progress.NONE);
    in.add(
        Files.writeString(dir.resolve("log.txt"), "resolution 1920 x 1080\n"),
        IntakeOptions.NONE,
        Progress.NONE);
    return ShotState.of("s", in.received(IntakeOptions.NONE));
  }

  private static TraceWork followed() {
    Observations o = TRUTH.observations();
    Observations.Builder b = new Observations.Builder();
    for (String n : o.names()) {
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        b.add("f " + n, o.frame(row), o.x(row), o.y(row));
      }
    }
    return TraceWork.NONE.withFeatures(
        Optional.of(new TraceWork.Features(b.build(), PlateRole.UNDISTORTED, List.of())));
  }

  @Test
  void whatWasFollowedInThePlatesMeasuresWhatCame() throws Exception {
    ShotState s = received();
    assertThat(StateLedger.of(s, Progress.NONE).conflict(Fact.FILM_BACK)).isEmpty();

    Ledger l = StateLedger.of(s.withTrace(followed()), Progress.NONE);

    Conflict c = l.conflict(Fact.FILM_BACK).orElseThrow();
    assertThat(FilmBacks.parse(c.proposal()).widthMm()).isCloseTo(24, within(0.5));
    assertThat(c.sentence())
        .contains("does not match its focal length: the features of the plates fit");
    // It is what accepting the proposals takes.
    Outcome.Ruled ruled =
        (Outcome.Ruled)
            new ReceiveDecision.AcceptProposals()
                .work(s.withTrace(followed()), Progress.NONE)
                .orElseThrow();
    assertThat(ruled.rulings().of(Fact.FILM_BACK)).contains(c.proposal());
    // Features need a picture to lie in: none is left where a ruling breaks the reading.
    ShotState broken =
        s.withTrace(followed()).withRulings(Rulings.NONE.with(Fact.CAMERA, "nobody"));
    assertThat(StateLedger.of(broken, Progress.NONE).claims()).isNotEmpty();
  }

  @Test
  void withoutFilesThereIsNone() {
    assertThatThrownBy(() -> StateLedger.of(ShotState.NONE, Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no files");
  }
}
