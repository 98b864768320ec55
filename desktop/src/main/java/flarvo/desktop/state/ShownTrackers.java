package flarvo.desktop.state;

import flarvo.scene.Observations;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import flarvo.vet.Reprojection;
import flarvo.vet.TrackerGroup;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** A shot's trackers side by side, without a look-up by name for each in each frame. */
public final class ShownTrackers {

  /** So many are looked for one by one. */
  private static final int FEW = 16;

  private WorldShot shot;
  private Reprojection errors;
  private String[] names = {};
  private List<List<String>> named = List.of(); // the lists that the names are from
  private double[] xyz = {};
  private int[] from = {}; // rows of the observations; −1 for a tracker that was never seen
  private int[] to = {};
  private int[] first = {}; // frames; none is between where a tracker was never seen
  private int[] last = {};
  private double[] rms = {};
  private Map<String, Integer> numbers; // null until many are asked for
  private int asked;
  private List<TrackerGroup> groups = List.of();
  private TrackerGroup[] looks = {};
  private Set<String> hidden = Set.of();
  private boolean[] moves = {};
  private int[] moving = {}; // numbers of those that move
  private TrackerSet[] movingIn = {};
  private int[] movingAt = {};

  /**
   * Made anew where one of them is another.
   *
   * @param unseen names of sets that are not to be shown
   */
  @SuppressWarnings("ReferenceEquality")
  public ShownTrackers of(WorldShot s, Reprojection e, List<TrackerGroup> g, Set<String> unseen) {
    if (s != shot || e != errors || g != groups || !unseen.equals(hidden)) {
      Observations before = shot == null ? null : shot.observations();
      shot = s;
      errors = e;
      groups = g;
      hidden = Set.copyOf(unseen);
      fill(before);
    }
    return this;
  }

  @SuppressWarnings("ReferenceEquality") // an edit of the level or of weights keeps them
  private void fill(Observations before) {
    List<TrackerSet> all = shot.trackers();
    List<TrackerSet> sets = all.stream().filter(t -> !hidden.contains(t.name())).toList();
    int n = sets.stream().mapToInt(TrackerSet::size).sum();
    if (shot.observations() != before) {
      names = new String[0];
      forget();
    }
    if (!isNamed(sets, n)) {
      name(sets, n);
    }
    xyz = new double[3 * n];
    rms = new double[n];
    looks = new TrackerGroup[n];
    moves = new boolean[n];
    int still = sets.stream().filter(t -> !t.moves()).mapToInt(TrackerSet::size).sum();
    moving = new int[n - still];
    movingIn = new TrackerSet[moving.length];
    movingAt = new int[moving.length];
    int m = 0;
    int k = 0;
    for (int set = 0; set < all.size(); set++) {
      TrackerSet t = all.get(set);
      if (hidden.contains(t.name())) {
        continue;
      }
      TrackerGroup look =
          groups.stream().filter(g -> g.name().equals(t.name())).findFirst().orElse(null);
      Arrays.fill(looks, k, k + t.size(), look);
      Arrays.fill(moves, k, k + t.size(), t.moves());
      if (errors != null) {
        System.arraycopy(errors.setRmsPx(set), 0, rms, k, t.size());
      }
      for (int i = 0; i < t.size(); i++) {
        xyz[3 * k] = t.x(i);
        xyz[3 * k + 1] = t.y(i);
        xyz[3 * k + 2] = t.z(i);
        if (t.moves()) {
          moving[m] = k;
          movingIn[m] = t;
          movingAt[m++] = i;
        }
        k++;
      }
    }
  }

  /** Whether the names are those of the sets, in their order. */
  @SuppressWarnings("ReferenceEquality")
  private boolean isNamed(List<TrackerSet> sets, int n) {
    if (n != names.length) {
      return false;
    }
    int k = 0;
    boolean same = true;
    for (int i = 0; i < sets.size(); i++) {
      List<String> those = sets.get(i).names();
      same &= i < named.size() && those == named.get(i);
      if (same) { // as after an edit of the level
        k += those.size();
        continue;
      }
      for (String name : those) {
        if (!names[k++].equals(name)) {
          return false;
        }
      }
    }
    return true;
  }

