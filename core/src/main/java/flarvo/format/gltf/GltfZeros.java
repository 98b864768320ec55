package flarvo.format.gltf;

import de.javagl.jgltf.impl.v2.Accessor;
import de.javagl.jgltf.impl.v2.Buffer;
import de.javagl.jgltf.impl.v2.BufferView;
import de.javagl.jgltf.impl.v2.GlTF;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import java.util.Base64;
import java.util.List;
import java.util.Map;

/**
 * Gives accessors without a buffer view one of zeros, which is what the format says they stand for;
 * sparse ones put their values on top. The library would leave them empty.
 */
final class GltfZeros {

  private static final Map<String, Integer> COMPONENTS =
      Map.of("SCALAR", 1, "VEC2", 2, "VEC3", 3, "VEC4", 4, "MAT2", 4, "MAT3", 9, "MAT4", 16);

  private static final int WIDEST = 4; // bytes of a component

  private GltfZeros() {}

  /**
   * @throws InputError when more zeros are claimed than a file may hold
   */
  static void fill(GlTF g, ReadLimits limits, String file) {
    List<Accessor> empty =
        g.getAccessors() == null
            ? List.of()
            : g.getAccessors().stream().filter(a -> a.getBufferView() == null).toList();
    int most = 0;
    for (Accessor a : empty) {
      // One buffer serves all of them: nothing writes to it.
      long bytes = (long) a.getCount() * COMPONENTS.getOrDefault(a.getType(), 1) * WIDEST;
      if (bytes > Math.min(limits.largestFile(), Integer.MAX_VALUE / 2)) {
        throw new InputError(
            file, "accessors", "a list of " + a.getCount() + " zeros is claimed", "");
      }
      most = Math.max(most, (int) bytes);
    }
    if (most == 0) {
      return;
    }
    Buffer zeros = new Buffer();
    zeros.setByteLength(most);
    zeros.setUri(
        "data:application/octet-stream;base64,"
            + Base64.getEncoder().encodeToString(new byte[most]));
    g.addBuffers(zeros);
    BufferView view = new BufferView();
    view.setBuffer(g.getBuffers().size() - 1);
    view.setByteLength(most);
    g.addBufferViews(view);
    empty.forEach(a -> a.setBufferView(g.getBufferViews().size() - 1));
  }
}
