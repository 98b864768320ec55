package flarvo.dispatch;

import flarvo.convention.Dialect;
import flarvo.convention.FrameMap;
import flarvo.convention.SpaceChange;
import flarvo.format.FileCamera;
import flarvo.format.FileParent;
import flarvo.format.FileScene;
import flarvo.format.PlateMention;
import flarvo.format.SceneFormat;
import flarvo.format.Sourced;
import flarvo.motion.Parents;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.ClipRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.WorldShot;
import flarvo.work.AtomicFile;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Writes deliveries. */
public final class Dispatcher {

  /** What was written, and what was lost or changed on the way. */
  public record Sent(Path file, FrameMap frames, Dialect spoken, List<Note> notes) {
    public Sent {
      notes = List.copyOf(notes);
    }

    /** With notes on what lies beside it. */
    public Sent with(List<Note> more) {
      List<Note> all = new ArrayList<>(notes);
      all.addAll(more);
      return new Sent(file, frames, spoken, all);
    }
  }

  private Dispatcher() {}

  /**
   * Brings the levelled shot into the recipient's dialect and writes it.
   *
   * @throws InputError when the shot lacks what the delivery wants, or the disk refuses
   */
  public static Sent send(Shot whole, Delivery delivery, Path file, Progress progress) {
    Shot shot = delivery.extract().of(whole);
    SceneFormat format = delivery.format();
    Dialect spoken = format.nearestSupported(delivery.dialect()).spoken();
    FrameMap map = spoken.frames().mapFor(shot.frames(), shot.rate());
    Optional<PictureCard.Place> card = PictureCard.place(shot.levelled(), delivery);
    FileScene scene = scene(whole, shot.levelled(), delivery, spoken, map, file, card);
    List<Note> notes = notes(shot, delivery, card);
    List<AtomicFile.Target> files = new ArrayList<>();
    files.add(
        new AtomicFile.Target(
            file, out -> notes.addAll(format.write(scene, spoken, out, progress))));
    if (!companions(shot, delivery, file).isEmpty()) {
      for (SceneFormat.Companion c : format.companions()) {
        files.add(
            new AtomicFile.Target(
                DeliveryPlace.beside(file, c.suffix()),
                out -> c.write(scene, spoken, out, progress)));
      }
    }
    AtomicFile.write(files);
    return new Sent(file, map, spoken, notes);
  }

  /**
   * The same into a stream, which stays open.
   *
   * @throws InputError when the delivery is more than one file
   */
  public static Sent send(Shot whole, Delivery delivery, OutputStream out, Progress progress) {
    Shot shot = delivery.extract().of(whole);
    Path nowhere = Path.of(delivery.format().extensions().get(0));
    if (!companions(shot, delivery, nowhere).isEmpty()) {
      throw InputError.words(
          "this delivery is more than one file", "Give a file name, or --only camera");
    }
    SceneFormat format = delivery.format();
    Dialect spoken = format.nearestSupported(delivery.dialect()).spoken();
    FrameMap map = spoken.frames().mapFor(shot.frames(), shot.rate());
    Optional<PictureCard.Place> card = PictureCard.place(shot.levelled(), delivery);
    FileScene scene = scene(whole, shot.levelled(), delivery, spoken, map, nowhere, card);
    List<Note> notes = notes(shot, delivery, card);
    try {
      notes.addAll(format.write(scene, spoken, out, progress));
      out.flush();
    } catch (IOException e) {
      throw new InputError(
          "-", "", "cannot be written (" + e.getMessage() + ")", "Is its reader gone?", e);
    }
    return new Sent(nowhere, map, spoken, notes);
  }

  /** The files that a delivery writes beside its own, such as a table of trackers. */
  public static List<Path> companions(Shot shot, Delivery delivery, Path file) {
    // Without a camera the trackers are the file itself.
    boolean both = delivery.contents().has(Part.TRACKERS) && delivery.contents().has(Part.CAMERA);
    boolean still = delivery.format().cannotCarry().contains(SceneFormat.MOVING_GROUPS);
    boolean any = shot.trackers().stream().anyMatch(t -> t.size() > 0 && !(still && t.moves()));
    return both && any && !shot.cameras().isEmpty()
        ? delivery.format().companions().stream()
            .map(c -> DeliveryPlace.beside(file, c.suffix()))
            .toList()
        : List.of();
  }

  /**
   * What is lost or changed when a delivery is written, without writing it: the same list that
   * {@link #send} answers with.
   *
   * @param file where it would be, for what is stated relative to it
   */
  public static List<Note> losses(Shot whole, Delivery delivery, Path file) {
    Shot shot = delivery.extract().of(whole);
    SceneFormat format = delivery.format();
    Dialect spoken = format.nearestSupported(delivery.dialect()).spoken();
    FrameMap map = spoken.frames().mapFor(shot.frames(), shot.rate());
    Optional<PictureCard.Place> card = PictureCard.place(shot.levelled(), delivery);
    List<Note> notes = notes(shot, delivery, card);
    FileScene scene = scene(whole, shot.levelled(), delivery, spoken, map, file, card);
    try {
      notes.addAll(format.write(scene, spoken, OutputStream.nullOutputStream(), Progress.NONE));
    } catch (IOException e) {
      throw new UncheckedIOException(e); // there is no disk to refuse
    }
    return notes;
  }

  private static List<Note> notes(Shot shot, Delivery delivery, Optional<PictureCard.Place> card) {
    List<Note> notes = new ArrayList<>(Losses.of(shot, delivery));
    card.ifPresent(p -> notes.addAll(PictureCard.notes(p, shot.levelled(), delivery)));
    return notes;
  }

