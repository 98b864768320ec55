package flarvo.report;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.AlphaChars;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;

/** What leaves the machine in a problem report. */
class RedactionTest {

  private final Redaction redaction =
      new Redaction(
          Map.of(
              Path.of("/home/mara"), "~", Path.of("/home/mara/Secret Film/shot 010"), "<project>"),
          Map.of("mara", "<user>", "ws-17", "<host>"));

  @Test
  void knownFoldersAreNamedAndUnknownOnesCut() {
    assertThat(redaction.of("/home/mara/Secret Film/shot 010/in/cam.fbx: line 3"))
        .isEqualTo("<project>/in/cam.fbx: line 3");
    assertThat(redaction.of("opened /home/mara/x.json on ws-17"))
        .isEqualTo("opened ~/x.json on <host>");
    assertThat(redaction.of("references @/srv/jobs/film/a.usda@"))
        .isEqualTo("references @…/a.usda@");
    assertThat(redaction.of("\"C:\\Users\\mara\\a b.fbx\"")).isEqualTo("\"…\\a b.fbx\"");
    assertThat(redaction.of("no /srv/Other Film/b c/a.usda and /x/y.fbx"))
        .isEqualTo("no …/a.usda and …/y.fbx");
    assertThat(redaction.of("\\\\server\\film\\a.fbx")).isEqualTo("…\\a.fbx");
  }

  @Test
  void whatIsNoPathStays() {
    String trace = "at java.base/java.lang.Thread.run(Thread.java:840) 24000/1001 1/2 http";
    assertThat(redaction.of(trace)).isEqualTo(trace);
  }

  @Property(tries = 300)
  void noFolderOfAPathIsLeft(
      @ForAll @Size(min = 1, max = 6)
          List<@AlphaChars @StringLength(min = 4, max = 9) String> folders,
      @ForAll @IntRange(max = 6) int which) {
    char before = " \"'(=@\t".charAt(which);
    String path = folders.stream().map(f -> "Q" + f + "Q").collect(Collectors.joining("/"));
    String said = redaction.of("x" + before + "/" + path + "/file.usda y");
    assertThat(said).isEqualTo("x" + before + "…/file.usda y");
  }
}
