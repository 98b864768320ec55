package flarvo.note;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialect;
import flarvo.convention.FrameNumbering;
import flarvo.convention.RatePolicy;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Part;
import flarvo.format.gltf.GltfFormat;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.Optics;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.io.ByteArrayOutputStream;
import java.util.Base64;
import java.util.Optional;
import java.util.OptionalInt;

/** What the viewer of a page shows: the shot as GLB, its lens a frame, and small plates. */
final class ViewerData {

  private static final int PLATE_WIDTH = 480;
  private static final float QUALITY = 0.62f;

  /** About 2 MB of pictures; of longer shots every second frame, or fewer, is in the page. */
  private static final int MOST_PLATES = 150;

  /** Larger meshes stay out of a page that is to be mailed. */
  private static final long MOST_POINTS = 200_000;

  private ViewerData() {}

  /** Whether meshes are too large for a page. */
  static boolean leavesOutMeshes(WorldShot shot) {
    return shot.meshes().stream().mapToLong(Mesh::points).sum() > MOST_POINTS;
  }

  /** Every how many frames a plate is in the page; 0 without plates. */
  static int step(WorldShot shot) {
    return shot.plates().isEmpty() ? 0 : (shot.frames().count() + MOST_PLATES - 1) / MOST_PLATES;
  }

  /** Empty without a camera. */
  static Optional<ObjectNode> of(WorldShot shot, Progress progress) {
    Optional<ShotCamera> camera = shot.camera();
    if (camera.isEmpty()) {
      return Optional.empty();
    }
    FrameRange frames = shot.frames();
    ObjectNode o = new ObjectMapper().createObjectNode();
    o.put("first", frames.first()).put("last", frames.last());
    o.put("rateNum", shot.rate().num()).put("rateDen", shot.rate().den());
    o.put("width", shot.picture().width()).put("height", shot.picture().height());
    // How wide the picture is shown; its pixels are counted as they are.
    o.put("pixelAspect", shot.picture().pixelAspect());
    optics(o.putArray("optics"), camera.get(), frames);
    o.put("step", step(shot));
    ObjectNode plates = o.putObject("plates");
    Optional<PlateSequence> p = shot.plates().stream().findFirst();
    for (int f = frames.first(); p.isPresent() && f <= frames.last(); f += step(shot)) {
      progress.step(f - frames.first(), frames.count());
      int frame = f;
      NotePictures.jpeg(p.get(), f, PLATE_WIDTH, QUALITY)
          .ifPresent(uri -> plates.put(String.valueOf(frame), uri));
    }
    o.put("glb", Base64.getEncoder().encodeToString(glb(shot)));
    return Optional.of(o);
  }

  private static void optics(ArrayNode all, ShotCamera c, FrameRange frames) {
    int last = c.optics().isConstant() ? frames.first() : frames.last();
    for (int f = frames.first(); f <= last; f++) {
      Optics o = c.optics().at(c.frames().clamp(f));
      all.addArray()
          .add(o.focalLengthMm())
          .add(o.filmWidthMm())
          .add(o.filmHeightMm())
          .add(o.principalXMm())
          .add(o.principalYMm());
    }
  }

  /** From frame 0, where the format's 32-bit times are finest. */
  private static byte[] glb(WorldShot shot) {
    Dialect d =
        Dialect.CANONICAL.withFrames(
            new FrameNumbering(OptionalInt.of(0), Optional.empty(), RatePolicy.KEEP_FRAMES));
    Shot s = shot.contents().withPlates(java.util.List.of());
    Contents all = Contents.of(Part.CAMERA, Part.TRACKERS);
    if (!shot.meshes().isEmpty() && !leavesOutMeshes(shot)) {
      all = all.with(Part.GEOMETRY, true);
    }
    Delivery delivery = new Delivery("viewer", d, GltfFormat.binary(), all, "viewer.glb");
    ByteArrayOutputStream out = new ByteArrayOutputStream(1 << 16);
    Dispatcher.send(s, delivery, out, Progress.NONE);
    return out.toByteArray();
  }
}
