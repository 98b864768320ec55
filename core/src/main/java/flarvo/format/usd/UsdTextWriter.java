package flarvo.format.usd;

import flarvo.convention.Dialect;
import flarvo.convention.EulerTrack;
import flarvo.format.FileCamera;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.Said;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.function.ToDoubleFunction;

/**
 * Writes a scene as one text layer. Everything lies under one root prim, so a file that was cut off
 * cannot pass for whole. Cameras carry translation and rotation in doubles, one sample a frame,
 * with angles in the dialect's order, unrolled; trackers are childless transforms in doubles under
 * a group of purpose {@code guide}, which does not render.
 */
final class UsdTextWriter {

  private final FileScene scene;
  private final Dialect spoken;
  private final Progress progress;
  private final double tenthsPerMm;
  private final Writer out;
  private int indent;

  UsdTextWriter(FileScene scene, Dialect spoken, OutputStream stream, Progress progress) {
    this.scene = scene;
    this.spoken = spoken;
    this.progress = progress;
    this.tenthsPerMm = 1 / (100 * spoken.unit().metresPerUnit());
    this.out = new BufferedWriter(new OutputStreamWriter(stream, StandardCharsets.UTF_8));
  }

  void write() throws IOException {
    header();
    FileNames top = new FileNames();
    open("def Xform \"shot\"");
    String firstCamera = "";
    for (FileCamera c : scene.cameras()) {
      String name = top.identifier(c.camera().name());
      firstCamera = firstCamera.isEmpty() ? name : firstCamera;
      camera(c.camera(), name);
    }
    for (TrackerSet t : scene.trackers()) {
      trackers(t, top.identifier(t.name()));
    }
    if (scene.picture().isPresent()) {
      PictureSize p = scene.picture().get().value();
      open("def RenderSettings \"" + top.identifier("picture") + "\"");
      line("uniform int2 resolution = (" + p.width() + ", " + p.height() + ")");
      if (p.pixelAspect() != 1) {
        line("uniform float pixelAspectRatio = " + single(p.pixelAspect()));
      }
      if (!firstCamera.isEmpty()) {
        line("rel camera = </shot/" + firstCamera + ">");
      }
      close();
    }
    close();
    out.flush();
  }

  private void header() throws IOException {
    out.write("#usda 1.0\n(\n");
    indent = 1;
    if (scene.plate().isPresent()) {
      line("customLayerData = {");
      line("    string plate = " + quoted(scene.plate().get().path()));
      line("    string plateRole = " + quoted(scene.plate().get().role().word()));
      line("}");
    }
    line("defaultPrim = \"shot\"");
    FrameRange range = scene.range().map(Said::value).orElseThrow();
    Rate rate = scene.rate().map(Said::value).orElseThrow();
    line("endTimeCode = " + range.last());
    line("framesPerSecond = " + plain(rate.toDouble()));
    line("metersPerUnit = " + plain(spoken.unit().metresPerUnit()));
    line("startTimeCode = " + range.first());
    line("timeCodesPerSecond = " + plain(rate.toDouble()));
    line("upAxis = \"" + "XYZ".charAt(spoken.world().up().index()) + "\"");
    indent = 0;
    out.write(")\n\n");
  }

  private void camera(ShotCamera c, String name) throws IOException {
    open("def Camera \"" + name + "\"");
    originalName(c.name(), name);
    line("token projection = \"perspective\"");
    if (c.clip().isPresent()) {
      line(
          "float2 clippingRange = ("
              + single(c.clip().get().near())
              + ", "
              + single(c.clip().get().far())
              + ")");
    }
    lens("focalLength", c.optics(), this::focalOnRoundedBack);
    lens("horizontalAperture", c.optics(), Optics::filmWidthMm);
    lens("verticalAperture", c.optics(), Optics::filmHeightMm);
    lens("horizontalApertureOffset", c.optics(), o -> -o.principalXMm());
    lens("verticalApertureOffset", c.optics(), o -> -o.principalYMm());
    poses(c.poses());
    close();
  }

