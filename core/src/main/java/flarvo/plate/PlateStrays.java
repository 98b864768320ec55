package flarvo.plate;

import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * What lies among the frames of a sequence and does not belong: frames far from the others,
 * pictures of another size or that cannot be read, and pictures beside it that are in no sequence.
 * Headers of all frames are read.
 */
public final class PlateStrays {

  /** Frames that are missing before a few at an end, from which these may be strays. */
  private static final int FAR = 20;

  private static final int MOST_NAMED = 5;

  private PlateStrays() {}

  /**
   * Sentences on each sequence; none where all belongs.
   *
   * @throws flarvo.work.Cancelled when the user asked to stop
   */
  public static Map<PlateSequence, List<String>> of(List<PlateSequence> all, Progress progress) {
    Map<PlateSequence, List<String>> out = new LinkedHashMap<>();
    TreeSet<Path> folders = new TreeSet<>();
    for (PlateSequence p : all) {
      List<String> notes = new ArrayList<>();
      far(p, notes);
      sizes(p, notes, progress.part(out.size(), all.size()));
      if (folders.add(p.folder())) {
        beside(p.folder(), all, notes);
      }
      out.put(p, notes);
    }
    return out;
  }

  /** A few frames at an end, with more missing before them than there are frames without them. */
  private static void far(PlateSequence p, List<String> notes) {
    List<Integer> there = new ArrayList<>();
    TreeSet<Integer> missing = new TreeSet<>(p.missing());
    for (int f = p.frames().first(); f <= p.frames().last(); f++) {
      if (!missing.contains(f)) {
        there.add(f);
      }
    }
    for (int i = 1; i < there.size(); i++) {
      int gap = there.get(i) - there.get(i - 1) - 1;
      int before = i;
      int after = there.size() - i;
      if (gap >= Math.max(FAR, Math.max(before, after)) && before != after) {
        List<Integer> few = before < after ? there.subList(0, i) : there.subList(i, there.size());
        notes.add(
            named(few)
                + (few.size() == 1 ? " is" : " are")
                + " far from the others, with "
                + gap
                + " missing between: "
                + (few.size() == 1 ? "a stray?" : "strays?"));
      }
    }
  }

  private static void sizes(PlateSequence p, List<String> notes, Progress progress) {
    Map<String, List<Integer>> other = new TreeMap<>();
    TreeSet<Integer> missing = new TreeSet<>(p.missing());
    int n = p.frames().count();
    for (int f = p.frames().first(); f <= p.frames().last(); f++) {
      progress.step(f - p.frames().first(), n);
      if (missing.contains(f)) {
        continue;
      }
      try {
        PictureSize s = PlateReader.header(p.file(f)).size();
        if (s.width() != p.size().width() || s.height() != p.size().height()) {
          other.computeIfAbsent(s.width() + "x" + s.height(), k -> new ArrayList<>()).add(f);
        }
      } catch (InputError e) {
        other.computeIfAbsent("", k -> new ArrayList<>()).add(f);
      }
    }
    other.forEach(
        (size, frames) ->
            notes.add(
                named(frames)
                    + (size.isEmpty()
                        ? " cannot be read"
                        : (frames.size() == 1 ? " is " : " are ") + size)));
  }

  private static void beside(Path folder, List<PlateSequence> all, List<String> notes) {
    List<String> out = new ArrayList<>();
    try (Stream<Path> files = Files.list(folder)) {
      files
          .filter(PlateFinder::isPicture)
          .filter(f -> !Files.isDirectory(f))
          .filter(f -> all.stream().noneMatch(p -> has(p, f)))
          .map(f -> f.getFileName().toString())
          .sorted()
          .forEach(out::add);
    } catch (IOException e) {
      return; // whoever found the sequences has read the folder
    }
    if (!out.isEmpty()) {
      boolean one = out.size() == 1;
      notes.add(
          (one ? "1 picture" : out.size() + " pictures")
              + " in the folder "
              + (one ? "belongs" : "belong")
              + " to no sequence: "
              + String.join(", ", out.subList(0, Math.min(MOST_NAMED, out.size())))
              + (out.size() > MOST_NAMED ? " …" : ""));
    }
  }

  private static boolean has(PlateSequence p, Path file) {
    String name = file.getFileName().toString();
    return name.startsWith(p.prefix())
        && name.endsWith(p.suffix())
        && name.length() > p.prefix().length() + p.suffix().length()
        && name.substring(p.prefix().length(), name.length() - p.suffix().length())
            .matches("-?\\d+");
  }

  /** Frames by their numbers, the first few of many; counted. */
  private static String named(List<Integer> frames) {
    if (frames.size() == 1) {
      return "frame " + frames.get(0);
    }
    return frames.size() <= MOST_NAMED
        ? "frames " + String.join(", ", frames.stream().map(String::valueOf).toList())
        : frames.size() + " frames, the first " + frames.get(0) + ",";
  }
}
