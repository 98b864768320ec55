package flarvo.dispatch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.report.InputError;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class DeliveryPlaceTest {

  private static final Path FOLDER = Path.of("shows/p/deliveries").toAbsolutePath();

  @Test
  void namesAndFoldersInsideAreTaken() {
    assertThat(DeliveryPlace.in(FOLDER, "a.usda")).isEqualTo(FOLDER.resolve("a.usda"));
    assertThat(DeliveryPlace.in(FOLDER, "x/../y/a.usda")).isEqualTo(FOLDER.resolve("y/a.usda"));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"../a.usda", "x/../../a.usda", "/etc/a.usda", "..", ".", "", "a\u0000b.usda"})
  void whatLeadsOutIsRefused(String name) {
    assertThatThrownBy(() -> DeliveryPlace.in(FOLDER, name)).isInstanceOf(InputError.class);
  }
}
