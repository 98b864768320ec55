package flarvo.format.mesh;

import flarvo.convention.Dialect;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.StringTokenizer;

/** OBJ: lines of {@code v x y z} and {@code f a b c …}; everything else is for looks. */
public final class ObjFormat extends PointFormat {

  private static final Set<String> POINTS = Set.of("v", "vn", "vt");

  /** What may stand before the first point. */
  private static final Set<String> BEFORE = Set.of("mtllib", "usemtl", "o", "g", "s");

  @Override
  public String id() {
    return "obj";
  }

  @Override
  public String title() {
    return "OBJ";
  }

  @Override
  public List<String> extensions() {
    return List.of(".obj");
  }

  @Override
  public boolean recognises(byte[] head) {
    for (String line : new String(head, StandardCharsets.ISO_8859_1).split("\n", -1)) {
      String[] w = line.strip().split("\\s+", 3);
      if (POINTS.contains(w[0])) {
        return w.length > 1 && !w[1].isEmpty() && "+-.0123456789".indexOf(w[1].charAt(0)) >= 0;
      }
      if (!w[0].isEmpty() && !w[0].startsWith("#") && !BEFORE.contains(w[0])) {
        return false;
      }
    }
    return false;
  }

  @Override
  public FileScene read(Path path, Dialect from, ReadLimits limits, Progress progress) {
    String file = path.toString();
    double[] xyz = new double[3 * 1024];
    int[] sizes = new int[1024];
    int[] indices = new int[4096];
    int points = 0;
    int faces = 0;
    int corners = 0;
    int line = 0;
    for (String text : (Iterable<String>) TextSource.readAny(path, limits).lines()::iterator) {
      line++;
      if ((line & 0xFFF) == 0) {
        progress.step(0, 0);
      }
      if (text.startsWith("v ") || text.startsWith("v\t")) {
        if (3 * points + 3 > xyz.length) {
          xyz = Arrays.copyOf(xyz, 2 * xyz.length);
        }
        StringTokenizer t = new StringTokenizer(text.substring(2));
        for (int k = 0; k < 3; k++) {
          xyz[3 * points + k] = number(t, file, line);
        }
        points++;
      } else if (text.startsWith("f ") || text.startsWith("f\t")) {
        if (faces == sizes.length) {
          sizes = Arrays.copyOf(sizes, 2 * faces);
        }
        StringTokenizer t = new StringTokenizer(text.substring(2));
        while (t.hasMoreTokens()) {
          if (corners == indices.length) {
            indices = Arrays.copyOf(indices, 2 * corners);
          }
          indices[corners++] = corner(t.nextToken(), points, file, line);
          sizes[faces]++;
        }
        faces++;
      }
    }
    if (points == 0) {
      throw new InputError(file, "line " + line, "there are no points", "Request a new copy");
    }
    String name = path.getFileName().toString().replaceAll("\\.[^.]*$", "");
    return scene(
        name,
        Arrays.copyOf(xyz, 3 * points),
        Arrays.copyOf(sizes, faces),
        Arrays.copyOf(indices, corners),
        file);
  }

  private static double number(StringTokenizer t, String file, int line) {
    try {
      return Double.parseDouble(t.hasMoreTokens() ? t.nextToken() : "");
    } catch (NumberFormatException e) {
      throw new InputError(
          file,
          "line " + line,
          "expected three numbers",
          "The file is corrupt; request a new copy",
          e);
    }
  }

  /** {@code 7}, {@code 7/2}, {@code 7//3}; counted from 1, or backwards from the last point. */
  private static int corner(String text, int points, String file, int line) {
    int slash = text.indexOf('/');
    try {
      int i = Integer.parseInt(slash < 0 ? text : text.substring(0, slash));
      int index = i > 0 ? i - 1 : points + i;
      if (i != 0 && index >= 0) {
        return index; // a point may come later; the mesh checks in the end
      }
    } catch (NumberFormatException e) {
      // Falls through to the one message below.
    }
    throw new InputError(
        file,
        "line " + line,
        "'" + text + "' is not a corner",
        "The file is corrupt; request a new copy");
  }
}
