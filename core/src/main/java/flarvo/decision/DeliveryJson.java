package flarvo.decision;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FrameNumbering;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Part;
import flarvo.format.Formats;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.scene.PlateRole;
import flarvo.scene.Rate;
import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;

/**
 * A delivery as JSON: dialect and format by name, first frame and rate where they are not the
 * dialect's own.
 */
final class DeliveryJson {

  private final Dialects dialects;

  DeliveryJson(Dialects dialects) {
    this.dialects = dialects;
  }

  ObjectNode write(Delivery d) {
    FrameNumbering own =
        dialects.find(d.dialect().name()).map(Dialect::frames).orElse(FrameNumbering.PLATE);
    FrameNumbering f = d.dialect().frames();
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    o.put("name", d.name()).put("dialect", d.dialect().name());
    if (!f.firstFrame().equals(own.firstFrame())) {
      f.firstFrame().ifPresent(x -> o.put("firstFrame", x));
    }
    if (!f.rate().equals(own.rate())) {
      f.rate().ifPresent(x -> o.put("rate", x.toString()));
    }
    o.put("format", d.format().id());
    ArrayNode parts = o.putArray("contents");
    d.contents().parts().forEach(p -> parts.add(p.word()));
    if (d.plate() != PlateRole.UNDISTORTED) {
      o.put("plate", d.plate().word());
    }
    return o.put("file", d.fileName());
  }

  /**
   * @throws IllegalArgumentException with its place when it is none
   */
  Delivery read(StrictJson n) {
    Dialect d;
    try {
      d = dialects.get(n.text("dialect"));
    } catch (InputError e) {
      throw n.error(e.getMessage());
    }
    FrameNumbering f = d.frames();
    if (n.has("firstFrame")) {
      f = f.withFirstFrame(n.integer("firstFrame"));
    }
    Optional<Rate> rate = n.optional("rate").map(r -> Rate.parse(r.text()));
    if (rate.isPresent()) {
      f = f.withRate(rate.get());
    }
    return new Delivery(
        n.text("name"),
        d.withFrames(f),
        Formats.byId(n.text("format")),
        contents(n.member("contents")),
        n.optional("plate")
            .map(p -> p.word(PlateRole.values(), PlateRole::word))
            .orElse(PlateRole.UNDISTORTED),
        n.text("file"));
  }

  /** An array of parts; before, one of four phrases. */
  private static Contents contents(StrictJson n) {
    if (n.node().isTextual()) {
      return switch (n.text()) {
        case "camera and trackers" -> Contents.CAMERA_AND_TRACKERS;
        case "camera, trackers and geometry" -> Contents.WITH_GEOMETRY;
        case "camera" -> Contents.CAMERA;
        case "trackers" -> Contents.TRACKERS;
        default -> throw n.error("'" + n.text() + "' is not a set of parts");
      };
    }
    Set<Part> parts = EnumSet.noneOf(Part.class);
    parts.addAll(n.list(i -> i.word(Part.values(), Part::word)));
    if (parts.isEmpty()) {
      throw n.error("a delivery needs at least one part");
    }
    return new Contents(parts);
  }
}
