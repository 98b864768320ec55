package flarvo.render;

import flarvo.report.InputError;
import flarvo.scene.Rate;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.awt.image.BufferedImage;
import java.awt.image.DataBufferByte;
import java.nio.file.Path;
import java.util.List;
import org.bytedeco.ffmpeg.avcodec.AVCodec;
import org.bytedeco.ffmpeg.avcodec.AVCodecContext;
import org.bytedeco.ffmpeg.avcodec.AVPacket;
import org.bytedeco.ffmpeg.avformat.AVFormatContext;
import org.bytedeco.ffmpeg.avformat.AVIOContext;
import org.bytedeco.ffmpeg.avformat.AVStream;
import org.bytedeco.ffmpeg.avutil.AVDictionary;
import org.bytedeco.ffmpeg.avutil.AVFrame;
import org.bytedeco.ffmpeg.avutil.AVRational;
import org.bytedeco.ffmpeg.global.avcodec;
import org.bytedeco.ffmpeg.global.avformat;
import org.bytedeco.ffmpeg.global.avutil;
import org.bytedeco.ffmpeg.global.swscale;
import org.bytedeco.ffmpeg.swscale.SwsContext;
import org.bytedeco.javacpp.BytePointer;
import org.bytedeco.javacpp.DoublePointer;
import org.bytedeco.javacpp.IntPointer;
import org.bytedeco.javacpp.PointerPointer;

/** A small movie of pictures on disk: H.264 in MP4 where the library has it, else MPEG-4. */
final class MovieWriter {

  private static final int MOST_WIDTH = 960;
  private static final long BITS_A_PIXEL_AND_SECOND = 4;

  private final String file;
  private final AVFormatContext format = new AVFormatContext(null);
  private final AVPacket packet = avcodec.av_packet_alloc();
  private final AVFrame frame = avutil.av_frame_alloc();
  private AVCodecContext codec;
  private AVStream stream;
  private SwsContext scaler;

  private MovieWriter(String file) {
    this.file = file;
  }

  /**
   * Writes a movie.
   *
   * @param pictures in order, all of one size
   * @param file is replaced where it exists; written whole or not at all
   * @throws InputError when a picture cannot be read, or the disk refuses
   */
  static void write(List<Path> pictures, Rate rate, Path file, Progress progress) {
    Previews.intoPlace(
        file,
        ".mp4",
        part -> {
          MovieWriter w = new MovieWriter(part.toString());
          try {
            w.all(pictures, rate, progress);
          } finally {
            w.close();
          }
        });
  }

  private void all(List<Path> pictures, Rate rate, Progress progress) {
    for (int i = 0; i < pictures.size(); i++) {
      if (progress.isCancelled()) {
        throw new Cancelled();
      }
      BufferedImage image = Previews.read(pictures.get(i), MOST_WIDTH, 2);
      if (codec == null) {
        open(image.getWidth(), image.getHeight(), rate);
      }
      send(image, i);
      progress.step(i + 1L, pictures.size());
    }
    check(avcodec.avcodec_send_frame(codec, null), "end");
    drain();
    check(avformat.av_write_trailer(format), "close");
  }

  private void open(int width, int height, Rate rate) {
    avutil.av_log_set_level(avutil.AV_LOG_ERROR); // its encoders talk to the terminal
    check(avformat.avformat_alloc_output_context2(format, null, "mp4", file), "open");
    AVCodec kind = avcodec.avcodec_find_encoder_by_name("libopenh264");
    if (kind == null || kind.isNull()) {
      kind = avcodec.avcodec_find_encoder(avcodec.AV_CODEC_ID_MPEG4);
    }
    codec = avcodec.avcodec_alloc_context3(kind);
    int num = Math.toIntExact(rate.num());
    int den = Math.toIntExact(rate.den());
    AVRational second = avutil.av_make_q(den, num);
    codec.width(width).height(height).pix_fmt(avutil.AV_PIX_FMT_YUV420P);
    codec.time_base(second).framerate(avutil.av_make_q(num, den));
    codec.gop_size(12).bit_rate(BITS_A_PIXEL_AND_SECOND * width * height);
    codec.color_range(avutil.AVCOL_RANGE_MPEG);
    codec.colorspace(avutil.AVCOL_SPC_BT709);
    codec.color_primaries(avutil.AVCOL_PRI_BT709);
    codec.color_trc(avutil.AVCOL_TRC_BT709);
    codec.flags(codec.flags() | avcodec.AV_CODEC_FLAG_GLOBAL_HEADER);
    check(avcodec.avcodec_open2(codec, kind, (AVDictionary) null), "pack");
    stream = avformat.avformat_new_stream(format, null);
    stream.time_base(second);
    check(avcodec.avcodec_parameters_from_context(stream.codecpar(), codec), "pack");
    AVIOContext io = new AVIOContext(null);
    check(avformat.avio_open(io, file, avformat.AVIO_FLAG_WRITE), "open");
    format.pb(io);
    check(avformat.avformat_write_header(format, (AVDictionary) null), "begin");
    frame.format(avutil.AV_PIX_FMT_YUV420P).width(width).height(height);
    check(avutil.av_frame_get_buffer(frame, 0), "pack");
    scaler =
        swscale.sws_getContext(
            width,
            height,
            avutil.AV_PIX_FMT_BGR24,
            width,
            height,
            avutil.AV_PIX_FMT_YUV420P,
            swscale.SWS_BICUBIC | swscale.SWS_ACCURATE_RND,
            null,
            null,
            (DoublePointer) null);
    IntPointer matrix = swscale.sws_getCoefficients(swscale.SWS_CS_ITU709);
    swscale.sws_setColorspaceDetails(scaler, matrix, 1, matrix, 0, 0, 1 << 16, 1 << 16);
  }

  private void send(BufferedImage image, int at) {
    check(avutil.av_frame_make_writable(frame), "pack");
    byte[] bytes = ((DataBufferByte) image.getRaster().getDataBuffer()).getData();
    try (BytePointer pixels = new BytePointer(bytes);
        PointerPointer<BytePointer> planes = new PointerPointer<>(1);
        IntPointer rows = new IntPointer(1)) {
      planes.put(0, pixels);
      rows.put(3 * image.getWidth());
      swscale.sws_scale(scaler, planes, rows, 0, image.getHeight(), frame.data(), frame.linesize());
    }
    frame.pts(at);
    check(avcodec.avcodec_send_frame(codec, frame), "pack");
    drain();
  }

  private void drain() {
    while (avcodec.avcodec_receive_packet(codec, packet) >= 0) {
      packet.duration(1); // without it a reader takes the last picture to last no time
      avcodec.av_packet_rescale_ts(packet, codec.time_base(), stream.time_base());
      packet.stream_index(stream.index());
      check(avformat.av_interleaved_write_frame(format, packet), "write");
      avcodec.av_packet_unref(packet);
    }
  }

  private void check(int code, String what) {
    if (code < 0) {
      throw new InputError(
          file,
          "",
          "the movie cannot be written (" + what + ", " + code + ")",
          "Is the disk full?");
    }
  }

  private void close() {
    if (scaler != null) {
      swscale.sws_freeContext(scaler);
    }
    avutil.av_frame_free(frame);
    avcodec.av_packet_free(packet);
    if (codec != null) {
      avcodec.avcodec_free_context(codec);
    }
    if (!format.isNull()) {
      if (format.pb() != null && !format.pb().isNull()) {
        avformat.avio_close(format.pb());
      }
      avformat.avformat_free_context(format);
    }
  }
}
