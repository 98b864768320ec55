package flarvo.scene;

import java.util.Arrays;
import java.util.Objects;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * A surface: points, and faces as runs of point numbers, wound counter-clockwise as seen from
 * outside in a right-handed space; with normals and texture coordinates a corner where they are
 * known. Points are in the space of the shot, or, where the mesh hangs in a group that moves, in
 * that group's space. Immutable.
 */
public final class Mesh {

  private static final double[] NONE = {};

  private final String name;
  private final Optional<Group> group;
  private final double[] xyz;
  private final int[] faceSizes;
  private final int[] faceIndices;
  private final double[] normals; // three a corner, or none
  private final double[] uvs; // two a corner, or none
  private final Optional<Texture> texture;

  private Mesh(
      String name,
      Optional<Group> group,
      double[] xyz,
      int[] faceSizes,
      int[] faceIndices,
      double[] normals,
      double[] uvs,
      Optional<Texture> texture) {
    this.name = name;
    this.group = group;
    this.xyz = xyz;
    this.faceSizes = faceSizes;
    this.faceIndices = faceIndices;
    this.normals = normals;
    this.uvs = uvs;
    this.texture = texture;
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
        Objects.requireNonNull(name),
        Optional.empty(),
        xyz.clone(),
        faceSizes.clone(),
        faceIndices.clone(),
        NONE,
        NONE,
        Optional.empty());
  }

  /**
   * With normals.
   *
   * @param perCorner three numbers for each corner of each face, in the faces' order; of length one
   * @throws IllegalArgumentException when their number differs or one is not finite
   */
  public Mesh withNormals(double[] perCorner) {
    return new Mesh(
        name, group, xyz, faceSizes, faceIndices, checked(perCorner, 3, "normal"), uvs, texture);
  }

  /**
   * With texture coordinates.
   *
   * @param perCorner u and v for each corner of each face, in the faces' order; v upwards
   * @throws IllegalArgumentException when their number differs or one is not finite
   */
  public Mesh withUvs(double[] perCorner) {
    return new Mesh(
        name, group, xyz, faceSizes, faceIndices, normals, checked(perCorner, 2, "UV"), texture);
  }

  /** With pictures on it, which its texture coordinates place; none takes them off. */
  public Mesh withTexture(Optional<Texture> t) {
    return new Mesh(name, group, xyz, faceSizes, faceIndices, normals, uvs, t);
  }

  private double[] checked(double[] values, int each, String what) {
    if (values.length != each * faceIndices.length) {
      throw new IllegalArgumentException(
          faceIndices.length + " corners but " + values.length + " numbers of their " + what + "s");
    }
    for (double d : values) {
      if (!Double.isFinite(d)) {
        throw new IllegalArgumentException("a " + what + " is not finite");
      }
    }
    return values.clone();
  }

  /**
   * In another space.
   *
   * @param point where a point goes
   * @param direction where a direction of length one goes
   * @param turned whether the hand changes, and faces are wound the other way
   */
  public Mesh map(UnaryOperator<Vec3> point, UnaryOperator<Vec3> direction, boolean turned) {
    return new Mesh(
        name,
        group,
        PackedPoints.map(xyz, point),
        faceSizes,
        turned ? rewound(faceIndices, faceSizes) : faceIndices,
        turned
            ? rewound(PackedPoints.map(normals, direction), 3)
            : PackedPoints.map(normals, direction),
        turned ? rewound(uvs, 2) : uvs,
        texture);
  }

  private static int[] rewound(int[] corners, int[] sizes) {
    int[] wound = new int[corners.length];
    int at = 0;
    for (int n : sizes) {
      for (int i = 0; i < n; i++) {
        wound[at + i] = corners[at + n - 1 - i];
      }
      at += n;
    }
    return wound;
  }

  private double[] rewound(double[] corners, int each) {
    double[] wound = new double[corners.length];
    int at = 0;
    for (int n : faceSizes) {
      for (int i = 0; i < n && corners.length > 0; i++) {
        System.arraycopy(corners, each * (at + n - 1 - i), wound, each * (at + i), each);
      }
      at += n;
    }
    return wound;
  }

  /** In another space; what hangs in a group that moves goes along with it. */
  public Mesh under(Similarity s) {
    return moves()
        ? map(v -> v.times(s.scale()), d -> d, false).inGroup(group.map(g -> g.under(s)))
        : map(s::apply, s.rotation()::apply, false);
  }

  /** Under frame numbers that are {@code by} higher. */
  public Mesh shifted(int by) {
    Mesh there = moves() && by != 0 ? inGroup(group.map(g -> g.map(p -> p.shifted(by)))) : this;
    return texture.isEmpty() ? there : there.withTexture(texture.map(t -> t.shifted(by)));
  }

  /** The same numbers in another group, or in none. */
  public Mesh inGroup(Optional<Group> other) {
    return new Mesh(name, other, xyz, faceSizes, faceIndices, normals, uvs, texture);
  }

  /** What it hangs in; a mesh in no group hangs in the shot. */
  public Optional<Group> group() {
    return group;
  }

  /** Whether it moves through the shot. */
  public boolean moves() {
    return group.isPresent() && group.get().moves();
  }

  /** The pictures on it. */
  public Optional<Texture> texture() {
    return texture;
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

  /** Of point {@code i} at a frame, in the space of the shot. */
  public Vec3 position(int i, int frame) {
    Vec3 own = new Vec3(x(i), y(i), z(i));
    return moves() ? group.get().at(frame).toWorld(own) : own;
  }

  /** Number of corners of face {@code i}. */
  public int corners(int face) {
    return faceSizes[face];
  }

  /** Point numbers of all faces, one face behind the other. */
  public int[] faceIndices() {
    return faceIndices.clone();
  }

  /** Three numbers for each corner of each face, in the faces' order; none where unknown. */
  public double[] normals() {
    return normals.clone();
  }

  /** Two numbers for each corner of each face, in the faces' order; none where unknown. */
  public double[] uvs() {
    return uvs.clone();
  }

  /**
   * Numbers of corners, three a triangle: every face cut into a fan from its first corner. A
   * corner's point is {@code faceIndices()[corner]}.
   */
  public int[] triangles() {
    int n = 0;
    for (int f = 0; f < faces(); f++) {
      n += Math.max(0, corners(f) - 2);
    }
    int[] out = new int[3 * n];
    int at = 0;
    int k = 0;
    for (int f = 0; f < faces(); f++) {
      for (int i = 1; i + 1 < corners(f); i++) {
        out[k++] = at;
        out[k++] = at + i;
        out[k++] = at + i + 1;
      }
      at += corners(f);
    }
    return out;
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof Mesh m
        && name.equals(m.name)
        && group.equals(m.group)
        && Arrays.equals(xyz, m.xyz)
        && Arrays.equals(faceSizes, m.faceSizes)
        && Arrays.equals(faceIndices, m.faceIndices)
        && Arrays.equals(normals, m.normals)
        && Arrays.equals(uvs, m.uvs)
        && texture.equals(m.texture);
  }

  @Override
  public int hashCode() {
    return Objects.hash(name, Arrays.hashCode(xyz), Arrays.hashCode(faceIndices));
  }
}
