package flarvo.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.DisabledOnOs;
import org.junit.jupiter.api.condition.EnabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;

/** The launcher of the sources, with stand-ins for Java and Maven. */
@DisabledOnOs(OS.WINDOWS)
class LauncherTest {

  @TempDir private Path dir;
  private Path home;

  @BeforeEach
  void home() throws IOException {
    home = Files.createDirectories(dir.resolve("sources of it"));
    Files.copy(Path.of("../flarvo"), home.resolve("flarvo"));
    executable(home.resolve("flarvo"));
    Files.writeString(home.resolve("pom.xml"), "<project/>");
    Files.createDirectories(dir.resolve("bin"));
  }

  private void program(String name, String script) throws IOException {
    Path p = dir.resolve("bin").resolve(name);
    Files.writeString(p, "#!/bin/sh\n" + script);
    executable(p);
  }

  private static void executable(Path p) {
    assertThat(p.toFile().setExecutable(true)).isTrue();
  }

  /** Tells its version, and writes its process number and what it was asked for. */
  private void java(String then) throws IOException {
    program(
        "java",
        "case $1 in -version) echo 'openjdk version \"17.0.1\"' >&2; exit ;; esac\n"
            + noted("java")
            + then);
  }

  private String noted(String who) {
    // Two of them may run at once, so each writes a file of its own before it is moved.
    String part = "'" + dir.resolve(who + ".part") + "'.$$";
    return "echo \"$$ $*\" >" + part + "\nmv " + part + " '" + dir.resolve(who) + "'\n";
  }

  private Process start(String... words) throws IOException {
    return launcher(words).start();
  }

  private ProcessBuilder launcher(String... words) {
    List<String> all = new ArrayList<>(List.of(home.resolve("flarvo").toString()));
    all.addAll(List.of(words));
    ProcessBuilder b = new ProcessBuilder(all).redirectErrorStream(true);
    b.environment().merge("PATH", dir.resolve("bin").toString(), (old, ours) -> ours + ":" + old);
    b.environment().put("DISPLAY", ":0"); // or it would start one
    b.environment().remove("FLARVO_JAVA_OPTIONS");
    return b;
  }

  /** The process number that a stand-in wrote. */
  private long awaited(String who) throws Exception {
    long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(60);
    while (!Files.exists(dir.resolve(who)) && System.nanoTime() < end) {
      Thread.sleep(20);
    }
    return Long.parseLong(Files.readString(dir.resolve(who)).split(" ", 2)[0]);
  }

  private static void endsWith(Process launcher, long child) throws Exception {
    assertThat(ProcessHandle.of(child)).isPresent();
    launcher.destroy(); // TERM
    assertThat(launcher.waitFor(20, TimeUnit.SECONDS)).isTrue();
    assertThat(launcher.exitValue()).isEqualTo(143);
    long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(20);
    while (ProcessHandle.of(child).filter(ProcessHandle::isAlive).isPresent()
        && System.nanoTime() < end) {
      Thread.sleep(20);
    }
    assertThat(ProcessHandle.of(child).filter(ProcessHandle::isAlive)).isEmpty();
  }

  @Test
  void endedWhileItBuildsItLeavesNoBuild() throws Exception {
    program("mvn", noted("mvn") + "exec sleep 60\n");
    java("");
    Process p = start("inspect", "a.fbx");
    endsWith(p, awaited("mvn"));
    assertThat(home.resolve("target/built")).doesNotExist();
    assertThat(dir.resolve("java")).doesNotExist();
  }

  @Test
  void endedWhileItWorksItLeavesNoProgram() throws Exception {
    program("mvn", "exit 0\n");
    java("exec sleep 60\n");
    Process fuzz = start("fuzz", "log");
    endsWith(fuzz, awaited("java"));
    Files.delete(dir.resolve("java"));
    Process command = start("inspect", "a.fbx");
    endsWith(command, awaited("java"));
  }

  /** A second start waits for the first one's build, and does not build again. */
  @Test
  void twoStartsBuildOnce() throws Exception {
    program("mvn", "echo built >>'" + dir.resolve("builds") + "'\nsleep 1\n");
    java("");
    Process first = start("inspect", "a.fbx");
    Process second = start("inspect", "b.fbx");
    for (Process p : List.of(first, second)) {
      String out = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(p.waitFor()).as(out).isZero();
    }
    assertThat(Files.readAllLines(dir.resolve("builds"))).hasSize(1);
    assertThat(Files.readString(dir.resolve("java"))).contains("flarvo.cli.Main inspect");
  }

