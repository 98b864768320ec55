package flarvo.proof;

import flarvo.convention.Dialect;
import flarvo.convention.FrameMap;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Extract;
import flarvo.dispatch.Losses;
import flarvo.dispatch.Part;
import flarvo.dispatch.PictureCard;
import flarvo.motion.Parents;
import flarvo.receive.InFile;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.report.Figures;
import flarvo.report.Note;
import flarvo.scene.Mesh;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Reads a delivered file back from disk as its recipient would, and compares it with the shot. */
public final class Proof {

  private Proof() {}

  /** Proves a delivery of camera and trackers. */
  public static ProofReport of(
      Shot shot, Path delivered, Dialect to, double limitPx, Progress progress) {
    return of(shot, delivered, to, Contents.CAMERA_AND_TRACKERS, limitPx, progress);
  }

  /**
   * Reads a delivered file back as its recipient would and compares it with the source. Trackers
   * that were sent alone are seen through the source's camera; a camera that was sent alone sees
   * the source's trackers. What should be in the file and is not does not hold.
   *
   * @param shot what was sent, in solve space; its level is applied here
   * @param to the recipient's dialect
   * @param limitPx largest drift, in pixels of the shot's picture, with which it still holds
   * @throws flarvo.report.InputError when the file cannot be read
   */
  public static ProofReport of(
      Shot shot, Path delivered, Dialect to, Contents contents, double limitPx, Progress progress) {
    return of(shot, delivered, to, contents, Extract.WHOLE, limitPx, progress);
  }

  /**
   * Reads a delivered file back as its recipient would and compares it with the source. Trackers
   * that were sent alone are seen through the source's camera; a camera that was sent alone sees
   * the source's trackers. What should be in the file and is not does not hold.
   *
   * @param whole what was sent, in solve space; its level is applied here
   * @param to the recipient's dialect
   * @param extract what of the shot was delivered
   * @param limitPx largest drift, in pixels of the shot's picture, with which it still holds
   * @throws flarvo.report.InputError when the file cannot be read
   */
  public static ProofReport of(
      Shot whole,
      Path delivered,
      Dialect to,
      Contents contents,
      Extract extract,
      double limitPx,
      Progress progress) {
    ReceivedFile file = ReceivedFile.read(delivered, Optional.of(to), progress);
    return of(whole, file, to, contents, extract, limitPx, Optional.empty(), progress);
  }

