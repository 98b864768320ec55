package flarvo.format.fbx;

import flarvo.report.InputError;
import flarvo.report.Note;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Objects and connections of a file, tied together; one animation stack chosen. */
final class FbxScene {

  /** Between a name and its class in binary files. */
  private static final String MARKS = "\u0000\u0001";

  final Map<Long, FbxObject> objects;
  final FbxObject settings;
  final List<Note> notes = new ArrayList<>();
  final List<String> takes = new ArrayList<>();

  /** The take that is read; null in a file without animation. */
  FbxObject stack;

  private final String file;
  private final Optional<String> take;

  FbxScene(FbxNode root, String file, Optional<String> take) {
    this.file = file;
    this.take = take;
    FbxNode objectsNode = section(root, "Objects");
    FbxNode connections = section(root, "Connections");
    FbxNode global = root.child("GlobalSettings").orElseGet(() -> new FbxNode("GlobalSettings"));
    settings = new FbxObject(0, "GlobalSettings", "", "", global, Map.of());
    Map<String, Map<String, FbxNode>> templates = templates(root);
    objects = new LinkedHashMap<>(2 * objectsNode.children.size());
    String name = "";
    for (FbxNode n : objectsNode.children) {
      long id = n.whole(0);
      Map<String, FbxNode> template = templates.get(n.name);
      if (n.text(2).equals("Camera")) {
        template = templates.getOrDefault(n.name + "/Camera", template);
      }
      String stored = n.text(1);
      // A model and its attribute follow each other and are called alike; large files have 100,000.
      name = isPlain(stored, name) ? name : plainName(stored);
      FbxObject o =
          new FbxObject(id, n.name, name, n.text(2), n, template == null ? Map.of() : template);
      Long key = n.values.isEmpty() || !(n.values.get(0) instanceof Long own) ? (Long) id : own;
      if (objects.put(key, o) != null) {
        throw new InputError(file, n.name + " " + id, "two objects have this number", "");
      }
    }
    connect(connections);
    refuseCycles();
  }

  private FbxNode section(FbxNode root, String name) {
    return root.child(name)
        .orElseThrow(
            () ->
                new InputError(
                    file,
                    "",
                    "the section '" + name + "' is missing",
                    "The file is truncated or not a scene; request a new copy"));
  }

  /** Properties of each class, by its name. */
  private static Map<String, Map<String, FbxNode>> templates(FbxNode root) {
    Map<String, Map<String, FbxNode>> map = new HashMap<>();
    for (FbxNode type : root.child("Definitions").map(d -> d.all("ObjectType")).orElse(List.of())) {
      for (FbxNode template : type.all("PropertyTemplate")) {
        String kind = template.text(0);
        String key = kind.equals("FbxCamera") ? type.text(0) + "/Camera" : type.text(0);
        if (!type.text(0).equals("NodeAttribute") || kind.equals("FbxCamera")) {
          map.putIfAbsent(key, properties(template));
        }
      }
    }
    return map;
  }

  private static Map<String, FbxNode> properties(FbxNode template) {
    Map<String, FbxNode> out = new HashMap<>();
    for (FbxNode p : template.child("Properties70").map(n -> n.all("P")).orElse(List.of())) {
      out.put(p.text(0), p);
    }
    return out;
  }

