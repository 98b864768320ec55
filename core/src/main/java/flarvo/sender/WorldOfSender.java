package flarvo.sender;

import flarvo.convention.Dialect;
import flarvo.convention.Handedness;
import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.convention.WorldAxes;
import flarvo.format.FileScene;
import flarvo.format.Sourced;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.SimilarityFit;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.sender.Readings.Reading;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/**
 * Which axes of a sender's world are right, up and away, and its unit: as the files state it, else
 * by the one similarity that takes what was read to a solve that is known to be right, else by how
 * the camera stands.
 */
final class WorldOfSender {

  /** Axes that are less than this apart are the same: cosine of 3°. */
  private static final double SAME_AXIS = Math.cos(Math.toRadians(3));

  /** A scale that differs from a unit by less than this is that unit. */
  private static final double SAME_UNIT = 0.02;

  /** Of the shot's extent: how far places may lie apart after the fit. */
  private static final double SAME_PLACE = 0.02;

  /** A camera stands upright where its up leans less than this on average: cosine of 30°. */
  private static final double UPRIGHT = Math.cos(Math.toRadians(30));

  private static final int FEWEST = 3;

  private final ReceivedSet files;
  private final Optional<Shot> trusted;
  private final Findings findings;

  WorldOfSender(ReceivedSet files, Optional<Shot> trusted, Findings findings) {
    this.files = files;
    this.trusted = trusted;
    this.findings = findings;
  }

  private record Onto(Similarity similarity, double residual, double extent) {
    boolean fits() {
      return residual <= SAME_PLACE * extent;
    }
  }

  /**
   * @param d as found so far; its world's hand counts
   * @param as read under it
   */
  Dialect over(Dialect d, Reading as) {
    Optional<Onto> onto = trusted.flatMap(t -> onto(as.shot(), t)).filter(Onto::fits);
    return unit(axes(d, as, onto), as, onto);
  }

  private <T> Optional<Sourced<T>> stated(Function<FileScene, Optional<Sourced<T>>> fact) {
    return files.files().stream()
        .map(ReceivedFile::scene)
        .map(fact)
        .flatMap(Optional::stream)
        .filter(s -> !s.assumed())
        .findFirst();
  }

  // ---- axes -----------------------------------------------------------------------------------

  private Dialect axes(Dialect d, Reading as, Optional<Onto> onto) {
    Dialect read = as.dialect();
    Optional<Sourced<SignedAxis>> up = stated(FileScene::up);
    WorldAxes used =
        files.files().stream()
            .map(f -> f.spokenAs(read).reading().world())
            .findFirst()
            .orElse(read.world());
    if (onto.isPresent()) {
      Optional<WorldAxes> found = turned(used, onto.get().similarity);
      if (found.isPresent()) {
        findings.add(
            "world axes",
            words(found.get()),
            Known.MEASURED,
            "so camera and points lie on the shot"
                + up.filter(u -> u.value() != found.get().up())
                    .map(u -> "; the file states " + u.value() + " up")
                    .orElse(""));
        return d.withWorld(found.get());
      }
      findings.add(
          "world axes",
          words(used),
          Known.OPEN,
          "its world is turned against the shot, and not by right angles");
      return d.withWorld(used);
    }
    if (up.isPresent()) {
      findings.add("world axes", words(used), Known.STATED, "by " + up.get().place());
      return d.withWorld(used);
    }
    Optional<WorldAxes> upright = upright(used, as.shot());
    if (upright.isPresent()) {
      findings.add(
          "world axes",
          words(upright.get()),
          Known.LIKELY,
          "the camera stands upright so; which way is away is open");
      return d.withWorld(upright.get());
    }
    findings.add("world axes", words(used), Known.OPEN, "the picture is the same from any world");
    return d.withWorld(used);
  }

  private static String words(WorldAxes w) {
    return w.right() + " right, " + w.up() + " up, " + w.away() + " away";
  }

  /** The axes of the file's world that point where the shot's do; empty where none do. */
  private static Optional<WorldAxes> turned(WorldAxes used, Similarity s) {
    Optional<SignedAxis> right = axis(used, s, new Vec3(1, 0, 0));
    Optional<SignedAxis> up = axis(used, s, new Vec3(0, 1, 0));
    Optional<SignedAxis> away = axis(used, s, new Vec3(0, 0, -1));
    return right.isEmpty() || up.isEmpty() || away.isEmpty()
        ? Optional.empty()
        : Optional.of(new WorldAxes(right.get(), up.get(), away.get()));
  }

  private static Optional<SignedAxis> axis(WorldAxes used, Similarity s, Vec3 direction) {
    return nearest(used, s.rotation().inverse().apply(direction), SAME_AXIS);
  }