  /**
   * The same of a file that was read from disk already.
   *
   * @param file as its recipient reads it
   * @param written what its writer lost or changed; where empty, it is written once more to nowhere
   */
  static ProofReport of(
      Shot whole,
      ReceivedFile file,
      Dialect to,
      Contents contents,
      Extract extract,
      double limitPx,
      Optional<List<Note>> written,
      Progress progress) {
    Shot shot = extract.of(whole);
    WorldShot source = shot.levelled();
    FrameMap map = to.frames().mapFor(source.frames(), source.rate());
    List<InFile<ShotCamera>> cameras =
        file.cameras(source.picture(), IntakeOptions.NONE.withSize(source.picture()));
    List<TrackerSet> trackers =
        file.trackers(source.picture(), IntakeOptions.NONE).stream()
            .map(t -> DeliveredTime.trackers(t, map))
            .toList();
    List<InFile<Mesh>> came = file.meshes(source.picture(), IntakeOptions.NONE);
    Optional<InFile<Mesh>> card = card(came, contents, source);
    List<Mesh> meshes =
        came.stream()
            .filter(m -> card.isEmpty() || !m.equals(card.get()))
            .map(m -> DeliveredTime.mesh(m, map))
            .toList();
    Optional<ShotCamera> seenBy =
        contents.has(Part.CAMERA)
            ? cameras.stream().findFirst().map(c -> DeliveredTime.camera(c, map))
            : source.camera();
    List<TrackerSet> seen = contents.has(Part.TRACKERS) ? trackers : source.trackers();
    List<Note> notes = notes(whole, shot, file, to, contents, extract, map, written);
    Optional<DriftReport> drift =
        source.camera().isEmpty() || !(contents.has(Part.CAMERA) || contents.has(Part.TRACKERS))
            ? Optional.empty() // geometry alone is compared in space
            : seenBy.map(c -> drift(source, c, contents, seen, progress, notes));
    List<Check> checks =
        new Checks(source, file, to, contents, map, cameras, trackers, meshes).all();
    if (!extract.recast().parents().equals(Parents.NONE)) {
      checks.addAll(ParentCheck.of(extract.recast().parents(), shot, file, to, contents));
    }
    Optional<PlateSequence> grown =
        shot.plates().stream().filter(p -> !shot.picture().equals(whole.picture())).findFirst();
    if (contents.has(Part.CAMERA) && grown.isPresent() && seenBy.isPresent()) {
      checks.add(
          OverscanCheck.of(
              extract.allPlates(whole).levelled(), grown.get(), seenBy.get(), limitPx));
    }
    // Of the file only: what is not in it would agree with itself.
    boolean projects = contents.has(Part.CAMERA) || contents.has(Part.TRACKERS);
    List<Mesh> solids = contents.hasMeshes() ? meshes : List.of();
    Optional<ShotCamera> eye = projects ? seenBy : source.camera();
    boolean sees = eye.isPresent() && source.camera().isPresent();
    if (sees && (projects || !solids.isEmpty())) {
      List<TrackerSet> points = projects ? seen : List.of();
      picture(extract, whole, source, eye.get(), points, solids, limitPx).ifPresent(checks::add);
    }
    if (CardCheck.isDue(contents, file.format(), source)) {
      Delivery d = new Delivery(to.name(), to, file.format(), contents, extract, "");
      Optional<ShotCamera> through =
          contents.has(Part.CAMERA)
              ? cameras.stream().findFirst().map(InFile::inFile)
              : source.camera();
      if (card.isEmpty() || through.isEmpty()) {
        checks.add(CardCheck.missing());
      } else {
        Mesh there =
            contents.has(Part.CAMERA)
                ? card.get().inFile()
                : DeliveredTime.mesh(card.get(), map).withTexture(card.get().inFile().texture());
        checks.addAll(
            new CardCheck(whole, d, file.path(), map, there, through.get())
                .all(source.picture(), limitPx));
      }
    }
    if (contents.has(Part.CAMERA)) {
      checks.addAll(others(source, cameras, map, seen, limitPx, progress));
    }
    return new ProofReport(drift, limitPx, checks, notes);
  }

  private static Optional<InFile<Mesh>> card(
      List<InFile<Mesh>> came, Contents contents, WorldShot source) {
    String name = PictureCard.name(source.meshes());
    return contents.has(Part.CARD)
        ? came.stream().filter(m -> m.inFile().name().equals(name)).findFirst()
        : Optional.empty();
  }

  /** Against the shot before it was recast or made longer; empty where it was not. */
  private static Optional<Check> picture(
      Extract extract,
      Shot whole,
      WorldShot source,
      ShotCamera camera,
      List<TrackerSet> seen,
      List<Mesh> solids,
      double limitPx) {
    if (extract.recast().isNone() && !extract.hasHandles()) {
      return Optional.empty();
    }
    WorldShot before =
        extract
            .plain()
            .leavingOff(Math.max(0, extract.head()), Math.max(0, extract.tail()))
            .of(whole)
            .levelled();
    if (before.trackerCount() > 0 || !solids.isEmpty()) {
      return Optional.of(
          PictureCheck.of(before, extract.recast(), source, camera, seen, solids, limitPx));
    }
    WorldShot probed = Probes.in(before);
    List<TrackerSet> there = extract.recast().of(probed.contents()).trackers();
    return Optional.of(
        PictureCheck.of(probed, extract.recast(), source, camera, there, solids, limitPx));
  }

