package flarvo.folder;

import flarvo.format.Formats;
import flarvo.format.TextSource;
import flarvo.lens.LensSheet;
import flarvo.plate.MovieUnpacker;
import flarvo.plate.PlateFinder;
import flarvo.receive.ShotIntake;
import flarvo.receive.ShotLog;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.shotlist.ShotEntry;
import flarvo.shotlist.ShotList;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.FileVisitOption;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Finds the files of many shots in folders. Which files count is told by their content, which shot
 * they belong to by names:
 *
 * <ul>
 *   <li>With a shot list, the longest of its names that is a word of the path.
 *   <li>Else the highest folder that holds files, or folders called after parts of a shot ({@code
 *       plates}, {@code solve}), is a shot, with all that is in it.
 *   <li>Where the searched folder is itself such a folder, and the names in it are numbered alike
 *       ({@code mer_010}, {@code mer_020}), they are the shots; else it is one shot.
 * </ul>
 *
 * Of several versions of a file the highest counts. Folders of what was made from a shot ({@code
 * out}, {@code deliveries}) and hidden ones are left out. Nothing is left out without a note.
 */
public final class ShotFinder {

  private static final int DEEPEST = 12;

  /** Texts that are longer are not a log of a shot. */
  private static final long LONGEST_LOG = 1_000_000;

  /** Names in a note before the rest is counted. */
  private static final int NAMED = 5;

  /**
   * @param notes what belongs to no shot, and shots of which nothing was found
   */
  public record Found(List<FoundShot> shots, List<Note> notes) {
    public Found {
      shots = List.copyOf(shots);
      notes = List.copyOf(notes);
    }
  }

  /** Something that may belong to a shot: a file, or a folder of pictures. */
  private record Item(Path path, boolean pictures) {}

  private final Optional<ShotList> list;
  private final Progress progress;
  private final Map<String, List<Item>> shots = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
  private final List<Note> notes = new ArrayList<>();
  private final List<String> strays = new ArrayList<>();

  private ShotFinder(Optional<ShotList> list, Progress progress) {
    this.list = list;
    this.progress = progress;
  }

  /**
   * Searches folders. Nothing is read but the beginnings of files, and short texts.
   *
   * @throws InputError when a folder cannot be read
   * @throws flarvo.work.Cancelled when the user stopped
   */
  public static Found find(List<Path> folders, Optional<ShotList> list, Progress progress) {
    ShotFinder f = new ShotFinder(list, progress);
    for (Path p : folders) {
      f.search(p.toAbsolutePath().normalize());
    }
    return f.found();
  }

  private void search(Path root) {
    if (!Files.isDirectory(root)) {
      throw new InputError(root.toString(), "", "not a folder", "Give the folder of the shots");
    }
    List<Item> items = new Walk(root).items();
    if (list.isPresent()) {
      items.forEach(i -> byList(root, i));
    } else {
      byFolder(root, items);
    }
  }

  private void byList(Path root, Item item) {
    // The searched folder itself may be called after its shot.
    String path = root.getFileName() + "/" + root.relativize(item.path);
    Optional<ShotEntry> best = Optional.empty();
    for (ShotEntry s : list.orElseThrow().shots()) {
      boolean longer = best.isEmpty() || s.name().length() > best.get().name().length();
      best = longer && FolderWords.names(path, s.name()) ? Optional.of(s) : best;
    }
    if (best.isPresent()) {
      add(best.get().name(), item);
    } else {
      strays.add(root.relativize(item.path).toString());
    }
  }

  private void byFolder(Path root, List<Item> items) {
    if (!isShot(root, items)) {
      Map<Path, List<Item>> children = new LinkedHashMap<>();
      for (Item i : items) {
        Path child = root.resolve(root.relativize(i.path).getName(0));
        children.computeIfAbsent(child, c -> new ArrayList<>()).add(i);
      }
      children.forEach(this::folder);
    } else if (!numbered(root, items)) {
      items.forEach(i -> add(String.valueOf(root.getFileName()), i));
    }
  }

