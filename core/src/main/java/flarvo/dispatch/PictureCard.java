package flarvo.dispatch;

import flarvo.convention.FrameMap;
import flarvo.format.SceneFormat;
import flarvo.report.Figures;
import flarvo.report.Note;
import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.PixelIntrinsics;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Texture;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import java.math.BigDecimal;
import java.math.MathContext;
import java.math.RoundingMode;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;

/**
 * A card of one size that fills the camera's picture on every frame: it goes with the camera, and
 * nearer or farther with the focal length. With {@code S} its width, {@code w} the picture's and
 * {@code fx} the focal length in pixels, it stands at {@code S · fx / w}.
 */
public final class PictureCard {

  /** Of the card's mesh, unless another mesh is called so. */
  public static final String NAME = "picture_card";

  /** What the card's mesh hangs in. */
  private static final String GROUP = "card";

  /** Metres; what a 32-bit float still places to a millimetre is far nearer. */
  static final double FARTHEST = 1e6;

  /** Behind the farthest place by as much as makes it clear which is in front. */
  private static final double MARGIN = 1.02;

  /** Where a shot has nothing that could stand in front of it. */
  private static final double WITHOUT_CONTENTS = 10;

  private static final MathContext TWO_FIGURES = new MathContext(2, RoundingMode.CEILING);

  private PictureCard() {}

  /** The name of a shot's card: one that no other mesh of it has. */
  public static String name(Iterable<Mesh> meshes) {
    Set<String> taken = new java.util.HashSet<>();
    meshes.forEach(m -> taken.add(m.name()));
    String n = NAME;
    for (int i = 2; taken.contains(n); i++) {
      n = NAME + "_" + i;
    }
    return n;
  }

  /**
   * A distance behind everything that the first camera has in front of it: trackers in its picture,
   * and the boxes around the meshes. In metres, rounded up to two figures.
   */
  public static double behindEverything(WorldShot shot) {
    ShotCamera camera = shot.camera().orElseThrow();
    double far =
        ClipFit.inPicture(camera, shot.trackers(), shot.picture()).map(ClipRange::far).orElse(0.0);
    Pinhole p = new Pinhole(camera, shot.picture());
    double[] at = new double[3];
    for (int f = camera.frames().first(); f <= camera.frames().last(); f++) {
      p.at(f);
      for (Mesh m : shot.meshes()) {
        for (Vec3 corner : corners(m)) {
          Vec3 there = m.moves() ? m.group().orElseThrow().at(f).toWorld(corner) : corner;
          p.project(there.x(), there.y(), there.z(), at);
          far = Math.max(far, at[2]);
        }
      }
    }
    return far > 0
        ? new BigDecimal(far * MARGIN).round(TWO_FIGURES).doubleValue()
        : WITHOUT_CONTENTS;
  }

  /**
   * Where the card of a delivery stands, in metres from the camera.
   *
   * @param metres where it is nearest
   * @param farthest where it is farthest, by a focal length that changes
   * @param behind what would be behind everything
   */
  record Place(double metres, double farthest, double behind) {

    /** The farthest distance that the camera has to leave in. */
    double reach() {
      return farthest * ClipFit.BEHIND_CARD;
    }
  }

  /** Empty for a delivery without a card, or of a shot without a camera. */
  static Optional<Place> place(WorldShot shot, Delivery delivery) {
    Contents contents = delivery.contents();
    if (!contents.has(Part.CARD)
        || shot.camera().isEmpty()
        || delivery.format().cannotCarry().contains(SceneFormat.MESHES)) {
      return Optional.empty();
    }
    ShotCamera c = shot.camera().get();
    double least = Double.MAX_VALUE;
    double most = 0;
    for (int f = c.frames().first(); f <= c.frames().last(); f++) {
      double fx = PixelIntrinsics.of(c.optics().at(f), shot.picture()).fx();
      least = Math.min(least, fx);
      most = Math.max(most, fx);
    }
    double behind = behindEverything(shot);
    double metres = contents.cardMetres().orElse(behind);
    return Optional.of(new Place(metres, metres * most / least, behind));
  }

  /** What a card means for a delivery: where it stands, and what of the camera it changes. */
  static List<Note> notes(Place place, WorldShot shot, Delivery delivery) {
    List<Note> notes = new ArrayList<>();
    boolean front = place.metres() < place.behind();
    notes.add(
        Note.changed(
            "picture card",
            "it stands "
                + Figures.of(place.metres())
                + " m from the camera"
                + (front
                    ? ", in front of some of the shot; behind everything is "
                        + Figures.of(place.behind())
                        + " m"
                    : "")));
    shot.camera()
        .flatMap(ShotCamera::clip)
        .filter(c -> c.far() < place.reach() && delivery.contents().has(Part.CAMERA))
        .ifPresent(
            c ->
                notes.add(
                    Note.changed(
                        "far clipping plane",
                        "from "
                            + Figures.of(c.far())
                            + " to "
                            + Figures.of(place.reach())
                            + " m, so that the picture card is seen")));
    return notes;
  }

