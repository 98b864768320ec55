package flarvo.format.mesh;

import flarvo.convention.Dialect;
import flarvo.format.ByteSource;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * PLY, as text and binary of both byte orders.
 *
 * <pre>
 *   "ply" "format" kind version ( "comment" … | "element" name count property* )* "end_header" data
 *   property = "property" type name | "property" "list" countType type name
 * </pre>
 */
public final class PlyFormat extends PointFormat {

  private static final int LONGEST_HEADER = 64 * 1024;

  private record Property(String name, int width, char kind, int countWidth, char countKind) {
    boolean isList() {
      return countWidth > 0;
    }
  }

  private record Element(String name, int count, List<Property> properties) {}

  @Override
  public String id() {
    return "ply";
  }

  @Override
  public String title() {
    return "PLY";
  }

  @Override
  public List<String> extensions() {
    return List.of(".ply");
  }

  @Override
  public boolean recognises(byte[] head) {
    String s = new String(head, StandardCharsets.ISO_8859_1);
    return s.startsWith("ply\n") || s.startsWith("ply\r\n");
  }

  @Override
  public FileScene read(Path path, Dialect from, ReadLimits limits, Progress progress) {
    return new Reader(path, limits, progress).read();
  }

  private static final class Reader {
    private final String file;
    private final String name;
    private final ByteSource in;
    private final ReadLimits limits;
    private final Progress progress;
    private final List<Element> elements = new ArrayList<>();
    private String kind = "";
    private ByteBuffer data;
    private int dataStart;
    private double[] xyz = {};
    private int[] sizes = {};
    private int[] indices = {};
    private int corners;

    Reader(Path path, ReadLimits limits, Progress progress) {
      this.file = path.toString();
      this.name = path.getFileName().toString().replaceAll("\\.[^.]*$", "");
      this.in = ByteSource.open(path, limits);
      this.limits = limits;
      this.progress = progress;
    }

    FileScene read() {
      header();
      data = in.buffer(dataStart, in.size() - dataStart);
      data.order(kind.equals("binary_big_endian") ? ByteOrder.BIG_ENDIAN : ByteOrder.LITTLE_ENDIAN);
      for (Element e : elements) {
        element(e);
      }
      if (xyz.length == 0) {
        throw in.garbled(dataStart, "there are no points");
      }
      return scene(name, xyz, sizes, Arrays.copyOf(indices, corners), file);
    }

    private void header() {
      String text = in.text(0, Math.min(in.size(), LONGEST_HEADER));
      int end = text.indexOf("end_header");
      int after = end < 0 ? -1 : text.indexOf('\n', end);
      if (after < 0) {
        throw in.error(in.size(), "the header has no end", "It was cut off; request a new copy");
      }
      dataStart =
          in.text(0, 1).length()
              + text.substring(1, after + 1).getBytes(StandardCharsets.UTF_8).length;
      List<Property> properties = List.of();
      int line = 0;
      for (String l : text.substring(0, end).split("\n", -1)) {
        line++;
        String[] w = l.trim().split("\\s+", -1);
        try {
          switch (w[0]) {
            case "format" -> kind = w[1];
            case "element" -> {
              properties = new ArrayList<>();
              elements.add(new Element(w[1], count(w[2], line), properties));
            }
            case "property" -> properties.add(property(w));
            default -> {}
          }
        } catch (RuntimeException e) {
          if (e instanceof InputError known) {
            throw known;
          }
          throw new InputError(file, "line " + line, "the header makes no sense", "", e);
        }
      }
      if (!kind.equals("ascii") && !kind.startsWith("binary_")) {
        throw in.garbled(0, "the kind of data is not known");
      }
    }

    private int count(String text, int line) {
      long n = Long.parseLong(text);
      if (n < 0 || n > limits.mostNumbers()) {
        throw new InputError(file, "line " + line, n + " entries are claimed", "");
      }
      return (int) n;
    }

