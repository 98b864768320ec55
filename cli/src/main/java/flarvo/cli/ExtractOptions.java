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
          "plates that go with the camera, undistorted, original or keyed; over overscan the"
              + " film back grows with them (default ${DEFAULT-VALUE})")
  private String plate;

  @Option(
      names = "--leave-off",
      paramLabel = "HEAD,TAIL",
      description = "frames left off at the head and the tail, such as handles: 8,8")
  private String off;

  @Option(
      names = "--handles",
      paramLabel = "HEAD,TAIL",
      description = "frames added at the head and the tail, on which every motion is held: 8,8")
  private String handles;

  private static int[] frames(String option, String text) {
    if (text == null) {
      return new int[] {0, 0};
    }
    if (!text.matches("\\d{1,8}(,\\d{1,8})?")) {
      throw InputError.words(option + " " + text, "Give two numbers of frames, such as 8,8");
    }
    String[] both = text.split(",");
    return new int[] {Integer.parseInt(both[0]), Integer.parseInt(both[both.length - 1])};
  }

  private static Extract leavingOff(Extract e, int head, int tail) {
    try {
      return e.leavingOff(head, tail);
    } catch (IllegalArgumentException x) {
      throw new InputError("", "", x.getMessage(), "Give fewer", x);
    }
  }

  @Mixin private RecastOptions recast;

  /**
   * @param shot that it is made from
   * @throws InputError when a word is not known
   */
  Extract extract(Shot shot) {
    PlateRole r = PlateRole.stated(plate);
    if (!r.word().equals(plate) || r == PlateRole.PROXY) {
      throw InputError.words(
          "no plates are '" + plate + "'", "Give undistorted, original or keyed");
    }
    int[] less = frames("--leave-off", off);
    int[] more = frames("--handles", handles);
    if (less[0] * (long) more[0] != 0 || less[1] * (long) more[1] != 0) {
      throw InputError.words(
          "--leave-off and --handles at the same end", "Give one of them for the head or the tail");
    }
    Extract e = leavingOff(Extract.behind(r), less[0] - more[0], less[1] - more[1]);
    return e.recast(recast.recast(e.of(shot)));
  }
}
