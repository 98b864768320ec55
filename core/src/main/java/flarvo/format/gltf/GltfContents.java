package flarvo.format.gltf;

import de.javagl.jgltf.impl.v2.GlTF;
import de.javagl.jgltf.impl.v2.Node;
import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.NodeModel;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * A parsed file.
 *
 * @param stated what the file states, also what the model leaves out
 * @param model the same with its parts tied together
 * @param numbers of the model's accessors
 * @param skinned nodes whose meshes joints deform; the model has no skins
 */
record GltfContents(GlTF stated, GltfModel model, GltfNumbers numbers, Set<NodeModel> skinned) {

  /**
   * Takes skins out of what a file states, before the library ties it together: nothing here
   * follows them, and it refuses one without matrices, although the format makes them optional.
   *
   * @return places of nodes that had one
   */
  static Set<Integer> takeSkins(GlTF g) {
    Set<Integer> taken = new HashSet<>();
    List<Node> nodes = g.getNodes() == null ? List.of() : g.getNodes();
    for (int i = 0; i < nodes.size(); i++) {
      if (nodes.get(i).getSkin() != null) {
        taken.add(i);
        nodes.get(i).setSkin(null);
      }
    }
    g.setSkins(null);
    return taken;
  }

  /**
   * The nodes at the top of the scene that is shown; every node without a parent in a file without
   * scenes.
   */
  List<NodeModel> top() {
    var scenes = model.getSceneModels();
    if (scenes.isEmpty()) {
      return model.getNodeModels().stream().filter(n -> n.getParent() == null).toList();
    }
    Integer shown = stated.getScene();
    return List.copyOf(scenes.get(shown == null ? 0 : shown).getNodeModels());
  }

  /** Names of nodes at the top that no shown scene holds. */
  List<String> outside() {
    List<NodeModel> shown = top();
    List<String> names = new ArrayList<>();
    for (NodeModel n : model.getNodeModels()) {
      boolean in = shown.stream().anyMatch(s -> s == n);
      if (n.getParent() == null && !in) {
        names.add(n.getName() == null ? "node" : n.getName());
      }
    }
    return names;
  }
}
