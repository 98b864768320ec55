package flarvo.dispatch;

import flarvo.convention.FrameMap;
import flarvo.lens.Direction;
import flarvo.lens.Distortion;
import flarvo.lens.LensMapper;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.plate.Raster;
import flarvo.plate.RasterWriter;
import flarvo.plate.remap.Overscan;
import flarvo.plate.remap.PositionGrid;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.work.AtomicFile;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.DirectoryIteratorException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Pattern;

/**
 * What lies beside a delivery's file: the lens as a sheet, distortion maps, 2D tracks, copies of
 * the plates. All are named after the file, and numbered as the frames in it are, where frames are
 * kept.
 */
public final class Sidecars {

  /** Origin of a map's second channel: the bottom, as most readers of maps expect. */
  public static final boolean MAPS_FROM_BOTTOM = true;

  private final Outgoing from;
  private final Delivery delivery;
  private final Path file;
  private final Shot shot;
  private final FrameMap map;
  private Optional<DeliveredTracks> tracks; // null until it is asked for; there may be millions

  private Sidecars(Outgoing from, Delivery delivery, Path file) {
    this.from = from;
    this.delivery = delivery;
    this.file = file;
    shot = delivery.extract().of(from.shot());
    map =
        delivery
            .format()
            .nearestSupported(delivery.dialect())
            .spoken()
            .frames()
            .mapFor(shot.frames(), shot.rate());
  }

  /**
   * Of a delivery.
   *
   * @param file where the delivery itself lies, or will
   * @throws InputError when no frame is left of the shot
   */
  public static Sidecars of(Outgoing from, Delivery delivery, Path file) {
    return new Sidecars(from, delivery, file);
  }

  /** Every file, whether it is there or not. */
  public List<Path> files() {
    List<Path> out = new ArrayList<>();
    sheet().ifPresent(out::add);
    maps().forEach(m -> out.add(m.file()));
    tracks().map(DeliveredTracks::file).ifPresent(out::add);
    out.addAll(plates().values());
    return out;
  }

  /** Where the lens sheet lies; empty where none is wanted or there is no lens. */
  public Optional<Path> sheet() {
    return lens(Part.LENS).map(l -> beside(SidecarNames.SHEET));
  }

  /** The lens as the sheet has it; its keys are numbered as the frames of the file are. */
  public Optional<LensTrack> sheetLens() {
    return lens(Part.LENS).map(this::renumbered);
  }

  /**
   * A distortion map.
   *
   * @param direction from the picture that is had to the picture that it makes
   * @param frame of the plates
   */
  public record MapFile(Path file, Direction direction, int frame) {}

  /** Both directions; of each frame where the lens breathes. */
  public List<MapFile> maps() {
    List<MapFile> out = new ArrayList<>();
    lens(Part.MAPS)
        .ifPresent(
            l -> {
              FrameRange frames = shot.frames();
              int last = l.breathes() ? frames.last() : frames.first();
              for (int f = frames.first(); f <= last; f++) {
                String number =
                    l.breathes() ? String.format(Locale.ROOT, ".%04d", numbered(f)) : "";
                Path un = beside("_undistort" + number + ".exr");
                Path re = beside("_redistort" + number + ".exr");
                out.add(new MapFile(un, Direction.ORIGINAL_TO_UNDISTORTED, f));
                out.add(new MapFile(re, Direction.UNDISTORTED_TO_ORIGINAL, f));
              }
            });
    return out;
  }

  /** 2D tracks; empty where none are wanted or there are none. */
  public Optional<DeliveredTracks> tracks() {
    if (tracks == null) {
      tracks =
          delivery.contents().has(Part.TRACKS)
              ? Optional.of(
                      DeliveredTracks.of(
                          from, delivery, beside(SidecarNames.TRACKS), shot, this::inFile))
                  .filter(t -> !t.onPlates().isEmpty())
              : Optional.empty();
    }
    return tracks;
  }

  /** The lens at a frame of the plates, over their picture. */
  public LensMapper mapper(int frame) {
    return from.lens().orElseThrow().at(frame).on(from.shot().picture());
  }

  /** How much larger the undistorted plates are than the original ones; proxies have none. */
  public Overscan overscan() {
    PictureSize picture = from.shot().picture();
    return from.shot().plates().stream()
        .filter(p -> p.role() == PlateRole.UNDISTORTED && p.inner().isPresent())
        .filter(p -> p.picture().width() == picture.width())
        .filter(p -> p.picture().height() == picture.height())
        .findFirst()
        .map(p -> Overscan.of(picture, p))
        .orElse(Overscan.none(picture));
  }