  /**
   * The plates that go with a delivery, on the recipient's frames: those beside the file where they
   * are copied. A frame without a plate shows the one before it. Empty where no plates go with it.
   *
   * @param file where the delivery is written; the paths are relative to it
   */
  static Optional<Texture> texture(Shot whole, Delivery delivery, FrameMap map, Path file) {
    Optional<PlateSequence> plates = delivery.extract().of(whole).plates().stream().findFirst();
    if (plates.isEmpty()) {
      return Optional.empty();
    }
    PlateSequence p = plates.get();
    Map<Integer, Path> copies = Sidecars.of(Outgoing.of(whole), delivery, file).plates();
    NavigableMap<Integer, String> files = new TreeMap<>();
    FrameRange frames = map.recipientFrames();
    for (int f = frames.first(); f <= frames.last(); f++) {
      int plate = map.nearestPlate(f);
      boolean there = p.frames().contains(plate) && !p.missing().contains(plate);
      Path picture = copies.isEmpty() ? p.file(plate) : copies.get(plate);
      if (there && picture != null) {
        files.put(f, Dispatcher.relative(file, picture.toAbsolutePath().normalize()));
      }
    }
    return files.isEmpty()
        ? Optional.empty()
        : Optional.of(new Texture(files, p.role() == PlateRole.KEYED));
  }

  /** Of the box around a mesh, in the space that the mesh is in. */
  private static List<Vec3> corners(Mesh m) {
    double[] lo = {Double.MAX_VALUE, Double.MAX_VALUE, Double.MAX_VALUE};
    double[] hi = {-Double.MAX_VALUE, -Double.MAX_VALUE, -Double.MAX_VALUE};
    for (int i = 0; i < m.points(); i++) {
      double[] p = {m.x(i), m.y(i), m.z(i)};
      for (int k = 0; k < 3; k++) {
        lo[k] = Math.min(lo[k], p[k]);
        hi[k] = Math.max(hi[k], p[k]);
      }
    }
    List<Vec3> out = new ArrayList<>();
    for (int i = 0; i < 8 && m.points() > 0; i++) {
      out.add(
          new Vec3(
              (i & 1) == 0 ? lo[0] : hi[0],
              (i & 2) == 0 ? lo[1] : hi[1],
              (i & 4) == 0 ? lo[2] : hi[2]));
    }
    return out;
  }

  /**
   * The card of a camera, in the camera's space and frames.
   *
   * @param metres how far away it is where it is nearest
   * @param picture the whole of it is on the card
   */
  static Mesh of(ShotCamera camera, PictureSize picture, double metres, String name) {
    double least = Double.MAX_VALUE;
    for (int f = camera.frames().first(); f <= camera.frames().last(); f++) {
      least = Math.min(least, PixelIntrinsics.of(camera.optics().at(f), picture).fx());
    }
    double width = metres * picture.width() / least;
    PixelIntrinsics k = PixelIntrinsics.of(camera.optics().at(camera.frames().first()), picture);
    double height = width * picture.height() / picture.width() * k.fx() / k.fy();
    double x = width / 2;
    double y = height / 2;
    double[] corners = {-x, -y, 0, x, -y, 0, x, y, 0, -x, y, 0};
    PoseTrack poses = PoseTrack.of(camera.frames(), f -> pose(camera, picture, f, width));
    return Mesh.of(name, corners, new int[] {4}, new int[] {0, 1, 2, 3})
        .withUvs(new double[] {0, 0, 1, 0, 1, 1, 0, 1})
        .inGroup(Optional.of(Group.moving(GROUP, poses)));
  }

  /** The middle of the picture at the distance at which the card fills it. */
  private static Pose pose(ShotCamera camera, PictureSize picture, int frame, double width) {
    PixelIntrinsics k = PixelIntrinsics.of(camera.optics().at(frame), picture);
    double d = width * k.fx() / picture.width();
    Vec3 middle =
        new Vec3(
            (picture.width() / 2.0 - k.cx()) / k.fx() * d,
            (k.cy() - picture.height() / 2.0) / k.fy() * d,
            -d);
    Pose c = camera.poses().at(frame);
    return new Pose(c.toWorld(middle), c.rotation());
  }
}
