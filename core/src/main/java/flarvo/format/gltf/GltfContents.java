package flarvo.format.gltf;

import de.javagl.jgltf.impl.v2.GlTF;
import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.NodeModel;
import java.util.ArrayList;
import java.util.List;

/**
 * A parsed file.
 *
 * @param stated what the file states, also what the model leaves out
 * @param model the same with its parts tied together
 * @param numbers of the model's accessors
 */
record GltfContents(GlTF stated, GltfModel model, GltfNumbers numbers) {

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
