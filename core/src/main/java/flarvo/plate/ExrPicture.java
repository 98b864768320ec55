package flarvo.plate;

import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.file.Path;

/** The pixels of an OpenEXR picture, from linear light to a screen's code values. */
final class ExrPicture {

  private static final int SILENCE_SECONDS = 20;

  private ExrPicture() {}

  static PlateImage read(Path file) {
    ExrHeader.Whole header = ExrHeader.whole(file);
    PictureSize size = header.plate().size();
    boolean rare = header.isRare(file);
    int w = size.width();
    int h = size.height();
    return Decoder.ask(
        file,
        new Decoder.Question<>() {
          @Override
          public void ask(DataOutputStream out) throws IOException {
            out.write(DecoderMain.PICTURE);
            out.writeUTF(file.toAbsolutePath().toString());
            out.writeInt(w);
            out.writeInt(h);
            out.writeBoolean(rare);
          }

          @Override
          public PlateImage answer(DataInputStream in) throws IOException {
            return pixels(in, w, h);
          }
        },
        SILENCE_SECONDS,
        Progress.NONE);
  }

  private static PlateImage pixels(DataInputStream in, int w, int h) throws IOException {
    int[] argb = new int[w * h];
    byte[] row = new byte[4 * w];
    for (int y = 0; y < h; y++) {
      in.readFully(row);
      for (int x = 0; x < w; x++) {
        argb[y * w + x] =
            (row[4 * x + 3] & 255) << 24
                | (row[4 * x] & 255) << 16
                | (row[4 * x + 1] & 255) << 8
                | row[4 * x + 2] & 255;
      }
    }
    return new PlateImage(w, h, argb);
  }
}
