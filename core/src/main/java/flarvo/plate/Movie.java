package flarvo.plate;

import flarvo.report.InputError;
import flarvo.scene.Rate;
import flarvo.work.Progress;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * What a movie file said of itself while it was unpacked.
 *
 * @param rate empty where the container has none
 * @param frames pictures that were written
 * @param broken pieces that could not be decoded
 * @param uneven pictures that do not follow the one before after the usual time
 * @param stated what its header says of fields; empty where it says nothing
 */
public record Movie(
    Optional<Rate> rate,
    double pixelAspect,
    int frames,
    int broken,
    int uneven,
    Optional<String> timecode,
    Optional<String> stated) {

  private static final int SILENCE_SECONDS = 60;

  /** The container by its first bytes; empty when it is none that is known here. */
  static Optional<String> kind(byte[] head) {
    String s = new String(head, 0, Math.min(16, head.length), StandardCharsets.ISO_8859_1);
    if (s.length() < 16) {
      return Optional.empty();
    }
    String box = s.substring(4, 8);
    if (List.of("ftyp", "moov", "mdat", "wide", "free", "skip").contains(box)) {
      return Optional.of("mov");
    }
    if (s.startsWith("\u001aE\u00df\u00a3")) {
      return Optional.of("matroska");
    }
    if (s.startsWith("RIFF") && s.startsWith("AVI ", 8)) {
      return Optional.of("avi");
    }
    return s.startsWith("\u0006\u000e+4") ? Optional.of("mxf") : Optional.empty();
  }

  /**
   * Writes its pictures.
   *
   * @param pattern of the pictures' files, for {@link String#format}
   */
  static Movie unpack(Path file, String kind, Path pattern, int first, Progress progress) {
    return Decoder.ask(
        file,
        new Decoder.Question<>() {
          @Override
          public void ask(DataOutputStream out) throws IOException {
            out.write(DecoderMain.MOVIE);
            out.writeUTF(file.toAbsolutePath().toString());
            out.writeUTF(kind);
            out.writeUTF(pattern.toString());
            out.writeInt(first);
          }

          @Override
          public Movie answer(DataInputStream in) throws IOException {
            Optional<Rate> rate = rate(file, in.readInt(), in.readInt());
            double aspect = (double) in.readInt() / in.readInt();
            int frames = in.readInt();
            int broken = in.readInt();
            int uneven = in.readInt();
            String code = in.readUTF().replace(';', ':');
            String fields = in.readUTF();
            return new Movie(
                rate,
                aspect > 0.1 && aspect < 10 ? aspect : 1, // 0/1 stands for nothing stated
                frames,
                broken,
                uneven,
                code.matches("\\d\\d:\\d\\d:\\d\\d:\\d\\d") ? Optional.of(code) : Optional.empty(),
                fields.isEmpty() ? Optional.empty() : Optional.of(fields));
          }
        },
        SILENCE_SECONDS,
        progress);
  }

  private static Optional<Rate> rate(Path file, int num, int den) {
    if (num <= 0 || den <= 0) {
      return Optional.empty();
    }
    try {
      return Optional.of(new Rate(num, den));
    } catch (IllegalArgumentException e) {
      throw new InputError(
          file.toString(), "", "it claims " + num + "/" + den + " pictures a second", "", e);
    }
  }
}
