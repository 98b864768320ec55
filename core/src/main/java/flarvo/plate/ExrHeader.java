package flarvo.plate;

import flarvo.format.ByteCursor;
import flarvo.format.ByteSource;
import flarvo.format.ReadLimits;
import flarvo.plate.tag.PlateTags;
import flarvo.plate.tag.StatedColour;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateFacts;
import flarvo.scene.Rate;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * The header of an OpenEXR picture: attributes of a name, a type, a length and a value each, until
 * one without a name. Of several parts the first is read. Pixels are read by a library.
 */
final class ExrHeader {

  static final int MAGIC = 0x01312f76;
  private static final int MOST_ATTRIBUTES = 1000;
  private static final int LONGEST_NAME = 255;
  private static final int LONGEST_KEPT = 1 << 16;
  private static final int WIDEST = 1 << 16;

  /** Tiles, deep pixels, several parts: their chunks are found otherwise. */
  private static final int OTHER_KINDS = 0x200 | 0x800 | 0x1000;

  /** Rows of one chunk, by the number of the compression. */
  private static final int[] LINES = {1, 1, 1, 16, 32, 16, 32, 32, 32, 256};

  private static final int DEEP = 0x800;
  private static final int PARTS = 0x1000;

  private int flags;
  private int width;
  private int rows;
  private int compression;
  private int height;
  private double aspect = 1;
  private int bits;
  private boolean floating;
  private boolean alpha;
  private Optional<Rate> rate = Optional.empty();
  private Optional<String> timecode = Optional.empty();
  private final List<PlateTags.Attribute> kept = new ArrayList<>();
  private final List<String> names = new ArrayList<>();

  /**
   * A header with the attributes that a picture made from this one keeps.
   *
   * @param compression number of the way in which it is packed
   * @param channels their names, as the file has them
   * @param severalParts of which the first is meant
   * @param deep whether pixels hold more than one value a channel
   */
  record Whole(
      PlateHeader plate,
      List<PlateTags.Attribute> attributes,
      int compression,
      List<String> channels,
      boolean severalParts,
      boolean deep) {

    private static final int PIZ = 4;
    private static final int PXR24 = 5;
    private static final int DWAA = 8;

    /**
     * Whether it takes the second decoder, which reads colour and alpha only.
     *
     * @throws InputError where neither reads it right; each was held against the format's own
     *     library
     */
    boolean isRare(Path file) {
      String why = "";
      if (deep) {
        why = "OpenEXR of deep pixels is not supported";
      } else if (compression >= DWAA) {
        why = "it is packed as DWA, which is not supported";
      } else if (severalParts && compression == PIZ && plate.facts().bits() > 16) {
        why = "several parts of 32 bits packed as PIZ are not supported";
      }
      if (!why.isEmpty()) {
        throw new InputError(file.toString(), "", why, "Write it as one part packed as ZIP or PIZ");
      }
      return severalParts || compression >= PXR24;
    }
  }

  /** Attributes that describe how the file is laid out, or that a writer states itself. */
  private static final Set<String> LAYOUT =
      Set.of(
          "channels",
          "compression",
          "dataWindow",
          "displayWindow",
          "lineOrder",
          "pixelAspectRatio",
          "screenWindowCenter",
          "screenWindowWidth",
          "tiles",
          "chunkCount",
          "preview",
          "name",
          "type",
          "version");

  private ExrHeader() {}

  static PlateHeader read(Path file) {
    return whole(file).plate;
  }

  static Whole whole(Path file) {
    try {
      ExrHeader h = new ExrHeader();
      PlateHeader plate = h.header(file, ByteSource.open(file, ReadLimits.USUAL));
      return new Whole(
          plate, h.kept, h.compression, h.names, (h.flags & PARTS) != 0, (h.flags & DEEP) != 0);
    } catch (IOException e) {
      throw new InputError(file.toString(), "", "the picture cannot be read", "", e);
    }
  }