  private void folder(Path folder, List<Item> items) {
    if (isShot(folder, items)) {
      items.forEach(i -> add(String.valueOf(folder.getFileName()), i));
    } else {
      byFolder(folder, items);
    }
  }

  /** Whether files lie in a folder itself, or in one that is called after a part of a shot. */
  private static boolean isShot(Path folder, List<Item> items) {
    for (Item i : items) {
      if (i.path.equals(folder)) {
        return true; // pictures
      }
      Path below = folder.relativize(i.path);
      boolean direct = below.getNameCount() == 1 && !i.pictures;
      if (direct || FolderWords.isRole(below.getName(0).toString())) {
        return true;
      }
    }
    return false;
  }

  /** Shots by the names in a folder of parts, where those are numbered alike; else nothing. */
  private boolean numbered(Path root, List<Item> items) {
    Map<Item, String> stems = new LinkedHashMap<>();
    Map<String, TreeSet<String>> series = new HashMap<>();
    for (Item i : items) {
      String stem = stem(root, i);
      stems.put(i, stem);
      String s = FolderWords.series(stem);
      if (!s.isEmpty()) {
        series.computeIfAbsent(s, k -> new TreeSet<>(String.CASE_INSENSITIVE_ORDER)).add(stem);
      }
    }
    if (series.size() != 1 || series.values().iterator().next().size() < 2) {
      return false;
    }
    TreeSet<String> names = series.values().iterator().next();
    stems.forEach(
        (item, stem) -> {
          if (names.contains(stem)) {
            add(stem, item);
          } else {
            strays.add(root.relativize(item.path).toString());
          }
        });
    return true;
  }

  /** The deepest folder that is not called after a part, else what the file's own name leaves. */
  private static String stem(Path root, Item item) {
    Path folders = item.pictures ? item.path : item.path.getParent();
    for (Path p = folders; !p.equals(root); p = p.getParent()) {
      String stem = FolderWords.stem(p.getFileName().toString());
      if (!stem.isEmpty()) {
        return stem;
      }
    }
    if (!item.pictures) {
      return FolderWords.stem(item.path.getFileName().toString());
    }
    return PlateFinder.find(item.path).stream()
        .map(s -> FolderWords.stem(s.prefix().replaceAll("[._-]+$", "")))
        .findFirst()
        .orElse("");
  }

  private void add(String shot, Item item) {
    shots.computeIfAbsent(shot, s -> new ArrayList<>()).add(item);
  }

  private Found found() {
    List<FoundShot> out = new ArrayList<>();
    shots.forEach((name, items) -> out.add(shot(name, items)));
    list.ifPresent(
        l -> {
          notes.addAll(l.notes());
          l.shots().stream()
              .filter(s -> !shots.containsKey(s.name()))
              .forEach(s -> notes.add(Note.lost(s.name(), "listed, but no file found")));
        });
    if (!strays.isEmpty()) {
      notes.add(Note.ignored("", some(strays) + ": no shot found in the name"));
    }
    return new Found(out, notes);
  }

  private FoundShot shot(String name, List<Item> items) {
    List<Note> own = new ArrayList<>();
    List<Path> files = newest(items.stream().filter(i -> !i.pictures).toList(), own);
    List<Path> plates = newest(items.stream().filter(i -> i.pictures).toList(), own);
    Optional<ShotLog> listed = list.flatMap(l -> l.of(name).map(e -> ShotLog.listed(l.file(), e)));
    return new FoundShot(name, files, plates, listed, own);
  }

  /** Without those of which there is a higher version. */
  private static List<Path> newest(List<Item> items, List<Note> own) {
    Map<String, Path> best = new LinkedHashMap<>();
    for (Item i : items) {
      String key = FolderWords.unversioned(i.path.toString());
      Path before = best.get(key);
      boolean later =
          before == null
              || FolderWords.version(i.path.toString()).orElse(0)
                  > FolderWords.version(before.toString()).orElse(0);
      if (before != null) {
        Path older = later ? before : i.path;
        own.add(Note.ignored(String.valueOf(older.getFileName()), "there is a newer version"));
      }
      if (later) {
        best.put(key, i.path);
      }
    }
    return List.copyOf(best.values());
  }

