package flarvo.proof;

import flarvo.convention.FrameMap;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.Part;
import flarvo.dispatch.PictureCard;
import flarvo.dispatch.Sidecars;
import flarvo.format.SceneFormat;
import flarvo.report.Figures;
import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * Whether the picture card of a file shows every pixel of every plate where the camera has it: its
 * corners, by their texture coordinates, seen through the camera of the same file, and the pictures
 * that it names. Nothing here is taken from what wrote it.
 */
final class CardCheck {

  /** The name of the check, by which a proof of a card alone goes. */
  static final String NAME = "pictureCard";

  /** A texture coordinate counts as 0 or 1 within this. */
  private static final double AT_CORNER = 1e-5;

  /** Of a distance that was asked for; places come back as 32-bit floats. */
  private static final double RELATIVE = 1e-5;

  private final Shot whole;
  private final Delivery delivery;
  private final Path file;
  private final FrameMap map;
  private final Mesh card;
  private final ShotCamera camera;
  private final FrameRange frames;
  private double off;
  private int worst;
  private double nearest = Double.MAX_VALUE;
  private double farthest;

  /**
   * @param whole the shot before anything was cut from it
   * @param card as it was found
   * @param camera what it is seen through, on the card's frames
   */
  CardCheck(Shot whole, Delivery delivery, Path file, FrameMap map, Mesh card, ShotCamera camera) {
    this.whole = whole;
    this.delivery = delivery;
    this.file = file;
    this.map = map;
    this.card = card;
    this.camera = camera;
    this.frames = camera.frames();
  }

  /** Where a delivery should have one, and its format can. */
  static boolean isDue(Contents contents, SceneFormat format, WorldShot source) {
    return contents.has(Part.CARD)
        && source.camera().isPresent()
        && !format.cannotCarry().contains(SceneFormat.MESHES);
  }

  /** What is said where there is no card. */
  static Check missing() {
    return new Check(NAME, false, PictureCard.NAME, "no mesh of this name");
  }

  /**
   * @param limitPx how far a corner may be from the picture's
   */
  List<Check> all(PictureSize picture, double limitPx) {
    List<Check> out = new ArrayList<>();
    if (!coversPicture()) {
      out.add(
          new Check(NAME, false, "texture coordinates from 0 to 1 in both directions", "others"));
      return out;
    }
    measure(picture);
    out.add(
        new Check(
            NAME,
            off <= limitPx,
            String.format(Locale.ROOT, "fills the picture to %.4f px", limitPx),
            String.format(Locale.ROOT, "%.6f px off at frame %d", off, worst)));
    out.add(distance());
    pictures().ifPresent(out::add);
    return out;
  }

  private boolean coversPicture() {
    double[] uvs = card.uvs();
    boolean[] seen = new boolean[4];
    for (int i = 0; i + 1 < uvs.length; i += 2) {
      boolean u1 = Math.abs(uvs[i] - 1) < AT_CORNER;
      boolean v1 = Math.abs(uvs[i + 1] - 1) < AT_CORNER;
      boolean u = u1 || Math.abs(uvs[i]) < AT_CORNER;
      boolean v = v1 || Math.abs(uvs[i + 1]) < AT_CORNER;
      if (u && v) {
        seen[(u1 ? 1 : 0) + (v1 ? 2 : 0)] = true;
      }
    }
    return seen[0] && seen[1] && seen[2] && seen[3];
  }

  private void measure(PictureSize picture) {
    int[] points = card.faceIndices();
    double[] uvs = card.uvs();
    double[] px = new double[3];
    Pinhole eye = new Pinhole(camera, picture);
    for (int f = frames.first(); f <= frames.last(); f++) {
      eye.at(f);
      for (int i = 0; i < points.length; i++) {
        Vec3 p = card.position(points[i], f);
        eye.project(p.x(), p.y(), p.z(), px);
        double x = uvs[2 * i] * picture.width();
        double y = (1 - uvs[2 * i + 1]) * picture.height();
        double d = Math.hypot(px[0] - x, px[1] - y);
        if (!(d <= off)) {
          off = Double.isNaN(d) ? Double.POSITIVE_INFINITY : d;
          worst = f;
        }
        nearest = Math.min(nearest, px[2]);
        farthest = Math.max(farthest, px[2]);
      }
    }
  }

  /** As it was asked for, and between the camera's clipping planes. */
  private Check distance() {
    double metres = delivery.contents().cardMetres().orElse(Double.NaN);
    boolean asked = Double.isNaN(metres) || Math.abs(nearest / metres - 1) < RELATIVE;
    Optional<ClipRange> clip =
        delivery.contents().has(Part.CAMERA) ? camera.clip() : Optional.empty();
    boolean seen = clip.map(c -> nearest >= c.near() && farthest <= c.far()).orElse(nearest > 0);
    return new Check(
        "cardDistance",
        asked && seen,
        (Double.isNaN(metres) ? "" : Figures.of(metres) + " m, ")
            + clip.map(c -> "within " + Figures.of(c.near()) + " to " + Figures.of(c.far()) + " m")
                .orElse("in front of the camera"),
        Figures.of(nearest) + " to " + Figures.of(farthest) + " m");
  }

  /** Empty where there are no plates, or the format names no pictures of their kind. */
  private Optional<Check> pictures() {
    Optional<PlateSequence> plates = delivery.extract().of(whole).plates().stream().findFirst();
    List<String> never = delivery.format().cannotCarry();
    if (plates.isEmpty()
        || never.contains(SceneFormat.TEXTURES)
        || !delivery.format().holdsPicture(plates.get().suffix())) {
      return Optional.empty();
    }
    PlateSequence p = plates.get();
    Map<Integer, Path> copies = Sidecars.of(Outgoing.of(whole), delivery, file).plates();
    FrameRange due = map.recipientFrames();
    int last = never.contains(SceneFormat.SEQUENCES) ? due.first() : due.last();
    int named = 0;
    for (int f = due.first(); f <= last; f++) {
      int plate = map.nearestPlate(f);
      if (!p.frames().contains(plate) || p.missing().contains(plate)) {
        continue;
      }
      int recipient = f;
      Path expected = delivery.contents().has(Part.PLATES) ? copies.get(plate) : p.file(plate);
      String wanted = expected.toAbsolutePath().normalize().toString().replace('\\', '/');
      String found = card.texture().map(t -> t.at(recipient)).orElse("no picture");
      boolean there = Files.isRegularFile(expected);
      if (!found.equals(wanted) || !there) {
        return Optional.of(
            new Check(
                "cardPictures",
                false,
                "frame " + f + ": " + wanted,
                found.equals(wanted) ? "it is not there" : found));
      }
      named++;
    }
    return Optional.of(
        new Check(
            "cardPictures",
            named > 0,
            "the plate of every frame",
            named == 0 ? "no frame has a plate" : named + " plates, each on its frame"));
  }
}
