package flarvo.plate;

import flarvo.plate.tag.Alpha;
import flarvo.plate.tag.PlateTags;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** The numbers of an OpenEXR picture, decoded in a process of its own. */
final class ExrRaster {

  private static final int SILENCE_SECONDS = 40;
  private static final int MOST_CHANNELS = 64;

  private static final Set<String> COLOUR = Set.of("R", "G", "B", "A", "Y");

  private ExrRaster() {}

  static Raster read(Path file) {
    ExrHeader.Whole header = ExrHeader.whole(file);
    PictureSize size = header.plate().size();
    SampleKind kind = header.plate().facts().bits() == 16 ? SampleKind.HALF : SampleKind.FLOAT;
    boolean rare = header.isRare(file);
    if (header.severalParts()) {
      throw new InputError(
          file.toString(),
          "",
          "OpenEXR of several parts can be shown, but not worked on",
          "Write the part that is the plate as a picture of its own");
    }
    if (rare && !COLOUR.containsAll(header.channels())) {
      throw new InputError(
          file.toString(),
          "",
          "of pictures packed as PXR24 or B44 only R, G, B, A and Y can be read, and it has "
              + String.join(", ", header.channels()),
          "Pack it as ZIP or PIZ");
    }
    return Decoder.ask(
        file,
        new Decoder.Question<>() {
          @Override
          public void ask(DataOutputStream out) throws IOException {
            out.write(DecoderMain.NUMBERS);
            out.writeUTF(file.toAbsolutePath().toString());
            out.writeInt(size.width());
            out.writeInt(size.height());
            out.writeBoolean(rare);
          }

          @Override
          public Raster answer(DataInputStream in) throws IOException {
            Raster r = numbers(file, in, size, kind);
            Alpha alpha = r.channel("A") < 0 ? Alpha.NONE : Alpha.MULTIPLIED;
            return r.with(new PlateTags(size.pixelAspect(), alpha, header.attributes()));
          }
        },
        SILENCE_SECONDS,
        Progress.NONE);
  }

  /** Names of channels, then one plane after the other; RGB and alpha come first, as usual. */
  private static Raster numbers(Path file, DataInputStream in, PictureSize size, SampleKind kind)
      throws IOException {
    int n = in.readInt();
    long all = (long) n * size.width() * size.height();
    if (n < 1 || n > MOST_CHANNELS || all > Integer.MAX_VALUE - 8) {
      throw new InputError(file.toString(), "", n + " channels are too many", "Leave some out");
    }
    List<String> names = new ArrayList<>();
    for (int k = 0; k < n; k++) {
      names.add(in.readUTF());
    }
    List<String> order = new ArrayList<>();
    for (String usual : List.of("R", "G", "B", "Y", "A")) {
      if (names.contains(usual)) {
        order.add(usual);
      }
    }
    names.stream().filter(s -> !order.contains(s)).forEach(order::add);
    float[] values = new float[(int) all];
    byte[] row = new byte[4 * size.width()];
    for (String name : names) {
      int at = order.indexOf(name);
      for (int y = 0; y < size.height(); y++) {
        in.readFully(row);
        var f = ByteBuffer.wrap(row).asFloatBuffer();
        for (int x = 0; x < size.width(); x++, at += n) {
          values[at] = f.get(x);
        }
      }
    }
    return new Raster(size.width(), size.height(), order, kind, values, PlateTags.NONE);
  }
}