  /**
   * The file's axis along a direction in the world as it was read.
   *
   * @param cosine the least that counts
   */
  private static Optional<SignedAxis> nearest(WorldAxes used, Vec3 v, double cosine) {
    Map<SignedAxis, Vec3> all = new HashMap<>();
    for (SignedAxis a : SignedAxis.values()) {
      Vec3 in =
          new Vec3(
              a.index() == used.right().index() ? a.sign() * used.right().sign() : 0,
              a.index() == used.up().index() ? a.sign() * used.up().sign() : 0,
              a.index() == used.away().index() ? -a.sign() * used.away().sign() : 0);
      all.put(a, in);
    }
    return all.entrySet().stream()
        .filter(e -> e.getValue().dot(v) >= cosine)
        .max(Comparator.comparingDouble(e -> e.getValue().dot(v)))
        .map(Map.Entry::getKey);
  }

  /** By the mean of the camera's up; the hand stays. */
  private static Optional<WorldAxes> upright(WorldAxes used, Shot shot) {
    PoseTrack poses = shot.camera().orElseThrow().poses();
    Vec3 sum = Vec3.ZERO;
    for (int f = poses.frames().first(); f <= poses.frames().last(); f++) {
      sum = sum.plus(poses.at(f).rotation().apply(new Vec3(0, 1, 0)));
    }
    Vec3 mean = sum.times(1.0 / poses.frames().count());
    Optional<SignedAxis> up = nearest(used, mean, UPRIGHT);
    if (up.isEmpty() || up.get() == used.up()) {
      return up.map(u -> used);
    }
    Handedness hand = used.handedness();
    return WorldAxes.all().stream()
        .filter(w -> w.up() == up.get() && w.handedness() == hand && w.right().sign() > 0)
        .min(
            Comparator.comparing((WorldAxes w) -> w.right().index())
                .thenComparing(w -> -w.away().sign()));
  }

  // ---- unit -----------------------------------------------------------------------------------

  private Dialect unit(Dialect d, Reading as, Optional<Onto> onto) {
    Optional<Sourced<LinearUnit>> said = stated(FileScene::unit);
    LinearUnit used =
        files.files().stream()
            .map(f -> f.spokenAs(as.dialect()).reading().unit())
            .findFirst()
            .orElse(d.unit());
    if (onto.isPresent()) {
      double metres = onto.get().similarity.scale() * used.metresPerUnit();
      Optional<LinearUnit> unit =
          List.of(
                  LinearUnit.METRE,
                  LinearUnit.CENTIMETRE,
                  LinearUnit.MILLIMETRE,
                  LinearUnit.FOOT,
                  LinearUnit.INCH)
              .stream()
              .filter(u -> Math.abs(metres / u.metresPerUnit() - 1) < SAME_UNIT)
              .findFirst();
      LinearUnit found = unit.orElseGet(() -> new LinearUnit(metres));
      findings.add(
          "unit",
          found.toString(),
          unit.isPresent() ? Known.MEASURED : Known.LIKELY,
          String.format(Locale.ROOT, "a unit is %.5g m of the shot", metres)
              + said.filter(u -> !u.value().equals(found))
                  .map(u -> "; the file states " + u.value())
                  .orElse(""));
      return d.withUnit(found);
    }
    if (said.isPresent()) {
      findings.add("unit", used.toString(), Known.STATED, "by " + said.get().place());
    } else {
      findings.add("unit", used.toString(), Known.OPEN, "the picture is the same at any scale");
    }
    return d.withUnit(used);
  }

  // ---- the solve that is known ----------------------------------------------------------------

  /** Takes what was read, in solve space, onto the levelled shot. */
  private static Optional<Onto> onto(Shot read, Shot trusted) {
    Shot there = trusted.levelled().contents();
    List<Vec3> from = new ArrayList<>();
    List<Vec3> to = new ArrayList<>();
    if (there.camera().isPresent()) {
      ShotCamera a = read.camera().orElseThrow();
      ShotCamera b = there.camera().get();
      int first = Math.max(a.frames().first(), b.frames().first());
      int last = Math.min(a.frames().last(), b.frames().last());
      for (int f = first; f <= last; f++) {
        from.add(a.poses().at(f).position());
        to.add(b.poses().at(f).position());
      }
    }
    Map<String, Vec3> known = new HashMap<>();
    for (TrackerSet t : there.trackers()) {
      for (int i = 0; i < t.size() && !t.moves(); i++) {
        known.put(t.names().get(i), t.position(i));
      }
    }
    for (TrackerSet t : read.trackers()) {
      for (int i = 0; i < t.size() && !t.moves(); i++) {
        Vec3 at = known.get(t.names().get(i));
        if (at != null) {
          from.add(t.position(i));
          to.add(at);
        }
      }
    }
    if (from.size() < FEWEST) {
      return Optional.empty();
    }
    try {
      Similarity s = SimilarityFit.robust(from, to);
      double[] off = new double[from.size()];
      double extent = 0;
      for (int i = 0; i < off.length; i++) {
        off[i] = s.apply(from.get(i)).minus(to.get(i)).length();
        extent = Math.max(extent, to.get(i).minus(to.get(0)).length());
      }
      java.util.Arrays.sort(off);
      return Optional.of(new Onto(s, off[off.length / 2], extent));
    } catch (IllegalArgumentException e) {
      return Optional.empty(); // all in one place
    }
  }
}
