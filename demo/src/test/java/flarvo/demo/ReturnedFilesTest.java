package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.proof.ReturnedFile;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ShotIntake;
import flarvo.scene.Observations;
import flarvo.suspect.Suspect;
import flarvo.suspect.SuspectReport;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The cause of each returned file is found on the shot's own 2D tracks, and it is mended. */
class ReturnedFilesTest {

  private static final Path MERIDIAN = Path.of("meridian");
  private static final IntakeOptions OPTIONS = IntakeOptions.NONE.withSize(ShotTruth.PICTURE);

  @TempDir private Path dir;

  private static Observations tracks(String name) {
    String shot =
        name.startsWith("terrace")
            ? "mer_010_terrace"
            : name.startsWith("dome") ? "mer_020_dome" : "mer_030_cart";
    String table = name.startsWith("terrace") ? "csv" : name.startsWith("dome") ? "tsv" : "txt";
    Path file = MERIDIAN.resolve(shot + "/incoming/" + shot + "_tracks." + table);
    ShotIntake in = new ShotIntake();
    in.add(file, OPTIONS, Progress.NONE);
    return in.received(OPTIONS).files().stream()
        .map(ReceivedFile::scene)
        .map(s -> s.observations())
        .filter(o -> !o.isEmpty())
        .findFirst()
        .orElseThrow();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "terrace_anim_v03.fbx | frame-shift -1",
        "terrace_anim_v04.fbx | frame-shift +2, unit-scale 0.01",
        "terrace_layout_v02.usda | unit-scale 100",
        "terrace_lighting_v01.usdc | focal-length 1.515",
        "terrace_comp_v04.usdc | world-axes +X +Z -Y",
        "terrace_roto_v01.usdc | camera-axes +X -Z +Y",
        "terrace_previs_v02.abc | rotation-order XYZ>ZXY",
        "terrace_fx_v01.abc | handedness points +X +Y -Z",
        "terrace_env_v05.usdc | turn 20.05°",
        "terrace_edit_v01.usdc | frozen-frame 1040",
        "dome_render_v01.usdc | frame-shift -0.5",
        "cart_model_v03.usda | channel-sign rotation x"
      })
  void theCauseIsFoundAndMended(String name, String causes) {
    Observations seen = tracks(name);
    ReturnedFile file =
        ReturnedFile.of(
            List.of(MERIDIAN.resolve("returns/" + name)),
            ShotIntake::new,
            OPTIONS,
            seen,
            Optional.empty(),
            Progress.NONE);
    SuspectReport r = file.report();
    Suspect first = r.suspects().get(0);
    assertThat(first.confident()).as(first.sentence()).isTrue();
    List<String> expected = List.of(causes.split(", "));
    assertThat(first.causes()).as(first.sentence()).hasSameSizeAs(expected);
    String found =
        first.causes().stream()
            .map(c -> c.code() + " " + c.value())
            .collect(Collectors.joining(";"));
    expected.forEach(e -> assertThat(found).contains(e));
    assertThat(first.errorPxAfter()).isLessThan(1);
    if (!causes.startsWith("frozen")) {
      SuspectReport after = file.mend(dir.resolve("mended.usda"), seen, Progress.NONE);
      assertThat(after.errorPx()).isLessThan(1);
      assertThat(after.cause()).isEmpty();
    }
  }

  @Test
  void everyReturnedFileHasACause() throws IOException {
    try (Stream<Path> files = Files.list(MERIDIAN.resolve("returns"))) {
      assertThat(files).hasSize(12);
    }
  }
}