  private static String some(List<String> names) {
    int rest = names.size() - NAMED;
    return String.join(", ", names.subList(0, Math.min(NAMED, names.size())))
        + (rest > 0 ? " and " + rest + " more" : "");
  }

  /** All that may belong to a shot below a folder. */
  private final class Walk extends SimpleFileVisitor<Path> {
    private final Path root;
    private final TreeMap<Path, Item> items = new TreeMap<>(); // no disk has an order of its own
    private final List<String> unknown = new ArrayList<>();

    Walk(Path root) {
      this.root = root;
    }

    List<Item> items() {
      try {
        Files.walkFileTree(root, EnumSet.of(FileVisitOption.FOLLOW_LINKS), DEEPEST, this);
      } catch (IOException e) {
        throw new InputError(root.toString(), "", "the folder cannot be read", "", e);
      }
      if (!unknown.isEmpty()) {
        notes.add(Note.ignored("", some(unknown) + ": not a scene, tracks, lens or log"));
      }
      return List.copyOf(items.values());
    }

    @Override
    public FileVisitResult preVisitDirectory(Path dir, BasicFileAttributes a) {
      progress.step(0, 0);
      String name = String.valueOf(dir.getFileName());
      if (dir.equals(root)) {
        return FileVisitResult.CONTINUE;
      }
      if (FolderWords.isMade(name)) {
        notes.add(
            Note.ignored(
                root.relativize(dir).toString(), "a folder of outputs or returns, not searched"));
        return FileVisitResult.SKIP_SUBTREE;
      }
      return name.startsWith(".") ? FileVisitResult.SKIP_SUBTREE : FileVisitResult.CONTINUE;
    }

    @Override
    public FileVisitResult visitFile(Path file, BasicFileAttributes a) {
      if (file.getFileName().toString().startsWith(".") || !a.isRegularFile()) {
        return FileVisitResult.CONTINUE;
      }
      if (PlateFinder.isPicture(file)) {
        items.computeIfAbsent(file.getParent(), p -> new Item(p, true));
      } else if (counts(file, a.size())) {
        items.put(file, new Item(file, false));
      }
      return FileVisitResult.CONTINUE;
    }

    @Override
    public FileVisitResult visitFileFailed(Path file, IOException e) {
      notes.add(Note.ignored(root.relativize(file).toString(), "cannot be read"));
      return FileVisitResult.CONTINUE;
    }

    private boolean counts(Path file, long size) {
      byte[] head;
      try {
        head = TextSource.head(file);
      } catch (InputError e) {
        notes.add(Note.ignored(root.relativize(file).toString(), e.reason()));
        return false;
      }
      if (MovieUnpacker.isMovie(head)) {
        notes.add(
            Note.ignored(
                root.relativize(file).toString(), "a movie; ./flarvo unpack makes plates of it"));
        return false;
      }
      // Much else is JSON or CSV; the other endings are clear, and a broken scene must not vanish.
      boolean scene =
          Formats.isKnown(head)
              || Formats.isExtension(file) && !file.toString().matches("(?i).*\\.(json|csv)");
      boolean counts =
          scene
              || LensSheet.recognises(head)
              || ShotIntake.isTable(head)
              || size <= LONGEST_LOG && isLog(file, head);
      if (!counts) {
        unknown.add(root.relativize(file).toString());
      }
      return counts;
    }

    /** Text that states something of a shot; settings and scripts are text too. */
    private boolean isLog(Path file, byte[] head) {
      String name = file.getFileName().toString().toLowerCase(Locale.ROOT);
      boolean prose = name.endsWith(".txt") || name.endsWith(".log") || name.endsWith(".md");
      return prose && ShotLog.recognises(head) && !ShotLog.read(file).claims().isEmpty();
    }
  }
}
