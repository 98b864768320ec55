package flarvo.cli;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.proof.DriftMeter;
import flarvo.scene.Pinhole;
import flarvo.scene.PointBlocks;
import flarvo.scene.ProjectedBlock;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.DisabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;

/** The launcher of the image, with a stand-in for Java that tells what it was given. */
@DisabledOnOs(OS.WINDOWS)
class ImageLauncherTest {

  @TempDir private Path dir;
  private Path image;

  @BeforeEach
  void image() throws IOException {
    image = dir.resolve("here it is");
    Path app = Files.createDirectories(image.resolve("lib/app"));
    Path bin = Files.createDirectories(image.resolve("bin"));
    Files.copy(Path.of("../packaging/flarvo"), bin.resolve("flarvo"));
    executable(bin.resolve("flarvo"));
    Files.writeString(app.resolve("cli.jars"), "z.jar\na.jar\n");
    Files.writeString(app.resolve("window.jars"), "w.jar\n");
    Files.writeString(app.resolve("build"), "1\n");
    Path java = Files.createDirectories(image.resolve("lib/runtime/bin")).resolve("java");
    Files.writeString(
        java,
        """
        #!/bin/sh
        for a in "$@"; do
          case $a in -XX:SharedArchiveFile=*) archive=${a#*=} ;; esac
        done
        case "$*" in *Xshare:dump*) echo made >"$archive"; exit ;; esac
        printf '%s\\n' "$@"
        """);
    executable(java);
  }

  private static void executable(Path p) {
    assertThat(p.toFile().setExecutable(true)).isTrue();
  }

  private record Ran(int code, List<String> out) {}

  private Ran run(Path of, String... args) throws Exception {
    List<String> all = new java.util.ArrayList<>(List.of(of.resolve("bin/flarvo").toString()));
    all.addAll(List.of(args));
    ProcessBuilder b = new ProcessBuilder(all).redirectErrorStream(true);
    b.environment().put("XDG_CACHE_HOME", dir.resolve("cache").toString());
    b.environment().remove("DISPLAY");
    b.environment().remove("WAYLAND_DISPLAY");
    b.environment().remove("FLARVO_JAVA_OPTIONS");
    Process p = b.start();
    String out = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    return new Ran(p.waitFor(), out.lines().toList());
  }

  private List<Path> archives() throws IOException {
    Path cache = dir.resolve("cache/flarvo");
    if (!Files.exists(cache)) {
      return List.of();
    }
    try (Stream<Path> all = Files.list(cache)) {
      return all.filter(f -> f.toString().endsWith(".jsa")).toList();
    }
  }

  private void awaitArchives(int count) throws Exception {
    long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(30);
    while (archives().size() < count && System.nanoTime() < end) {
      Thread.sleep(20);
    }
    assertThat(archives()).hasSize(count);
  }

  @Test
  void aCommandRunsOnTheImagesOwnJavaInTheOrderOfItsList() throws Exception {
    Ran r = run(image, "inspect", "a file.fbx", "--json");
    assertThat(r.code()).isZero();
    Path app = image.resolve("lib/app");
    assertThat(r.out())
        .containsSubsequence(
            "-cp", app + "/z.jar:" + app + "/a.jar", "flarvo.cli.Main", "inspect", "a file.fbx")
        .contains("-Dflarvo.launcher=" + image.resolve("bin/flarvo"), "-XX:TieredStopAtLevel=1")
        .noneMatch(a -> a.startsWith("-XX:SharedArchiveFile"));
    assertThat(run(image, "vet", "x").out()).doesNotContain("-XX:TieredStopAtLevel=1");
  }

  /** With a file of rules that lies in the image, whatever its path is called. */
  @Test
  void aDeliveryIsSentWithRulesForTheCompiler() throws Exception {
    String rules = "-XX:CompilerDirectivesFile=" + image.resolve("lib/app/compiler.json");
    assertThat(run(image, "send", "x").out())
        .containsSubsequence("-XX:+UnlockDiagnosticVMOptions", rules, "send", "x");
    assertThat(run(image, "prove", "x").out()).doesNotContain(rules);
  }

  /** A class that is renamed would leave its loops to the slower compiler without a word. */
  @Test
  void theRulesNameClassesThatAreThereAndSayNothing() throws Exception {
    Path rules = Path.of("../packaging/compiler.json");
    List<String> named =
        Pattern.compile("\"(flarvo/[^\"]*)[.][*]\"")
            .matcher(Files.readString(rules))
            .results()
            .map(m -> m.group(1))
            .toList();
    List<Class<?>> loops =
        List.of(Pinhole.class, ProjectedBlock.class, PointBlocks.class, DriftMeter.class);
    for (Class<?> c : loops) {
      assertThat(named)
          .as(c.getName())
          .anyMatch(n -> c.getName().replace('.', '/').matches(n.replace("*", ".*")));
    }
    assertThat(named).contains("flarvo/proof/BlockDrift");
    assertThat(Class.forName("flarvo.proof.BlockDrift")).isNotNull();
    Process java =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin/java").toString(),
                "-XX:+UnlockDiagnosticVMOptions",
                "-XX:-DisplayVMOutput",
                "-XX:CompilerDirectivesFile=" + rules,
                "-version")
            .start();
    assertThat(java.getInputStream().readAllBytes()).isEmpty();
    assertThat(java.waitFor()).isZero();
  }

  @Test
  void theFirstStartMakesAnArchiveForItsPlaceAndLaterOnesUseIt() throws Exception {
    run(image, "dialects");
    awaitArchives(1);
    assertThat(run(image, "dialects").out()).contains("-XX:SharedArchiveFile=" + archives().get(0));
    // Moved, it makes another: the old one holds for the old place.
    Path there = dir.resolve("moved");
    Files.move(image, there);
    assertThat(run(there, "dialects").out()).noneMatch(a -> a.startsWith("-XX:SharedArchiveFile"));
    awaitArchives(2);
    assertThat(run(there, "dialects").out()).anyMatch(a -> a.startsWith("-XX:SharedArchiveFile"));
  }

  @Test
  void aWindowWithoutADisplayIsOneSentence() throws Exception {
    for (String[] args : new String[][] {{}, {"demo"}, {"open", "x.fbx"}}) {
      Ran r = run(image, args);
      assertThat(r.code()).isEqualTo(2);
      assertThat(r.out()).hasSize(1);
      assertThat(r.out().get(0)).contains("no display");
    }
    assertThat(run(image, "open").out().get(0)).contains("open needs the files of a shot");
  }
}
