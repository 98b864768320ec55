package flarvo.recipient;

import flarvo.convention.Dialect;
import flarvo.convention.SceneSetting;
import flarvo.convention.SpaceChange;
import flarvo.proof.DriftMeter;
import flarvo.proof.DriftReport;
import flarvo.proof.ProofReport;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.scene.Fraction;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;

/**
 * A simulated recipient. What a file states counts, unless the format has no agreed place for it or
 * the recipient's import ignores it; then its scene keeps what it is set to. The first picture of
 * the plate lies on the scene's first frame; a recipient that counts the plate's own frames lays
 * each picture on its number.
 */
public final class StandIn {

  /** Settings that have a part in where a point is seen. */
  private static final Set<Setting> IN_PICTURE =
      EnumSet.of(
          Setting.RATE,
          Setting.FRAME_POLICY,
          Setting.FIRST_FRAME,
          Setting.CAMERA_AXES,
          Setting.FILM_BACK,
          Setting.FIT,
          Setting.SHIFT,
          Setting.PICTURE);

  /** Settings to make even where every point is in its place: the speed, and what is rendered. */
  private static final Set<Setting> SAID_ANYWAY = EnumSet.of(Setting.RATE, Setting.PICTURE);

  private final ReceivedFile came;
  private final ReceivedFile file;
  private final Dialect own;
  private final Meant meant;
  private final OnPlate on;
  private final Values right;
  private final Values believed;
  private final WorldShot probed;

  private StandIn(ReceivedFile came, Dialect own, Meant meant) {
    this.came = came;
    this.own = own;
    this.meant = meant;
    Set<SceneSetting> overlooked = EnumSet.allOf(SceneSetting.class);
    overlooked.removeAll(came.format().states());
    overlooked.addAll(own.defaults().ignores());
    this.file =
        new ReceivedFile(
            came.path(), came.format(), came.scene().without(overlooked), Optional.of(own));
    WorldShot source = meant.source();
    Rate counted = came.scene().rate().map(r -> r.value()).orElse(meant.frames().recipientRate());
    this.on = new OnPlate(file, source.frames(), source.rate(), counted, source.picture());
    this.right =
        new Values(
            meant.frames().recipientRate(),
            meant.frames().recipientFirst(),
            meant.frames().recipientFrames(),
            meant.frames().policy(),
            Meant.withShift(came.format().nearestSupported(meant.dialect()).spoken()),
            source.picture());
    this.believed = believed();
    this.probed = Probed.of(source);
  }

  /**
   * Opens a file as a recipient would, and compares with what was meant.
   *
   * @param own the recipient's dialect, as it speaks and not as the delivery was set
   */
  public static PlainImport open(ReceivedFile file, Dialect own, Meant meant, Progress progress) {
    return of(file, own, meant).imported(progress);
  }

  /** A recipient who has opened a file. */
  static StandIn of(ReceivedFile file, Dialect own, Meant meant) {
    return new StandIn(file, own, meant);
  }

  private Values believed() {
    Dialect reading = file.reading();
    Optional<Rate> rate = stated(file.scene().rate());
    Optional<FrameRange> range = stated(file.scene().range());
    boolean numbered = own.frames().firstFrame().isEmpty();
    int first =
        numbered ? meant.source().frames().first() : range.orElse(own.defaults().frames()).first();
    return new Values(
        rate.orElse(own.defaults().rate()),
        first,
        range.orElse(own.defaults().frames()),
        own.frames().policy(),
        reading,
        stated(file.scene().picture()).orElse(own.defaults().picture()));
  }

  private static <T> Optional<T> stated(Optional<flarvo.format.Sourced<T>> fact) {
    return fact.filter(f -> !f.assumed()).map(f -> f.value());
  }

  /** What became of it, against what was meant. */
  PlainImport imported(Progress progress) {
    Optional<DriftReport> drift = drift(believed, progress);
    WorldShift world =
        WorldShift.between(right.reading(), believed.reading(), meant.source().picture());
    Map<Setting, OptionalDouble> shares = shares(drift, progress);
    BiteWords words = new BiteWords(own, meant, file.format(), right, believed);
    List<Bite> bites = new ArrayList<>();
    shares.forEach((s, px) -> words.of(s, px).ifPresent(bites::add));
    bites.sort(Comparator.comparing(b -> !b.harms()));
    return new PlainImport(
        file.path(),
        own,
        new TakenSettings(came, file, own, believed).all(),
        believed.rate(),
        believed.first(),
        believed.range(),
        drift,
        drift(right, progress).map(DriftReport::maxPx).orElse(Double.NaN),
        world,
        bites,
        seen());
  }

