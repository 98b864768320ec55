package flarvo.format.usd;

import flarvo.report.Note;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.DoubleStream;

/**
 * One set of value clips: layers that give the values of a prim and of what is below it, one after
 * the other.
 *
 * <p>A clip is active from its time to that of the next, the first one before it too; {@code times}
 * maps the scene's time to the clip's, linear between its pairs and held outside, or one to one
 * where there are none. Samples are where a clip becomes active, where the mapping bends, and where
 * the clip has samples; between them values run as those of any attribute do, also from one clip to
 * the next.
 */
final class UsdClips {

  /** Digits of whole frames, and of parts of a frame where there are any. */
  private static final Pattern TEMPLATE = Pattern.compile("^(.*?)(#+)(?:\\.(#+))?(\\.[^#/]*)$");

  private final String primPath;
  private final Optional<UsdLayer> manifest;
  private final List<UsdLayer> layers; // null for one that is not there
  private final double[] active; // time, number of the layer
  private final double[] times; // scene, clip

  private UsdClips(
      String primPath,
      Optional<UsdLayer> manifest,
      List<UsdLayer> layers,
      double[] active,
      double[] times) {
    this.primPath = primPath;
    this.manifest = manifest;
    this.layers = layers;
    this.active = active;
    this.times = times;
  }

  /**
   * The sets that a prim states, the strongest first.
   *
   * @param stated the prim's metadata {@code clips}
   * @param own the layer that states them
   * @param prim its path, for notes
   */
  static List<UsdClips> of(
      Object stated, UsdLayer own, UsdLibrary library, String prim, int most, List<Note> notes) {
    List<UsdClips> out = new ArrayList<>();
    if (stated instanceof Map<?, ?> sets) {
      sets.entrySet().stream()
          .sorted((a, b) -> String.valueOf(a.getKey()).compareTo(String.valueOf(b.getKey())))
          .forEach(
              e -> {
                if (e.getValue() instanceof Map<?, ?> set) {
                  one(set, own, library, prim, most, notes).ifPresent(out::add);
                }
              });
    }
    return out;
  }

  private static Optional<UsdClips> one(
      Map<?, ?> set, UsdLayer own, UsdLibrary library, String prim, int most, List<Note> notes) {
    List<String> paths = new ArrayList<>();
    double[] active = numbers(set.get("active"));
    double[] times = numbers(set.get("times"));
    if (set.get("assetPaths") instanceof List<?> list) {
      list.forEach(a -> paths.add(a instanceof UsdAsset asset ? asset.path() : String.valueOf(a)));
    } else if (set.get("templateAssetPath") instanceof String template) {
      double[] at = template(set, template, paths, most);
      double offset = number(set.get("templateActiveOffset"), 0);
      active = new double[2 * at.length];
      for (int i = 0; i < at.length; i++) {
        active[2 * i] = at[i] + offset;
        active[2 * i + 1] = i;
      }
      times = templateTimes(at, offset, number(set.get("templateEndTime"), 0));
    }
    if (paths.isEmpty() || active.length == 0 || !isRising(active) || set.get("primPath") == null) {
      notes.add(Note.ignored(prim, "its value clips state no layers, times or prim"));
      return Optional.empty();
    }
    List<UsdLayer> layers = new ArrayList<>();
    for (String p : paths) {
      Optional<UsdPlace> place = library.find(own.place, own, p);
      if (place.isEmpty()) {
        notes.add(Note.ignored(prim, "the value clip '" + p + "' " + library.absence(own, p)));
      }
      layers.add(place.map(library::open).orElse(null));
    }
    Optional<UsdLayer> manifest =
        set.get("manifestAssetPath") instanceof UsdAsset m
            ? library.find(own.place, own, m.path()).map(library::open)
            : Optional.empty();
    return Optional.of(
        new UsdClips(String.valueOf(set.get("primPath")), manifest, layers, active, times));
  }

  /**
   * One to one. Where clips become active earlier or later than their own times, that goes on by as
   * much at either end.
   */
  private static double[] templateTimes(double[] at, double offset, double end) {
    DoubleStream all = Arrays.stream(at);
    if (offset != 0 && at.length > 0) {
      double first = at[0] - Math.abs(offset);
      double last = end + Math.abs(offset);
      all =
          DoubleStream.concat(
              DoubleStream.of(first), DoubleStream.concat(all, DoubleStream.of(last)));
    }
    return all.flatMap(t -> DoubleStream.of(t, t)).toArray();
  }

  /** The times of the layers that a template names; none where it is not sound. */
  private static double[] template(Map<?, ?> set, String template, List<String> paths, int most) {
    Matcher m = TEMPLATE.matcher(template);
    double start = number(set.get("templateStartTime"), Double.NaN);
    double end = number(set.get("templateEndTime"), Double.NaN);
    double stride = number(set.get("templateStride"), Double.NaN);
    boolean sound = m.matches() && stride > 0 && end >= start && (end - start) / stride < most;
    if (!sound || !(Math.abs(number(set.get("templateActiveOffset"), 0)) <= stride)) {
      return new double[0];
    }
    int n = (int) Math.floor((end - start) / stride + 1e-9) + 1;
    int decimals = m.group(3) == null ? 0 : m.group(3).length();
    int width = m.group(2).length() + (decimals > 0 ? decimals + 1 : 0);
    String digits = "%0" + width + "." + decimals + "f";
    double[] at = new double[n];
    for (int i = 0; i < n; i++) {
      at[i] = start + i * stride;
      paths.add(m.group(1) + String.format(Locale.ROOT, digits, at[i]) + m.group(4));
    }
    return at;
  }

