package flarvo.plate;

import flarvo.format.TextSource;
import flarvo.plate.field.Combing;
import flarvo.plate.field.FieldOrder;
import flarvo.plate.field.Interlacing;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.stream.Stream;

/**
 * Unpacks a movie into numbered PNG pictures in a folder beside it, with a text log that says the
 * movie's true rate; the log is read like any other. What was unpacked before is not unpacked
 * again.
 */
public final class MovieUnpacker {

  /** Movies have no frame numbers; this is the custom of shots. */
  private static final int FIRST_FRAME = 1001;

  private MovieUnpacker() {}

  /**
   * @param log beside the pictures, as text
   */
  public record Unpacked(Path folder, Path log) {}

  /** Whether a file is a movie, by its first bytes. */
  public static boolean isMovie(byte[] head) {
    return Movie.kind(head).isPresent();
  }

  /**
   * Writes the frames of a movie as numbered images into a folder.
   *
   * @throws InputError when the movie cannot be decoded, or the disk refuses
   */
  public static Unpacked unpack(Path file, byte[] head, Progress progress) {
    String name = file.getFileName().toString();
    String stem = name.replaceAll("\\.[^.]*$", "");
    Path folder = file.toAbsolutePath().resolveSibling(stem + "_frames");
    Path log = folder.resolve(stem + "_movie.txt");
    try {
      String source =
          "Unpacked from "
              + name
              + ", "
              + Files.size(file)
              + " bytes, of "
              + Files.getLastModifiedTime(file)
              + ".";
      String before = Files.exists(log) ? Files.readString(log) : "";
      if (before.startsWith(source)) {
        return new Unpacked(folder, log);
      }
      if (Files.exists(folder)) {
        boolean older = before.startsWith("Unpacked from " + name + ", ");
        throw new InputError(
            file.toString(),
            "",
            "there is a folder "
                + folder.getFileName()
                + " already, of "
                + (older ? "an earlier state of this movie" : "another movie"),
            "Move it away");
      }
      Path half = folder.resolveSibling(stem + "_unpacking" + System.nanoTime());
      Files.createDirectory(half); // with the rights that the user's mask gives
      try {
        Path pattern = half.resolve(stem.replace("%", "%%") + ".%04d.png");
        Movie movie =
            Movie.unpack(file, Movie.kind(head).orElseThrow(), pattern, FIRST_FRAME, progress);
        Interlacing fields = Combing.of(PlateFinder.find(half).get(0), Progress.NONE);
        Files.writeString(half.resolve(log.getFileName()), words(source, movie, fields));
        Files.move(half, folder, StandardCopyOption.ATOMIC_MOVE);
      } finally {
        remove(half);
      }
      return new Unpacked(folder, log);
    } catch (IOException e) {
      throw new InputError(
          file.toString(),
          "",
          "its pictures cannot be written beside it (" + e.getMessage() + ")",
          "Put the movie where there is room",
          e);
    }
  }

  /**
   * Writes the frames of a movie as PNG pictures of a name; pictures of that name are replaced.
   *
   * @param folder made where it is not there
   * @param prefix of the pictures' names
   * @param padding least number of digits
   * @param first number of the first frame
   * @throws InputError when it is no movie, cannot be decoded, or the disk refuses
   */
  public static Movie into(
      Path file, Path folder, String prefix, int padding, int first, Progress progress) {
    String kind =
        Movie.kind(TextSource.head(file))
            .orElseThrow(
                () ->
                    new InputError(
                        file.toString(), "", "not a movie that is known here", "Give a movie"));
    try {
      Files.createDirectories(folder);
      // Whole pictures only ever get their names: the decoder writes beside them.
      Path half = folder.resolve(".unpacking" + System.nanoTime());
      Files.createDirectory(half);
      try {
        String name = prefix.replace("%", "%%") + "%0" + padding + "d.png";
        Movie movie = Movie.unpack(file, kind, half.resolve(name), first, progress);
        try (Stream<Path> all = Files.list(half)) {
          for (Path p : all.sorted().toList()) {
            Files.move(
                p,
                folder.resolve(p.getFileName()),
                StandardCopyOption.ATOMIC_MOVE,
                StandardCopyOption.REPLACE_EXISTING);
          }
        }
        return movie;
      } finally {
        remove(half);
      }
    } catch (IOException e) {
      throw new InputError(
          folder.toString(),
          "",
          "the pictures cannot be written (" + e.getMessage() + ")",
          "Write where there is room",
          e);
    }
  }

  private static String words(String source, Movie m, Interlacing fields) {
    StringBuilder s = new StringBuilder(source).append("\nPlates of a movie");
    m.rate().ifPresent(r -> s.append(", frame rate ").append(r));
    s.append(", frames ").append(FIRST_FRAME).append('-').append(FIRST_FRAME + m.frames() - 1);
    s.append(".\n");
    if (m.pixelAspect() != 1) {
      s.append("Pixel aspect ").append(m.pixelAspect()).append(".\n");
    }
    m.timecode().ifPresent(t -> s.append("Timecode ").append(t).append(" on the first frame.\n"));
    if (fields.isCombed()) {
      s.append(
          fields
              .order()
              .map(o -> (o == FieldOrder.UPPER ? "Upper" : "Lower") + " field first")
              .orElse("Interlaced"));
      s.append(", as measured in its pictures.\n");
    }
    if (m.uneven() > 0) {
      s.append(m.uneven()).append(" pictures do not follow after the usual time.\n");
    }
    if (m.broken() > 0) {
      s.append(m.broken()).append(" pieces could not be decoded and are missing.\n");
    }
    return s.toString();
  }

  private static void remove(Path folder) throws IOException {
    if (!Files.exists(folder)) {
      return;
    }
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path p : all.sorted(java.util.Comparator.reverseOrder()).toList()) {
        Files.deleteIfExists(p);
      }
    }
  }
}