  /**
   * Names and rows. Those that were there before keep their order when some are left out or come
   * back, so that only the others are looked up.
   */
  private void name(List<TrackerSet> sets, int n) {
    Observations o = shot.observations();
    String[] was = names;
    int[] wasFrom = from;
    int[] wasTo = to;
    int[] wasFirst = first;
    int[] wasLast = last;
    names = new String[n];
    from = new int[n];
    to = new int[n];
    first = new int[n];
    last = new int[n];
    named = sets.stream().map(TrackerSet::names).toList();
    forget();
    int k = 0;
    int next = 0;
    for (TrackerSet t : sets) {
      for (String name : t.names()) {
        int at = n < was.length ? find(was, name, next) : next;
        names[k] = name;
        if (at < was.length && was[at].equals(name)) {
          from[k] = wasFrom[at];
          to[k] = wasTo[at];
          first[k] = wasFirst[at];
          last[k] = wasLast[at];
          next = at + 1;
        } else {
          from[k] = o.firstRow(name);
          to[k] = o.endRow(name);
          first[k] = from[k] < 0 ? 0 : o.frame(from[k]);
          last[k] = from[k] < 0 ? -1 : o.frame(to[k] - 1);
          next = n < was.length ? was.length : next;
        }
        k++;
      }
    }
  }

  private void forget() {
    numbers = null;
    asked = 0;
  }

  private static int find(String[] all, String name, int from) {
    int i = from;
    while (i < all.length && !all[i].equals(name)) {
      i++;
    }
    return i;
  }

  /** Puts those that move where they are at a frame. */
  public ShownTrackers at(int frame) {
    for (int m = 0; m < moving.length; m++) {
      Vec3 v = movingIn[m].position(movingAt[m], frame);
      xyz[3 * moving[m]] = v.x();
      xyz[3 * moving[m] + 1] = v.y();
      xyz[3 * moving[m] + 2] = v.z();
    }
    return this;
  }

  public int size() {
    return names.length;
  }

  public String name(int i) {
    return names[i];
  }

  public double x(int i) {
    return xyz[3 * i];
  }

  public double y(int i) {
    return xyz[3 * i + 1];
  }

  public double z(int i) {
    return xyz[3 * i + 2];
  }

  /** −1 for one that is not among them. */
  public int indexOf(String name) {
    if (numbers == null && asked++ < FEW) {
      return Arrays.asList(names).indexOf(name);
    }
    if (numbers == null) {
      numbers = new HashMap<>();
      for (int i = 0; i < names.length; i++) {
        numbers.putIfAbsent(names[i], i);
      }
    }
    return numbers.getOrDefault(name, -1);
  }

  /** How its dot looks; null for the plain one. */
  public TrackerGroup look(int i) {
    return looks[i];
  }

  /**
   * Whether it is part of an object that moves, which was solved elsewhere: no 2D track is of it.
   */
  public boolean onlySolved(int i) {
    return from[i] < 0 && moves[i];
  }

  /** RMS error in pixels; NaN where it is not known. */
  public double rmsPx(int i) {
    return rms[i];
  }

  /** The tracker's row of the observations at a frame, or −1. */
  public int row(int i, int frame) {
    if (frame < first[i] || frame > last[i]) {
      return -1;
    }
    Observations o = shot.observations();
    // Most trackers live without gaps: look where the frame should be first.
    int guess = from[i] + frame - first[i];
    return guess < to[i] && o.frame(guess) == frame ? guess : o.row(names[i], frame);
  }

  /** How many there are to draw at a frame, near enough to choose how. */
  public int live(int frame) {
    return errors == null ? names.length : Math.min(names.length, errors.live(frame));
  }
}
