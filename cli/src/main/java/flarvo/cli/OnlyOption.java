package flarvo.cli;

import flarvo.dispatch.Contents;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.Part;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import java.util.EnumSet;
import java.util.List;
import java.util.OptionalDouble;
import java.util.Set;
import picocli.CommandLine.Option;

/** What of a shot is delivered; the same for the command that writes and the one that proves. */
final class OnlyOption {

  /** What goes along, as the command line spells it. */
  enum Only {
    CAMERA(Part.CAMERA),
    TRACKERS(Part.TRACKERS),
    GEOMETRY(Part.GEOMETRY),
    CARD(Part.CARD);

    private final Part part;

    Only(Part part) {
      this.part = part;
    }
  }

  @Option(
      names = "--only",
      split = ",",
      paramLabel = "WHAT",
      description =
          "camera, trackers, geometry, card (a picture card), or some of them with commas; usually"
              + " all but the card")
  private Set<Only> only;

  @Option(
      names = "--card-at",
      paramLabel = "METRES",
      description = "how far from the camera the picture card stands; usually behind everything")
  private Double cardAt;

  @Option(
      names = "--leave-out",
      split = ",",
      paramLabel = "NAMES",
      description = "tracker groups and meshes that do not go along, by name, with commas")
  private Set<String> leaveOut;

  /**
   * What was asked for, else everything that the shot has.
   *
   * @throws InputError when the card stands nowhere, or a name is none of the shot's
   */
  Contents contents(Shot shot) {
    try {
      Contents c =
          parts(shot).withCard(cardAt == null ? OptionalDouble.empty() : OptionalDouble.of(cardAt));
      Set<String> off = leaveOut == null ? Set.of() : leaveOut;
      List<String> known = Outgoing.of(shot).names(Contents.WITH_GEOMETRY);
      for (String n : off) {
        if (!known.contains(n)) {
          throw InputError.words(
              "no tracker group or mesh is called '" + n + "'", "There are: " + known);
        }
      }
      return c.leavingOut(off);
    } catch (IllegalArgumentException e) {
      throw new InputError("--card-at " + cardAt, "", e.getMessage(), "Give metres, such as 40", e);
    }
  }

  private Contents parts(Shot shot) {
    if (only == null || only.isEmpty()) {
      return Contents.WITH_GEOMETRY.with(Part.CAMERA, !shot.cameras().isEmpty());
    }
    Set<Part> parts = EnumSet.noneOf(Part.class);
    only.forEach(o -> parts.add(o.part));
    return new Contents(parts);
  }
}
