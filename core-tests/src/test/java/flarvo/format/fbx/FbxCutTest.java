package flarvo.format.fbx;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.FileScene;
import flarvo.format.Formats;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A text file that was cut off is an error, or holds everything that it held. */
class FbxCutTest {

  @TempDir private Path dir;

  private FileScene read(String text) throws IOException {
    Path f = Files.writeString(dir.resolve("cut.fbx"), text);
    return new FbxTextFormat().read(f, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }

  @Test
  void noCutPassesForAnotherScene() throws IOException {
    Shot shot = TestShots.walk(6, 5, 3);
    Path whole = dir.resolve("whole.fbx");
    Delivery d =
        new Delivery(
            "d",
            Dialects.shipped().find("anim-yup-m").orElseThrow(),
            Formats.byId("fbx-text"),
            Contents.CAMERA_AND_TRACKERS,
            "whole.fbx");
    Dispatcher.send(shot, d, whole, Progress.NONE);
    String text = Files.readString(whole);
    FileScene truth = read(text);
    List<String> wrong = new ArrayList<>();
    int refused = 0;
    for (int at = text.indexOf("Objects:"); at < text.length(); at += 3) {
      try {
        FileScene s = read(text.substring(0, at));
        boolean same = s.cameras().equals(truth.cameras()) && s.trackers().equals(truth.trackers());
        if (!same) {
          wrong.add(at + ": " + text.substring(Math.max(0, at - 40), at));
        }
      } catch (InputError e) {
        refused++;
      }
    }
    assertThat(wrong).isEmpty();
    assertThat(refused).isGreaterThan(100);
  }
}
