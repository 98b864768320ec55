package flarvo.decision;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.lens.Lens;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.lens.RadialPolynomial;
import flarvo.plate.Raster;
import flarvo.plate.RasterWriter;
import flarvo.plate.SampleKind;
import flarvo.plate.remap.Filter;
import flarvo.plate.remap.Light;
import flarvo.plate.remap.OverscanRule;
import flarvo.plate.remap.Undistortion;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Undistorting as a decision: what joins the shot, what is said, and what outlives its files. */
class UndistortDecisionTest {

  private static final PlateDecision.Undistort UNDISTORT =
      new PlateDecision.Undistort(
          new Undistortion(Filter.BILINEAR, new OverscanRule.Typed(80, 50), Light.ENCODED, ""));

  @TempDir Path dir;
  private Path plates;
  private int first;

  @BeforeEach
  void files() throws Exception {
    Shot shot = TestShots.walk(8, 12, 5);
    first = shot.frames().first();
    Dispatcher.send(
        shot,
        new Delivery(
            "d",
            Dialects.shipped().get("anim-yup-cm"),
            Formats.byId("usd-text"),
            Contents.CAMERA_AND_TRACKERS,
            "c.usda"),
        dir.resolve("c.usda"),
        Progress.NONE);
    plates = Files.createDirectories(dir.resolve("original"));
    for (int i = 0; i < 8; i++) {
      RasterWriter.write(
          Raster.empty(64, 36, List.of("R", "G", "B"), SampleKind.BYTE),
          plates.resolve("p." + (first + i) + ".png"));
    }
    Files.writeString(
        dir.resolve("lens.json"),
        LensSheet.text(LensTrack.of(Lens.centred(new RadialPolynomial(0.05, 0, 0, 0)))));
  }

  private ShotState state(String... names) {
    List<Path> in = List.of(names).stream().map(dir::resolve).toList();
    return ShotState.of("s", ShotIntake.of(in, Progress.NONE).received(IntakeOptions.NONE));
  }

  private ShotState state() {
    return state("c.usda", "original", "lens.json");
  }

  private static PlateSequence undistorted(ShotState s) {
    return s.shot().plate(PlateRole.UNDISTORTED).orElseThrow();
  }

  @Test
  void thePlatesJoinTheShotAndItsPictureStays() {
    ShotState before = state();
    Decided d = Decided.of(before, UNDISTORT, Progress.NONE);
    assertThat(d.missed()).isEmpty();
    PlateSequence p = undistorted(d.after());
    assertThat(p.size()).isEqualTo(PictureSize.of(80, 50));
    assertThat(p.picture()).isEqualTo(PictureSize.of(64, 36));
    assertThat(p.frames()).isEqualTo(before.shot().plate(PlateRole.ORIGINAL).get().frames());
    assertThat(d.after().shot().picture()).isEqualTo(before.shot().picture());
    assertThat(d.after().shot().camera()).isEqualTo(before.shot().camera());
    // Once more: everything is fresh, and the same plates are not there twice.
    Decided again = Decided.of(d.after(), UNDISTORT, Progress.NONE);
    assertThat(((Outcome.Undistorted) again.outcome().get()).fresh()).isEqualTo(8);
    assertThat(again.after().shot().plates()).hasSize(2);
  }

  @Test
  void framesThatFailAreNamedAndManyAreCounted() throws Exception {
    Files.write(plates.resolve("p." + (first + 3) + ".png"), new byte[] {1, 2, 3});
    Decided d = Decided.of(state(), UNDISTORT, Progress.NONE);
    assertThat(d.missed()).hasSize(1);
    assertThat(d.missed().get(0)).startsWith("frame " + (first + 3) + ": ");
    assertThat(undistorted(d.after()).missing()).containsExactly(first + 3);
    for (int i = 1; i < 8; i++) {
      Files.write(plates.resolve("p." + (first + i) + ".png"), new byte[] {1, 2, 3});
    }
    d = Decided.of(state(), UNDISTORT, Progress.NONE);
    assertThat(d.missed()).hasSize(1);
    assertThat(d.missed().get(0)).startsWith("7 frames could not be made; frame " + (first + 1));
  }

  /** A project that is opened where the pictures are gone still has them, and computes nothing. */
  @Test
  void whatIsGoneFromDiskIsStillTheShots() throws Exception {
    ShotState before = state();
    Outcome made = UNDISTORT.work(before, Progress.NONE).orElseThrow();
    Path folder = dir.resolve("original_undistorted");
    try (var all = Files.list(folder)) {
      for (Path p : all.toList()) {
        Files.delete(p);
      }
    }
    Outcome there = UNDISTORT.reread(made, before, Progress.NONE);
    PlateSequence p = undistorted(UNDISTORT.on(before, Optional.of(there)).state());
    assertThat(p.size()).isEqualTo(PictureSize.of(80, 50));
    assertThat(p.picture()).isEqualTo(PictureSize.of(64, 36));
    try (var all = Files.list(folder)) {
      assertThat(all).isEmpty();
    }
  }

  @Test
  void withoutALensOrOriginalsItIsRefused() {
    assertThatThrownBy(() -> UNDISTORT.work(state("c.usda", "original"), Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("No lens sheet was received");
    ShotState straight = Decided.of(state(), new PlateDecision.UseNoLens(), Progress.NONE).after();
    assertThatThrownBy(() -> UNDISTORT.work(straight, Progress.NONE))
        .hasMessageContaining("without distortion");
    assertThatThrownBy(
            () ->
                Decided.of(state(), new PlateDecision.UseReceivedLens("other.json"), Progress.NONE))
        .hasMessageContaining("no lens sheet other.json");
  }
}