  private PlateHeader header(Path file, ByteSource in) throws IOException {
    ByteCursor c = in.at(0);
    if (c.i32() != MAGIC) {
      throw c.garbled("not an OpenEXR picture");
    }
    flags = c.i32();
    for (int i = 0; ; i++) {
      String name = text(c);
      if (name.isEmpty()) {
        break;
      }
      if (i > MOST_ATTRIBUTES) {
        throw c.garbled("the header has more than " + MOST_ATTRIBUTES + " attributes");
      }
      String type = text(c);
      long length = c.u32();
      int at = c.position();
      in.check(at, length);
      attribute(name, type, length, in.part(in.file(), at, length).at(0));
      if (!LAYOUT.contains(name) && length <= LONGEST_KEPT) {
        kept.add(
            PlateTags.Attribute.exr(
                name, type, in.part(in.file(), at, length).at(0).bytes(length)));
      }
      c.moveTo(at + length);
    }
    PixelLimits.check(file, width, height);
    if ((flags & OTHER_KINDS) == 0) {
      checkWhole(in, c);
    }
    return new PlateHeader(
        new PictureSize(width, height, aspect),
        new PlateFacts(bits, floating, alpha, rate, timecode, StatedColour.of(kept)));
  }

  /** Decoders fill up what is cut off; a plate with a grey half must not pass for one. */
  private void checkWhole(ByteSource in, ByteCursor c) {
    int each = compression < LINES.length ? LINES[compression] : 1;
    int chunks = (rows + each - 1) / each;
    in.check(c.position(), 8L * chunks);
    for (int i = 0; i < chunks; i++) {
      long at = c.i64();
      in.check(at, 8);
      in.check(at + 8, in.u32(at + 4));
    }
  }

  private void attribute(String name, String type, long length, ByteCursor c) {
    switch (name + " " + type) {
      case "displayWindow box2i" -> {
        long x0 = c.i32();
        long y0 = c.i32();
        width = extent(x0, c.i32());
        height = extent(y0, c.i32());
      }
      case "dataWindow box2i" -> {
        c.skip(4);
        long y0 = c.i32();
        c.skip(4);
        rows = Math.min(extent(y0, c.i32()), WIDEST);
      }
      case "compression compression" -> compression = c.u8();
      case "pixelAspectRatio float" -> {
        float a = c.f32();
        aspect = a > 0.1 && a < 10 ? a : 1;
      }
      case "framesPerSecond rational" -> {
        long num = c.i32();
        long den = c.u32();
        if (num > 0 && den > 0) {
          rate = rate(num, den);
        }
      }
      case "timeCode timecode" -> timecode = Optional.of(timecode(c.i32()));
      case "channels chlist" -> channels(length, c);
      default -> {
        return; // nothing that a plate is asked for
      }
    }
  }

  private static Optional<Rate> rate(long num, long den) {
    try {
      return Optional.of(new Rate(num, den));
    } catch (IllegalArgumentException e) {
      return Optional.empty(); // a rate that no camera has
    }
  }

  private static int extent(long from, long to) {
    return (int) Math.max(0, Math.min(Integer.MAX_VALUE, to - from + 1));
  }

  /** Name, kind of number, linear or not, sampling; until one without a name. */
  private void channels(long length, ByteCursor c) {
    while (c.position() < length) {
      String name = text(c);
      if (name.isEmpty()) {
        return;
      }
      int kind = c.i32();
      c.skip(12);
      names.add(name);
      alpha |= name.equals("A");
      bits = Math.max(bits, kind == 1 ? 16 : 32);
      floating |= kind == 1 || kind == 2;
    }
  }

  /** Packed decimal digits, as the television standard has them. */
  private static String timecode(int v) {
    return String.format(
        Locale.ROOT,
        "%02d:%02d:%02d:%02d",
        digits(v >>> 24, 3),
        digits(v >>> 16, 7),
        digits(v >>> 8, 7),
        digits(v, 3));
  }

  private static int digits(int bits, int tensMask) {
    return (bits & 15) + 10 * (bits >> 4 & tensMask);
  }

  private static String text(ByteCursor c) {
    StringBuilder s = new StringBuilder();
    for (int b = c.u8(); b != 0; b = c.u8()) {
      if (s.length() == LONGEST_NAME) {
        throw c.garbled("a name in the header does not end");
      }
      s.append((char) b);
    }
    return s.toString();
  }
}
