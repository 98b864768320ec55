package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.CameraAxes;
import flarvo.convention.Dialect;
import flarvo.convention.SignedAxis;
import flarvo.format.FileCamera;
import flarvo.receive.ReceivedFile;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;

/** What a file's own numbers say of its places, for comparing with other readers. */
final class GeometryJson {

  private GeometryJson() {}

  static void add(ObjectNode o, ReceivedFile r) {
    CameraAxes axes = r.format().nearestSupported(Dialect.CANONICAL).spoken().camera();
    for (int i = 0; i < r.scene().cameras().size(); i++) {
      FileCamera c = r.scene().cameras().get(i);
      ArrayNode poses = ((ObjectNode) o.get("cameras").get(i)).putArray("poses");
      for (int f = c.camera().frames().first(); f <= c.camera().frames().last(); f++) {
        Pose p = c.camera().poses().at(f);
        Optics lens = c.camera().optics().at(f);
        ObjectNode n = poses.addObject().put("frame", f);
        vector(n.putArray("position"), p.position());
        vector(n.putArray("view"), p.rotation().apply(unit(axes.view())));
        vector(n.putArray("up"), p.rotation().apply(unit(axes.up())));
        n.put("focalLengthMm", lens.focalLengthMm());
        n.putArray("filmBackMm").add(lens.filmWidthMm()).add(lens.filmHeightMm());
      }
    }
    ArrayNode points = o.putArray("points");
    for (TrackerSet t : r.scene().trackers()) {
      for (int i = 0; i < t.size(); i++) {
        ObjectNode n = points.addObject().put("name", t.names().get(i));
        if (!t.moves()) {
          vector(n.putArray("position"), t.position(i));
          continue;
        }
        // In the file's own world, a frame each.
        FrameRange frames = t.group().orElseThrow().poses().orElseThrow().frames();
        n.put("firstFrame", frames.first());
        ArrayNode list = n.putArray("positions");
        for (int f = frames.first(); f <= frames.last(); f++) {
          vector(list.addArray(), t.position(i, f));
        }
      }
    }
    ArrayNode meshes = o.putArray("meshExtents");
    for (Mesh m : r.scene().meshes()) {
      ObjectNode n = meshes.addObject().put("name", m.name());
      int first = r.scene().range().map(c -> c.value().first()).orElse(firstOf(m));
      n.put("points", m.points()).put("faces", m.faces());
      double[] lo = {Double.MAX_VALUE, Double.MAX_VALUE, Double.MAX_VALUE};
      double[] hi = {-Double.MAX_VALUE, -Double.MAX_VALUE, -Double.MAX_VALUE};
      for (int i = 0; i < m.points(); i++) {
        Vec3 v = m.position(i, first);
        double[] p = {v.x(), v.y(), v.z()};
        for (int k = 0; k < 3; k++) {
          lo[k] = Math.min(lo[k], p[k]);
          hi[k] = Math.max(hi[k], p[k]);
        }
      }
      if (m.points() > 0) {
        vector(n.putArray("least"), new Vec3(lo[0], lo[1], lo[2]));
        vector(n.putArray("most"), new Vec3(hi[0], hi[1], hi[2]));
      }
    }
  }

  private static int firstOf(Mesh m) {
    return m.group().flatMap(Group::poses).map(p -> p.frames().first()).orElse(0);
  }

  private static Vec3 unit(SignedAxis a) {
    double[] v = new double[3];
    v[a.index()] = a.sign();
    return new Vec3(v[0], v[1], v[2]);
  }

  private static void vector(ArrayNode a, Vec3 v) {
    a.add(v.x()).add(v.y()).add(v.z());
  }
}