    private static Property property(String[] w) {
      if (w[1].equals("list")) {
        return new Property(w[4], width(w[3]), kind(w[3]), width(w[2]), kind(w[2]));
      }
      return new Property(w[2], width(w[1]), kind(w[1]), 0, ' ');
    }

    private static int width(String type) {
      return switch (type.toLowerCase(Locale.ROOT)) {
        case "char", "uchar", "int8", "uint8" -> 1;
        case "short", "ushort", "int16", "uint16" -> 2;
        case "int", "uint", "int32", "uint32", "float", "float32" -> 4;
        case "double", "float64" -> 8;
        default -> throw new IllegalArgumentException(type);
      };
    }

    private static char kind(String type) {
      return type.startsWith("f") || type.startsWith("d") ? 'f' : type.startsWith("u") ? 'u' : 'i';
    }

    private void element(Element e) {
      boolean vertex = e.name.equals("vertex");
      boolean face = e.name.equals("face");
      int least = 0;
      for (Property p : e.properties) {
        least += p.isList() ? p.countWidth : p.width;
      }
      boolean text = kind.equals("ascii");
      if ((long) e.count * (text ? 1 : least) > data.remaining()) {
        throw in.garbled(
            dataStart + data.position(), e.count + " entries of '" + e.name + "' are claimed");
      }
      if (vertex) {
        xyz = new double[3 * e.count];
      }
      if (face) {
        sizes = new int[e.count];
        indices = new int[3 * Math.max(1, e.count)];
      }
      for (int i = 0; i < e.count; i++) {
        if ((i & 0xFFF) == 0) {
          progress.step(i, e.count);
        }
        for (Property p : e.properties) {
          int n = p.isList() ? length(p) : 1;
          boolean corner = face && p.isList() && p.name.startsWith("vert");
          int axis = vertex && p.name.length() == 1 ? "xyz".indexOf(p.name) : -1;
          for (int k = 0; k < n; k++) {
            double v = number(p.width, p.kind);
            if (axis >= 0) {
              xyz[3 * i + axis] = v;
            } else if (corner) {
              corner(i, v);
            }
          }
        }
      }
    }

    private int length(Property p) {
      int at = data.position();
      double n = number(p.countWidth, p.countKind);
      if (!(n >= 0 && n <= data.remaining())) {
        throw in.garbled(dataStart + at, "a list of " + n + " entries is claimed");
      }
      return (int) n;
    }

    private void corner(int face, double v) {
      if (corners == indices.length) {
        indices = Arrays.copyOf(indices, 2 * corners);
      }
      indices[corners++] = (int) v;
      sizes[face]++;
    }

    private double number(int width, char k) {
      int at = data.position();
      if (kind.equals("ascii")) {
        return word(at);
      }
      if (data.remaining() < width) {
        throw in.error(in.size(), "the data ends early", "It was cut off; request a new copy");
      }
      return switch (width) {
        case 1 -> k == 'u' ? data.get() & 0xFF : data.get();
        case 2 -> k == 'u' ? data.getShort() & 0xFFFF : data.getShort();
        case 4 ->
            k == 'f' ? data.getFloat() : k == 'u' ? data.getInt() & 0xFFFFFFFFL : data.getInt();
        default -> data.getDouble();
      };
    }

    private double word(int at) {
      while (data.hasRemaining() && data.get(data.position()) <= ' ') {
        data.get();
      }
      StringBuilder s = new StringBuilder();
      while (data.hasRemaining() && data.get(data.position()) > ' ' && s.length() < 64) {
        s.append((char) data.get());
      }
      try {
        return Double.parseDouble(s.toString());
      } catch (NumberFormatException e) {
        throw new InputError(
            file,
            "byte offset " + (dataStart + at),
            s.length() == 0 ? "the data ends early" : "'" + s + "' is not a number",
            "The file is corrupt; request a new copy",
            e);
      }
    }
  }
}
