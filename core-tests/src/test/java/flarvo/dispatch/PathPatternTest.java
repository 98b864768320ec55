package flarvo.dispatch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.convention.Dialects;
import flarvo.format.Formats;
import flarvo.scene.FrameRange;
import java.nio.file.Path;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;

class PathPatternTest {

  private static final FrameRange FRAMES = new FrameRange(1001, 1096);

  private static Delivery delivery(String name, String file) {
    return new Delivery(
        name,
        Dialects.shipped().get("anim-yup-cm"),
        Formats.byId("usd-crate"),
        Contents.CAMERA,
        file);
  }

  private static String of(String recipient, String pattern, String shot) {
    return PathPattern.of(delivery(recipient, pattern), "My Show", shot, FRAMES, OptionalInt.of(7));
  }

  @Test
  void everyWordIsFilled() {
    assertThat(
            of(
                "Game engine",
                "{project}/{shot}/{recipient}_v{version}_{first}-{last}.{ext}",
                "sh010"))
        .isEqualTo("My_Show/sh010/game_engine_v007_1001-1096.usdc");
    assertThat(of("Anim", "plain.usd", "x")).isEqualTo("plain.usd");
    // What stands for a value is no pattern again.
    assertThat(of("Anim", "{shot}.{ext}", "{ext}$1")).isEqualTo("{ext}$1.usdc");
  }

  /** A name from a shot list or a folder never leads out of the folder of deliveries. */
  @Test
  void namesCannotClimb() {
    Path out = Path.of("/deliveries");
    for (String name : new String[] {"../up", "a/../../b", "C:\\x", "/etc/x", "a\nb", "x\u0000y"}) {
      String file = of("Anim", "{shot}.{ext}", name);
      assertThat(DeliveryPlace.in(out, file).getParent()).as(file).isEqualTo(out);
    }
    assertThatThrownBy(() -> of("Anim", "{shot}.{ext}", "..")).hasMessageContaining("{shot}");
    assertThatThrownBy(() -> of("Anim", "{shot}.{ext}", " ")).hasMessageContaining("{shot}");
    assertThatThrownBy(() -> DeliveryPlace.in(out, of("Anim", "../{shot}.{ext}", "a")))
        .hasMessageContaining("outside");
  }

  @Test
  void whatIsNoPatternIsRefused() {
    for (String bad : new String[] {"", " ", "{shots}.usd", "{shot", "shot}", "{}.usd"}) {
      assertThatThrownBy(() -> PathPattern.check(bad))
          .as(bad)
          .isInstanceOf(IllegalArgumentException.class);
    }
    PathPattern.check("{shot}/{version}/x.{ext}");
  }

  @Test
  void aShotsOwnNameBecomesAPattern() {
    assertThat(PathPattern.generalised(delivery("A", "sh010_anim.usdc"), "sh010").fileName())
        .isEqualTo("{shot}_anim.{ext}");
    assertThat(PathPattern.generalised(delivery("A", "out/anim.usdc"), "sh010").fileName())
        .isEqualTo("out/{shot}_anim.{ext}");
    assertThat(PathPattern.generalised(delivery("A", "odd.name"), "sh010").fileName())
        .isEqualTo("{shot}_odd.name");
  }
}
