package flarvo.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import flarvo.vet.LatePoint;
import flarvo.vet.RefinedSolve;
import flarvo.vet.ResidualDistortion;
import flarvo.vet.TrackerGroup;
import flarvo.vet.Vetting;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
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
    if (!v.late().isEmpty()) {
      ArrayNode late = o.putArray("late");
      for (LatePoint p : v.late()) {
        ArrayNode marks = late.addObject().put("name", p.name()).putArray("marks");
        for (LatePoint.Mark m : p.marks()) {
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

  private static ObjectNode solve(RefinedSolve s) {
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
      o.putArray("lensTerms").add(s.rest().k1()).add(s.rest().k2());
    }
    ObjectNode points = o.putObject("points");
    new TreeMap<>(s.points())
        .forEach((n, p) -> points.putArray(n).add(p.x()).add(p.y()).add(p.z()));
    return o;
  }

  /**
   * @throws IllegalArgumentException with a sentence for the user when it is none
   */
  static Vetting read(JsonNode n) {
    if (n.isMissingNode()) {
      return Vetting.NONE;
    }
    List<LatePoint> late = new ArrayList<>();
    for (JsonNode p : n.path("late")) {
      List<LatePoint.Mark> marks = new ArrayList<>();
      for (JsonNode m : p.path("marks")) {
        marks.add(
            new LatePoint.Mark(
                m.path("frame").asInt(),
                m.path("x").asDouble(Double.NaN),
                m.path("y").asDouble(Double.NaN),
                m.path("found").asBoolean(false)));
      }
      late.add(new LatePoint(p.path("name").asText(), marks));
    }
    JsonNode s = n.path("solve");
    return new Vetting(
        names(n.path("culled")),
        names(n.path("weightless")),
        s.isMissingNode() ? Optional.empty() : Optional.of(solve(s)),
        late,
        groups(n.path("groups")));
  }

  private static List<TrackerGroup> groups(JsonNode array) {
    List<TrackerGroup> out = new ArrayList<>();
    for (JsonNode g : array) {
      TrackerGroup.Dot dot =
          Arrays.stream(TrackerGroup.Dot.values())
              .filter(d -> d.word().equals(g.path("dot").asText("disc")))
              .findFirst()
              .orElseThrow(
                  () ->
                      new IllegalArgumentException("no dot is a '" + g.path("dot").asText() + "'"));
      out.add(
          new TrackerGroup(
              g.path("name").asText(), dot, g.path("tint").asInt(), names(g.path("members"))));
    }
    return out;
  }

  private static Set<String> names(JsonNode n) {
    Set<String> out = new LinkedHashSet<>();
    n.forEach(v -> out.add(v.asText()));
    return out;
  }

  private static RefinedSolve solve(JsonNode n) {
    double[] poses = numbers(n.path("poses"), "poses");
    if (poses.length == 0 || poses.length % POSE != 0) {
      throw new IllegalArgumentException(
          "'poses' holds " + poses.length + " numbers, not seven a frame");
    }
    int first = n.path("firstFrame").asInt();
    FrameRange frames = new FrameRange(first, Math.addExact(first, poses.length / POSE - 1));
    double[] optics = numbers(n.path("opticsMm"), "opticsMm");
    boolean constant = optics.length == OPTICS;
    if (!constant && optics.length != OPTICS * frames.count()) {
      throw new IllegalArgumentException("'opticsMm' holds " + optics.length + " numbers");
    }
    PoseTrack track = PoseTrack.of(frames, f -> pose(poses, (f - first) * POSE));
    OpticsTrack lens =
        OpticsTrack.of(frames, f -> optics(optics, constant ? 0 : (f - first) * OPTICS));
    double[] rest = numbers(n.path("lensTerms"), "lensTerms");
    Map<String, Vec3> points = new HashMap<>();
    n.path("points")
        .properties()
        .forEach(
            e -> {
              double[] p = numbers(e.getValue(), e.getKey());
              if (p.length != 3) {
                throw new IllegalArgumentException("point '" + e.getKey() + "' is none");
              }
              points.put(e.getKey(), new Vec3(p[0], p[1], p[2]));
            });
    return new RefinedSolve(
        new ShotCamera(n.path("camera").asText("camera"), track, lens, Optional.empty()),
        points,
        rest.length == 2 ? new ResidualDistortion(rest[0], rest[1]) : ResidualDistortion.NONE,
        n.path("tripod").asBoolean(false),
        n.path("how").asText());
  }

  private static Pose pose(double[] v, int k) {
    return new Pose(
        new Vec3(v[k], v[k + 1], v[k + 2]), new Rotation(v[k + 3], v[k + 4], v[k + 5], v[k + 6]));
  }

  private static Optics optics(double[] v, int k) {
    return new Optics(v[k], v[k + 1], v[k + 2], v[k + 3], v[k + 4]);
  }

  private static double[] numbers(JsonNode array, String what) {
    double[] out = new double[array.size()];
    for (int i = 0; i < out.length; i++) {
      if (!array.path(i).isNumber()) {
        throw new IllegalArgumentException("'" + what + "' holds what is no number");
      }
      out[i] = array.path(i).asDouble();
    }
    return out;
  }
}
