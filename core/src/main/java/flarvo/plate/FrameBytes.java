package flarvo.plate;

import org.bytedeco.ffmpeg.avutil.AVFrame;
import org.bytedeco.ffmpeg.global.avutil;
import org.bytedeco.ffmpeg.global.swscale;
import org.bytedeco.ffmpeg.swscale.SwsContext;
import org.bytedeco.javacpp.BytePointer;
import org.bytedeco.javacpp.DoublePointer;

/** In the decoder's process: a decoded frame in another arrangement of its pixels. */
final class FrameBytes {

  private FrameBytes() {}

  /** Lines from which a picture that does not state its colours has those of HD television. */
  private static final int HD_LINES = 720;

  private static final int FULL_STRENGTH = 1 << 16;

  /**
   * The matrix from luma and colour differences to RGB is the one that the movie states; the
   * library's own choice is that of standard definition for all.
   */
  private static void colours(SwsContext sws, AVFrame frame) {
    int stated = frame.colorspace();
    if (stated == avutil.AVCOL_SPC_UNSPECIFIED || stated == avutil.AVCOL_SPC_RESERVED) {
      stated = frame.height() >= HD_LINES ? avutil.AVCOL_SPC_BT709 : avutil.AVCOL_SPC_SMPTE170M;
    }
    int range = frame.color_range() == avutil.AVCOL_RANGE_JPEG ? 1 : 0;
    // Of a picture that is RGB already nothing is changed.
    swscale.sws_setColorspaceDetails(
        sws,
        swscale.sws_getCoefficients(stated),
        range,
        swscale.sws_getCoefficients(swscale.SWS_CS_DEFAULT),
        1,
        0,
        FULL_STRENGTH,
        FULL_STRENGTH);
  }

  /**
   * @param arrangement one of the library's
   * @param each bytes of a pixel in it
   */
  static byte[] of(AVFrame frame, int arrangement, int each) throws UndecodableException {
    int w = frame.width();
    int h = frame.height();
    AVFrame turned = avutil.av_frame_alloc();
    SwsContext sws =
        swscale.sws_getContext(
            w,
            h,
            frame.format(),
            w,
            h,
            arrangement,
            swscale.SWS_POINT | swscale.SWS_ACCURATE_RND | swscale.SWS_FULL_CHR_H_INT,
            null,
            null,
            (DoublePointer) null);
    try {
      if (sws == null) {
        throw new UndecodableException("its kind of pixels is not known");
      }
      colours(sws, frame);
      turned.width(w);
      turned.height(h);
      turned.format(arrangement);
      UndecodableException.check(
          avutil.av_frame_get_buffer(turned, 1), "there is no memory for it");
      UndecodableException.check(
          swscale.sws_scale(
              sws, frame.data(), frame.linesize(), 0, h, turned.data(), turned.linesize()),
          "its kind of pixels is not known");
      byte[] out = new byte[Math.multiplyExact(Math.multiplyExact(w, h), each)];
      BytePointer from = turned.data(0);
      for (int y = 0; y < h; y++) {
        from.position((long) y * turned.linesize(0)).get(out, y * w * each, w * each);
      }
      return out;
    } finally {
      swscale.sws_freeContext(sws);
      avutil.av_frame_free(turned);
    }
  }
}
