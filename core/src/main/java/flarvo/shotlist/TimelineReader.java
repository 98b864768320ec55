package flarvo.shotlist;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;

/**
 * A shot list as a timeline in OpenTimelineIO's JSON: one shot per video clip, named after it.
 *
 * <p>A clip over an image sequence states frame numbers; its handles are what the media has beyond
 * the cut. Of other media only the length is known, because their time is a position in a movie or
 * a timecode, and no frame number of the plates.
 */
final class TimelineReader {

  /** Timelines hold stacks in tracks in stacks; deeper ones are not from an edit. */
  private static final int DEEPEST = 64;

  private static final ObjectMapper MAPPER = new ObjectMapper();

  static {
    MAPPER
        .getFactory()
        .setStreamReadConstraints(StreamReadConstraints.builder().maxNestingDepth(500).build());
  }

  private final Path file;
  private final Map<String, ShotEntry> shots = new LinkedHashMap<>();
  private final List<Note> notes = new ArrayList<>();

  TimelineReader(Path file) {
    this.file = file;
  }

  /**
   * @throws InputError when it is not a timeline, or a number in it cannot be read
   */
  ShotList read(String text) {
    JsonNode root;
    try {
      root = MAPPER.readTree(text);
    } catch (JsonProcessingException e) {
      String place = e.getLocation() == null ? "" : "line " + e.getLocation().getLineNr();
      throw new InputError(
          file.toString(), place, "not valid JSON (" + e.getOriginalMessage() + ")", "", e);
    }
    if (schema(root).isEmpty()) {
      throw new InputError(
          file.toString(),
          "OTIO_SCHEMA",
          "not a timeline",
          "A shot list is a CSV table or an OpenTimelineIO file");
    }
    walk(root, 0);
    return new ShotList(file, List.copyOf(shots.values()), notes);
  }

  /** The kind of a node without its version. */
  private static String schema(JsonNode n) {
    String s = n.path("OTIO_SCHEMA").asText("");
    return s.contains(".") ? s.substring(0, s.indexOf('.')) : s;
  }

  private void walk(JsonNode n, int depth) {
    if (depth > DEEPEST) {
      throw error("", "the timeline is nested too deeply");
    }
    switch (schema(n)) {
      case "Timeline" -> walk(n.path("tracks"), depth + 1);
      case "Track" -> {
        if (n.path("kind").asText("Video").equals("Video")) {
          n.path("children").forEach(c -> walk(c, depth + 1));
        }
      }
      case "Stack", "SerializableCollection" -> n.path("children").forEach(c -> walk(c, depth + 1));
      case "Clip" -> clip(n);
      default -> {
        // Gaps and transitions hold no shot.
      }
    }
  }

  private void clip(JsonNode clip) {
    String name = clip.path("name").asText("").strip();
    if (name.isEmpty()) {
      notes.add(Note.ignored(file.getFileName().toString(), "a clip without a name"));
      return;
    }
    String place = "clip " + name;
    ShotEntry entry;
    try {
      entry = entry(name, clip, place);
    } catch (IllegalArgumentException e) {
      throw error(place, e.getMessage());
    }
    ShotEntry before = shots.get(name.toLowerCase(Locale.ROOT));
    if (before != null) {
      notes.add(
          Note.changed(
              file.getFileName().toString(), name + " is used twice; its frames cover both uses"));
      entry = both(before, entry, place);
    }
    shots.put(name.toLowerCase(Locale.ROOT), entry);
  }

  private ShotEntry both(ShotEntry a, ShotEntry b, String place) {
    if (a.cut().isEmpty() || b.cut().isEmpty()) {
      return a.cut().isPresent() ? a : b;
    }
    FrameRange cut;
    FrameRange whole;
    try {
      cut = a.cut().get().covering(b.cut().get());
      whole = a.frames().orElseThrow().covering(b.frames().orElseThrow());
    } catch (IllegalArgumentException e) {
      throw error(place, e.getMessage());
    }
    return new ShotEntry(
        a.name(),
        Optional.of(cut),
        cut.first() - whole.first(),
        whole.last() - cut.last(),
        OptionalInt.empty(),
        a.rate().or(b::rate),
        a.place());
  }

  private ShotEntry entry(String name, JsonNode clip, String place) {
    JsonNode media = media(clip);
    Optional<Span> available = span(media.path("available_range"), place);
    Optional<Span> source = span(clip.path("source_range"), place).or(() -> available);
    double fps = media.path("rate").asDouble(source.map(Span::fps).orElse(0.0));
    Optional<Rate> rate = fps > 0 ? Optional.of(rate(fps, place)) : Optional.empty();
    if (source.isEmpty()) {
      return new ShotEntry(name, Optional.empty(), 0, 0, OptionalInt.empty(), rate, place);
    }
    Span s = source.get();
    int count = whole(s.seconds * fps, place);
    if (!schema(media).equals("ImageSequenceReference") || available.isEmpty()) {
      return new ShotEntry(name, Optional.empty(), 0, 0, OptionalInt.of(count), rate, place);
    }
    Span all = available.get();
    int first = media.path("start_frame").asInt() + whole((s.start - all.start) * fps, place);
    int head = whole((s.start - all.start) * fps, place);
    int tail = whole((all.seconds - s.seconds) * fps, place) - head;
    if (head < 0 || tail < 0) {
      notes.add(
          Note.changed(file.getFileName().toString(), name + ": the cut reaches beyond the media"));
    }
    return new ShotEntry(
        name,
        Optional.of(new FrameRange(first, first + Math.max(0, count - 1))),
        Math.max(0, head),
        Math.max(0, tail),
        OptionalInt.empty(),
        rate,
        place);
  }

  /** The active one of several, as later versions of a clip have them. */
  private static JsonNode media(JsonNode clip) {
    JsonNode one = clip.path("media_reference");
    return one.isObject()
        ? one
        : clip.path("media_references")
            .path(clip.path("active_media_reference_key").asText("DEFAULT_MEDIA"));
  }

  /**
   * @param start in seconds
   * @param seconds of length
   */
  private record Span(double start, double seconds, double fps) {}

  private Optional<Span> span(JsonNode range, String place) {
    if (!range.isObject()) {
      return Optional.empty();
    }
    JsonNode start = range.path("start_time");
    JsonNode length = range.path("duration");
    double fps = length.path("rate").asDouble();
    double startFps = start.path("rate").asDouble();
    if (!(fps > 0) || !(startFps > 0) || length.path("value").asDouble(-1) < 0) {
      throw error(place, "a range has no rate or a negative duration");
    }
    return Optional.of(
        new Span(
            start.path("value").asDouble() / startFps, length.path("value").asDouble() / fps, fps));
  }

  private Rate rate(double fps, String place) {
    try {
      return Rate.fromDouble(fps);
    } catch (IllegalArgumentException e) {
      throw error(place, e.getMessage());
    }
  }

  private int whole(double frames, String place) {
    if (!(Math.abs(frames) < 1e8)) {
      throw error(place, frames + " is not a frame number");
    }
    return (int) Math.round(frames);
  }

  private InputError error(String place, String what) {
    return new InputError(file.toString(), place, what, "Export the timeline again");
  }
}
