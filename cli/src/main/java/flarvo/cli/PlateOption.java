package flarvo.cli;

import flarvo.report.InputError;
import flarvo.scene.PlateRole;
import picocli.CommandLine.Option;

/** Which plates go with a delivered camera. */
final class PlateOption {

  @Option(
      names = "--plate",
      paramLabel = "ROLE",
      defaultValue = "undistorted",
      description =
          "plates that go with the camera, undistorted or original; over plates with overscan the"
              + " film back grows with them (default ${DEFAULT-VALUE})")
  private String plate;

  PlateRole role() {
    PlateRole r = plate.equals("original") ? PlateRole.ORIGINAL : PlateRole.UNDISTORTED;
    if (!r.word().equals(plate)) {
      throw InputError.words("no plates are '" + plate + "'", "Give undistorted or original");
    }
    return r;
  }
}