  /** Copies by the frame of the plate, for those frames that there are. */
  public Map<Integer, Path> plates() {
    Map<Integer, Path> out = new LinkedHashMap<>();
    copied()
        .ifPresent(
            p -> {
              Path folder = DeliveryPlace.plates(file);
              for (int f : present(p)) {
                out.put(f, folder.resolve(p.fileName(numbered(f))));
              }
            });
    return out;
  }

  /**
   * Files that lie there under names of ours and are none of this delivery's: frames of an earlier
   * one that was longer, or maps of a lens that breathed. Whoever reads the sequence reads them
   * too.
   *
   * @throws InputError when a folder cannot be listed
   */
  public List<Path> strays() {
    List<Path> out = new ArrayList<>();
    Set<Path> ours = new HashSet<>(files());
    if (!maps().isEmpty()) {
      String stem = beside("").getFileName().toString();
      Pattern p = Pattern.compile(Pattern.quote(stem) + SidecarNames.MAPS);
      strays(file.toAbsolutePath().getParent(), p, ours, out);
    }
    copied()
        .ifPresent(
            c -> {
              String digits = Pattern.quote(c.prefix()) + "-?\\d+" + Pattern.quote(c.suffix());
              strays(DeliveryPlace.plates(file), Pattern.compile(digits), ours, out);
            });
    return out;
  }

  private static void strays(Path folder, Pattern names, Set<Path> ours, List<Path> out) {
    if (!Files.isDirectory(folder)) {
      return;
    }
    Set<Path> known = new HashSet<>();
    ours.forEach(f -> known.add(f.toAbsolutePath().normalize()));
    try (DirectoryStream<Path> all = Files.newDirectoryStream(folder)) {
      for (Path f : all) {
        boolean named = names.matcher(f.getFileName().toString()).matches();
        if (named && !known.contains(f.toAbsolutePath().normalize())) {
          out.add(f);
        }
      }
    } catch (IOException | DirectoryIteratorException e) {
      throw new InputError(folder.toString(), "", "cannot be listed", "Check its rights", e);
    }
    out.sort(null);
  }

  /** The plates that are copied; empty where none are wanted or there are none. */
  public Optional<PlateSequence> copied() {
    return delivery.contents().has(Part.PLATES)
        ? shot.plates().stream().findFirst()
        : Optional.empty();
  }

  private List<Integer> present(PlateSequence p) {
    List<Integer> out = new ArrayList<>();
    int last = Math.min(p.frames().last(), shot.frames().last());
    for (int f = Math.max(p.frames().first(), shot.frames().first()); f <= last; f++) {
      if (!p.missing().contains(f)) {
        out.add(f);
      }
    }
    return out;
  }

  /**
   * Writes all of them, each whole or not at all. What is written here goes again when it does not
   * end well.
   *
   * @return what was written, and what was wanted and is not there
   * @throws InputError when a plate cannot be read, or the disk refuses
   */
  public List<Note> write(Progress progress) {
    List<Path> made = new ArrayList<>();
    try {
      int total = files().size();
      sheet()
          .ifPresent(
              f -> {
                byte[] text =
                    LensSheet.text(sheetLens().orElseThrow()).getBytes(StandardCharsets.UTF_8);
                write(f, out -> out.write(text), made);
              });
      tracks()
          .ifPresent(
              t -> {
                byte[] text = t.text().getBytes(StandardCharsets.UTF_8);
                write(t.file(), out -> out.write(text), made);
              });
      for (MapFile m : maps()) {
        progress.step(made.size(), total);
        note(m.file(), made);
        RasterWriter.write(raster(m), m.file());
      }
      PlateSequence p = copied().orElse(null);
      for (Map.Entry<Integer, Path> e : plates().entrySet()) {
        progress.step(made.size(), total);
        Path source = p.file(e.getKey());
        requireReadable(source, e.getKey());
        write(e.getValue(), out -> Files.copy(source, out), made);
      }
    } catch (RuntimeException e) {
      made.forEach(Sidecars::deleteQuietly);
      deleteQuietly(DeliveryPlace.plates(file)); // if nothing else is in it
      throw e;
    }
    return notes();
  }

  private Raster raster(MapFile m) {
    PictureSize had = had(m.direction());
    return PositionGrid.of(mapper(m.frame()), m.direction(), overscan())
        .map(had.width(), had.height(), MAPS_FROM_BOTTOM);
  }

  /** Size of the picture that a map takes from. */
  public PictureSize had(Direction d) {
    return d == Direction.ORIGINAL_TO_UNDISTORTED ? from.shot().picture() : overscan().size();
  }

