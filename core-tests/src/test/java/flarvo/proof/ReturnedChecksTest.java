package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What somebody sent back, sound or with one thing wrong that no drift shows. */
class ReturnedChecksTest {

  @TempDir private Path dir;

  private final Shot shot = TestShots.walk(12, 30, 4);

  private List<Check> checks(Shot sent, String dialect, String format) {
    Dialect d = Dialects.shipped().get(dialect);
    Path file = dir.resolve("back" + Formats.byId(format).extensions().get(0));
    Dispatcher.send(
        sent,
        new Delivery("d", d, Formats.byId(format), Contents.CAMERA_AND_TRACKERS, "d"),
        file,
        Progress.NONE);
    return ReturnedChecks.of(shot, file, ProofReport.USUAL_LIMIT_PX, Progress.NONE);
  }

  private static Set<String> wrong(List<Check> all) {
    return all.stream()
        .filter(c -> !c.holds())
        .map(Check::name)
        .collect(java.util.stream.Collectors.toSet());
  }

  @ParameterizedTest
  @CsvSource({
    "anim-yup-cm,usd-text",
    "engine-zup-left-cm,fbx-binary",
    "anim-zup-m,usd-crate",
    "track-zup,fbx-text",
    "engine-yup-m,gltf-binary"
  })
  void aSoundFileInItsOwnConventionsHolds(String dialect, String format) {
    List<Check> all = checks(shot, dialect, format);
    assertThat(all).hasSizeGreaterThan(5);
    assertThat(wrong(all)).isEmpty();
  }

  /**
   * Its lens was scaled for a back of 36 by 24: the picture is right, the back is not the shot's.
   */
  @Test
  void aLensThatWasScaledForAnotherBackIsSaid() {
    assertThat(wrong(checks(shot, "previs-yup-foot", "fbx-binary")))
        .isSubsetOf("filmBack", "statedBack")
        .isNotEmpty();
  }

  @Test
  void whatDriftCannotSeeIsFound() {
    assertThat(wrong(checks(shot.withRate(new Rate(25, 1)), "anim-yup-cm", "usd-text")))
        .contains("rate");
    TrackerSet t = shot.trackers().get(0);
    Shot fewer = shot.withTrackers(List.of(t.without(Set.of(t.names().get(3)))));
    assertThat(wrong(checks(fewer, "anim-yup-cm", "usd-text"))).contains("trackerNames");
    // Everything ten times as large: each point is where it was in the picture.
    Shot large =
        shot.withTrackers(shot.trackers().stream().map(x -> x.map(p -> p.times(10))).toList())
            .withCameras(
                shot.cameras().stream()
                    .map(
                        c ->
                            c.withPoses(
                                c.poses()
                                    .map(
                                        p ->
                                            new flarvo.scene.Pose(
                                                p.position().times(10), p.rotation()))))
                    .toList());
    assertThat(wrong(checks(large, "anim-yup-cm", "usd-text"))).contains("knownDistance");
  }

  @Test
  void whatHasNeitherCameraNorPointsIsNotChecked() throws Exception {
    Path file = Files.writeString(dir.resolve("empty.usda"), "#usda 1.0\n(\n)\n");
    assertThat(ReturnedChecks.of(shot, file, 0.01, Progress.NONE)).isEmpty();
  }
}
