package flarvo.plate.look;

import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;

/**
 * A look-up table of a {@code .cube} file: one curve for each channel, or a cube of colours, red
 * running fastest. Between its entries the colour is interpolated (trilinear in a cube).
 */
public final class CubeTable {

  private static final int MOST_CUBE = 129;
  private static final int MOST_CURVE = 65_536;
  private static final String ADVICE =
      "A .cube file has LUT_3D_SIZE or LUT_1D_SIZE, then rows of three numbers";

  private final String name;
  private final int size;
  private final boolean cube;
  private final float[] low;
  private final float[] high;
  private final float[] entries;

  private CubeTable(
      String name, int size, boolean cube, float[] low, float[] high, float[] entries) {
    this.name = name;
    this.size = size;
    this.cube = cube;
    this.low = low;
    this.high = high;
    this.entries = entries;
  }

  /**
   * Reads a table.
   *
   * @throws InputError with the line that is wrong
   */
  public static CubeTable read(Path file) {
    return new Parser(file).parse();
  }

  /** Name of its file. */
  public String name() {
    return name;
  }

  /**
   * Looks a colour up.
   *
   * @param rgb changed in place; beyond the table's domain its edge counts
   */
  public void apply(float[] rgb) {
    float r = place(rgb[0], 0);
    float g = place(rgb[1], 1);
    float b = place(rgb[2], 2);
    if (!cube) {
      rgb[0] = between(r, 0);
      rgb[1] = between(g, 1);
      rgb[2] = between(b, 2);
      return;
    }
    int r0 = Math.min((int) r, size - 2);
    int g0 = Math.min((int) g, size - 2);
    int b0 = Math.min((int) b, size - 2);
    for (int c = 0; c < 3; c++) {
      float low0 = plane(r0, g0, b0, r - r0, g - g0, c);
      float high0 = plane(r0, g0, b0 + 1, r - r0, g - g0, c);
      rgb[c] = low0 + (b - b0) * (high0 - low0);
    }
  }

  private float plane(int r, int g, int b, float fr, float fg, int c) {
    float a0 = at(r, g, b, c);
    float a1 = at(r + 1, g, b, c);
    float b0 = at(r, g + 1, b, c);
    float b1 = at(r + 1, g + 1, b, c);
    float x = a0 + fr * (a1 - a0);
    float y = b0 + fr * (b1 - b0);
    return x + fg * (y - x);
  }

  private float at(int r, int g, int b, int c) {
    return entries[((b * size + g) * size + r) * 3 + c];
  }

  private float between(float x, int c) {
    int i = Math.min((int) x, size - 2);
    float a = entries[3 * i + c];
    return a + (x - i) * (entries[3 * (i + 1) + c] - a);
  }

  private float place(float v, int c) {
    float t = (v - low[c]) / (high[c] - low[c]) * (size - 1);
    return t > 0 ? Math.min(t, size - 1) : 0; // also where it is no number
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof CubeTable t
        && name.equals(t.name)
        && size == t.size
        && cube == t.cube
        && Arrays.equals(low, t.low)
        && Arrays.equals(high, t.high)
        && Arrays.equals(entries, t.entries);
  }

  @Override
  public int hashCode() {
    return 31 * name.hashCode() + size;
  }

  private static final class Parser {
    private final Path file;
    private final float[] low = {0, 0, 0};
    private final float[] high = {1, 1, 1};
    private int size;
    private boolean cube;
    private float[] entries = {};
    private int filled;
    private int line;

    Parser(Path file) {
      this.file = file;
    }

    CubeTable parse() {
      List<String> lines = TextSource.read(file, ReadLimits.USUAL).lines().toList();
      for (String text : lines) {
        line++;
        String t = text.strip();
        if (!t.isEmpty() && !t.startsWith("#")) {
          row(t.split("\\s+"));
        }
      }
      if (size == 0 || filled < entries.length) {
        throw wrong(
            size == 0
                ? "not a look-up table"
                : "it has " + filled / 3 + " of " + entries.length / 3 + " entries");
      }
      for (int c = 0; c < 3; c++) {
        if (!(high[c] > low[c])) {
          throw wrong("its domain is empty");
        }
      }
      return new CubeTable(file.getFileName().toString(), size, cube, low, high, entries);
    }

    private void row(String[] words) {
      switch (words[0]) {
        case "TITLE", "LUT_1D_INPUT_RANGE", "LUT_3D_INPUT_RANGE" -> range(words);
        case "LUT_3D_SIZE" -> size(words, true, MOST_CUBE);
        case "LUT_1D_SIZE" -> size(words, false, MOST_CURVE);
        case "DOMAIN_MIN" -> three(words, 1, low, 0);
        case "DOMAIN_MAX" -> three(words, 1, high, 0);
        default -> {
          if (size == 0) {
            throw wrong("'" + words[0] + "' is not known here");
          }
          if (filled == entries.length) {
            throw wrong("it has more entries than it says");
          }
          three(words, 0, entries, filled);
          filled += 3;
        }
      }
    }

    /** One range for all channels, as some write it; a title says nothing. */
    private void range(String[] words) {
      if (words[0].equals("TITLE")) {
        return;
      }
      if (words.length != 3) {
        throw wrong("two numbers expected");
      }
      Arrays.fill(low, number(words[1]));
      Arrays.fill(high, number(words[2]));
    }

    private void size(String[] words, boolean isCube, int most) {
      if (size != 0) {
        throw wrong("it has two tables; one is shown at a time");
      }
      int n = words.length == 2 && words[1].matches("\\d{1,6}") ? Integer.parseInt(words[1]) : 0;
      if (n < 2 || n > most) {
        throw wrong("a size of 2 to " + most + " expected");
      }
      size = n;
      cube = isCube;
      entries = new float[3 * (isCube ? n * n * n : n)];
    }

    private void three(String[] words, int from, float[] to, int at) {
      if (words.length != from + 3) {
        throw wrong("three numbers expected");
      }
      for (int c = 0; c < 3; c++) {
        to[at + c] = number(words[from + c]);
      }
    }

    private float number(String word) {
      try {
        float v = Float.parseFloat(word);
        if (Float.isFinite(v)) {
          return v;
        }
      } catch (NumberFormatException e) {
        // Falls through to the one message below.
      }
      throw wrong("'" + word + "' is no number");
    }

    private InputError wrong(String cause) {
      return new InputError(file.toString(), "line " + line, cause, ADVICE);
    }
  }
}
