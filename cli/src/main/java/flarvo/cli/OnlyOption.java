package flarvo.cli;

import flarvo.dispatch.Contents;
import flarvo.dispatch.Part;
import flarvo.scene.Shot;
import java.util.EnumSet;
import java.util.Set;
import picocli.CommandLine.Option;

/** What of a shot is delivered; the same for the command that writes and the one that proves. */
final class OnlyOption {

  /** What goes along, as the command line spells it. */
  enum Only {
    CAMERA(Part.CAMERA),
    TRACKERS(Part.TRACKERS),
    GEOMETRY(Part.GEOMETRY);

    private final Part part;

    Only(Part part) {
      this.part = part;
    }
  }

  @Option(
      names = "--only",
      split = ",",
      paramLabel = "WHAT",
      description = "camera, trackers, geometry, or some of them with commas; usually all")
  private Set<Only> only;

  /** What was asked for, else everything that the shot has. */
  Contents contents(Shot shot) {
    if (only == null || only.isEmpty()) {
      return Contents.WITH_GEOMETRY.with(Part.CAMERA, !shot.cameras().isEmpty());
    }
    Set<Part> parts = EnumSet.noneOf(Part.class);
    only.forEach(o -> parts.add(o.part));
    return new Contents(parts);
  }
}
