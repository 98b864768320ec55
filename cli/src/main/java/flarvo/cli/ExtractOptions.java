package flarvo.cli;

import flarvo.dispatch.Extract;
import flarvo.report.InputError;
import flarvo.scene.PlateRole;
import flarvo.scene.Shot;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** What of a shot a delivery is made from: plates and frames, and how it is recast. */
final class ExtractOptions {

  @Option(
      names = "--plate",
      paramLabel = "ROLE",
      defaultValue = "undistorted",
      description =
          "plates that go with the camera, undistorted or original; over plates with overscan the"
              + " film back grows with them (default ${DEFAULT-VALUE})")
  private String plate;

  @Option(
      names = "--leave-off",
      paramLabel = "HEAD,TAIL",
      defaultValue = "0,0",
      description = "frames left off at the head and the tail, such as handles: 8,8")
  private String off;

  @Mixin private RecastOptions recast;

  /**
   * @param shot that it is made from
   * @throws InputError when a word is not known
   */
  Extract extract(Shot shot) {
    PlateRole r = plate.equals("original") ? PlateRole.ORIGINAL : PlateRole.UNDISTORTED;
    if (!r.word().equals(plate)) {
      throw InputError.words("no plates are '" + plate + "'", "Give undistorted or original");
    }
    if (!off.matches("\\d{1,8}(,\\d{1,8})?")) {
      throw InputError.words("--leave-off " + off, "Give two numbers of frames, such as 8,8");
    }
    String[] both = off.split(",");
    return Extract.behind(r)
        .leavingOff(Integer.parseInt(both[0]), Integer.parseInt(both[both.length - 1]))
        .recast(recast.recast(shot.picture()));
  }
}