  /** Where no tracker can be compared, a camera is measured on points placed in its view. */
  private static DriftReport drift(
      WorldShot source,
      ShotCamera found,
      Contents contents,
      List<TrackerSet> seen,
      Progress progress,
      List<Note> notes) {
    DriftReport d = new DriftMeter(source).measure(found, seen, progress);
    boolean none = source.trackerCount() == 0 || !contents.has(Part.TRACKERS);
    if (d.compared() > 0 || !none) {
      return d;
    }
    WorldShot probed = Probes.in(source);
    notes.add(
        Note.assumed(
            "drift",
            "no tracker is seen, so the camera was measured on "
                + probed.trackerCount()
                + " points placed in its view"));
    return new DriftMeter(probed).measure(found, probed.trackers(), progress);
  }

  /** The drift through every camera but the first, which has the report to itself. */
  private static List<Check> others(
      WorldShot source,
      List<InFile<ShotCamera>> cameras,
      FrameMap map,
      List<TrackerSet> seen,
      double limitPx,
      Progress progress) {
    List<Check> out = new ArrayList<>();
    for (int i = 1; i < Math.min(source.cameras().size(), cameras.size()); i++) {
      ShotCamera sent = source.cameras().get(i);
      ShotCamera found = DeliveredTime.camera(cameras.get(i), map);
      DriftReport d = new DriftMeter(source).measure(sent, found, seen, progress);
      out.add(
          new Check(
              "camera " + sent.name(),
              d.compared() > 0 && d.maxPx() <= limitPx,
              String.format(Locale.ROOT, "at most %.4f px", limitPx),
              d.compared() == 0
                  ? "no tracker to compare with"
                  : String.format(Locale.ROOT, "%.6f px", d.maxPx())));
    }
    return out;
  }

  /** Losses, and what the recipient will assume because the file cannot say it. */
  private static List<Note> notes(
      Shot whole,
      Shot shot,
      ReceivedFile file,
      Dialect to,
      Contents contents,
      Extract extract,
      FrameMap map,
      Optional<List<Note>> written) {
    List<Note> notes =
        new ArrayList<>(
            written.isPresent()
                ? written.get()
                : file.format().writes()
                        && (!contents.has(Part.CAMERA) || shot.camera().isPresent())
                    ? Dispatcher.losses(
                        whole,
                        new Delivery(to.name(), to, file.format(), contents, extract, ""),
                        file.path())
                    : Losses.of(shot, file.format(), to));
    if (extract.recast().parents().under().isEmpty()) {
      file.scene().parents().stream()
          .filter(p -> Math.abs(p.place().scale() - 1) > 1e-6)
          .findFirst()
          .ifPresent(
              p ->
                  notes.add(
                      Note.changed(
                          p.name(),
                          "this parent is scaled "
                              + Figures.of(p.place().scale())
                              + " in the file; the picture counts it")));
    }
    boolean rateless = file.scene().rate().isEmpty() || Checks.isTimeless(file.scene());
    if (rateless && !to.defaults().rate().equals(map.recipientRate())) {
      notes.add(
          Note.assumed(
              "rate",
              "the file states none, so the recipient takes "
                  + to.defaults().rate().display()
                  + "; set it to "
                  + map.recipientRate()));
    }
    // A pixel space has no unit to be set.
    boolean unitless = to.pixels().isPresent();
    if (!unitless && file.scene().unit().isEmpty() && !to.defaults().unit().equals(to.unit())) {
      notes.add(
          Note.assumed(
              "unit",
              "the file states none, so the recipient takes "
                  + to.defaults().unit()
                  + "; set it to "
                  + to.unit()));
    }
    if (file.scene().range().isEmpty() && !to.defaults().frames().equals(map.recipientFrames())) {
      notes.add(
          Note.assumed(
              "frame range",
              "the file states none, so the recipient shows "
                  + to.defaults().frames()
                  + "; set it to "
                  + map.recipientFrames()));
    }
    return notes;
  }
}
