package flarvo.suspect;

import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Two and three mix-ups together: changes on top of each other. */
final class MixUps {

  /** What is left may differ so much between causes that the evidence cannot tell apart. */
  static final double ALIKE = 1.04;

  static final double ALIKE_PX = 0.01;

  /** Pairs on which a third change is tried. */
  private static final int MOST_THIRDS = 12;

  private static final int ALL = Integer.MAX_VALUE;

  /** Pairs that are measured on the whole sample after the quick look. */
  private static final int FINALISTS = 80;

  private static final int FINALISTS_ANGLES = 16;

  /** Frames of a shot up to which camera axes are tried together with angles. */
  private static final int MOST_TURNED = 400;

  static final ThreadLocal<TriedScene.Bench> BENCH = ThreadLocal.withInitial(TriedScene.Bench::new);

  private final Subject subject;
  private final List<Family> families;
  private final Evidence sample;
  private final Evidence coarse;
  private final Progress progress;

  /** A change with the family that it is of. */
  record Step(Change change, Family family) {}

  /** Changes on top of each other, and what is left then. */
  record Chain(List<Step> steps, double error) {
    double cost() {
      return steps.stream().mapToDouble(s -> s.change.cost()).sum();
    }

    TriedScene scene() {
      return steps.get(steps.size() - 1).change.scene();
    }

    List<Change> changes() {
      return steps.stream().map(Step::change).toList();
    }

    boolean has(String cause) {
      for (Step s : steps) {
        if (s.change.cause().equals(cause)) {
          return true;
        }
      }
      return false;
    }

    Chain with(Change c, Family f, double left) {
      List<Step> all = new ArrayList<>(steps);
      all.add(new Step(c, f));
      return new Chain(all, left);
    }

    /** With the last step replaced. */
    Chain ending(Change c, double left) {
      List<Step> all = new ArrayList<>(steps);
      Step last = all.remove(all.size() - 1);
      all.add(new Step(c, last.family));
      return new Chain(all, left);
    }
  }

  /**
   * @param sample that errors are measured on
   * @param coarse a smaller one, for a quick look at all pairs
   */
  MixUps(
      Subject subject, List<Family> families, Evidence sample, Evidence coarse, Progress progress) {
    this.subject = subject;
    this.families = families;
    this.sample = sample;
    this.coarse = coarse;
    this.progress = progress;
  }

  private static boolean isOfTheSameAngles(Chain c) {
    return c.steps.stream().filter(s -> isRotation(s.family)).count() > 1;
  }

  /** Whether a family takes every pose apart, which is dear. */
  private static boolean isRotation(Family f) {
    return f instanceof RotationFamilies.Order
        || f instanceof RotationFamilies.Degrees
        || f instanceof RotationFamilies.Channels;
  }

  /** Of those that explain as well as the best, the one of least freedom. */
  static Optional<Chain> cheapest(List<Chain> sorted) {
    if (sorted.isEmpty()) {
      return Optional.empty();
    }
    double limit = sorted.get(0).error * ALIKE + ALIKE_PX;
    return sorted.stream()
        .filter(c -> c.error <= limit)
        .min(Comparator.comparingDouble(Chain::cost));
  }

  /** Pairs, the best first: a quick look at all, then the finalists on the whole sample. */
  List<Chain> pairs() {
    List<Chain> firsts =
        families.stream()
            .flatMap(
                f ->
                    f.on(subject.base, coarse, BENCH.get()).stream()
                        .map(c -> new Chain(List.of(new Step(c, f)), Double.NaN)))
            .toList();
    progress.step(1, 3);
    LeastErrors least = new LeastErrors(FINALISTS);
    LeastErrors leastAngles = new LeastErrors(FINALISTS_ANGLES);
    List<Chain> quick =
        firsts.parallelStream()
            .flatMap(c -> further(c, coarse, least, leastAngles).stream())
            .sorted(Comparator.comparingDouble(Chain::error))
            .toList();
    // Pairs about the same angles are many, and are not to crowd out the others.
    List<Chain> others = quick.stream().filter(c -> !isOfTheSameAngles(c)).toList();
    List<Chain> finalists = new ArrayList<>(others.subList(0, Math.min(FINALISTS, others.size())));
    quick.stream()
        .filter(MixUps::isOfTheSameAngles)
        .limit(FINALISTS_ANGLES)
        .forEach(finalists::add);
    // Two fitted values may look bad until they are fitted together.
    others.stream()
        .skip(FINALISTS)
        .filter(c -> c.changes().stream().noneMatch(x -> x.dials().isEmpty()))
        .forEach(finalists::add);
    progress.step(2, 3);
    return finalists.parallelStream()
        .map(this::onTheSample)
        .flatMap(Optional::stream)
        .sorted(Comparator.comparingDouble(Chain::error))
        .toList();
  }

