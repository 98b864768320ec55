package flarvo.plate;

import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.bytedeco.ffmpeg.avcodec.AVCodec;
import org.bytedeco.ffmpeg.avcodec.AVCodecContext;
import org.bytedeco.ffmpeg.avcodec.AVPacket;
import org.bytedeco.ffmpeg.avutil.AVDictionary;
import org.bytedeco.ffmpeg.avutil.AVFrame;
import org.bytedeco.ffmpeg.global.avcodec;
import org.bytedeco.ffmpeg.global.avutil;

/** In the decoder's process: one OpenEXR picture, from linear light to a screen's code values. */
final class PictureDecoder {

  private PictureDecoder() {}

  /** Answers with rows of red, green, blue and alpha, from the top. */
  static void decode(Path file, int width, int height, DataOutputStream out)
      throws IOException, UndecodableException {
    byte[] bytes = Files.readAllBytes(file);
    AVCodec codec = avcodec.avcodec_find_decoder(avcodec.AV_CODEC_ID_EXR);
    AVCodecContext context = avcodec.avcodec_alloc_context3(codec);
    AVPacket packet = avcodec.av_packet_alloc();
    AVFrame frame = avutil.av_frame_alloc();
    AVDictionary options = new AVDictionary(null);
    try {
      avutil.av_dict_set(options, "apply_trc", "iec61966_2_1", 0);
      context.thread_count(1);
      context.err_recognition(avcodec.AV_EF_EXPLODE);
      UndecodableException.check(
          avcodec.avcodec_open2(context, codec, options), "the decoder does not start");
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
      byte[] rgba = FrameBytes.of(frame, avutil.AV_PIX_FMT_RGBA, 4);
      out.write(DecoderMain.DONE);
      out.write(rgba);
    } finally {
      avutil.av_dict_free(options);
      avutil.av_frame_free(frame);
      avcodec.av_packet_free(packet);
      avcodec.avcodec_free_context(context);
    }
  }
}
