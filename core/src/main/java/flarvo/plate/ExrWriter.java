package flarvo.plate;

import static org.lwjgl.util.tinyexr.TinyEXR.TINYEXR_COMPRESSIONTYPE_ZIP;
import static org.lwjgl.util.tinyexr.TinyEXR.TINYEXR_PIXELTYPE_FLOAT;
import static org.lwjgl.util.tinyexr.TinyEXR.TINYEXR_PIXELTYPE_HALF;

import flarvo.plate.tag.PlateTags;
import flarvo.plate.tag.TagHome;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.FloatBuffer;
import java.nio.IntBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.lwjgl.PointerBuffer;
import org.lwjgl.system.MemoryStack;
import org.lwjgl.system.MemoryUtil;
import org.lwjgl.util.tinyexr.EXRAttribute;
import org.lwjgl.util.tinyexr.EXRChannelInfo;
import org.lwjgl.util.tinyexr.EXRHeader;
import org.lwjgl.util.tinyexr.EXRImage;
import org.lwjgl.util.tinyexr.TinyEXR;

/** Writes OpenEXR by a library: rows, ZIP, half or float, any channels, attributes carried on. */
final class ExrWriter {

  private static final int LONGEST_NAME = 255;
  private static final int MOST_HEADER = 16 << 20;

  private ExrWriter() {}

  static void write(Raster r, OutputStream out) throws IOException {
    List<String> sorted = new ArrayList<>(r.channels());
    sorted.sort(Comparator.naturalOrder()); // the standard keeps channels in the order of names
    List<ByteBuffer> memory = new ArrayList<>();
    try (MemoryStack stack = MemoryStack.stackPush()) {
      int n = sorted.size();
      EXRHeader header = EXRHeader.calloc(stack);
      TinyEXR.InitEXRHeader(header);
      EXRImage image = EXRImage.calloc(stack);
      TinyEXR.InitEXRImage(image);
      EXRChannelInfo.Buffer channels = EXRChannelInfo.calloc(n, stack);
      IntBuffer given = stack.mallocInt(n);
      IntBuffer asked = stack.mallocInt(n);
      PointerBuffer planes = stack.mallocPointer(n);
      for (int k = 0; k < n; k++) {
        channels.get(k).name(stack.UTF8(name(sorted.get(k))));
        given.put(k, TINYEXR_PIXELTYPE_FLOAT);
        asked.put(
            k, r.kind() == SampleKind.HALF ? TINYEXR_PIXELTYPE_HALF : TINYEXR_PIXELTYPE_FLOAT);
        ByteBuffer plane = plane(r, r.channel(sorted.get(k)));
        memory.add(plane);
        planes.put(k, plane);
      }
      header.channels(channels).num_channels(n);
      header.pixel_types(given).requested_pixel_types(asked);
      header.compression_type(TINYEXR_COMPRESSIONTYPE_ZIP);
      attributes(r.tags().in(TagHome.OPENEXR), header, memory, stack);
      image.images(planes).width(r.width()).height(r.height()).num_channels(n);
      save(image, header, (float) r.tags().pixelAspect(), out, stack);
    } finally {
      memory.forEach(MemoryUtil::memFree);
    }
  }

  private static String name(String s) {
    return s.length() > LONGEST_NAME ? s.substring(0, LONGEST_NAME) : s;
  }

  private static ByteBuffer plane(Raster r, int channel) {
    int n = r.channels().size();
    ByteBuffer b = MemoryUtil.memAlloc(Math.multiplyExact(4, r.width() * r.height()));
    FloatBuffer f = b.asFloatBuffer();
    float[] v = r.values();
    for (int i = channel, k = 0; i < v.length; i += n) {
      f.put(k++, v[i]);
    }
    return b;
  }

  private static void attributes(
      List<PlateTags.Attribute> all, EXRHeader header, List<ByteBuffer> memory, MemoryStack stack) {
    int n = Math.min(all.size(), TinyEXR.TINYEXR_MAX_CUSTOM_ATTRIBUTES);
    if (n == 0) {
      return;
    }
    ByteBuffer block = MemoryUtil.memCalloc(n * EXRAttribute.SIZEOF);
    memory.add(block);
    EXRAttribute.Buffer list = EXRAttribute.create(MemoryUtil.memAddress(block), n);
    for (int i = 0; i < n; i++) {
      PlateTags.Attribute a = all.get(i);
      ByteBuffer value = MemoryUtil.memAlloc(Math.max(1, a.value().length));
      memory.add(value);
      value.put(a.value()).flip();
      list.get(i).name(stack.UTF8(name(a.name()))).type(stack.UTF8(name(a.type())));
      list.get(i).value(value);
    }
    header.num_custom_attributes(n).custom_attributes(list);
  }

  /** The library states 1 whatever it is told; the number is put into the finished header. */
  private static void stateAspect(ByteBuffer file, float aspect) throws IOException {
    byte[] mark = "pixelAspectRatio\0float\0\4\0\0\0".getBytes(StandardCharsets.US_ASCII);
    int end = Math.min(file.limit(), MOST_HEADER) - mark.length - 4;
    for (int i = 0; i < end; i++) {
      int k = 0;
      while (k < mark.length && file.get(i + k) == mark[k]) {
        k++;
      }
      if (k == mark.length) {
        file.order(ByteOrder.LITTLE_ENDIAN).putFloat(i + k, aspect);
        return;
      }
    }
    throw new IOException("the header has no pixel aspect");
  }

  private static void save(
      EXRImage image, EXRHeader header, float aspect, OutputStream out, MemoryStack stack)
      throws IOException {
    PointerBuffer bytes = stack.callocPointer(1);
    PointerBuffer error = stack.callocPointer(1);
    long size = TinyEXR.SaveEXRImageToMemory(image, header, bytes, error);
    if (size == 0) {
      throw new IOException("the picture cannot be packed");
    }
    long at = bytes.get(0);
    try {
      byte[] chunk = new byte[1 << 16];
      ByteBuffer all = MemoryUtil.memByteBuffer(at, Math.toIntExact(size));
      stateAspect(all, aspect);
      while (all.hasRemaining()) {
        int n = Math.min(chunk.length, all.remaining());
        all.get(chunk, 0, n);
        out.write(chunk, 0, n);
      }
    } finally {
      MemoryUtil.nmemFree(at);
    }
  }
}
