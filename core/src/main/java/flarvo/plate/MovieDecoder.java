package flarvo.plate;

import java.awt.Transparency;
import java.awt.color.ColorSpace;
import java.awt.image.BufferedImage;
import java.awt.image.ComponentColorModel;
import java.awt.image.DataBuffer;
import java.awt.image.DataBufferByte;
import java.awt.image.DataBufferUShort;
import java.awt.image.WritableRaster;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.Locale;
import javax.imageio.ImageIO;
import org.bytedeco.ffmpeg.avcodec.AVCodec;
import org.bytedeco.ffmpeg.avcodec.AVCodecContext;
import org.bytedeco.ffmpeg.avcodec.AVPacket;
import org.bytedeco.ffmpeg.avformat.AVFormatContext;
import org.bytedeco.ffmpeg.avformat.AVStream;
import org.bytedeco.ffmpeg.avutil.AVDictionary;
import org.bytedeco.ffmpeg.avutil.AVDictionaryEntry;
import org.bytedeco.ffmpeg.avutil.AVFrame;
import org.bytedeco.ffmpeg.avutil.AVPixFmtDescriptor;
import org.bytedeco.ffmpeg.avutil.AVRational;
import org.bytedeco.ffmpeg.global.avcodec;
import org.bytedeco.ffmpeg.global.avformat;
import org.bytedeco.ffmpeg.global.avutil;

/**
 * In the decoder's process: a movie's pictures, one PNG each, and what the movie says of itself.
 */
final class MovieDecoder {

  private static final int MOST_FRAMES = 500_000;
  private static final long MOST_PIXELS = 100_000_000L;

  private final String pattern;
  private final int first;
  private final DataOutputStream out;
  private final AVFrame frame = avutil.av_frame_alloc();
  private final AVPacket packet = avcodec.av_packet_alloc();
  private int written;
  private int broken;
  private int uneven;
  private long lastAt = avutil.AV_NOPTS_VALUE;
  private long usual;

  private MovieDecoder(String pattern, int first, DataOutputStream out) {
    this.pattern = pattern;
    this.first = first;
    this.out = out;
  }

  /**
   * @param kind of container; no other is tried
   * @param pattern of the pictures' files
   * @param first frame number
   */
  static void decode(Path file, String kind, String pattern, int first, DataOutputStream out)
      throws IOException, UndecodableException {
    ImageIO.setUseCache(false);
    AVFormatContext format = new AVFormatContext(null);
    AVDictionary options = new AVDictionary(null);
    MovieDecoder d = new MovieDecoder(pattern, first, out);
    try {
      avutil.av_dict_set(options, "protocol_whitelist", "file", 0);
      UndecodableException.check(
          avformat.avformat_open_input(
              format, "file:" + file, avformat.av_find_input_format(kind), options),
          "not a movie, or it is broken");
      UndecodableException.check(
          avformat.avformat_find_stream_info(format, (AVDictionary) null), "the movie is broken");
      int index =
          UndecodableException.check(
              avformat.av_find_best_stream(
                  format, avutil.AVMEDIA_TYPE_VIDEO, -1, -1, (AVCodec) null, 0),
              "the movie holds no pictures");
      d.stream(format, index);
    } finally {
      avutil.av_dict_free(options);
      avutil.av_frame_free(d.frame);
      avcodec.av_packet_free(d.packet);
      avformat.avformat_close_input(format);
    }
  }

  private void stream(AVFormatContext format, int index) throws IOException, UndecodableException {
    AVStream stream = format.streams(index);
    AVCodec codec = avcodec.avcodec_find_decoder(stream.codecpar().codec_id());
    if (codec == null) {
      throw new UndecodableException("its way of packing pictures is not known");
    }
    AVCodecContext context = avcodec.avcodec_alloc_context3(codec);
    try {
      UndecodableException.check(
          avcodec.avcodec_parameters_to_context(context, stream.codecpar()), "it is broken");
      context.thread_count(2);
      UndecodableException.check(
          avcodec.avcodec_open2(context, codec, (AVDictionary) null), "it cannot be decoded");
      AVRational rate = stream.avg_frame_rate();
      usual =
          rate.num() > 0
              ? avutil.av_rescale_q(1, avutil.av_make_q(rate.den(), rate.num()), stream.time_base())
              : 0;
      while (avformat.av_read_frame(format, packet) >= 0) {
        if (packet.stream_index() == index) {
          broken += avcodec.avcodec_send_packet(context, packet) < 0 ? 1 : 0;
          pictures(context);
        }
        avcodec.av_packet_unref(packet);
      }
      avcodec.avcodec_send_packet(context, (AVPacket) null);
      pictures(context);
      if (written == 0) {
        throw new UndecodableException("none of its pictures can be decoded");
      }
      AVRational aspect = stream.sample_aspect_ratio();
      out.write(DecoderMain.DONE);
      out.writeInt(rate.num());
      out.writeInt(rate.den());
      out.writeInt(aspect.num());
      out.writeInt(aspect.den());
      out.writeInt(written);
      out.writeInt(broken);
      out.writeInt(uneven);
      out.writeUTF(timecode(format));
      out.writeUTF(fields(stream.codecpar().field_order()));
    } finally {
      avcodec.avcodec_free_context(context);
    }
  }