  private static void write(Path to, AtomicFile.Content content, List<Path> made) {
    note(to, made);
    AtomicFile.write(to, content);
  }

  /** A file that was there before is not ours to take away. */
  private static void note(Path to, List<Path> made) {
    if (!Files.exists(to)) {
      made.add(to);
    }
  }

  private static void requireReadable(Path plate, int frame) {
    if (!Files.isReadable(plate)) {
      throw new InputError(
          plate.toString(), "frame " + frame, "the plate cannot be copied", "Is it still there?");
    }
  }

  private static void deleteQuietly(Path f) {
    try {
      Files.deleteIfExists(f);
    } catch (IOException e) {
      // A folder in which something else lies stays.
    }
  }

  /** What goes along, and what was wanted and does not. */
  public List<Note> notes() {
    List<Note> out = new ArrayList<>();
    Contents wanted = delivery.contents();
    boolean optical = wanted.has(Part.LENS) || wanted.has(Part.MAPS);
    if (optical && from.lens().isEmpty()) {
      out.add(Note.lost("lens", "no lens of the original plates is known; find or give one"));
    } else if (optical && delivery.extract().recast().changesPicture()) {
      out.add(
          Note.lost(
              "lens", "it belongs to the plates' own picture and time, and these are changed"));
    }
    if (!maps().isEmpty()) {
      out.add(
          Note.changed(
              "maps",
              "R counts from the left and G from the bottom, 0 to 1 from edge to edge; −1 where"
                  + " there is none"));
    }
    if (wanted.has(Part.TRACKS)) {
      tracks(out);
    }
    if (wanted.has(Part.PLATES)) {
      plates(out);
    }
    return out;
  }

  private void tracks(List<Note> out) {
    Optional<DeliveredTracks> t = tracks();
    if (t.isEmpty()) {
      out.add(
          Note.lost(
              DeliveredTracks.SUBJECT,
              delivery.extract().recast().changesPicture()
                  ? "they belong to the plates' own picture and time, and these are changed"
                  : "there are none"));
      return;
    }
    out.add(Note.changed(DeliveredTracks.SUBJECT, t.get().words()));
    if (t.get().beyond() > 0) {
      out.add(
          Note.lost(
              DeliveredTracks.SUBJECT,
              t.get().beyond() + " places lie beyond where the lens folds"));
    }
    if (!map.isOffset()) {
      out.add(
          Note.changed(
              DeliveredTracks.SUBJECT, "they keep the plates' frames; the file's are resampled"));
    }
  }

  private void plates(List<Note> out) {
    Optional<PlateSequence> p = copied();
    if (p.isEmpty()) {
      if (!delivery.extract().recast().changesPicture()) {
        out.add(Note.lost("plates", "there are none to copy")); // else said already
      }
      return;
    }
    List<Integer> there = present(p.get());
    int gone = shot.frames().count() - there.size();
    if (gone > 0) {
      out.add(Note.lost("plates", gone + " of " + shot.frames().count() + " frames have none"));
    }
    if (!there.isEmpty() && numbered(there.get(0)) != there.get(0)) {
      out.add(
          Note.changed(
              "plates",
              "numbered as the file's frames are: "
                  + there.get(0)
                  + " is "
                  + numbered(there.get(0))));
    } else if (!map.isOffset()) {
      out.add(
          Note.changed("plates", "they keep their own numbers; the file's frames are resampled"));
    }
  }

  private int inFile(int frame) {
    return map.isOffset() ? Math.toIntExact(map.toRecipient(frame).floor()) : frame;
  }

  /** Whether a frame of the plates is one of the file's, under another number at most. */
  public boolean keepsFrames() {
    return map.isOffset();
  }

  /** The number that a plate's frame has there. A name cannot hold one below zero. */
  private int numbered(int frame) {
    return map.isOffset() && map.recipientFirst() >= 0
        ? Math.toIntExact(map.toRecipient(frame).floor())
        : frame;
  }

  private LensTrack renumbered(LensTrack l) {
    NavigableMap<Integer, Distortion> keys = new TreeMap<>();
    int by = numbered(shot.frames().first()) - shot.frames().first();
    l.keys().forEach((f, d) -> keys.put(f + by, d));
    return new LensTrack(l.base(), keys);
  }

  private Optional<LensTrack> lens(Part p) {
    return delivery.contents().has(p) && !delivery.extract().recast().changesPicture()
        ? from.lens()
        : Optional.empty();
  }

  private Path beside(String suffix) {
    return DeliveryPlace.beside(file, suffix);
  }
}
