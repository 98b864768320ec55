package flarvo.cli;

import flarvo.dispatch.Contents;
import picocli.CommandLine.Option;

/** What of a shot is delivered; the same for the command that writes and the one that proves. */
final class OnlyOption {

  /** What goes along, as the command line spells it. */
  enum Only {
    CAMERA,
    TRACKERS
  }

  @Option(names = "--only", paramLabel = "WHAT", description = "camera or trackers alone")
  private Only only;

  Contents contents() {
    if (only == null) {
      return Contents.CAMERA_AND_TRACKERS;
    }
    return only == Only.CAMERA ? Contents.CAMERA : Contents.TRACKERS;
  }
}
