package flarvo.sender;

import flarvo.convention.Dialect;
import flarvo.receive.IntakeOptions;
import flarvo.receive.LaidShot;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.suspect.Hypotheses;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.Function;

/** Files as they are read under one dialect and another, each measured against 2D tracks. */
final class Readings {

  private final Function<Dialect, ReceivedSet> read;
  private final IntakeOptions options;
  private final Observations tracks;

  /**
   * One way to read the files.
   *
   * @param error in pixels
   */
  record Reading(Dialect dialect, Shot shot, Optional<String> laid, double error) {
    /** With the error that is left with the film that fits best. */
    Reading withAnyFilm(Observations tracks) {
      return new Reading(dialect, shot, laid, Hypotheses.withAnyFilm(shot, tracks));
    }
  }

  /**
   * @param read files from disk as a dialect has them
   * @param options what is known of them
   */
  Readings(Function<Dialect, ReceivedSet> read, IntakeOptions options, Observations tracks) {
    this.read = read;
    this.options = options;
    this.tracks = tracks;
  }

  /**
   * From disk.
   *
   * @throws InputError when they cannot be read so
   */
  ReceivedSet set(Dialect d) {
    return read.apply(d);
  }

  /** Read from disk; empty where they cannot be read so. */
  Optional<Reading> of(Dialect d, OptionalInt plateFirst) {
    try {
      return measured(set(d), d, plateFirst);
    } catch (InputError e) {
      return Optional.empty();
    }
  }

  /** Each of several dialects, read from disk; without those that cannot be read. */
  List<Reading> of(List<Dialect> all, OptionalInt plateFirst) {
    return all.parallelStream().map(d -> of(d, plateFirst)).flatMap(Optional::stream).toList();
  }

  /** What was read under one dialect, understood under another that reads the same numbers. */
  Optional<Reading> understood(ReceivedSet read, Dialect d) {
    ReceivedSet as = read;
    for (ReceivedFile f : read.files()) {
      if (f.isSolve()) {
        as = as.with(f.spokenAs(d));
      }
    }
    return measured(as, d, OptionalInt.empty());
  }

  private Optional<Reading> measured(ReceivedSet set, Dialect d, OptionalInt plateFirst) {
    IntakeOptions o = options.withFrom(d);
    if (plateFirst.isPresent()) {
      o = o.withPlateFirst(plateFirst.getAsInt());
    }
    try {
      LaidShot laid = LaidShot.of(set, d.name(), o, tracks);
      double error = Hypotheses.errorPx(laid.shot(), tracks);
      return Double.isNaN(error)
          ? Optional.empty()
          : Optional.of(new Reading(d, laid.shot(), laid.said(), error));
    } catch (InputError e) {
      return Optional.empty();
    }
  }

  /** The first of those that make the same shot, best first. */
  static List<Reading> distinct(List<Reading> all) {
    Map<List<Object>, Reading> out = new LinkedHashMap<>();
    all.forEach(r -> out.putIfAbsent(print(r.shot), r));
    List<Reading> sorted = new ArrayList<>(out.values());
    sorted.sort(Comparator.comparingDouble(Reading::error));
    return sorted;
  }

  /** What two shots that are read alike have in common: poses and film of some frames, points. */
  static List<Object> print(Shot s) {
    List<Object> out = new ArrayList<>();
    ShotCamera c = s.camera().orElseThrow();
    int n = c.frames().count();
    for (int i : new int[] {0, n / 3, n / 2, n - 1}) {
      int f = c.frames().first() + i;
      Pose p = c.poses().at(f);
      Optics o = c.optics().at(f);
      out.add(p);
      out.add(o);
    }
    for (TrackerSet t : s.trackers()) {
      if (t.size() > 0) {
        out.add(t.position(0));
        out.add(t.position(t.size() - 1));
      }
    }
    return out;
  }
}
