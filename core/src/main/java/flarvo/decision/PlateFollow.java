package flarvo.decision;

import flarvo.lens.LensTrack;
import flarvo.plate.PlateLuma;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.trace.DrawnMask;
import flarvo.trace.HandFeature;
import flarvo.trace.HandFollow;
import flarvo.trace.KeyedMatte;
import flarvo.trace.Mask;
import flarvo.trace.MaskShape;
import flarvo.trace.PlaneFollow;
import flarvo.trace.PlatePixels;
import flarvo.trace.TraceNote;
import flarvo.trace.TraceOptions;
import flarvo.trace.TraceWork;
import flarvo.trace.Traced;
import flarvo.trace.Tracer;
import flarvo.trace.UnfinishedTrace;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/** Follows features and planes in a shot's plates; all in pixels of the shot's picture. */
final class PlateFollow {

  private PlateFollow() {}

  /**
   * The plates of a role.
   *
   * @throws InputError when the shot has none
   */
  static PlateSequence sequence(ShotState s, PlateRole role) {
    return s.whole()
        .plate(role)
        .orElseThrow(
            () ->
                InputError.words(
                    "the shot has no " + role.word() + " plates", "Drop them on the window"));
  }

  /**
   * A feature that was marked by hand.
   *
   * @throws InputError when there is none of that name
   */
  static HandFeature feature(ShotState s, String name) {
    return s.trace()
        .hand(name)
        .orElseThrow(() -> InputError.words("there is no feature " + name, ""));
  }

  /** What a following depends on, but for the pictures themselves. */
  private record Key(
      PlateSequence plates,
      List<PlateSequence> all,
      TraceOptions options,
      List<DrawnMask> masks,
      KeyedMatte matte,
      boolean inside,
      Optional<LensTrack> lens,
      PictureSize picture) {

    static Key of(TraceDecision.Follow d, ShotState s) {
      TraceWork t = s.trace();
      return new Key(
          sequence(s, d.plates()),
          s.shot().plates(),
          d.options(),
          t.masks(),
          t.matte(),
          t.inside(),
          s.lens().track(),
          s.whole().picture());
    }
  }

  /**
   * Finds features and follows them. Where the same was cancelled before, it goes on from there.
   *
   * @throws Cancelled when the user asked to stop
   */
  static Optional<Outcome> features(TraceDecision.Follow d, ShotState s, Progress progress) {
    Key key = Key.of(d, s);
    PlateSequence p = key.plates();
    PlateLuma.requireReadable(p);
    long stamp = stamp(p);
    if (key.matte().isUsed()) {
      for (PlateSequence q : key.all()) {
        stamp = q.role() == PlateRole.KEYED ? 31 * stamp + stamp(q) : stamp;
      }
    }
    return features(d, s, key, stamp, progress);
  }

  private static Optional<Outcome> features(
      TraceDecision.Follow d, ShotState s, Key key, long stamp, Progress progress) {
    PlateSequence p = key.plates();
    PlatePixels pixels = PlatePixels.of(p, key.picture());
    Tracer tracer =
        UnfinishedTrace.take(key, stamp)
            .orElseGet(
                () ->
                    Tracer.in(
                        p.frames(),
                        f -> PlateLuma.of(p, f),
                        d.options(),
                        pixels.toPlates(mask(key, s))));
    try {
      return outcome(tracer.run(progress), pixels);
    } catch (Cancelled e) {
      UnfinishedTrace.keep(key, stamp, tracer);
      throw e;
    }
  }

  private static Mask mask(Key key, ShotState s) {
    Mask received = KeyedPlates.of(key.matte(), key.all(), key.picture());
    return s.trace().mask(received, key.plates().role(), key.lens(), key.picture());
  }

  /** Changes with any picture of the plates. */
  private static long stamp(PlateSequence p) {
    long all = 0;
    for (int f = p.frames().first(); f <= p.frames().last(); f++) {
      long one = 0;
      try {
        BasicFileAttributes a = Files.readAttributes(p.file(f), BasicFileAttributes.class);
        one = a.lastModifiedTime().toMillis() * 31 + a.size();
      } catch (IOException e) {
        one = 1; // missing, and no longer when it comes
      }
      all = all * 1_000_003 + one;
    }
    return all;
  }

  /** The frame with which a following that was cancelled goes on; empty where none was. */
  static OptionalInt stoppedAt(TraceDecision.Follow d, ShotState s) {
    return s.whole().plate(d.plates()).isEmpty()
        ? OptionalInt.empty()
        : UnfinishedTrace.next(Key.of(d, s));
  }

  /** Follows a feature from its marks. */
  static Optional<Outcome> hand(HandFeature h, ShotState s, Progress progress) {
    PlateSequence p = sequence(s, h.plates());
    PlatePixels pixels = PlatePixels.of(p, s.whole().picture());
    return outcome(HandFollow.of(pixels.toPlates(h), f -> PlateLuma.of(p, f), progress), pixels);
  }

  /** Follows something flat. */
  static Optional<Outcome> plane(
      PlateRole plates, MaskShape plane, ShotState s, Progress progress) {
    PlateSequence p = sequence(s, plates);
    PlatePixels pixels = PlatePixels.of(p, s.whole().picture());
    MaskShape shape = pixels.toPlates(plane);
    return outcome(PlaneFollow.of(shape, p.frames(), f -> PlateLuma.of(p, f), progress), pixels);
  }

  private static Optional<Outcome> outcome(Traced t, PlatePixels pixels) {
    return Optional.of(
        new Outcome.Features(
            pixels.toPicture(t.observations()), t.notes().stream().map(TraceNote::text).toList()));
  }
}
