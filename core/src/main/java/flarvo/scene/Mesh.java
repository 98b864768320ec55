package flarvo.scene;

import java.util.Arrays;
import java.util.Objects;

/**
 * A surface that stands still: points in world space and faces as runs of point numbers, wound
 * counter-clockwise as seen from outside in a right-handed space.
 */
public final class Mesh {

  private final String name;
  private final String group; // empty for none
  private final double[] xyz;
  private final int[] faceSizes;
  private final int[] faceIndices;

  private Mesh(String name, String group, double[] xyz, int[] faceSizes, int[] faceIndices) {
    this.name = name;
    this.group = group;
    this.xyz = xyz;
    this.faceSizes = faceSizes;
    this.faceIndices = faceIndices;
  }

  /**
   * @param xyz three numbers a point
   * @param faceSizes corners of each face
   * @param faceIndices the faces' point numbers, one face behind the other
   * @throws IllegalArgumentException when a number is not finite or a face names no point
   */
  public static Mesh of(String name, double[] xyz, int[] faceSizes, int[] faceIndices) {
    if (xyz.length % 3 != 0) {
      throw new IllegalArgumentException(xyz.length + " numbers are no points");
    }
    for (double d : xyz) {
      if (!Double.isFinite(d)) {
        throw new IllegalArgumentException("a point is not finite");
      }
    }
    long corners = 0;
    for (int n : faceSizes) {
      corners += n < 0 ? Integer.MIN_VALUE : n;
    }
    if (corners != faceIndices.length) {
      throw new IllegalArgumentException(
          "the faces have " + corners + " corners but " + faceIndices.length + " point numbers");
    }
    for (int i : faceIndices) {
      if (i < 0 || i >= xyz.length / 3) {
        throw new IllegalArgumentException("a face names point " + i + " of " + xyz.length / 3);
      }
    }
    return new Mesh(
        Objects.requireNonNull(name), "", xyz.clone(), faceSizes.clone(), faceIndices.clone());
  }

  /**
   * Every point changed, such as from one space to another.
   *
   * @param turned whether the hand changes, and faces are wound the other way
   */
  public Mesh map(java.util.function.UnaryOperator<Vec3> change, boolean turned) {
    double[] out = new double[xyz.length];
    for (int i = 0; i < points(); i++) {
      Vec3 v = change.apply(new Vec3(x(i), y(i), z(i)));
      out[3 * i] = v.x();
      out[3 * i + 1] = v.y();
      out[3 * i + 2] = v.z();
    }
    int[] wound = faceIndices.clone();
    int at = 0;
    for (int n : faceSizes) {
      for (int i = 0; turned && i < n; i++) {
        wound[at + i] = faceIndices[at + n - 1 - i];
      }
      at += n;
    }
    return new Mesh(name, group, out, faceSizes, wound);
  }

  /** Where it belongs among others; formats make a node of it. */
  public Mesh inGroup(String other) {
    return new Mesh(name, other, xyz, faceSizes, faceIndices);
  }

  /** Empty for none; what a file calls its parents is not read. */
  public String group() {
    return group;
  }

  public String name() {
    return name;
  }

  /** Number of points. */
  public int points() {
    return xyz.length / 3;
  }

  public int faces() {
    return faceSizes.length;
  }

  /** Of point {@code i}. */
  public double x(int point) {
    return xyz[3 * point];
  }

  /** Of point {@code i}. */
  public double y(int point) {
    return xyz[3 * point + 1];
  }

  /** Of point {@code i}. */
  public double z(int point) {
    return xyz[3 * point + 2];
  }

  /** Number of corners of face {@code i}. */
  public int corners(int face) {
    return faceSizes[face];
  }

  /** Point numbers of all faces, one face behind the other. */
  public int[] faceIndices() {
    return faceIndices.clone();
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof Mesh m
        && name.equals(m.name)
        && group.equals(m.group)
        && Arrays.equals(xyz, m.xyz)
        && Arrays.equals(faceSizes, m.faceSizes)
        && Arrays.equals(faceIndices, m.faceIndices);
  }

  @Override
  public int hashCode() {
    return Objects.hash(name, group, Arrays.hashCode(xyz), Arrays.hashCode(faceIndices));
  }
}
