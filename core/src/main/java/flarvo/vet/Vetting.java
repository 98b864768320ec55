package flarvo.vet;

import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * What was decided about a solve: which trackers are out, which do not pull, what stands in the
 * place of the solve that came, and which points were added. The shot that came stays whole beside
 * it.
 *
 * @param culled trackers that are left out; they can be brought back
 * @param weightless trackers that stay in but count for nothing
 * @param solve stands for camera and points that came
 * @param groups in which trackers were put, and how they look
 */
public record Vetting(
    Set<String> culled,
    Set<String> weightless,
    Optional<RefinedSolve> solve,
    List<ExtraPoint> extras,
    List<TrackerGroup> groups) {

  public static final Vetting NONE =
      new Vetting(Set.of(), Set.of(), Optional.empty(), List.of(), List.of());

  /** The group that extra points are in. */
  public static final String EXTRA_GROUP = "extra points";

  public Vetting {
    culled = Set.copyOf(culled);
    weightless = Set.copyOf(weightless);
    extras = List.copyOf(extras);
    groups = List.copyOf(groups);
  }

  /** Exactly these trackers culled. */
  public Vetting withCulled(Set<String> names) {
    return new Vetting(names, weightless, solve, extras, groups);
  }

  /** These culled too. */
  public Vetting culling(Set<String> more) {
    Set<String> all = new HashSet<>(culled);
    all.addAll(more);
    return withCulled(all);
  }

  /** These no longer culled. */
  public Vetting restoring(Set<String> names) {
    Set<String> all = new HashSet<>(culled);
    all.removeAll(names);
    return withCulled(all);
  }

  /** Trackers with or without a pull from now on. */
  public Vetting weighing(Set<String> names, boolean pull) {
    Set<String> all = new HashSet<>(weightless);
    if (pull) {
      all.removeAll(names);
    } else {
      all.addAll(names);
    }
    return new Vetting(culled, all, solve, extras, groups);
  }

  /** Null brings back the solve that came. */
  public Vetting withSolve(RefinedSolve s) {
    return new Vetting(culled, weightless, Optional.ofNullable(s), extras, groups);
  }

  /** An extra point more, or in the place of the one of the same name. */
  public Vetting withExtra(ExtraPoint point) {
    List<ExtraPoint> all = new ArrayList<>(extras);
    all.removeIf(p -> p.name().equals(point.name()));
    all.add(point);
    return new Vetting(culled, weightless, solve, all, groups);
  }

  /** Without the extra point of that name. */
  public Vetting withoutExtra(String name) {
    return new Vetting(
        culled,
        weightless,
        solve,
        extras.stream().filter(p -> !p.name().equals(name)).toList(),
        groups);
  }

  /** A group more, or in the place of the one of the same name; its members leave all others. */
  public Vetting withGroup(TrackerGroup group) {
    List<TrackerGroup> all = new ArrayList<>();
    boolean there = false;
    for (TrackerGroup g : groups) {
      if (g.name().equals(group.name())) {
        all.add(group);
        there = true;
      } else {
        Set<String> stay = new HashSet<>(g.members());
        stay.removeAll(group.members());
        all.add(stay.size() == g.members().size() ? g : g.withMembers(stay));
      }
    }
    if (!there) {
      all.add(group);
    }
    return new Vetting(culled, weightless, solve, extras, all);
  }

  /** Its members are back in the sets that they came in. */
  public Vetting withoutGroup(String name) {
    return new Vetting(
        culled,
        weightless,
        solve,
        extras,
        groups.stream().filter(g -> !g.name().equals(name)).toList());
  }

  /** The group of that name, if there is one. */
  public Optional<TrackerGroup> group(String name) {
    return groups.stream().filter(g -> g.name().equals(name)).findFirst();
  }

  /** Trackers that count for nothing: those that were told so, and extra points. */
  public Set<String> uncounted() {
    Set<String> all = new HashSet<>(weightless);
    extras.forEach(p -> all.add(p.name()));
    return all;
  }

  /** In the order of the alphabet, for files and lists. */
  public List<String> culledInOrder() {
    return List.copyOf(new TreeSet<>(culled));
  }

  /** Whether {@link #applied} makes the same shot of the same whole: weights may differ. */
  public boolean isSameShot(Vetting o) {
    return culled.equals(o.culled)
        && solve.equals(o.solve)
        && extras.equals(o.extras)
        && groups.equals(o.groups);
  }

  /** The shot that came, with all of this applied. */
  public Shot applied(Shot whole) {
    Shot s = solve.isPresent() ? solve.get().applied(whole) : whole;
    if (!culled.isEmpty()) {
      s = s.withTrackers(s.trackers().stream().map(t -> t.without(culled)).toList());
    }
    if (!extras.isEmpty()) {
      s = withExtra(s);
    }
    return groups.isEmpty() ? s : s.withTrackers(TrackerGroup.split(s.trackers(), groups));
  }

  /** Extra points stand where the camera, as it is now, sees their marks. */
  private Shot withExtra(Shot s) {
    Set<String> names = new LinkedHashSet<>();
    Observations.Builder marks = s.observations().toBuilder();
    for (ExtraPoint p : extras) {
      if (s.observations().firstRow(p.name()) < 0 && names.add(p.name())) {
        p.marks().forEach(m -> marks.add(p.name(), m.frame(), m.x(), m.y()));
      }
    }
    Observations all = marks.build();
    if (s.camera().isEmpty()) {
      return s;
    }
    Triangulation t = new Triangulation(s.camera().get(), s.picture(), all);
    List<String> placed = new ArrayList<>();
    List<Double> xyz = new ArrayList<>();
    for (String n : names) {
      t.of(n)
          .ifPresent(
              p -> {
                placed.add(n);
                xyz.add(p.position().x());
                xyz.add(p.position().y());
                xyz.add(p.position().z());
              });
    }
    List<TrackerSet> sets = new ArrayList<>(s.trackers());
    if (!placed.isEmpty()) {
      sets.add(
          TrackerSet.of(
              EXTRA_GROUP, placed, xyz.stream().mapToDouble(Double::doubleValue).toArray()));
    }
    return s.withTrackers(sets).withObservations(all);
  }
}
