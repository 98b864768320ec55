package flarvo.scene;

import java.util.Collections;
import java.util.NavigableMap;
import java.util.TreeMap;
import java.util.function.UnaryOperator;

/**
 * Pictures on a mesh, unlit: what is seen is the picture's own colour.
 *
 * @param files path of the picture from each of these frames on, until the next; with {@code /}
 *     between folders, relative to the scene's file in a file and absolute in a shot. One entry is
 *     a still
 * @param alpha whether the mesh is transparent where the picture is
 */
public record Texture(NavigableMap<Integer, String> files, boolean alpha) {

  public Texture {
    if (files.isEmpty()) {
      throw new IllegalArgumentException("a texture has at least one picture");
    }
    files = Collections.unmodifiableNavigableMap(new TreeMap<>(files));
  }

  /** One picture on every frame. */
  public static Texture still(String file, boolean alpha) {
    return new Texture(new TreeMap<>(java.util.Map.of(0, file)), alpha);
  }

  /** The picture at a frame; before the first entry, the first. */
  public String at(int frame) {
    var entry = files.floorEntry(frame);
    return entry == null ? files.firstEntry().getValue() : entry.getValue();
  }

  /** Whether it is the same picture on every frame. */
  public boolean isStill() {
    return files.values().stream().distinct().count() == 1;
  }

  /** Under frame numbers that are {@code by} higher. */
  public Texture shifted(int by) {
    if (isStill()) {
      return this;
    }
    NavigableMap<Integer, String> out = new TreeMap<>();
    files.forEach((f, path) -> out.put(f + by, path));
    return new Texture(out, alpha);
  }

  /** With other paths, such as relative to another file. */
  public Texture map(UnaryOperator<String> path) {
    NavigableMap<Integer, String> out = new TreeMap<>();
    files.forEach((f, p) -> out.put(f, path.apply(p)));
    return new Texture(out, alpha);
  }
}
