package flarvo.format.gltf;

import de.javagl.jgltf.model.AccessorByteData;
import de.javagl.jgltf.model.AccessorData;
import de.javagl.jgltf.model.AccessorFloatData;
import de.javagl.jgltf.model.AccessorIntData;
import de.javagl.jgltf.model.AccessorModel;
import de.javagl.jgltf.model.AccessorShortData;
import flarvo.report.InputError;

/** Numbers of an accessor as doubles; normalised whole numbers become −1 to 1. */
final class GltfNumbers {

  private GltfNumbers() {}

  static double[] of(AccessorModel accessor, String file) {
    AccessorData data;
    try {
      data = accessor.getAccessorData();
    } catch (RuntimeException e) {
      // The library finds out only here that a list does not fit its buffer.
      throw new InputError(
          file, "accessors", "a list does not fit its buffer", "The file is corrupt", e);
    }
    if (data == null) {
      return new double[0];
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
      normalise(accessor, b.isUnsigned() ? 255 : 127, out);
    } else if (data instanceof AccessorShortData s) {
      for (int i = 0; i < out.length; i++) {
        out[i] = s.getInt(i);
      }
      normalise(accessor, s.isUnsigned() ? 65535 : 32767, out);
    } else if (data instanceof AccessorIntData n) {
      for (int i = 0; i < out.length; i++) {
        out[i] = n.getLong(i);
      }
    }
    return out;
  }

  private static void normalise(AccessorModel accessor, double most, double[] v) {
    if (accessor.isNormalized()) {
      for (int i = 0; i < v.length; i++) {
        v[i] = Math.max(v[i] / most, -1);
      }
    }
  }
}
