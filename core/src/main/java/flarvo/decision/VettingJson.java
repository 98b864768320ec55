package flarvo.decision;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.report.StrictJson;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import flarvo.vet.ExtraPoint;
import flarvo.vet.RefinedSolve;
import flarvo.vet.ResidualDistortion;
import flarvo.vet.TrackerGroup;
import flarvo.vet.Vetting;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** What was decided at Vet, as the project file keeps it. */
final class VettingJson {

  private static final int POSE = 7;
  private static final int OPTICS = 5;

  private VettingJson() {}

  static ObjectNode write(Vetting v) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    names(o, "culled", v.culled());
    names(o, "weightless", v.weightless());
    if (!v.extras().isEmpty()) {
      ArrayNode late = o.putArray("late");
      for (ExtraPoint p : v.extras()) {
        ArrayNode marks = late.addObject().put("name", p.name()).putArray("marks");
        for (ExtraPoint.Mark m : p.marks()) {
          ObjectNode n = marks.addObject().put("frame", m.frame()).put("x", m.x()).put("y", m.y());
          if (m.found()) {
            n.put("found", true);
          }
        }
      }
    }
    if (!v.groups().isEmpty()) {
      ArrayNode groups = o.putArray("groups");
      for (TrackerGroup g : v.groups()) {
        ObjectNode n = groups.addObject().put("name", g.name());
        n.put("dot", g.dot().word()).put("tint", g.tint());
        names(n, "members", g.members());
      }
    }
    v.solve().ifPresent(s -> o.set("solve", solve(s)));
    return o;
  }

  private static void names(ObjectNode o, String member, Set<String> names) {
    if (!names.isEmpty()) {
      ArrayNode a = o.putArray(member);
      new TreeSet<>(names).forEach(a::add);
    }
  }

  static ObjectNode solve(RefinedSolve s) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    o.put("how", s.how()).put("tripod", s.tripod());
    o.put("camera", s.camera().name());
    FrameRange frames = s.camera().frames();
    o.put("firstFrame", frames.first());
    ArrayNode poses = o.putArray("poses");
    for (int f = frames.first(); f <= frames.last(); f++) {
      Pose p = s.camera().poses().at(f);
      poses.add(p.position().x()).add(p.position().y()).add(p.position().z());
      Rotation r = p.rotation();
      poses.add(r.w()).add(r.x()).add(r.y()).add(r.z());
    }
    ArrayNode optics = o.putArray("opticsMm");
    int each = s.camera().optics().isConstant() ? 1 : frames.count();
    for (int i = 0; i < each; i++) {
      Optics q = s.camera().optics().at(frames.first() + i);
      optics.add(q.focalLengthMm()).add(q.filmWidthMm()).add(q.filmHeightMm());
      optics.add(q.principalXMm()).add(q.principalYMm());
    }
    if (!s.rest().equals(ResidualDistortion.NONE)) {
      ArrayNode terms = o.putArray("lensTerms").add(s.rest().k1()).add(s.rest().k2());
      if (s.rest().k3() != 0) { // two are what was written before there were three
        terms.add(s.rest().k3());
      }
    }
    ObjectNode points = o.putObject("points");
    new TreeMap<>(s.points())
        .forEach((n, p) -> points.putArray(n).add(p.x()).add(p.y()).add(p.z()));
    return o;
  }

  /**
   * @throws IllegalArgumentException with its place when it is none
   */
  static Vetting read(StrictJson n) {
    return new Vetting(
        names(n, "culled"),
        names(n, "weightless"),
        n.optional("solve").map(VettingJson::solve),
        n.list("late", VettingJson::extra),
        n.list("groups", VettingJson::group));
  }

  private static ExtraPoint extra(StrictJson p) {
    return new ExtraPoint(
        p.text("name"),
        p.list(
            "marks",
            m ->
                new ExtraPoint.Mark(
                    m.integer("frame"), m.number("x"), m.number("y"), m.flag("found", false))));
  }

  private static TrackerGroup group(StrictJson g) {
    return new TrackerGroup(
        g.text("name"),
        g.member("dot").word(TrackerGroup.Dot.values(), TrackerGroup.Dot::word),
        g.integer("tint"),
        names(g, "members"));
  }

  private static Set<String> names(StrictJson n, String member) {
    return new LinkedHashSet<>(n.list(member, StrictJson::text));
  }

  static RefinedSolve solve(StrictJson n) {
    double[] poses = n.member("poses").numbers();
    if (poses.length == 0 || poses.length % POSE != 0) {
      throw n.error("'poses' has " + poses.length + " numbers, not seven per frame");
    }
    int first = n.integer("firstFrame");
    FrameRange frames = new FrameRange(first, Math.addExact(first, poses.length / POSE - 1));
    double[] optics = n.member("opticsMm").numbers();
    boolean constant = optics.length == OPTICS;
    if (!constant && optics.length != OPTICS * frames.count()) {
      throw n.error("'opticsMm' has " + optics.length + " numbers");
    }
    PoseTrack track = PoseTrack.of(frames, f -> pose(poses, (f - first) * POSE));
    OpticsTrack lens =
        OpticsTrack.of(frames, f -> optics(optics, constant ? 0 : (f - first) * OPTICS));
    ResidualDistortion rest =
        n.optional("lensTerms").map(VettingJson::lens).orElse(ResidualDistortion.NONE);
    Map<String, Vec3> points = new HashMap<>();
    n.member("points")
        .members(p -> p.numbers(3))
        .forEach((name, p) -> points.put(name, new Vec3(p[0], p[1], p[2])));
    return new RefinedSolve(
        new ShotCamera(n.text("camera"), track, lens, Optional.empty()),
        points,
        rest,
        n.flag("tripod", false),
        n.text("how"));
  }

  private static ResidualDistortion lens(StrictJson terms) {
    double[] k = terms.numbers();
    if (k.length != 2 && k.length != 3) {
      throw terms.error("a lens has two or three terms, not " + k.length);
    }
    return new ResidualDistortion(k[0], k[1], k.length > 2 ? k[2] : 0);
  }

  private static Pose pose(double[] v, int k) {
    return new Pose(
        new Vec3(v[k], v[k + 1], v[k + 2]), new Rotation(v[k + 3], v[k + 4], v[k + 5], v[k + 6]));
  }

  private static Optics optics(double[] v, int k) {
    return new Optics(v[k], v[k + 1], v[k + 2], v[k + 3], v[k + 4]);
  }
}
