package flarvo.shotlist;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ShotListTest {

  @TempDir private Path dir;

  private ShotList read(String text) throws IOException {
    return ShotList.read(Files.writeString(dir.resolve("list"), text));
  }

  private static FrameRange frames(int first, int last) {
    return new FrameRange(first, last);
  }

  @Test
  void aTableWithCutAndHandles() throws IOException {
    ShotList l =
        read(
            """
            Shot;Cut In;Cut Out;Handles;FPS;Who
            sh010;1009;1088;8;23.976;ada

            "sh 020";1001;1048;;24;
            """);
    assertThat(l.shots()).extracting(ShotEntry::name).containsExactly("sh010", "sh 020");
    ShotEntry first = l.of("SH010").orElseThrow();
    assertThat(first.cut()).contains(frames(1009, 1088));
    assertThat(first.frames()).contains(frames(1001, 1096));
    assertThat(first.rate()).contains(Rate.NTSC_24);
    assertThat(first.place()).isEqualTo("line 2");
    assertThat(l.shots().get(1).frames()).contains(frames(1001, 1048));
    assertThat(l.notes()).extracting(Note::text).containsExactly("the columns Who");
  }

  @Test
  void theWholeAndTheCutGiveTheHandles() throws IOException {
    ShotEntry s =
        read("name,head_in,cut_in,cut_out,tail_out\nsh010,1001,1009,1088,1100").shots().get(0);
    assertThat(s.head()).isEqualTo(8);
    assertThat(s.tail()).isEqualTo(12);
    assertThat(s.handles()).isEqualTo("handles of 8 and 12");
  }

  @Test
  void aRangeInOneColumn() throws IOException {
    assertThat(read("shot\tframes\tfps\nsh010\t1001-1096\t25").shots().get(0).frames())
        .contains(frames(1001, 1096));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "name of it,first,last\\na,1,2|no column is headed 'shot'|line 1",
        "shot,first,last\\nsh010,10,one|'one' is not a frame number|line 2",
        "shot,first,last\\nsh010,10,9|cannot end before it starts|line 2",
        "shot,first,last\\nsh010,10,|not both|line 2",
        "shot,first,last\\nsh010,1,9\\nSH010,1,9|listed twice|line 3",
        "shot,first,last\\n,1,9|no name|line 2",
        "shot,first,in\\nsh010,1,9|headed 'in'|line 1",
        "shot,fps\\nsh010,0|rate|line 2",
        "shot,first,last\\nsh010,1,99999999|no shot has 99999999 frames|line 2",
        "shot,first,last\\n\"sh010,1,9|not a table|",
        "shot,handles\\nsh010,-4|handles of -4|line 2",
        "shot,first|contains no shot|",
        "{\"a\": 1}|not a timeline|OTIO_SCHEMA",
        "{\"a\": |not valid JSON|line 1"
      })
  void whatCannotBeReadIsNamed(String text, String said, String place) {
    assertThatThrownBy(() -> read(text.replace("\\n", "\n")))
        .isInstanceOfSatisfying(
            InputError.class,
            e -> {
              assertThat(e.getMessage()).contains(said);
              assertThat(e.place()).isEqualTo(place == null ? "" : place);
            });
  }

  /**
   * The timeline was written by the reference library (opentimelineio 0.18.1 from PyPI). The frame
   * numbers are those that its {@code ImageSequenceReference.frame_for_time} answers with for the
   * first and last time of each cut.
   */
  @Test
  void aTimelineOfTheReferenceLibrary() {
    ShotList l = ShotList.read(Path.of("src/test/resources/flarvo/shotlist/reel.otio"));
    assertThat(l.shots())
        .extracting(ShotEntry::name)
        .containsExactly("mer_010", "mer_020", "mer_030", "mer_040", "mer_050");
    ShotEntry first = l.shots().get(0);
    assertThat(first.cut()).contains(frames(1009, 1088));
    assertThat(first.frames()).contains(frames(1001, 1096));
    assertThat(first.rate()).contains(Rate.NTSC_24);
    assertThat(l.shots().get(1).frames()).contains(frames(1, 48));
    // Time in a movie is no frame number of the plates.
    assertThat(l.shots().get(2).cut()).isEmpty();
    assertThat(l.shots().get(2).count()).hasValue(40);
    assertThat(l.shots().get(3).rate()).contains(Rate.FPS_25);
    ShotEntry nested = l.shots().get(4);
    assertThat(nested.cut()).contains(frames(1005, 1014));
    assertThat(List.of(nested.head(), nested.tail())).containsExactly(4, 6);
  }

  @Test
  void aClipThatIsUsedTwiceCoversBothUses() throws IOException {
    String clip =
        """
        {"OTIO_SCHEMA": "Clip.1", "name": "sh010",
         "source_range": {"start_time": {"rate": 24, "value": %d},
                          "duration": {"rate": 24, "value": 10}},
         "media_reference": {"OTIO_SCHEMA": "ImageSequenceReference.1",
           "start_frame": 1001, "rate": 24,
           "available_range": {"start_time": {"rate": 24, "value": 0},
                               "duration": {"rate": 24, "value": 100}}}}
        """;
    ShotList l =
        read(
            "{\"OTIO_SCHEMA\": \"Track.1\", \"kind\": \"Video\", \"children\": ["
                + clip.formatted(10)
                + ","
                + clip.formatted(60)
                + "]}");
    assertThat(l.shots()).hasSize(1);
    assertThat(l.shots().get(0).cut()).isEqualTo(Optional.of(frames(1011, 1070)));
    assertThat(l.shots().get(0).frames()).contains(frames(1001, 1100));
    assertThat(l.notes()).singleElement().asString().contains("used twice");
  }
}
