package flarvo.format.gltf;

import de.javagl.jgltf.impl.v2.AnimationChannel;
import de.javagl.jgltf.impl.v2.AnimationSampler;
import de.javagl.jgltf.model.AccessorModel;
import de.javagl.jgltf.model.CameraModel;
import de.javagl.jgltf.model.NodeModel;
import flarvo.format.Sourced;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.Rate;
import java.util.Collection;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The animation that is read: curves by what they move, be it named by node and path or by a
 * pointer (KHR_animation_pointer).
 */
final class GltfTake {

  private static final String POINTER = "KHR_animation_pointer";

  private static final Map<String, Integer> WIDTHS =
      Map.of("translation", 3, "rotation", 4, "scale", 3);

  private static final Pattern NODE =
      Pattern.compile("/nodes/(\\d{1,9})/(translation|rotation|scale)");
  private static final Pattern CAMERA =
      Pattern.compile("/cameras/(\\d{1,9})/perspective/(yfov|aspectRatio)");

  /** Half of what lies between a whole rate and its NTSC fellow, and a little less. */
  private static final double MOST_OPEN = 4e-4;

  private final String file;
  private final GltfContents contents;
  private final List<Note> notes;
  private final IdentityHashMap<NodeModel, Map<String, GltfCurve>> nodes = new IdentityHashMap<>();
  private final IdentityHashMap<CameraModel, Map<String, GltfCurve>> cameras =
      new IdentityHashMap<>();

  GltfTake(String file, GltfContents contents, List<Note> notes) {
    this.file = file;
    this.contents = contents;
    this.notes = notes;
  }

  /** Curves of a node, by path. */
  Map<String, GltfCurve> of(NodeModel n) {
    return nodes.getOrDefault(n, Map.of());
  }

  /** Curves of a camera's properties, by name. */
  Map<String, GltfCurve> of(CameraModel c) {
    return cameras.getOrDefault(c, Map.of());
  }

  /**
   * Chooses an animation.
   *
   * @param takes receives the names of all
   * @throws InputError when there is none of the wanted name, or it is corrupt
   */
  void choose(Optional<String> take, List<String> takes) {
    var all = contents.stated().getAnimations();
    if (all == null) {
      all = List.of();
    }
    de.javagl.jgltf.impl.v2.Animation chosen = null;
    for (var a : all) {
      String name = a.getName() == null ? "animation " + (takes.size() + 1) : a.getName();
      takes.add(name);
      boolean wanted = take.isEmpty() ? chosen == null : take.get().equals(name);
      chosen = wanted ? a : chosen;
    }
    if (take.isPresent() && chosen == null) {
      throw new InputError(file, "", "there is no take '" + take.get() + "'", "It has: " + takes);
    }
    if (all.size() > 1 && take.isEmpty()) {
      notes.add(
          Note.assumed(
              "", all.size() + " takes " + takes + "; the first is read unless you choose"));
    }
    if (chosen != null && chosen.getChannels() != null) {
      for (AnimationChannel c : chosen.getChannels()) {
        channel(c, chosen.getSamplers());
      }
    }
  }

  private void channel(AnimationChannel c, List<AnimationSampler> samplers) {
    if (c.getTarget() == null || c.getSampler() == null) {
      return;
    }
    String path = c.getTarget().getPath();
    AnimationSampler sampler = at(samplers, c.getSampler(), "a sampler");
    var extensions = c.getTarget().getExtensions();
    if (extensions != null && extensions.containsKey(POINTER)) {
      pointer(c, sampler); // the library knows no such path and leaves it empty
    } else if (c.getTarget().getNode() != null && path != null && WIDTHS.containsKey(path)) {
      node(at(contents.model().getNodeModels(), c.getTarget().getNode(), "a node"), path, sampler);
    }
  }