  /** A third change on top of the best pairs, where two do not explain it. */
  List<Chain> thirds(List<Chain> pairs) {
    List<Chain> best =
        pairs.stream().filter(c -> !isOfTheSameAngles(c)).limit(MOST_THIRDS).toList();
    return best.parallelStream()
        .flatMap(c -> further(c, sample, new LeastErrors(ALL), new LeastErrors(ALL)).stream())
        .map(this::polished)
        .sorted(Comparator.comparingDouble(Chain::error))
        .toList();
  }

  /**
   * The best further change of each family.
   *
   * @param least errors so far; what cannot be among them is left out, unless it has fitted values
   * @param leastAngles the same of changes that are about the same angles
   */
  private List<Chain> further(Chain of, Evidence e, LeastErrors least, LeastErrors leastAngles) {
    progress.step(2, 3);
    // Angles are of the camera with its own axes, so those come first; else the order is the same.
    boolean angles =
        of.steps.size() == 1
            && of.steps.get(0).family instanceof AxesFamilies.Camera
            && subject.base.file.count() <= MOST_TURNED;
    List<Family> tried = new ArrayList<>(families);
    tried.removeIf(f -> isRotation(f) && !angles);
    if (of.steps.size() == 1 && subject.base.file.count() <= MOST_TURNED) {
      tried.addAll(RotationFamilies.besides(of.steps.get(0).change));
    }
    List<Chain> out = new ArrayList<>();
    boolean turns = of.steps.stream().anyMatch(s -> isRotation(s.family));
    boolean fitted = of.steps.stream().noneMatch(s -> s.change.dials().isEmpty());
    for (Family f : tried) {
      List<Change> changes = f.on(of.scene(), e, BENCH.get());
      LeastErrors all = turns && isRotation(f) ? leastAngles : least;
      // Two fitted values may look bad until they are fitted together.
      double most =
          fitted && changes.stream().anyMatch(c -> !c.dials().isEmpty())
              ? Double.POSITIVE_INFINITY
              : all.limit();
      Change best = null;
      double bestError = most;
      for (Change c : changes) {
        if (!of.has(c.cause())) {
          double left = subject.error(c.scene(), e, bestError);
          if (left < bestError || best == null && left <= bestError) {
            best = c;
            bestError = left;
          }
        }
      }
      if (best != null) {
        all.add(bestError);
        out.add(of.with(best, f, bestError));
      }
    }
    return out;
  }

  /** With values fitted to the whole sample. */
  private Optional<Chain> onTheSample(Chain pair) {
    Step first = pair.steps.get(0);
    Step second = pair.steps.get(1);
    return second.family.on(first.change.scene(), sample, BENCH.get()).stream()
        .filter(c -> c.cause().equals(second.change.cause()))
        .filter(c -> !second.family.isFixed() || c.value().equals(second.change.value()))
        .map(c -> pair.ending(c, subject.error(c.scene(), sample)))
        .min(Comparator.comparingDouble(Chain::error))
        .map(this::polished);
  }

  /** Fitted values disturb each other: they are fitted together. */
  private Chain polished(Chain chain) {
    List<Dial> dials = chain.changes().stream().flatMap(c -> c.dials().stream()).toList();
    long fitted = chain.changes().stream().filter(c -> !c.dials().isEmpty()).count();
    if (fitted < 2 || subject.cameraAlone) {
      return chain;
    }
    JointFit.Fit fit = JointFit.of(chain.scene(), dials, sample, BENCH.get());
    List<Step> out = new ArrayList<>();
    int at = 0;
    for (Step s : chain.steps) {
      double[] to = s.change.at().clone();
      for (int i = 0; i < to.length; i++) {
        to[i] += fit.turned()[at++];
      }
      boolean last = out.size() == chain.steps.size() - 1;
      TriedScene scene = last ? fit.scene() : s.change.scene();
      out.add(new Step(s.change.refitted(to, scene), s.family));
    }
    return new Chain(out, subject.error(fit.scene(), sample));
  }
}
