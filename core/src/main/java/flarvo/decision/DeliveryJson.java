package flarvo.decision;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialect;
import flarvo.convention.DialectJson;
import flarvo.convention.Dialects;
import flarvo.convention.FrameNumbering;
import flarvo.convention.LinearUnit;
import flarvo.convention.RatePolicy;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Extract;
import flarvo.dispatch.Part;
import flarvo.format.Formats;
import flarvo.motion.Recast;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.scene.PlateRole;
import flarvo.scene.Rate;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;

/**
 * A delivery as JSON: dialect and format by name, and what of its conventions is not the dialect's
 * own.
 */
final class DeliveryJson {

  private final Dialects dialects;

  DeliveryJson(Dialects dialects) {
    this.dialects = dialects;
  }

  ObjectNode write(Delivery d) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    o.put("name", d.name()).put("dialect", d.dialect().name());
    conventions(d.dialect(), o);
    o.put("format", d.format().id());
    ArrayNode parts = o.putArray("contents");
    d.contents().parts().forEach(p -> parts.add(p.word()));
    d.contents().cardMetres().ifPresent(m -> o.put("cardMetres", m));
    if (!d.contents().leftOut().isEmpty()) {
      ArrayNode off = o.putArray("leftOut");
      d.contents().leftOut().forEach(off::add);
    }
    if (!d.contents().clouds().isEmpty()) {
      ArrayNode clouds = o.putArray("clouds");
      d.contents().clouds().forEach(clouds::add);
    }
    d.contents().locatorMetres().ifPresent(m -> o.put("locatorMetres", m));
    Extract e = d.extract();
    if (e.plate() != PlateRole.UNDISTORTED) {
      o.put("plate", e.plate().word());
    }
    if (e.head() != 0 || e.tail() != 0) {
      o.putArray("leaveOff").add(e.head()).add(e.tail());
    }
    if (!e.levelled()) {
      o.put("levelled", false);
    }
    if (!e.recast().isNone()) {
      o.set("recast", RecastJson.write(e.recast()));
    }
    return o.put("file", d.fileName());
  }

  /** What differs from the dialect of that name: member by member, or all where that is not all. */
  private void conventions(Dialect d, ObjectNode o) {
    Optional<Dialect> own = known(d.name());
    FrameNumbering was = own.map(Dialect::frames).orElse(FrameNumbering.PLATE);
    FrameNumbering f = d.frames();
    if (!f.firstFrame().equals(was.firstFrame())) {
      f.firstFrame().ifPresent(x -> o.put("firstFrame", x));
    }
    if (!f.rate().equals(was.rate())) {
      f.rate().ifPresent(x -> o.put("rate", x.toString()));
    }
    if (f.policy() != was.policy()) {
      o.put("policy", f.policy().word());
    }
    if (own.isPresent() && !d.unit().equals(own.get().unit())) {
      o.put("metresPerUnit", d.unit().metresPerUnit());
    }
    // A studio's own dialect may not be known where this is read.
    if (own.isEmpty() || !changed(own.get(), StrictJson.of(o, "")).equals(d)) {
      o.set("conventions", DialectJson.write(d));
    }
  }

  private Optional<Dialect> known(String name) {
    return name.equals(Dialect.CANONICAL.name())
        ? Optional.of(Dialect.CANONICAL)
        : dialects.find(name);
  }

  private static Dialect changed(Dialect own, StrictJson n) {
    FrameNumbering f = own.frames();
    if (n.has("firstFrame")) {
      f = f.withFirstFrame(n.integer("firstFrame"));
    }
    Optional<Rate> rate = n.optional("rate").map(r -> Rate.parse(r.text()));
    if (rate.isPresent()) {
      f = f.withRate(rate.get());
    }
    Optional<RatePolicy> policy =
        n.optional("policy").map(p -> p.word(RatePolicy.values(), RatePolicy::word));
    if (policy.isPresent()) {
      f = new FrameNumbering(f.firstFrame(), f.rate(), policy.get());
    }
    Dialect d = own.withFrames(f);
    return n.has("metresPerUnit") ? d.withUnit(new LinearUnit(n.number("metresPerUnit"))) : d;
  }

  /**
   * @throws IllegalArgumentException with its place when it is none
   */
  Delivery read(StrictJson n) {
    Dialect d;
    try {
      d =
          n.has("conventions")
              ? DialectJson.read(n.member("conventions").node(), "conventions")
              : changed(dialects.get(n.text("dialect")), n);
    } catch (InputError e) {
      throw n.error(e.getMessage());
    }
    return new Delivery(
        n.text("name"),
        d,
        Formats.byId(n.text("format")),
        options(contents(n.member("contents")), n),
        extract(n),
        n.text("file"));
  }

  private static Extract cut(Extract e, List<Integer> off, StrictJson n) {
    try {
      return off.isEmpty() ? e : e.leavingOff(off.get(0), off.get(1));
    } catch (IllegalArgumentException x) {
      throw n.error(x.getMessage());
    }
  }

  private static Extract extract(StrictJson n) {
    Extract e =
        Extract.behind(
            n.optional("plate")
                .map(p -> p.word(PlateRole.values(), PlateRole::word))
                .orElse(PlateRole.UNDISTORTED));
    List<Integer> off = n.list("leaveOff", StrictJson::integer);
    if (!off.isEmpty() && off.size() != 2) {
      throw n.error("leaveOff is two numbers of frames, at the head and at the tail");
    }
    return cut(e, off, n)
        .levelled(n.flag("levelled", true))
        .recast(n.optional("recast").map(RecastJson::read).orElse(Recast.NONE));
  }

  private static Contents options(Contents c, StrictJson n) {
    try {
      Contents there =
          n.has("cardMetres") ? c.withCard(OptionalDouble.of(n.number("cardMetres"))) : c;
      Contents sized =
          n.has("locatorMetres")
              ? there.withLocators(OptionalDouble.of(n.number("locatorMetres")))
              : there;
      return sized
          .leavingOut(Set.copyOf(n.list("leftOut", StrictJson::text)))
          .withClouds(Set.copyOf(n.list("clouds", StrictJson::text)));
    } catch (IllegalArgumentException x) {
      throw n.error(x.getMessage());
    }
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
    if (parts.stream().allMatch(Part::isSidecar)) {
      throw n.error(Contents.NOTHING_LEFT);
    }
    return new Contents(parts);
  }
}
