package flarvo.format.gltf;

import de.javagl.jgltf.impl.v2.Accessor;
import de.javagl.jgltf.impl.v2.BufferView;
import de.javagl.jgltf.impl.v2.GlTF;
import de.javagl.jgltf.impl.v2.Node;
import de.javagl.jgltf.model.io.GltfAsset;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import java.util.List;

/** Refuses what would make the library allocate or run without end. */
final class GltfGuard {

  private GltfGuard() {}

  static GlTF check(GltfAsset asset, long bytes, ReadLimits limits, String file) {
    if (!(asset.getGltf() instanceof GlTF g)) {
      throw new InputError(
          file, "asset.version", "this is glTF 1; version 2 is read", "Save it again as 2.0");
    }
    GltfExtensions.refuseUnknown(g, file);
    if (g.getScene() != null
        && (g.getScene() < 0 || g.getScene() >= orEmpty(g.getScenes()).size())) {
      throw new InputError(
          file,
          "scene",
          "it shows scene "
              + g.getScene()
              + " of "
              + orEmpty(g.getScenes()).size()
              + ", counted from 0",
          "Request a new copy");
    }
    for (Accessor a : orEmpty(g.getAccessors())) {
      if (a.getCount() == null || a.getCount() < 0 || a.getCount() > limits.mostNumbers() / 16) {
        throw new InputError(
            file, "accessors", "a list of " + a.getCount() + " entries is claimed", "");
      }
    }
    for (BufferView v : orEmpty(g.getBufferViews())) {
      if (v.getByteLength() == null || v.getByteLength() < 0) {
        throw new InputError(file, "bufferViews", "a length is missing or below 0", "");
      }
    }
    long sum = 0;
    for (var b : orEmpty(g.getBuffers())) {
      if (b.getByteLength() == null || b.getByteLength() < 0) {
        throw new InputError(file, "buffers", "a length is missing or below 0", "");
      }
      sum += b.getByteLength();
      if (b.getUri() == null && b.getByteLength() > bytes || sum > limits.largestFile()) {
        throw new InputError(
            file, "buffers", "a buffer of " + b.getByteLength() + " bytes is claimed", "");
      }
    }
    List<Node> nodes = orEmpty(g.getNodes());
    if (nodes.size() > limits.mostObjects()) {
      throw new InputError(file, "nodes", nodes.size() + " nodes are too many", "");
    }
    boolean[] child = new boolean[nodes.size()];
    for (Node n : nodes) {
      for (Integer c : orEmpty(n.getChildren())) {
        if (c == null || c < 0 || c >= nodes.size() || child[c]) {
          throw new InputError(
              file, "nodes", "node " + c + " does not exist, or has two parents", "");
        }
        child[c] = true;
      }
    }
    // With one parent each, a circle is what no root reaches.
    boolean[] reached = new boolean[nodes.size()];
    java.util.ArrayDeque<Integer> todo = new java.util.ArrayDeque<>();
    for (int i = 0; i < child.length; i++) {
      if (!child[i]) {
        todo.add(i);
      }
    }
    int count = 0;
    while (!todo.isEmpty()) {
      int i = todo.pop();
      if (!reached[i]) {
        reached[i] = true;
        count++;
        todo.addAll(orEmpty(nodes.get(i).getChildren()));
      }
    }
    if (count != nodes.size()) {
      throw new InputError(file, "nodes", "the hierarchy runs in a circle", "");
    }
    return g;
  }

  private static <T> List<T> orEmpty(List<T> list) {
    return list == null ? List.of() : list;
  }
}
