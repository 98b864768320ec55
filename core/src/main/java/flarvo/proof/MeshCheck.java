package flarvo.proof;

import flarvo.format.SceneFormat;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.Texture;
import flarvo.scene.Vec3;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Compares geometry corner by corner, so that a format may cut faces into triangles or split
 * points: where each corner is on every frame, its normal and its texture coordinates.
 */
final class MeshCheck {

  /** The name of the check, by which a proof of geometry alone goes. */
  static final String NAME = "geometry";

  /** Normals and texture coordinates come back as 32-bit floats. */
  private static final double SURFACE = 1e-5;

  /** So many corners are followed over the shot; two motions that agree on them are one. */
  private static final int FOLLOWED = 64;

  private final FrameRange frames;
  private final SceneFormat format;
  private double worst;
  private double reach = 1;
  private int missing;
  private int bare;
  private int pictures;
  private int first = -1;

  /**
   * @param frames of the plates
   * @param format of the file, which may not be one for pictures
   */
  MeshCheck(FrameRange frames, SceneFormat format) {
    this.frames = frames;
    this.format = format;
  }

  /**
   * @param source what was sent; {@code found} what was read back; both canonical, on plate frames
   * @param relative how far a corner may be off, as a share of the scene's size
   */
  Check of(List<Mesh> source, List<Mesh> found, double relative) {
    Map<String, Mesh> byName = new HashMap<>();
    found.forEach(m -> byName.putIfAbsent(m.name(), m));
    for (int i = 0; i < source.size(); i++) {
      Mesh there = byName.get(source.get(i).name());
      if (there == null && found.size() == source.size()) {
        there = found.get(i); // a name that the format does not allow
      }
      compare(source.get(i), there);
    }
    boolean holds = missing == 0 && bare == 0 && pictures == 0 && worst <= relative * reach;
    return new Check(
        NAME,
        holds,
        source.size() + " in place",
        source.size()
            - missing
            + " found, "
            + String.format(Locale.ROOT, "%.6f m off", worst)
            + (first < 0 ? "" : " at frame " + first)
            + (bare == 0 ? "" : ", " + bare + " with other normals or UVs")
            + (pictures == 0 ? "" : ", " + pictures + " with other pictures"));
  }

  private void compare(Mesh a, Mesh b) {
    int[] ours = b == null ? new int[0] : a.triangles();
    int[] theirs = b == null ? new int[0] : b.triangles();
    boolean cloud = a.faces() == 0;
    if (b == null || ours.length != theirs.length || cloud && a.points() != b.points()) {
      missing++;
      return;
    }
    int[] ownPoints = cloud ? counting(a.points()) : through(ours, a.faceIndices());
    int[] otherPoints = cloud ? counting(b.points()) : through(theirs, b.faceIndices());
    for (int i = 0; i < ownPoints.length; i++) {
      at(a, ownPoints[i], b, otherPoints[i], frames.first());
    }
    int step = Math.max(1, ownPoints.length / FOLLOWED);
    for (int f = frames.first(); f <= frames.last() && (a.moves() || b.moves()); f++) {
      for (int i = 0; i < ownPoints.length; i += step) {
        at(a, ownPoints[i], b, otherPoints[i], f);
      }
    }
    boolean same =
        surface(a.normals(), b.normals(), ours, theirs, 3)
            && surface(a.uvs(), b.uvs(), ours, theirs, 2);
    bare += same ? 0 : 1;
    pictures += a.texture().map(t -> shows(t, b)).orElse(true) ? 0 : 1;
  }

  /** Whether a mesh shows what it should, as far as the format can say. */
  private boolean shows(Texture t, Mesh b) {
    if (!format.holdsPicture(t.at(frames.first()))) {
      return true;
    }
    int last =
        format.cannotCarry().contains(SceneFormat.SEQUENCES) ? frames.first() : frames.last();
    for (int f = frames.first(); f <= last; f++) {
      int frame = f;
      if (!b.texture().map(x -> x.at(frame).equals(t.at(frame))).orElse(false)) {
        return false;
      }
    }
    return true;
  }

  private void at(Mesh a, int i, Mesh b, int j, int frame) {
    Vec3 here = a.position(i, frame);
    double off = here.minus(b.position(j, frame)).length();
    reach = Math.max(reach, here.length());
    if (off > worst) {
      worst = off;
      first = frame;
    }
  }

  /** What the source has, the file must have; what it has besides is nobody's loss. */
  private static boolean surface(double[] a, double[] b, int[] ours, int[] theirs, int each) {
    if (a.length == 0) {
      return true;
    }
    if (b.length == 0) {
      return false;
    }
    for (int i = 0; i < ours.length; i++) {
      for (int k = 0; k < each; k++) {
        double x = a[each * ours[i] + k];
        if (!(Math.abs(x - b[each * theirs[i] + k]) <= SURFACE * Math.max(1, Math.abs(x)))) {
          return false;
        }
      }
    }
    return true;
  }

  private static int[] through(int[] corners, int[] points) {
    int[] out = new int[corners.length];
    for (int i = 0; i < out.length; i++) {
      out[i] = points[corners[i]];
    }
    return out;
  }

  private static int[] counting(int n) {
    int[] out = new int[n];
    for (int i = 0; i < n; i++) {
      out[i] = i;
    }
    return out;
  }
}
