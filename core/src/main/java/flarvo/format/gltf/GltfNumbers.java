package flarvo.format.gltf;

import de.javagl.jgltf.impl.v2.Accessor;
import de.javagl.jgltf.impl.v2.AccessorSparse;
import de.javagl.jgltf.impl.v2.GlTF;
import de.javagl.jgltf.model.AccessorByteData;
import de.javagl.jgltf.model.AccessorData;
import de.javagl.jgltf.model.AccessorFloatData;
import de.javagl.jgltf.model.AccessorIntData;
import de.javagl.jgltf.model.AccessorModel;
import de.javagl.jgltf.model.AccessorShortData;
import de.javagl.jgltf.model.GltfModel;
import flarvo.report.InputError;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;

/**
 * Numbers of an accessor as doubles; normalised whole numbers become −1 to 1. Sparse values are put
 * on top here: the library leaves accessors that have any without data.
 */
final class GltfNumbers {

  private static final int BYTE = 5120;
  private static final int UNSIGNED_BYTE = 5121;
  private static final int SHORT = 5122;
  private static final int UNSIGNED_SHORT = 5123;
  private static final int UNSIGNED_INT = 5125;
  private static final int FLOAT = 5126;

  private final String file;
  private final GltfModel model;
  private final IdentityHashMap<AccessorModel, AccessorSparse> sparse = new IdentityHashMap<>();

  /**
   * @param taken from the file before the library read it, by the accessor's number
   */
  GltfNumbers(String file, GltfModel model, Map<Integer, AccessorSparse> taken) {
    this.file = file;
    this.model = model;
    taken.forEach((i, s) -> sparse.put(model.getAccessorModels().get(i), s));
  }

  /** Takes the sparse values out of a file's accessors and returns them. */
  static Map<Integer, AccessorSparse> takeSparse(GlTF g) {
    Map<Integer, AccessorSparse> taken = new HashMap<>();
    List<Accessor> all = g.getAccessors() == null ? List.of() : g.getAccessors();
    for (int i = 0; i < all.size(); i++) {
      if (all.get(i).getSparse() != null) {
        taken.put(i, all.get(i).getSparse());
        all.get(i).setSparse(null);
      }
    }
    return taken;
  }

  /**
   * All components of all entries.
   *
   * @throws InputError when the list does not fit its buffer
   */
  double[] of(AccessorModel accessor) {
    AccessorData data;
    try {
      data = accessor.getAccessorData();
    } catch (RuntimeException e) {
      // The library finds out only here that a list does not fit its buffer.
      throw misfit(e);
    }
    if (data == null) {
      throw misfit(null);
    }
    double[] out = new double[data.getTotalNumComponents()];
    if (data instanceof AccessorFloatData f) {
      for (int i = 0; i < out.length; i++) {
        out[i] = f.get(i);
      }
    } else if (data instanceof AccessorByteData b) {
      for (int i = 0; i < out.length; i++) {
        out[i] = b.getInt(i);
      }
    } else if (data instanceof AccessorShortData s) {
      for (int i = 0; i < out.length; i++) {
        out[i] = s.getInt(i);
      }
    } else if (data instanceof AccessorIntData n) {
      for (int i = 0; i < out.length; i++) {
        out[i] = n.getLong(i);
      }
    }
    AccessorSparse s = sparse.get(accessor);
    if (s != null) {
      try {
        put(s, accessor.getComponentType(), out.length / Math.max(1, accessor.getCount()), out);
      } catch (RuntimeException e) {
        throw misfit(e);
      }
    }
    if (accessor.isNormalized()) {
      normalise(most(accessor.getComponentType()), out);
    }
    return out;
  }

  private InputError misfit(RuntimeException e) {
    return new InputError(
        file, "accessors", "a list does not fit its buffer", "The file is corrupt", e);
  }

  private void put(AccessorSparse s, int type, int width, double[] out) {
    ByteBuffer which = view(s.getIndices().getBufferView());
    ByteBuffer values = view(s.getValues().getBufferView());
    int from = orZero(s.getIndices().getByteOffset());
    int at = orZero(s.getValues().getByteOffset());
    int kind = s.getIndices().getComponentType();
    for (int i = 0; i < s.getCount(); i++) {
      int entry = (int) number(which, kind, from + i * size(kind));
      for (int k = 0; k < width; k++) {
        out[entry * width + k] = number(values, type, at + (i * width + k) * size(type));
      }
    }
  }

  private ByteBuffer view(int i) {
    return model
        .getBufferViewModels()
        .get(i)
        .getBufferViewData()
        .duplicate()
        .order(ByteOrder.LITTLE_ENDIAN);
  }

  private static int orZero(Integer v) {
    return v == null ? 0 : v;
  }

  private static int size(int type) {
    return type <= UNSIGNED_BYTE ? 1 : type <= UNSIGNED_SHORT ? 2 : 4;
  }

  private static double number(ByteBuffer b, int type, int at) {
    return switch (type) {
      case BYTE -> b.get(at);
      case UNSIGNED_BYTE -> b.get(at) & 0xFF;
      case SHORT -> b.getShort(at);
      case UNSIGNED_SHORT -> b.getShort(at) & 0xFFFF;
      case UNSIGNED_INT -> b.getInt(at) & 0xFFFFFFFFL;
      case FLOAT -> b.getFloat(at);
      default -> throw new IllegalArgumentException("component type " + type);
    };
  }

  private static double most(int type) {
    return switch (type) {
      case BYTE -> 127;
      case UNSIGNED_BYTE -> 255;
      case SHORT -> 32767;
      case UNSIGNED_SHORT -> 65535;
      default -> 1;
    };
  }

  private static void normalise(double most, double[] v) {
    for (int i = 0; i < v.length; i++) {
      v[i] = Math.max(v[i] / most, -1);
    }
  }
}
