package flarvo.format.json;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import flarvo.convention.Dialect;
import flarvo.format.FileCamera;
import flarvo.format.FileScene;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.Texture;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Writes the document; a line for each frame, so that eyes and version control can follow. */
final class SceneJsonWriter {

  private final FileScene scene;
  private final Dialect spoken;
  private final Progress progress;
  private final Map<Group, Integer> groups = new HashMap<>(); // their numbers

  SceneJsonWriter(FileScene scene, Dialect spoken, Progress progress) {
    this.scene = scene;
    this.spoken = spoken;
    this.progress = progress;
  }

  void write(OutputStream out) throws IOException {
    try (JsonGenerator g = new JsonFactory().createGenerator(out)) {
      g.disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET);
      g.writeStartObject();
      g.writeStringField("schema", SceneJsonFormat.SCHEMA);
      g.writeNumberField("version", SceneJsonFormat.VERSION);
      if (scene.rate().isPresent()) {
        g.writeStringField("rate", scene.rate().get().value().toString());
      }
      if (scene.range().isPresent()) {
        g.writeArrayFieldStart("frames");
        g.writeNumber(scene.range().get().value().first());
        g.writeNumber(scene.range().get().value().last());
        g.writeEndArray();
      }
      if (scene.picture().isPresent()) {
        g.writeArrayFieldStart("picture");
        g.writeNumber(scene.picture().get().value().width());
        g.writeNumber(scene.picture().get().value().height());
        g.writeNumber(scene.picture().get().value().pixelAspect());
        g.writeEndArray();
      }
      g.writeNumberField("metresPerUnit", spoken.unit().metresPerUnit());
      g.writeObjectFieldStart("axes");
      g.writeStringField("right", spoken.world().right().toString());
      g.writeStringField("up", spoken.world().up().toString());
      g.writeStringField("away", spoken.world().away().toString());
      g.writeEndObject();
      if (scene.plate().isPresent()) {
        g.writeObjectFieldStart("plate");
        g.writeStringField("path", scene.plate().get().path());
        g.writeStringField("role", scene.plate().get().role().word());
        g.writeEndObject();
      }
      cameras(g);
      groups(g);
      trackers(g);
      tracks(g);
      meshes(g);
      g.writeRaw('\n');
      g.writeEndObject();
      g.writeRaw('\n');
    }
  }

  private void cameras(JsonGenerator g) throws IOException {
    g.writeArrayFieldStart("cameras");
    for (FileCamera f : scene.cameras()) {
      ShotCamera c = f.camera();
      g.writeStartObject();
      g.writeStringField("name", c.name());
      if (c.clip().isPresent()) {
        g.writeArrayFieldStart("clip");
        numbers(g, c.clip().get().near(), c.clip().get().far());
        g.writeEndArray();
      }
      poses(g, c.poses());
      g.writeArrayFieldStart("optics");
      int last = c.optics().isConstant() ? c.frames().first() : c.frames().last();
      for (int i = c.frames().first(); i <= last; i++) {
        Optics o = c.optics().at(i);
        g.writeRaw('\n');
        numbers(
            g,
            o.focalLengthMm(),
            o.filmWidthMm(),
            o.filmHeightMm(),
            o.principalXMm(),
            o.principalYMm());
      }
      g.writeEndArray();
      g.writeEndObject();
    }
    g.writeEndArray();
  }

  private static void numbers(JsonGenerator g, double... v) throws IOException {
    for (double d : v) {
      g.writeNumber(d);
    }
  }

  /** Groups before what hangs in them, each above before its below; known by their number. */
  private void groups(JsonGenerator g) throws IOException {
    Set<Group> all = new LinkedHashSet<>();
    scene.trackers().forEach(t -> t.group().ifPresent(o -> all.addAll(o.path())));
    scene.meshes().forEach(m -> m.group().ifPresent(o -> all.addAll(o.path())));
    if (all.isEmpty()) {
      return;
    }
    g.writeArrayFieldStart("groups");
    for (Group o : all) {
      g.writeStartObject();
      g.writeStringField("name", o.name());
      if (o.parent().isPresent()) {
        g.writeNumberField("in", groups.get(o.parent().get()));
      }
      if (o.motion().isPresent()) {
        poses(g, o.motion().get());
      }
      g.writeEndObject();
      groups.put(o, groups.size());
    }
    g.writeEndArray();
  }

  private void in(JsonGenerator g, Optional<Group> group) throws IOException {
    if (group.isPresent()) {
      g.writeNumberField("in", groups.get(group.get()));
    }
  }

  private void poses(JsonGenerator g, PoseTrack poses) throws IOException {
    FrameRange frames = poses.frames();
    g.writeNumberField("firstFrame", frames.first());
    g.writeArrayFieldStart("poses");
    for (int i = frames.first(); i <= frames.last(); i++) {
      progress.step(i - frames.first(), frames.count());
      Pose p = poses.at(i);
      Vec3 t = p.position();
      Rotation r = p.rotation();
      g.writeRaw('\n');
      numbers(g, t.x(), t.y(), t.z(), r.w(), r.x(), r.y(), r.z());
    }
    g.writeEndArray();
  }

  private void trackers(JsonGenerator g) throws IOException {
    g.writeArrayFieldStart("trackers");
    for (TrackerSet t : scene.trackers()) {
      g.writeStartObject();
      g.writeStringField("name", t.name());
      in(g, t.group());
      g.writeArrayFieldStart("names");
      for (String n : t.names()) {
        g.writeString(n);
      }
      g.writeEndArray();
      g.writeArrayFieldStart("positions");
      for (int i = 0; i < t.size(); i++) {
        g.writeRaw('\n');
        numbers(g, t.x(i), t.y(i), t.z(i));
      }
      g.writeEndArray();
      g.writeEndObject();
    }
    g.writeEndArray();
  }

  private void tracks(JsonGenerator g) throws IOException {
    Observations o = scene.observations();
    g.writeArrayFieldStart("tracks");
    for (String n : o.names()) {
      g.writeStartObject();
      g.writeStringField("name", n);
      g.writeArrayFieldStart("rows");
      for (int r = o.firstRow(n); r < o.endRow(n); r++) {
        g.writeNumber(o.frame(r));
        numbers(g, o.x(r), o.y(r));
      }
      g.writeEndArray();
      g.writeEndObject();
    }
    g.writeEndArray();
  }

  private void meshes(JsonGenerator g) throws IOException {
    g.writeArrayFieldStart("meshes");
    for (Mesh m : scene.meshes()) {
      g.writeStartObject();
      g.writeStringField("name", m.name());
      in(g, m.group());
      g.writeArrayFieldStart("points");
      for (int i = 0; i < m.points(); i++) {
        numbers(g, m.x(i), m.y(i), m.z(i));
      }
      g.writeEndArray();
      g.writeArrayFieldStart("faceSizes");
      for (int i = 0; i < m.faces(); i++) {
        g.writeNumber(m.corners(i));
      }
      g.writeEndArray();
      g.writeArrayFieldStart("faces");
      for (int i : m.faceIndices()) {
        g.writeNumber(i);
      }
      g.writeEndArray();
      perCorner(g, "normals", m.normals());
      perCorner(g, "uvs", m.uvs());
      if (m.texture().isPresent()) {
        texture(g, m.texture().get());
      }
      g.writeEndObject();
    }
    g.writeEndArray();
  }

  private static void texture(JsonGenerator g, Texture t) throws IOException {
    g.writeObjectFieldStart("texture");
    if (t.alpha()) {
      g.writeBooleanField("alpha", true);
    }
    g.writeArrayFieldStart("frames");
    for (int f : t.files().keySet()) {
      g.writeNumber(f);
    }
    g.writeEndArray();
    g.writeArrayFieldStart("files");
    for (String f : t.files().values()) {
      g.writeString(f);
    }
    g.writeEndArray();
    g.writeEndObject();
  }

  private static void perCorner(JsonGenerator g, String name, double[] values) throws IOException {
    if (values.length > 0) {
      g.writeArrayFieldStart(name);
      numbers(g, values);
      g.writeEndArray();
    }
  }
}