  private void pictures(AVCodecContext context) throws IOException, UndecodableException {
    while (avcodec.avcodec_receive_frame(context, frame) >= 0) {
      long at = frame.best_effort_timestamp();
      if (lastAt != avutil.AV_NOPTS_VALUE && at != avutil.AV_NOPTS_VALUE && usual > 0) {
        // Containers with coarse clocks round every time.
        uneven += Math.abs(at - lastAt - usual) > Math.max(1, usual / 4) ? 1 : 0;
      }
      lastAt = at;
      if ((long) frame.width() * frame.height() > MOST_PIXELS || written == MOST_FRAMES) {
        throw new UndecodableException("it claims too many pixels or pictures");
      }
      write();
      written++;
      out.write(DecoderMain.STEP);
      out.writeInt(written);
      out.flush();
      avutil.av_frame_unref(frame);
    }
  }

  private void write() throws IOException, UndecodableException {
    AVPixFmtDescriptor kind = avutil.av_pix_fmt_desc_get(frame.format());
    boolean deep = kind != null && kind.comp(0).depth() > 8;
    BufferedImage image = deep ? deep() : flat();
    Path file = Path.of(String.format(Locale.ROOT, pattern, first + written));
    if (!ImageIO.write(image, "png", file.toFile())) {
      throw new UndecodableException("its pictures cannot be written");
    }
  }

  private BufferedImage flat() throws UndecodableException {
    BufferedImage i =
        new BufferedImage(frame.width(), frame.height(), BufferedImage.TYPE_3BYTE_BGR);
    byte[] to = ((DataBufferByte) i.getRaster().getDataBuffer()).getData();
    byte[] from = FrameBytes.of(frame, avutil.AV_PIX_FMT_BGR24, 3);
    System.arraycopy(from, 0, to, 0, to.length);
    return i;
  }

  private BufferedImage deep() throws UndecodableException {
    ComponentColorModel rgb =
        new ComponentColorModel(
            ColorSpace.getInstance(ColorSpace.CS_sRGB),
            false,
            false,
            Transparency.OPAQUE,
            DataBuffer.TYPE_USHORT);
    WritableRaster raster = rgb.createCompatibleWritableRaster(frame.width(), frame.height());
    short[] to = ((DataBufferUShort) raster.getDataBuffer()).getData();
    ByteBuffer.wrap(FrameBytes.of(frame, avutil.AV_PIX_FMT_RGB48LE, 6))
        .order(ByteOrder.LITTLE_ENDIAN)
        .asShortBuffer()
        .get(to);
    return new BufferedImage(rgb, raster, false, null);
  }

  private static String fields(int order) {
    return switch (order) {
      case avcodec.AV_FIELD_PROGRESSIVE -> "progressive";
      case avcodec.AV_FIELD_TT, avcodec.AV_FIELD_TB -> "upper field first";
      case avcodec.AV_FIELD_BB, avcodec.AV_FIELD_BT -> "lower field first";
      default -> "";
    };
  }

  /** As a tag of the whole or of one of its tracks; empty where there is none. */
  private static String timecode(AVFormatContext format) {
    AVDictionaryEntry e = avutil.av_dict_get(format.metadata(), "timecode", null, 0);
    for (int i = 0; e == null && i < format.nb_streams(); i++) {
      e = avutil.av_dict_get(format.streams(i).metadata(), "timecode", null, 0);
    }
    return e == null ? "" : e.value().getString();
  }
}
