package flarvo.plate;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.bytedeco.ffmpeg.avcodec.AVCodec;
import org.bytedeco.ffmpeg.avcodec.AVCodecContext;
import org.bytedeco.ffmpeg.avcodec.AVPacket;
import org.bytedeco.ffmpeg.avutil.AVDictionary;
import org.bytedeco.ffmpeg.avutil.AVFrame;
import org.bytedeco.ffmpeg.global.avcodec;
import org.bytedeco.ffmpeg.global.avutil;

/**
 * In the decoder's process: colour and alpha of an OpenEXR picture, for the ways of packing that
 * the usual decoder does not know; linear light as the file has it.
 */
final class ColourDecoder {

  /** Planes in the order in which the library has them. */
  private static final List<String> COLOUR = List.of("G", "B", "R", "A");

  private ColourDecoder() {}

  static Planes planes(Path file, int width, int height) throws IOException, UndecodableException {
    byte[] bytes = Files.readAllBytes(file);
    AVCodec codec = avcodec.avcodec_find_decoder(avcodec.AV_CODEC_ID_EXR);
    AVCodecContext context = avcodec.avcodec_alloc_context3(codec);
    AVPacket packet = avcodec.av_packet_alloc();
    AVFrame frame = avutil.av_frame_alloc();
    try {
      context.thread_count(1);
      context.err_recognition(avcodec.AV_EF_EXPLODE);
      UndecodableException.check(
          avcodec.avcodec_open2(context, codec, (AVDictionary) null), "the decoder does not start");
      UndecodableException.check(
          avcodec.av_new_packet(packet, bytes.length), "there is no memory for it");
      packet.data().put(bytes, 0, bytes.length);
      UndecodableException.check(
          avcodec.avcodec_send_packet(context, packet), "the picture is broken");
      UndecodableException.check(
          avcodec.avcodec_receive_frame(context, frame), "the picture is broken");
      boolean corrupt =
          frame.decode_error_flags() != 0 || (frame.flags() & AVFrame.AV_FRAME_FLAG_CORRUPT) != 0;
      if (corrupt || frame.width() != width || frame.height() != height) {
        throw new UndecodableException("the picture is broken");
      }
      return planes(frame);
    } finally {
      avutil.av_frame_free(frame);
      avcodec.av_packet_free(packet);
      avcodec.avcodec_free_context(context);
    }
  }

  private static Planes planes(AVFrame frame) throws UndecodableException {
    List<String> names;
    if (frame.format() == avutil.AV_PIX_FMT_GRAYF32LE) {
      names = List.of("Y");
    } else if (frame.format() == avutil.AV_PIX_FMT_GBRPF32LE) {
      names = COLOUR.subList(0, 3);
    } else if (frame.format() == avutil.AV_PIX_FMT_GBRAPF32LE) {
      names = COLOUR;
    } else {
      throw new UndecodableException("its compression or layout is not supported");
    }
    int w = frame.width();
    byte[] row = new byte[4 * w];
    var floats = ByteBuffer.wrap(row).order(ByteOrder.LITTLE_ENDIAN).asFloatBuffer();
    List<float[]> values = new ArrayList<>();
    for (int k = 0; k < names.size(); k++) {
      float[] plane = new float[Math.multiplyExact(w, frame.height())];
      for (int y = 0; y < frame.height(); y++) {
        frame.data(k).position((long) y * frame.linesize(k)).get(row);
        floats.get(0, plane, y * w, w);
      }
      values.add(plane);
    }
    return new Planes(names, values);
  }
}