  private static FileScene scene(
      Shot whole,
      WorldShot shot,
      Delivery delivery,
      Dialect spoken,
      FrameMap map,
      Path file,
      Optional<PictureCard.Place> card) {
    SpaceChange change = spoken.spaceChange(shot.picture());
    Parents parents = delivery.extract().recast().parents();
    FileScene.Builder b = new FileScene.Builder();
    b.rate = Sourced.said(map.recipientRate(), "");
    b.range = Sourced.said(map.recipientFrames(), "");
    b.picture = Sourced.said(shot.picture(), "");
    b.unit = Sourced.said(spoken.unit(), "");
    b.up = Sourced.said(spoken.world().up(), "");
    b.handedness = Sourced.said(spoken.handedness(), "");
    b.world = spoken.world();
    if (delivery.contents().has(Part.CAMERA)) {
      if (shot.cameras().isEmpty()) {
        throw InputError.words("the shot has no camera to send", "Add one first");
      }
      double reach = card.map(PictureCard.Place::reach).orElse(0.0);
      boolean clips = !delivery.format().cannotCarry().contains(SceneFormat.CLIP);
      for (ShotCamera c : shot.cameras()) {
        ShotCamera there = clips ? clipped(c, shot, reach) : c.withoutClip();
        b.cameras.add(camera(there, shot, spoken, change, map));
      }
      parents
          .ofCamera(shot.contents())
          .map(g -> change.toDialect(Resampler.onto(g, map)))
          .ifPresent(g -> b.cameras.set(0, b.cameras.get(0).inGroup(Optional.of(g))));
      for (int i = 1; i < b.cameras.size(); i++) {
        b.cameras.set(i, b.cameras.get(i).inGroup(parents.under().map(p -> Group.still(p.name()))));
      }
    }
    if (delivery.contents().has(Part.TRACKERS)) {
      boolean clouds = !delivery.format().cannotCarry().contains(SceneFormat.CLOUDS);
      shot.trackers()
          .forEach(
              t ->
                  b.trackers.add(
                      change.toDialect(Resampler.onto(t.asCloud(clouds && t.isCloud()), map))));
    }
    if (delivery.contents().hasMeshes()) {
      shot.meshes().forEach(m -> b.meshes.add(mesh(m, change, map, file)));
    }
    card.ifPresent(
        p -> b.meshes.add(change.toDialect(card(whole, shot, delivery, map, file, p.metres()))));
    if (!delivery.format().cannotCarry().contains(SceneFormat.PARENTS)) {
      parents
          .under()
          .ifPresent(p -> b.parents.add(new FileParent(p.name(), change.toDialect(p.place()))));
    }
    boolean copied = delivery.contents().has(Part.PLATES);
    b.plate = plate(shot, file, copied).orElse(null);
    return b.build();
  }

  private static Mesh mesh(Mesh m, SpaceChange change, FrameMap map, Path file) {
    Mesh there = change.toDialect(Resampler.onto(m, map));
    return there.withTexture(
        there.texture().map(t -> Resampler.onto(t, map).map(p -> relative(file, p))));
  }

  /** On the recipient's frames, with the plates that go with the delivery. */
  private static Mesh card(
      Shot whole, WorldShot shot, Delivery delivery, FrameMap map, Path file, double metres) {
    Mesh card =
        PictureCard.of(
            Resampler.onto(shot.camera().orElseThrow(), map),
            shot.picture(),
            metres,
            PictureCard.name(shot.meshes()));
    return card.withTexture(PictureCard.texture(whole, delivery, map, file));
  }

  /** With its own clipping planes, or such that fit; what reaches far is not cut off. */
  private static ShotCamera clipped(ShotCamera camera, WorldShot shot, double reach) {
    ClipRange clip =
        camera.clip().orElseGet(() -> ClipFit.around(camera, shot.trackers(), shot.picture()));
    return camera.withClip(new ClipRange(clip.near(), Math.max(clip.far(), reach)));
  }

  private static FileCamera camera(
      ShotCamera camera, WorldShot shot, Dialect spoken, SpaceChange change, FrameMap map) {
    ShotCamera timed = Resampler.onto(camera, map);
    return FileCamera.whole(
        change
            .toDialect(timed)
            .withOptics(timed.optics().map(o -> spoken.film().toRecipient(o, shot.picture()))));
  }

  /** The plates that go with the camera, the only ones that are left here. */
  private static Optional<PlateMention> plate(WorldShot shot, Path file, boolean copied) {
    return shot.plates().stream()
        .findFirst()
        .map(
            s ->
                new PlateMention(
                    copied
                        ? DeliveryPlace.plates(file).getFileName() + "/" + s.pattern()
                        : relative(file, s),
                    s.role()));
  }

  private static String relative(Path file, PlateSequence s) {
    return relative(file, s.folder().toAbsolutePath().normalize()) + "/" + s.pattern();
  }

  /** An address stays what it is. */
  private static String relative(Path file, String picture) {
    if (picture.contains("://")) {
      return picture;
    }
    try {
      Path to = Path.of(picture);
      return to.isAbsolute() ? relative(file, to.normalize()) : picture;
    } catch (InvalidPathException e) {
      return picture;
    }
  }

  /** From the folder of a file, where both are on one volume; with slashes. */
  static String relative(Path file, Path to) {
    Path from = file.toAbsolutePath().getParent();
    String path =
        from.getRoot().equals(to.getRoot())
            ? from.normalize().relativize(to).toString()
            : to.toString();
    return path.replace('\\', '/');
  }
}
