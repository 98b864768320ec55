package flarvo.plate;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.FileDescriptor;
import java.io.FileInputStream;
import java.io.FileOutputStream;
import java.io.IOException;
import java.nio.file.Path;
import org.bytedeco.ffmpeg.global.avutil;

/**
 * The decoder's process: it answers questions on its standard input until that ends. A hostile file
 * can end this process and nothing else.
 */
public final class DecoderMain {

  static final int PICTURE = 'P';
  static final int NUMBERS = 'N';
  static final int MOVIE = 'M';
  static final int FAILED = 'F';
  static final int STEP = 'S';
  static final int DONE = 'D';

  private static final long MOST_MEMORY = 1L << 30;

  private DecoderMain() {}

  /** Decodes movies in a process of its own, so that a faulty file cannot take the window along. */
  public static void main(String[] args) throws IOException {
    try (DataInputStream in =
            new DataInputStream(new BufferedInputStream(new FileInputStream(FileDescriptor.in)));
        DataOutputStream out =
            new DataOutputStream(
                new BufferedOutputStream(new FileOutputStream(FileDescriptor.out), 1 << 16))) {
      for (int what = in.read(); what >= 0; what = in.read()) {
        answer(what, in, out);
        out.flush();
      }
    }
  }

  private static void exr(int what, DataInputStream in, DataOutputStream out)
      throws IOException, UndecodableException {
    Path file = Path.of(in.readUTF());
    int width = in.readInt();
    int height = in.readInt();
    boolean rare = in.readBoolean();
    Planes p =
        rare
            ? ColourDecoder.planes(file, width, height)
            : NumbersDecoder.planes(file, width, height);
    if (what == PICTURE) {
      PictureDecoder.answer(p, width, height, out);
    } else {
      NumbersDecoder.answer(p, width, height, out);
    }
  }

  private static void answer(int what, DataInputStream in, DataOutputStream out)
      throws IOException {
    try {
      avutil.av_log_set_level(avutil.AV_LOG_QUIET);
      avutil.av_max_alloc(MOST_MEMORY);
      if (what == PICTURE || what == NUMBERS) {
        exr(what, in, out);
      } else {
        MovieDecoder.decode(Path.of(in.readUTF()), in.readUTF(), in.readUTF(), in.readInt(), out);
      }
    } catch (UndecodableException e) {
      out.write(FAILED);
      out.writeUTF(e.getMessage());
    } catch (LinkageError e) {
      out.write(FAILED);
      out.writeUTF("the decoder's library does not run on this system: " + e.getMessage());
    }
  }
}
