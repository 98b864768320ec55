package flarvo.format.json;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.format.FileCamera;
import flarvo.format.FileScene;
import flarvo.format.SceneFormat;
import flarvo.format.SceneFormatContract;
import flarvo.format.Sourced;
import flarvo.report.InputError;
import flarvo.scene.Mesh;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SceneJsonFormatTest extends SceneFormatContract {

  @Override
  protected SceneFormat format() {
    return new SceneJsonFormat();
  }

  @Override
  protected double limitPx() {
    return 1e-9;
  }

  /** Cameras, points, tracks and meshes come back bit for bit. */
  @Test
  void nothingIsLost() throws IOException {
    Shot shot = TestShots.zoom(12, 8, 4);
    FileScene.Builder b = new FileScene.Builder();
    b.cameras.add(FileCamera.whole(shot.camera().orElseThrow()));
    b.trackers.addAll(shot.trackers());
    b.rate = Sourced.said(shot.rate(), "x");
    b.range = Sourced.said(shot.frames(), "x");
    b.picture = Sourced.said(shot.picture(), "x");
    b.meshes.add(
        Mesh.of(
            "roof \"old\"",
            new double[] {0, 0.1, 1e-17, 1, 2, 3, 4, 5, 6},
            new int[] {3},
            new int[] {0, 1, 2}));
    b.observations =
        new Observations.Builder()
            .add("t é", 1001, 0.1 + 0.2, -3)
            .add("t é", 1003, 1 / 3.0, 7)
            .build();
    FileScene scene = b.build();
    Dialect d = Dialects.shipped().get("engine-zup-left-cm");
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    new SceneJsonFormat()
        .write(scene, new SceneJsonFormat().nearestSupported(d).spoken(), out, Progress.NONE);
    FileScene back = read(file(out.toString(StandardCharsets.UTF_8)));
    assertThat(back.cameras().get(0).camera()).isEqualTo(shot.camera().orElseThrow());
    assertThat(back.trackers()).isEqualTo(shot.trackers());
    assertThat(back.meshes()).isEqualTo(scene.meshes());
    assertThat(back.observations().names()).containsExactly("t é");
    assertThat(back.observations().x(0)).isEqualTo(0.1 + 0.2);
    assertThat(back.observations().frame(1)).isEqualTo(1003);
    assertThat(back.world()).contains(d.world());
    assertThat(back.unit().orElseThrow().value()).isEqualTo(d.unit());
    assertThat(back.rate().orElseThrow().value()).isEqualTo(shot.rate());
    // Read by a library that knows nothing of us, it is a plain document.
    JsonNode plain = new ObjectMapper().readTree(out.toByteArray());
    assertThat(plain.path("cameras").get(0).path("poses").size()).isEqualTo(7 * 12);
    assertThat(plain.path("trackers").get(0).path("positions").get(2).asDouble())
        .isEqualTo(shot.trackers().get(0).z(0));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "\"version\":2|version 2 is not supported",
        "\"rate\":\"soon\"|not a rate",
        "\"picture\":[10]|3 numbers expected",
        "\"axes\":{\"up\":\"+Y\"}|axes need",
        "\"cameras\":[{\"poses\":[1,2,3]}]|7 numbers per pose",
        "\"trackers\":[{\"names\":[\"a\"],\"positions\":[1]}]|do not fit",
        "\"cameras\":3|another type of value",
        "\"meshes\":[{\"points\":[0,0,0],\"faceSizes\":[1],\"faces\":[7]}]|names point 7",
      })
  void whatDoesNotHoldIsSaid(String member, String message) throws IOException {
    var f = file("{\"schema\":\"flarvo-scene\",\n" + member + "}");
    assertThatThrownBy(() -> read(f))
        .isInstanceOf(InputError.class)
        .hasMessageContaining(message)
        .hasMessageContaining("line 2");
  }
}
