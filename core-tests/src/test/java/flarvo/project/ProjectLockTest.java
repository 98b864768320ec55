package flarvo.project;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ProjectLockTest {

  @TempDir private Path dir;

  private Path project() {
    return dir.resolve("p.json");
  }

  @Test
  void oneHoldsAProjectAtATime() {
    Optional<ProjectLock> first = ProjectLock.take(project());
    assertThat(first).isPresent();
    assertThat(ProjectLock.take(project())).isEmpty();
    ProjectLock.Holder h = ProjectLock.holder(project()).orElseThrow();
    assertThat(h.process()).isEqualTo(ProcessHandle.current().pid());
    first.get().release();
    assertThat(ProjectLock.holder(project())).isEmpty();
    assertThat(ProjectLock.take(project())).isPresent();
  }

  /** Its number may have been given to another process since; the time of its start tells. */
  @Test
  void theLockOfADeadProcessIsTakenOver() throws IOException {
    assertThat(ProjectLock.take(project())).isPresent();
    Path lock = dir.resolve(".p.json.lock");
    String begun = ProjectLock.holder(project()).orElseThrow().begun();
    Files.writeString(lock, Files.readString(lock).replace(begun, "2001-01-01T00:00:00Z"));
    assertThat(ProjectLock.holder(project())).isEmpty();
    assertThat(ProjectLock.take(project())).isPresent();
    assertThat(ProjectLock.take(project())).isEmpty();
  }

  @Test
  void aLockOfAnotherMachineCounts() throws IOException {
    assertThat(ProjectLock.take(project())).isPresent();
    Path lock = dir.resolve(".p.json.lock");
    String host = ProjectLock.holder(project()).orElseThrow().host();
    Files.writeString(lock, Files.readString(lock).replace('"' + host + '"', "\"elsewhere\""));
    assertThat(ProjectLock.take(project())).isEmpty();
    assertThat(ProjectLock.holder(project()).orElseThrow().host()).isEqualTo("elsewhere");
  }

  @Test
  void nonsenseIsNoLockAndAFolderThatIsNotThereIsNoError() throws IOException {
    Files.writeString(dir.resolve(".p.json.lock"), "{\"host\": 3");
    assertThat(ProjectLock.take(project())).isPresent();
    assertThat(ProjectLock.take(dir.resolve("nowhere/p.json"))).isEmpty();
  }
}