  private void pointer(AnimationChannel c, AnimationSampler sampler) {
    var extensions = c.getTarget().getExtensions();
    Object pointer =
        extensions != null && extensions.get(POINTER) instanceof Map<?, ?> m
            ? m.get("pointer")
            : null;
    String text = pointer instanceof String s ? s : "";
    Matcher node = NODE.matcher(text);
    Matcher camera = CAMERA.matcher(text);
    if (node.matches()) {
      int i = Integer.parseInt(node.group(1));
      node(at(contents.model().getNodeModels(), i, "a node"), node.group(2), sampler);
    } else if (camera.matches()) {
      int i = Integer.parseInt(camera.group(1));
      CameraModel target = at(contents.model().getCameraModels(), i, "a camera");
      cameras
          .computeIfAbsent(target, k -> new HashMap<>())
          .put(camera.group(2), curve(sampler, 1, "animation of camera " + i));
    } else {
      notes.add(Note.ignored("animations", "what moves '" + text + "' is not followed"));
    }
  }

  private void node(NodeModel n, String path, AnimationSampler sampler) {
    nodes
        .computeIfAbsent(n, k -> new HashMap<>())
        .put(path, curve(sampler, WIDTHS.get(path), "animation of " + n.getName()));
  }

  private GltfCurve curve(AnimationSampler s, int width, String where) {
    List<AccessorModel> accessors = contents.model().getAccessorModels();
    if (s.getInput() == null || s.getOutput() == null) {
      throw new InputError(file, where, "a sampler has no keys or values", "");
    }
    return new GltfCurve(
        contents.numbers().of(at(accessors, s.getInput(), "an accessor")),
        contents.numbers().of(at(accessors, s.getOutput(), "an accessor")),
        GltfCurve.Way.of(s.getInterpolation()),
        width,
        file,
        where);
  }

  private <T> T at(List<T> list, int i, String what) {
    if (list == null || i < 0 || i >= list.size()) {
      throw new InputError(file, "animations", what + " of number " + i + " does not exist", "");
    }
    return list.get(i);
  }

  /** Adds the keys of everything that moves, in frames. */
  void collectKeys(Rate rate, TreeSet<Double> keys) {
    nodes.values().forEach(m -> m.values().forEach(c -> c.collectKeys(rate, keys)));
    cameras.values().forEach(m -> m.values().forEach(c -> c.collectKeys(rate, keys)));
  }

  /** From even keys; a file says no rate of its own. */
  Sourced<Rate> rate() {
    double[] longest = longest(nodes.values(), new double[0]);
    longest = longest(cameras.values(), longest);
    int n = longest.length;
    if (n > 1) {
      double each = (longest[n - 1] - longest[0]) / (n - 1);
      boolean even = true;
      for (int i = 1; i < n; i++) {
        even &= Math.abs(longest[i] - longest[0] - i * each) < 0.05 * each;
      }
      if (even && each > 1e-3) {
        try {
          // What 32-bit times far from 0 leave open of a rate that is read off a few frames.
          double open = 2 * Math.ulp((float) longest[n - 1]) / (longest[n - 1] - longest[0]);
          Rate usual = usual(1 / each, Math.min(MOST_OPEN, open));
          // Two keys are always even: only a rate that is in use tells that they are a frame apart.
          if (n > 2 || usual != null && usual.toDouble() > 11 && usual.toDouble() < 241) {
            Rate r = usual != null ? usual : Rate.fromDouble(Math.rint(1e4 / each) / 1e4);
            return Sourced.said(r, "the times of the keys");
          }
        } catch (IllegalArgumentException e) {
          notes.add(Note.assumed("", "the keys are even, but at no rate"));
        }
      }
    }
    return Sourced.assumed(Rate.FPS_24, "the format's fallback");
  }

  private static double[] longest(Collection<Map<String, GltfCurve>> curves, double[] so) {
    double[] longest = so;
    for (Map<String, GltfCurve> m : curves) {
      for (GltfCurve c : m.values()) {
        longest = c.times.length > longest.length ? c.times : longest;
      }
    }
    return longest;
  }

  /** The whole rate, or its NTSC fellow, within a share of a measured one; else null. */
  private static Rate usual(double measured, double open) {
    long whole = Math.round(measured);
    if (whole > 0 && Math.abs(measured / whole - 1) <= open) {
      return new Rate(whole, 1);
    }
    long above = (long) Math.ceil(measured);
    return Math.abs(measured * 1001 / (above * 1000.0) - 1) <= open
        ? new Rate(above * 1000, 1001)
        : null;
  }
}
