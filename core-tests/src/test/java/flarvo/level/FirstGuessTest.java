package flarvo.level;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

@Tag("numeric")
class FirstGuessTest {

  @Test
  void theGroundOfAHundredScenesIsFound() {
    int good = 0;
    StringBuilder bad = new StringBuilder();
    for (int i = 0; i < 100; i++) {
      LevelScenes.Made m = LevelScenes.walk(1000 + i, 60, 0.3, 0.2 + 0.002 * i);
      FirstGuess g =
          FirstGuess.of(
              new LevelScene(m.solved()),
              Similarity.IDENTITY,
              f -> Optional.empty(),
              Progress.NONE);
      Vec3 up = g.level().rotation().after(m.truth().rotation().inverse()).apply(new Vec3(0, 1, 0));
      double lean = Math.toDegrees(Math.atan2(Math.hypot(up.x(), up.z()), up.y()));
      Vec3 eye = m.solved().cameras().get(0).poses().at(1026).position();
      double is = g.heightOfCamera() * m.truth().scale();
      double was = m.truth().apply(eye).y();
      double off = Math.abs(is / was - 1);
      if (lean <= 1 && off <= 0.02) {
        good++;
      } else {
        bad.append(String.format("%n%d: %.2f° %.1f %%", i, lean, 100 * off));
      }
      // Nothing is silently applied, and what is offered stands upright.
      assertThat(LevelCheck.of(new LevelScene(m.solved()), g.level())).isEmpty();
    }
    System.out.println("first guess: " + good + " of 100 grounds found" + bad);
    assertThat(good).as(bad.toString()).isGreaterThanOrEqualTo(95);
  }

  @Test
  void aGridTurnsItselfAlongAnAxis() {
    LevelScenes.Made m = LevelScenes.walk(5, 10, 0, 0);
    double side = 0.6;
    double turn = 0.3;
    double[] xyz = new double[3 * 100];
    List<String> names = new java.util.ArrayList<>();
    for (int i = 0; i < 100; i++) {
      names.add("g" + i);
      double a = side * (i % 10);
      int line = i / 10;
      double b = side * line;
      Vec3 world =
          new Vec3(
              Math.cos(turn) * a + Math.sin(turn) * b - 2,
              0,
              -Math.sin(turn) * a + Math.cos(turn) * b - 8);
      Vec3 v = m.truth().inverse().apply(world);
      xyz[3 * i] = v.x();
      xyz[3 * i + 1] = v.y();
      xyz[3 * i + 2] = v.z();
    }
    Shot s = m.solved().withTrackers(List.of(TrackerSet.of("grid", names, xyz)));
    FirstGuess g =
        FirstGuess.of(new LevelScene(s), Similarity.IDENTITY, f -> Optional.empty(), Progress.NONE);
    assertThat(g.direction().strength()).isGreaterThan(5);
    Vec3 d =
        g.level()
            .apply(s.trackers().get(0).position(1))
            .minus(g.level().apply(s.trackers().get(0).position(0)));
    double angle = Math.toDegrees(Math.atan2(d.z(), d.x()));
    assertThat(Math.abs(angle - 90 * Math.rint(angle / 90))).isLessThan(0.3);
  }

  @Test
  void withoutAGroundItSaysSo() {
    LevelScenes.Made m = LevelScenes.walk(9, 30, 1, 0.2);
    Shot few =
        m.solved()
            .withTrackers(
                List.of(
                    TrackerSet.of(
                        "few", List.of("a", "b", "c"), new double[] {0, 0, 0, 1, 0, 0, 0, 1, 0})));
    assertThatThrownBy(
            () ->
                FirstGuess.of(
                    new LevelScene(few), Similarity.IDENTITY, f -> Optional.empty(), Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("3 trackers");
    // All above the camera: nothing is under it.
    Similarity t = m.truth();
    Shot above =
        m.solved()
            .withTrackers(
                m.solved().trackers().stream()
                    .map(s -> s.map(p -> t.inverse().apply(t.apply(p).plus(new Vec3(0, 6, 0)))))
                    .toList())
            .withObservations(flarvo.scene.Observations.NONE);
    assertThatThrownBy(
            () ->
                FirstGuess.of(
                    new LevelScene(above),
                    Similarity.IDENTITY,
                    f -> Optional.empty(),
                    Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("under the camera");
  }
}