  /** Started at the same moment, test runs would find the same displays free. */
  @Test
  @EnabledOnOs(OS.LINUX)
  void testRunsAtTheSameTimeHaveDisplaysOfTheirOwn() throws Exception {
    assumeThat(System.getenv("PATH").split(":"))
        .as("there is an X server")
        .anyMatch(p -> Files.isExecutable(Path.of(p, "Xvfb")));
    java("");
    String used = "'" + dir.resolve("displays") + "'";
    // All look for free displays before any has one.
    program("Xvfb", "sleep 1\nPATH=${PATH#*:} exec Xvfb \"$@\"\n");
    // Each holds its displays until all have some, or a minute is over.
    program(
        "mvn",
        "echo \"$DISPLAY\" >>"
            + used
            + "\nfor i in $(seq 600); do [ $(wc -l <"
            + used
            + ") -lt 3 ] || exit 0; sleep 0.1; done\nexit 1\n");
    List<Process> runs = new ArrayList<>();
    for (int i = 0; i < 3; i++) {
      ProcessBuilder b = launcher("test");
      b.environment().remove("DISPLAY");
      runs.add(b.start());
    }
    for (Process p : runs) {
      String out = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(p.waitFor()).as(out).isZero();
    }
    assertThat(Files.readAllLines(dir.resolve("displays")))
        .hasSize(3)
        .doesNotHaveDuplicates()
        .allMatch(d -> d.matches(":\\d+1"));
  }

  /** What calculates for long is compiled well by either launcher. */
  @Test
  void bothLaunchersKnowTheSameLongCommands() throws IOException {
    String ours = longOnes(Path.of("../flarvo"));
    assertThat(longOnes(Path.of("../packaging/flarvo"))).isEqualTo(ours);
    assertThat(ours).contains("| trace | auto |").contains("| render |");
  }

  /** What the window is started with: the same from the sources and the image, without a word. */
  @Test
  void bothLaunchersLetBackgroundWorkGiveWay() throws Exception {
    String ours = fluid(Path.of("../flarvo"));
    assertThat(fluid(Path.of("../packaging/flarvo"))).isEqualTo(ours);
    List<String> line =
        new ArrayList<>(
            List.of(Path.of(System.getProperty("java.home"), "bin/java").toString(), "-version"));
    line.addAll(1, List.of(ours.split(" ")));
    Process p = new ProcessBuilder(line).redirectErrorStream(true).start();
    String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(p.waitFor()).as(said).isZero();
    assertThat(said).doesNotContain("warning");
  }

  private static String fluid(Path launcher) throws IOException {
    String text = Files.readString(launcher);
    Matcher m = Pattern.compile("\nfluid=\"([^\"]+)\"").matcher(text);
    assertThat(m.find()).isTrue();
    assertThat(text).containsPattern("UseZGC -Xms64m [$]compiler [$]fluid");
    return m.group(1);
  }

  private static String longOnes(Path launcher) throws IOException {
    return Files.readAllLines(launcher).stream()
        .map(String::strip)
        .filter(l -> l.startsWith("vet | "))
        .map(l -> l.substring(0, l.indexOf(')')))
        .findFirst()
        .orElseThrow();
  }

  /** The list of libraries is longer than a pipe holds, and the window's stand first in it. */
  @Test
  void librariesThatAreThereAreNotInstalledAgain() throws Exception {
    program("mvn", "exit 0\n");
    java("");
    program(
        "ldconfig",
        "printf '%s\\n' libgtk-3.so.0 libXtst.so.6 libXxf86vm.so.1\n"
            + "seq -f 'libother%g.so.1 (libc6,x86-64) => somewhere' 20000\n");
    program("apt-get", noted("apt"));
    Process p = start("open", "a.fbx");
    String out = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(p.waitFor()).as(out).isZero();
    assertThat(out).doesNotContain("installing");
    assertThat(dir.resolve("apt")).doesNotExist();
    assertThat(Files.readString(dir.resolve("java"))).contains("flarvo.desktop.Main a.fbx");
  }

  @Test
  void aBuildThatFailsIsSaidWithItsLastLines() throws Exception {
    program("mvn", "echo 'no such library'\nexit 1\n");
    java("");
    Process p = start("inspect", "a.fbx");
    String out = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(p.waitFor()).isEqualTo(2);
    assertThat(out).contains("no such library").contains("the build failed; see target/build.log");
  }
}