  /**
   * The settings that differ in effect. Where all together drift and none does alone, each that
   * differs is to blame; where all together do not, as with a film back and the fit that goes with
   * it, none is.
   */
  private Map<Setting, OptionalDouble> shares(Optional<DriftReport> all, Progress progress) {
    Map<Setting, OptionalDouble> out = new EnumMap<>(Setting.class);
    boolean off = all.isPresent() && !(all.get().maxPx() <= ProofReport.USUAL_LIMIT_PX);
    Map<Setting, OptionalDouble> quiet = new EnumMap<>(Setting.class);
    boolean found = false;
    for (Setting s : Setting.values()) {
      if (right.agrees(s, believed)) {
        continue;
      }
      if (!IN_PICTURE.contains(s)) {
        out.put(s, OptionalDouble.empty());
        continue;
      }
      Optional<DriftReport> one = drift(right.with(s, believed), progress);
      double px = one.map(DriftReport::maxPx).orElse(0.0);
      if (!off || px <= ProofReport.USUAL_LIMIT_PX) {
        quiet.put(s, s == Setting.RATE ? OptionalDouble.empty() : OptionalDouble.of(px));
      } else {
        out.put(s, one.isEmpty() ? OptionalDouble.empty() : OptionalDouble.of(px));
        found = true;
      }
    }
    if (off && !found) {
      out.putAll(quiet);
    } else {
      quiet.keySet().stream()
          .filter(SAID_ANYWAY::contains)
          .forEach(s -> out.put(s, OptionalDouble.empty()));
    }
    return out;
  }

  private Optional<DriftReport> drift(Values scene, Progress progress) {
    List<ShotCamera> cameras = on.cameras(scene);
    if (cameras.isEmpty() || probed.cameras().isEmpty()) {
      return Optional.empty();
    }
    List<TrackerSet> trackers = on.trackers(scene);
    if (trackers.isEmpty()) {
      trackers = carried(probed.trackers(), scene);
    }
    DriftReport d = new DriftMeter(probed).measure(cameras.get(0), trackers, progress);
    return d.compared() == 0 ? Optional.empty() : Optional.of(d);
  }

  /** Points that stand where they were meant, as the recipient has them. */
  List<TrackerSet> carried(List<TrackerSet> meantAt) {
    return carried(meantAt, believed);
  }

  private List<TrackerSet> carried(List<TrackerSet> meantAt, Values scene) {
    SpaceChange a = right.reading().spaceChange(probed.picture());
    SpaceChange b = scene.reading().spaceChange(probed.picture());
    return meantAt.stream().map(t -> b.toCanonical(a.toDialect(t))).toList();
  }

  /** The recipient's scene on its own frames, which is what it saves. */
  WorldShot scene() {
    WorldShot s = meant.source();
    Dialect d = believed.reading();
    FrameRange range = believed.range();
    return new WorldShot(
        new Shot(
            s.name(),
            // The numbers of a pixel space are kept, whatever the scene renders.
            d.pixels().isPresent() ? s.picture() : believed.picture(),
            believed.rate(),
            range,
            range.first(),
            file.cameras(d, s.picture(), believed.picture(), IntakeOptions.NONE).stream()
                .map(c -> OnPlate.camera(c, range, this::atScene))
                .toList(),
            file.trackers(d, s.picture()).stream()
                .map(t -> OnPlate.trackers(t, range, this::atScene))
                .toList(),
            Observations.NONE,
            List.of(),
            Similarity.IDENTITY));
  }

  private Fraction atScene(int frame) {
    return on.atScene(Fraction.of(frame), believed);
  }

  /** Frames of the scene that show the plate and lie outside what is saved. */
  Optional<FrameRange> lost() {
    FrameRange plate = meant.source().frames();
    int first = Math.toIntExact(on.sceneFrame(plate.first(), believed).floor());
    int last = Math.toIntExact(on.sceneFrame(plate.last(), believed).floor());
    FrameRange saved = believed.range();
    if (last > saved.last()) {
      return Optional.of(new FrameRange(Math.max(first, saved.last() + 1), last));
    }
    return first < saved.first()
        ? Optional.of(new FrameRange(first, Math.min(last, saved.first() - 1)))
        : Optional.empty();
  }

  private WorldShot seen() {
    WorldShot s = meant.source();
    return new WorldShot(
        s.contents()
            .withCameras(on.cameras(believed))
            .withTrackers(on.trackers(believed))
            .withMeshes(List.of()));
  }
}
