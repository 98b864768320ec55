package flarvo.plate;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** Finds image sequences: pattern, padding, range and gaps, from file names. */
public final class PlateFinder {

  /** The last run of digits before the extension is the frame number. */
  private static final Pattern NUMBERED =
      Pattern.compile("^(.*?)(-?\\d{1,9})(\\.(?i:jpe?g|png|tiff?|exr))$");

  private record Stem(String prefix, String suffix) implements Comparable<Stem> {
    @Override
    public int compareTo(Stem o) {
      int c = prefix.compareTo(o.prefix);
      return c != 0 ? c : suffix.compareTo(o.suffix);
    }
  }

  private static final Pattern PICTURE = Pattern.compile(".*\\.(?i:jpe?g|png|tiff?|exr)$");

  private PlateFinder() {}

  /** Whether a file name ends as a supported image does; the contents are not read. */
  public static boolean isPicture(Path file) {
    return file.getFileName() != null && PICTURE.matcher(file.getFileName().toString()).matches();
  }

  /** All sequences in a folder, or the one that a file belongs to. */
  public static List<PlateSequence> find(Path fileOrFolder) {
    Path folder =
        Files.isDirectory(fileOrFolder) ? fileOrFolder : fileOrFolder.toAbsolutePath().getParent();
    Map<Stem, Numbers> found = new TreeMap<>();
    try (Stream<Path> files = Files.list(folder)) {
      files.forEach(
          f -> {
            Matcher m = NUMBERED.matcher(f.getFileName().toString());
            if (m.matches()) {
              String digits = m.group(2);
              String prefix = m.group(1);
              if (digits.startsWith("-") && !prefix.isEmpty()) {
                // "plate-1001": the dash belongs to the name.
                prefix += "-";
                digits = digits.substring(1);
              }
              found
                  .computeIfAbsent(new Stem(prefix, m.group(3)), s -> new Numbers())
                  .add(Integer.parseInt(digits), digits.length());
            }
          });
    } catch (IOException e) {
      throw new InputError(
          fileOrFolder.toString(), "", "file or folder not found", "Check the path", e);
    }
    if (!Files.isDirectory(fileOrFolder)) {
      String name = fileOrFolder.getFileName().toString();
      found.keySet().removeIf(s -> !name.startsWith(s.prefix) || !name.endsWith(s.suffix));
    }
    if (found.isEmpty()) {
      throw new InputError(
          fileOrFolder.toString(),
          "",
          "no numbered images found",
          "A sequence is named like name.1001.jpg");
    }
    List<PlateSequence> list = new ArrayList<>();
    found.forEach((stem, n) -> list.add(sequence(folder, stem, n)));
    return list;
  }

  private static FrameRange range(Path folder, Stem stem, Numbers n) {
    try {
      return new FrameRange(n.frames.first(), n.frames.last());
    } catch (IllegalArgumentException e) {
      throw new InputError(
          folder.resolve(stem.prefix + "####" + stem.suffix).toString(),
          "",
          "its frames are numbered from "
              + n.frames.first()
              + " to "
              + n.frames.last()
              + ", and no shot is so long",
          "Move away the file that does not belong",
          e);
    }
  }

  private static PlateSequence sequence(Path folder, Stem stem, Numbers n) {
    FrameRange range = range(folder, stem, n);
    List<Integer> missing = new ArrayList<>();
    for (int f = range.first(); f <= range.last(); f++) {
      if (!n.frames.contains(f)) {
        missing.add(f);
      }
    }
    PlateSequence blank =
        new PlateSequence(
            folder,
            stem.prefix,
            n.padding(),
            stem.suffix,
            range,
            missing,
            PictureSize.of(1, 1),
            role(folder, stem));
    PlateHeader head = PlateReader.header(blank.file(range.first()));
    return new PlateSequence(
        folder,
        stem.prefix,
        n.padding(),
        stem.suffix,
        range,
        missing,
        head.size(),
        blank.role(),
        head.facts());
  }

  /** A guess from the names that people use; a claim that the user can overrule. */
  private static PlateRole role(Path folder, Stem stem) {
    String words = (folder.getFileName() + "/" + stem.prefix).toLowerCase(Locale.ROOT);
    return words.contains("undist")
        ? PlateRole.UNDISTORTED
        : words.contains("keyed") || words.contains("matte")
            ? PlateRole.KEYED
            : words.contains("proxy") || words.contains("proxies")
                ? PlateRole.PROXY
                : PlateRole.ORIGINAL;
  }

  private static final class Numbers {
    private final TreeSet<Integer> frames = new TreeSet<>();
    private int shortest = Integer.MAX_VALUE;
    private int longest;

    void add(int frame, int digits) {
      frames.add(frame);
      shortest = Math.min(shortest, digits);
      longest = Math.max(longest, digits);
    }

    /** All of one length: padded to it. Else as long as the number is: not padded. */
    int padding() {
      return shortest == longest || frames.first() < Math.pow(10, shortest - 1) ? shortest : 0;
    }
  }
}