  private static double number(Object v, double otherwise) {
    return v instanceof Double d ? d : otherwise;
  }

  private static double[] numbers(Object v) {
    return v instanceof UsdArray a ? a.numbers() : new double[0];
  }

  private static boolean isRising(double[] pairs) {
    for (int i = 2; i < pairs.length; i += 2) {
      if (!(pairs[i] > pairs[i - 2])) {
        return false;
      }
    }
    return true;
  }

  /**
   * The samples of an attribute over all clips; empty where no clip has it.
   *
   * @param below path of its prim below the one that states the clips; empty for itself
   */
  Optional<UsdAttribute> attribute(String below, String name, String type) {
    if (manifest.isPresent() && find(manifest.get(), below, name) == null) {
      return Optional.empty();
    }
    List<Double> at = new ArrayList<>();
    List<Object> values = new ArrayList<>();
    boolean any = false;
    for (int i = 0; i < active.length; i += 2) {
      double until = i + 2 < active.length ? active[i + 2] : Double.POSITIVE_INFINITY;
      int which = (int) active[i + 1];
      UsdLayer layer = which >= 0 && which < layers.size() ? layers.get(which) : null;
      UsdAttribute a = layer == null ? null : find(layer, below, name);
      if (a == null || !a.speaks()) {
        at.add(active[i]);
        values.add(UsdAttribute.BLOCK);
        continue;
      }
      any = true;
      double from = i == 0 ? Double.NEGATIVE_INFINITY : active[i];
      TreeSet<Double> stops = stops(a, from, until);
      stops.add(active[i]);
      for (double t : stops) {
        at.add(t);
        values.add(value(a, type, mapped(t)));
      }
    }
    double[] t = at.stream().mapToDouble(Double::doubleValue).toArray();
    return any ? Optional.of(new UsdAttribute(name, type, null, t, values)) : Optional.empty();
  }

  private UsdAttribute find(UsdLayer layer, String below, String name) {
    UsdPrim p = layer.at(primPath + below);
    return p == null ? null : p.attributes.get(name);
  }

  /** Times of the scene from one activation to the next at which there is a sample. */
  private TreeSet<Double> stops(UsdAttribute a, double from, double until) {
    TreeSet<Double> out = new TreeSet<>();
    for (int i = 0; i < times.length; i += 2) {
      add(out, times[i], from, until);
    }
    for (double inside : a.times()) {
      if (times.length == 0) {
        add(out, inside, from, until);
      }
      for (int i = 0; i + 3 < times.length; i += 2) {
        double length = times[i + 3] - times[i + 1];
        double u = (inside - times[i + 1]) / length;
        if (length != 0 && u >= 0 && u <= 1) {
          add(out, times[i] + u * (times[i + 2] - times[i]), from, until);
        }
      }
    }
    return out;
  }

  private static void add(TreeSet<Double> to, double t, double from, double until) {
    if (t >= from && t < until) {
      to.add(t);
    }
  }

  /** The clip's time; of two pairs at one time of the scene, the later counts. */
  private double mapped(double t) {
    if (times.length == 0) {
      return t;
    }
    if (t < times[0]) {
      return times[1];
    }
    int i = times.length - 2;
    while (i > 0 && times[i] > t) {
      i -= 2;
    }
    if (i + 2 >= times.length) {
      return times[i + 1];
    }
    double u = (t - times[i]) / (times[i + 2] - times[i]);
    return times[i + 1] + u * (times[i + 3] - times[i + 1]);
  }

  /** A value of a clip, linear between its samples where it is of numbers. */
  private static Object value(UsdAttribute a, String type, double t) {
    if (!a.isAnimated()) {
      return a.value() == null ? UsdAttribute.BLOCK : a.value();
    }
    double[] at = a.times();
    int found = Arrays.binarySearch(at, t);
    int after = found >= 0 ? found : -found - 1;
    int lo = found >= 0 ? found : Math.max(0, after - 1);
    Object before = a.samples().get(lo);
    if (found >= 0 || after == 0 || after == at.length) {
      return before;
    }
    Object next = a.samples().get(after);
    double u = (t - at[lo]) / (at[after] - at[lo]);
    if (before instanceof Double x && next instanceof Double y) {
      return x + (y - x) * u;
    }
    boolean alike =
        before instanceof UsdArray x
            && next instanceof UsdArray y
            && x.numbers().length == y.numbers().length;
    if (!alike) {
      return before;
    }
    UsdArray x = (UsdArray) before;
    UsdArray y = (UsdArray) next;
    return new UsdArray(
        x.count(),
        type.startsWith("quat") && x.count() == 1
            ? UsdEvaluator.slerp(x.numbers(), y.numbers(), u)
            : UsdEvaluator.lerp(x.numbers(), y.numbers(), u));
  }
}
