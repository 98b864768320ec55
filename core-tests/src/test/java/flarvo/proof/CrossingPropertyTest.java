package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.convention.AngleUnit;
import flarvo.convention.CameraAxes;
import flarvo.convention.Dialect;
import flarvo.convention.FilmConvention;
import flarvo.convention.FilmFit;
import flarvo.convention.LensShift;
import flarvo.convention.LinearUnit;
import flarvo.convention.RotationOrder;
import flarvo.convention.ShiftUnit;
import flarvo.convention.WorldAxes;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;

/** Any shot, in any dialect, through any format, under any level: every proof must hold. */
class CrossingPropertyTest {

  private static final Map<String, Double> LIMIT_PX =
      Map.of("usd-text", 1e-4, "fbx-text", 0.005, "table", 1e-7);

  @Provide
  Arbitrary<Dialect> dialects() {
    Arbitrary<FilmConvention> film =
        Combinators.combine(
                Arbitraries.of(FilmFit.values()),
                Arbitraries.of(LensShift.MOVES_FILM_BACK, LensShift.PRINCIPAL_POINT),
                Arbitraries.of(ShiftUnit.values()))
            .as(
                (fit, shift, unit) ->
                    new FilmConvention(
                        FilmConvention.COMMON.assumed(),
                        FilmConvention.COMMON.policy(),
                        fit,
                        shift,
                        unit));
    return Combinators.combine(
            Arbitraries.of(WorldAxes.all()),
            Arbitraries.of(CameraAxes.all()),
            Arbitraries.of(RotationOrder.values()),
            Arbitraries.of(AngleUnit.values()),
            Arbitraries.of(0.001, 0.01, 0.0254, 0.3048, 1.0, 0.37, 12.0).map(LinearUnit::new),
            Arbitraries.integers().between(-1000, 2000),
            film)
        .as(
            (w, c, o, a, u, first, f) ->
                Dialect.CANONICAL
                    .withWorld(w)
                    .withCamera(c)
                    .withRotation(o, a)
                    .withUnit(u)
                    .withFrames(Dialect.CANONICAL.frames().withFirstFrame(first))
                    .withFilm(f));
  }

  @Provide
  Arbitrary<Similarity> levels() {
    Arbitrary<Double> any = Arbitraries.doubles().between(-3, 3).ofScale(6);
    return Combinators.combine(any, any, any, any)
        .as(
            (scale, turn, x, y) ->
                new Similarity(
                    Math.exp(scale / 3),
                    Rotation.about(new Vec3(x, 4, y), turn),
                    new Vec3(20 * x, y, -20 * turn)));
  }

  @Property(tries = 250)
  void everyProofHolds(
      @ForAll("dialects") Dialect dialect,
      @ForAll("levels") Similarity level,
      @ForAll @IntRange(min = 1, max = 9) int frames,
      @ForAll @IntRange(min = 2, max = 12) int points,
      @ForAll @IntRange(min = 0, max = 1000) int seed,
      @ForAll boolean zooms)
      throws IOException {
    Shot shot =
        (zooms ? TestShots.zoom(frames, points, seed) : TestShots.walk(frames, points, seed))
            .withLevel(level)
            .withRate(seed % 2 == 0 ? Rate.NTSC_30 : new Rate(37, 1));
    for (Map.Entry<String, Double> f : LIMIT_PX.entrySet()) {
      Path folder = Files.createTempDirectory("crossing");
      Path file = folder.resolve("d" + Formats.byId(f.getKey()).extensions().get(0));
      try {
        Dispatcher.send(
            shot,
            new Delivery("d", dialect, Formats.byId(f.getKey()), Contents.CAMERA_AND_TRACKERS, "d"),
            file,
            Progress.NONE);
        ProofReport p = Proof.of(shot, file, dialect, f.getValue(), Progress.NONE);
        assertThat(p.checks()).as(f.getKey()).allMatch(c -> c.holds(), "holds");
        if (p.drift().orElseThrow().compared() > 0) {
          assertThat(p.drift().get().maxPx()).as(f.getKey()).isLessThanOrEqualTo(f.getValue());
        }
      } finally {
        try (var all = Files.list(folder)) {
          for (Path x : all.toList()) {
            Files.delete(x);
          }
        }
        Files.delete(folder);
      }
    }
  }
}
