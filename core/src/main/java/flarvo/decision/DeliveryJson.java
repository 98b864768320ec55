package flarvo.decision;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FrameNumbering;
import flarvo.dispatch.Delivery;
import flarvo.format.Formats;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.scene.Rate;
import java.util.Optional;

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
    return o.put("format", d.format().id())
        .put("contents", d.contents().word())
        .put("file", d.fileName());
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
        n.member("contents").word(Delivery.Contents.values(), Delivery.Contents::word),
        n.text("file"));
  }
}
