package flarvo.folder;

import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import flarvo.shotlist.ShotEntry;
import flarvo.work.AtomicFile;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * Folders of a new shot. A template is folders and texts; in their names and in the texts {@code
 * {shot}}, {@code {first}}, {@code {last}}, {@code {cut}}, {@code {handles}} and {@code {rate}} are
 * replaced. A line of a text with a word that is not known for the shot is left out.
 *
 * @param folders relative paths
 * @param texts by relative path
 */
public record ShotTemplate(List<String> folders, Map<String, String> texts) {

  private static final Pattern WORD = Pattern.compile("\\{(shot|first|last|cut|handles|rate)\\}");
  private static final Pattern SHOT_NAME = Pattern.compile("[^\\\\/:*?\"<>|\\p{Cntrl}]+");

  /** Templates are a handful of folders; more is a folder that was given by mistake. */
  private static final int MOST = 500;

  /** Plates, undistorted plates, solve, what goes out, and notes with a log of the shot. */
  public static final ShotTemplate USUAL =
      new ShotTemplate(
          List.of("plates/original", "plates/undistorted", "solve", "out", "notes"),
          Map.of(
              "notes/{shot}.txt",
              """
              {shot}
              Frames {first}-{last}
              Cut {cut}, {handles}
              Frame rate {rate}
              """));

  public ShotTemplate {
    folders = List.copyOf(folders);
    texts = Map.copyOf(texts);
  }

  /**
   * A folder as a template: its folders, and its texts with their words.
   *
   * @throws InputError when it cannot be read, is very large, or holds a file that is not text
   */
  public static ShotTemplate of(Path folder) {
    List<String> folders = new ArrayList<>();
    Map<String, String> texts = new TreeMap<>();
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path p : (Iterable<Path>) all.sorted()::iterator) {
        String name = folder.relativize(p).toString().replace('\\', '/');
        if (folders.size() + texts.size() > MOST) {
          throw new InputError(
              folder.toString(),
              "",
              "more than " + MOST + " files and folders",
              "Is it a template?");
        }
        if (Files.isDirectory(p)) {
          folders.add(name);
        } else {
          texts.put(name, TextSource.read(p, ReadLimits.USUAL));
        }
      }
    } catch (IOException e) {
      throw new InputError(folder.toString(), "", "the template cannot be read", "", e);
    }
    folders.remove("");
    return new ShotTemplate(folders, texts);
  }

  /**
   * Makes the folders of a shot. What is there already stays as it is.
   *
   * @param parent in which the shot's folder is made
   * @return the files and folders that were made, relative to the parent
   * @throws InputError when the shot's name is no folder name, or the disk refuses
   */
  public List<String> make(Path parent, ShotEntry shot) {
    if (!SHOT_NAME.matcher(shot.name()).matches() || shot.name().matches("\\.+")) {
      throw new InputError(
          "", shot.place(), "'" + shot.name() + "' cannot be a folder's name", "Rename the shot");
    }
    Map<String, String> words = words(shot);
    Path root = parent.resolve(shot.name());
    List<String> made = new ArrayList<>();
    try {
      for (String f : folders) {
        Path to = inside(root, filled(f, words));
        if (!Files.isDirectory(to)) {
          Files.createDirectories(to);
          made.add(parent.relativize(to).toString());
        }
      }
      for (Map.Entry<String, String> t : texts.entrySet()) {
        Path to = inside(root, filled(t.getKey(), words));
        if (!Files.exists(to)) {
          Files.createDirectories(to.getParent());
          byte[] text = lines(t.getValue(), words).getBytes(StandardCharsets.UTF_8);
          AtomicFile.write(to, out -> out.write(text));
          made.add(parent.relativize(to).toString());
        }
      }
    } catch (IOException e) {
      throw new InputError(root.toString(), "", "cannot be made (" + e.getMessage() + ")", "", e);
    }
    return made;
  }

  /** A name may bring a shot's name into a path, but no way out of the shot's folder. */
  private static Path inside(Path root, String name) {
    Path to = root.resolve(name).normalize();
    if (!to.startsWith(root.normalize())) {
      throw new InputError(root.toString(), "", name + " leads out of the folder", "Rename it");
    }
    return to;
  }

  private static Map<String, String> words(ShotEntry s) {
    Map<String, String> w = new TreeMap<>();
    w.put("shot", s.name());
    s.frames()
        .ifPresent(
            f -> {
              w.put("first", Integer.toString(f.first()));
              w.put("last", Integer.toString(f.last()));
            });
    if (!s.handles().isEmpty()) {
      s.cut().ifPresent(c -> w.put("cut", c.toString()));
      w.put("handles", s.handles());
    }
    s.rate().ifPresent(r -> w.put("rate", r.toString()));
    return w;
  }

  private static String filled(String text, Map<String, String> words) {
    return WORD.matcher(text)
        .replaceAll(
            m ->
                java.util.regex.Matcher.quoteReplacement(
                    words.getOrDefault(m.group(1), m.group())));
  }

  private static String lines(String text, Map<String, String> words) {
    StringBuilder out = new StringBuilder();
    for (String line : text.split("\n", -1)) {
      String l = filled(line, words);
      if (!WORD.matcher(l).find()) {
        out.append(l).append('\n');
      }
    }
    return out.substring(0, Math.max(0, out.length() - 1));
  }
}
