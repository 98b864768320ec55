package flarvo.plate;

import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.FloatBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.lwjgl.PointerBuffer;
import org.lwjgl.system.MemoryStack;
import org.lwjgl.system.MemoryUtil;
import org.lwjgl.util.tinyexr.EXRHeader;
import org.lwjgl.util.tinyexr.EXRImage;
import org.lwjgl.util.tinyexr.EXRTile;
import org.lwjgl.util.tinyexr.EXRVersion;
import org.lwjgl.util.tinyexr.TinyEXR;

/** In the decoder's process: every channel of an OpenEXR picture as floats. */
final class NumbersDecoder {

  private NumbersDecoder() {}

  static Planes planes(Path file, int width, int height) throws IOException, UndecodableException {
    byte[] bytes = Files.readAllBytes(file);
    ByteBuffer memory = MemoryUtil.memAlloc(bytes.length);
    try (MemoryStack stack = MemoryStack.stackPush()) {
      memory.put(bytes).flip();
      EXRVersion version = EXRVersion.calloc(stack);
      check(TinyEXR.ParseEXRVersionFromMemory(version, memory));
      EXRHeader header = EXRHeader.calloc(stack);
      TinyEXR.InitEXRHeader(header);
      PointerBuffer error = stack.callocPointer(1);
      check(TinyEXR.ParseEXRHeaderFromMemory(header, version, memory, error));
      for (int i = 0; i < header.num_channels(); i++) {
        header.requested_pixel_types().put(i, TinyEXR.TINYEXR_PIXELTYPE_FLOAT);
      }
      EXRImage image = EXRImage.calloc(stack);
      TinyEXR.InitEXRImage(image);
      check(TinyEXR.LoadEXRImageFromMemory(image, header, memory, error));
      Planes made = planes(header, image, width, height);
      TinyEXR.FreeEXRImage(image);
      TinyEXR.FreeEXRHeader(header);
      return made;
    } finally {
      MemoryUtil.memFree(memory);
    }
  }

  private static void check(int code) throws UndecodableException {
    if (code == TinyEXR.TINYEXR_ERROR_UNSUPPORTED_FORMAT
        || code == TinyEXR.TINYEXR_ERROR_UNSUPPORTED_FEATURE) {
      throw new UndecodableException("its compression or layout is not supported");
    }
    if (code != TinyEXR.TINYEXR_SUCCESS) {
      throw new UndecodableException("the picture is broken");
    }
  }

  private static Planes planes(EXRHeader header, EXRImage image, int width, int height) {
    int n = image.num_channels();
    int left = header.data_window().min_x() - header.display_window().min_x();
    int top = header.data_window().min_y() - header.display_window().min_y();
    List<String> names = new ArrayList<>();
    List<float[]> values = new ArrayList<>();
    for (int k = 0; k < n; k++) {
      names.add(header.channels().get(k).nameString());
      float[] plane = new float[Math.multiplyExact(width, height)];
      if (image.images() != null) {
        put(
            image.images().get(k),
            image.width(),
            image.height(),
            image.width(),
            left,
            top,
            plane,
            width);
      } else {
        for (EXRTile t : image.tiles()) {
          put(
              t.images(n).get(k),
              t.width(),
              t.height(),
              header.tile_size_x(),
              left + t.offset_x() * header.tile_size_x(),
              top + t.offset_y() * header.tile_size_y(),
              plane,
              width);
        }
      }
      values.add(plane);
    }
    return new Planes(names, values);
  }

  /**
   * Answers with the number of channels, their names, and a plane of big-endian floats each, of the
   * display window.
   */
  static void answer(Planes p, int width, int height, DataOutputStream out) throws IOException {
    out.write(DecoderMain.DONE);
    out.writeInt(p.names().size());
    for (String s : p.names()) {
      out.writeUTF(s);
    }
    ByteBuffer row = ByteBuffer.allocate(4 * width);
    for (float[] plane : p.values()) {
      for (int y = 0; y < height; y++) {
        row.asFloatBuffer().put(plane, y * width, width);
        out.write(row.array());
      }
    }
  }

  /** Copies a block into a plane; what stands outside of the plane is left out. */
  private static void put(
      long from, int w, int h, int stride, int left, int top, float[] plane, int width) {
    FloatBuffer block = MemoryUtil.memFloatBuffer(from, Math.multiplyExact(stride, h));
    int height = plane.length / width;
    for (int y = Math.max(0, -top); y < Math.min(h, height - top); y++) {
      int x = Math.max(0, -left);
      int count = Math.min(w, width - left) - x;
      if (count > 0) {
        block.get(y * stride + x, plane, (y + top) * width + x + left, count);
      }
    }
  }
}
