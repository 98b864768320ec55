package flarvo.format.gltf;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.SceneFormat;
import flarvo.format.SceneFormatContract;
import flarvo.work.Progress;
import org.junit.jupiter.api.Test;

class GltfBinaryFormatTest extends SceneFormatContract {

  @Override
  protected SceneFormat format() {
    return GltfFormat.binary();
  }

  @Override
  protected double limitPx() {
    return 0.005;
  }

  /** This format knows neither zoom nor shift; both are said. */
  @Override
  @Test
  protected void aZoomWithAShiftedLensComesBackWhereTheRecipientUnderstandsIt() {
    Dispatcher.Sent sent =
        Dispatcher.send(
            TestShots.zoom(15, 20, 8),
            new Delivery(
                "z",
                Dialects.shipped().get("comp-yup"),
                format(),
                Contents.CAMERA_AND_TRACKERS,
                "z"),
            dir.resolve("z" + format().extensions().get(0)),
            Progress.NONE);
    assertThat(sent.notes().toString()).contains("focal length that changes").contains("shift");
  }

  /** The rate stands in the times of the keys alone, so it takes three of them. */
  @Override
  @Test
  protected void oneTrackerAndOneFrameAreEnough() {
    holds(TestShots.walk(3, 2, 4), Dialects.shipped().get("anim-zup-m"), limitPx());
  }
}