  /**
   * Lens values are 32-bit floats, and only their ratio reaches the picture: the focal length goes
   * along with what rounding does to the film back's width.
   */
  private double focalOnRoundedBack(Optics o) {
    double width = o.filmWidthMm() * tenthsPerMm;
    return o.focalLengthMm() * (float) width / width;
  }

  private void lens(String name, OpticsTrack track, ToDoubleFunction<Optics> value)
      throws IOException {
    FrameRange frames = track.frames();
    double first = value.applyAsDouble(track.at(frames.first())) * tenthsPerMm;
    boolean constant = true;
    for (int f = frames.first(); f <= frames.last() && constant; f++) {
      constant = value.applyAsDouble(track.at(f)) * tenthsPerMm == first;
    }
    if (constant) {
      line("float " + name + " = " + single(first));
      return;
    }
    line("float " + name + ".timeSamples = {");
    for (int f = frames.first(); f <= frames.last(); f++) {
      line("    " + f + ": " + single(value.applyAsDouble(track.at(f)) * tenthsPerMm) + ",");
    }
    line("}");
  }

  private void poses(PoseTrack poses) throws IOException {
    FrameRange frames = poses.frames();
    line("double3 xformOp:translate.timeSamples = {");
    for (int f = frames.first(); f <= frames.last(); f++) {
      progress.step(f - frames.first(), 2L * frames.count());
      line("    " + f + ": " + tuple(poses.at(f).position()) + ",");
    }
    line("}");
    EulerTrack angles = EulerTrack.of(poses, spoken.rotationOrder());
    String op = "xformOp:rotate" + spoken.rotationOrder().name();
    line("double3 " + op + ".timeSamples = {");
    for (int f = frames.first(); f <= frames.last(); f++) {
      progress.step(frames.count() + f - frames.first(), 2L * frames.count());
      line(
          "    "
              + f
              + ": "
              + tuple(angles.degrees(f, 0), angles.degrees(f, 1), angles.degrees(f, 2))
              + ",");
    }
    line("}");
    line("uniform token[] xformOpOrder = [\"xformOp:translate\", \"" + op + "\"]");
  }

  private void trackers(TrackerSet t, String group) throws IOException {
    open("def Scope \"" + group + "\"");
    originalName(t.name(), group);
    line("uniform token purpose = \"guide\"");
    FileNames names = new FileNames();
    for (int i = 0; i < t.size(); i++) {
      progress.step(i, t.size());
      String name = names.identifier(t.names().get(i));
      open("def Xform \"" + name + "\"");
      originalName(t.names().get(i), name);
      line("double3 xformOp:translate = " + tuple(t.x(i), t.y(i), t.z(i)));
      line("uniform token[] xformOpOrder = [\"xformOp:translate\"]");
      close();
    }
    close();
  }

  private void originalName(String original, String written) throws IOException {
    if (!original.equals(written)) {
      line("custom string userProperties:name = " + quoted(original));
    }
  }

  private void open(String head) throws IOException {
    line(head);
    line("{");
    indent++;
  }

  private void close() throws IOException {
    indent--;
    line("}");
  }

  private void line(String s) throws IOException {
    for (int i = 0; i < indent; i++) {
      out.write("    ");
    }
    out.write(s);
    out.write('\n');
  }

  private static String tuple(Vec3 v) {
    return tuple(v.x(), v.y(), v.z());
  }

  private static String tuple(double x, double y, double z) {
    return "(" + plain(x) + ", " + plain(y) + ", " + plain(z) + ")";
  }

  /** The shortest text that reads back as the same double. */
  private static String plain(double v) {
    return v == Math.rint(v) && Math.abs(v) < 1e15 ? Long.toString((long) v) : Double.toString(v);
  }

  private static String single(double v) {
    return plainFloat((float) v);
  }

  private static String plainFloat(float v) {
    return v == Math.rint(v) && Math.abs(v) < 1e7f ? Long.toString((long) v) : Float.toString(v);
  }

  private static String quoted(String s) {
    StringBuilder b = new StringBuilder("\"");
    for (int i = 0; i < s.length(); i++) {
      char c = s.charAt(i);
      if (c == '"' || c == '\\') {
        b.append('\\').append(c);
      } else {
        b.append(c < ' ' ? ' ' : c);
      }
    }
    return b.append('"').toString();
  }
}