  private void connect(FbxNode connections) {
    Map<Long, Set<Long>> stackLayers = new LinkedHashMap<>();
    Map<Long, Long> layerOf = new HashMap<>();
    List<FbxNode> animating = new ArrayList<>();
    List<FbxNode> list = connections.children;
    for (int i = 0; i < list.size(); i++) {
      String kind = FbxRecords.word(list, i, "C");
      if (kind.isEmpty()) {
        continue;
      }
      FbxObject child = objects.get(FbxRecords.whole(list, i, 1));
      long to = FbxRecords.whole(list, i, 2);
      FbxObject parent = objects.get(to);
      if (child == null || parent == null) {
        if (to != 0 && kind.equals("OO")) {
          sayLost(child);
        }
        continue; // the scene's root is number 0 and no object
      }
      if (child.kind.startsWith("Animation")) {
        animating.add(list.get(i));
      }
      if (child.kind.equals("AnimationLayer") && parent.kind.equals("AnimationStack")) {
        stackLayers.computeIfAbsent(parent.id, k -> new LinkedHashSet<>()).add(child.id);
      } else if (child.kind.equals("AnimationCurveNode") && parent.kind.equals("AnimationLayer")) {
        layerOf.put(child.id, parent.id);
      } else if (kind.equals("OO") && !child.kind.startsWith("Animation")) {
        parent.add(child);
        if (parent.kind.equals("Model") && child.kind.equals("Model")) {
          child.parent = parent;
        }
      } else if (kind.equals("OP") && pointsTo(parent, child)) {
        parent.link(list.get(i).text(3), child);
      }
    }
    List<FbxLayer> layers = layers(stackLayers);
    new FbxAnimation(objects, layers, layerOf, file).connect(animating);
    sayLayers(layers);
  }

  private static boolean pointsTo(FbxObject parent, FbxObject child) {
    return child.kind.equals("Model") && parent.kind.equals("Model")
        || child.kind.equals("Texture") && parent.kind.equals("Material");
  }

  /** Here it stands at the top; another reader may leave it out. */
  private void sayLost(FbxObject child) {
    if (child != null && child.kind.equals("Model")) {
      notes.add(
          Note.conflicting(
              "Model " + child.name,
              "it hangs from an object that is not in the file, and is taken as at the top"));
    }
  }

  /** The layers of the chosen stack, the lowest first; one for everything in a file without. */
  private List<FbxLayer> layers(Map<Long, Set<Long>> stackLayers) {
    if (stackLayers.isEmpty()) {
      return List.of(FbxLayer.ONLY);
    }
    long chosen = stackLayers.keySet().iterator().next();
    for (long id : stackLayers.keySet()) {
      takes.add(objects.get(id).name);
      if (take.isPresent() && take.get().equals(objects.get(id).name)) {
        chosen = id;
      }
    }
    if (take.isPresent() && !takes.contains(take.get())) {
      throw new InputError(file, "", "there is no take '" + take.get() + "'", "It has: " + takes);
    }
    if (takes.size() > 1 && take.isEmpty()) {
      notes.add(
          Note.assumed(
              "", takes.size() + " takes " + takes + "; the first is read unless you choose"));
    }
    stack = objects.get(chosen);
    return FbxLayer.of(stackLayers.get(chosen).stream().map(objects::get).toList());
  }

  private void sayLayers(List<FbxLayer> layers) {
    List<String> silent =
        layers.stream().filter(l -> !l.counts()).map(l -> l.source().name).toList();
    if (!silent.isEmpty()) {
      notes.add(
          Note.ignored(
              "take " + stack.name, "animation layers that are muted or not soloed: " + silent));
    }
  }

  private void refuseCycles() {
    for (FbxObject o : objects.values()) {
      int steps = 0;
      for (FbxObject p = o.parent; p != null; p = p.parent) {
        if (++steps > 512) {
          throw new InputError(file, "Model " + o.name, "the hierarchy is cyclic or too deep", "");
        }
      }
    }
  }

  /** Whether {@link #plainName} makes a name of what is stored. */
  private static boolean isPlain(String stored, String name) {
    return stored.startsWith(MARKS, name.length()) && stored.startsWith(name);
  }

  /** Text files write {@code Model::name}; binary ones put the class behind two marks. */
  static String plainName(String stored) {
    int marks = stored.indexOf(MARKS);
    if (marks >= 0) {
      return stored.substring(0, marks);
    }
    int colons = stored.indexOf("::");
    return colons >= 0 ? stored.substring(colons + 2) : stored;
  }
}
