package flarvo.cli;

import flarvo.dispatch.Contents;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.Part;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
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
      names = "--points",
      split = ",",
      paramLabel = "NAMES",
      description = "tracker groups that go as one cloud of points each, and not as locators")
  private Set<String> points;

  @Option(
      names = "--locator-size",
      paramLabel = "METRES",
      description = "how large locators are drawn; usually as they came, else as suits the scene")
  private Double locatorSize;

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
      Contents c = parts(shot).withCard(metres(cardAt)).withLocators(metres(locatorSize));
      List<String> groups = shot.trackers().stream().map(TrackerSet::name).toList();
      List<String> all = Outgoing.of(shot).names(Contents.WITH_GEOMETRY);
      return c.leavingOut(known(leaveOut, all, "tracker group or mesh"))
          .withClouds(known(points, groups, "tracker group"));
    } catch (IllegalArgumentException e) {
      throw new InputError("", "", e.getMessage(), "Give metres, such as 0.2", e);
    }
  }

  /** Whether a size of locators was asked for. */
  boolean hasLocatorSize() {
    return locatorSize != null;
  }

  private static OptionalDouble metres(Double given) {
    return given == null ? OptionalDouble.empty() : OptionalDouble.of(given);
  }

  private static Set<String> known(Set<String> given, List<String> there, String what) {
    for (String n : given == null ? Set.<String>of() : given) {
      if (!there.contains(n)) {
        throw InputError.words("no " + what + " is called '" + n + "'", "There are: " + there);
      }
    }
    return given == null ? Set.of() : given;
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
