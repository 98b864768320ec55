package flarvo.note;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.DialectJson;
import flarvo.lens.LensSheet;
import flarvo.proof.ProofJson;
import flarvo.recipient.Bite;
import flarvo.scene.PlateSequence;
import flarvo.scene.Rate;
import flarvo.scene.Timecode;
import flarvo.scene.WorldShot;
import java.util.List;
import java.util.Optional;

/** A hand-over note for programs; described in {@code docs/note.md}. */
final class NoteJson {

  private static final ObjectMapper MAPPER =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  private NoteJson() {}

  static String text(HandoverNote note) {
    try {
      return MAPPER.writeValueAsString(document(note)) + "\n";
    } catch (JsonProcessingException e) {
      throw new IllegalStateException(e);
    }
  }

  private static ObjectNode document(HandoverNote note) {
    ObjectNode o = MAPPER.createObjectNode();
    o.put("note", 1).put("project", note.project()).put("shot", note.name());
    o.put("made", note.made().toString());
    o.put("holds", note.holds()).put("sentence", note.sentence());
    WorldShot s = note.source();
    o.putObject("frames").put("first", s.frames().first()).put("last", s.frames().last());
    o.put("rate", s.rate().toString());
    o.putArray("picture").add(s.picture().width()).add(s.picture().height());
    o.put("pixelAspect", s.picture().pixelAspect());
    ArrayNode plates = o.putArray("plates");
    for (PlateSequence p : note.shot().plates()) {
      ObjectNode one = plates.addObject();
      one.put("role", p.role().word())
          .put("pattern", p.pattern())
          .put("first", p.frames().first())
          .put("last", p.frames().last())
          .put("width", p.size().width())
          .put("height", p.size().height());
      timecode(p)
          .ifPresent(t -> one.putObject("timecode").put("first", t.get(0)).put("last", t.get(1)));
    }
    note.lens().ifPresent(l -> o.set("lens", LensSheet.document(l)));
    ArrayNode all = o.putArray("deliveries");
    note.entries().forEach(e -> entry(all.addObject(), e));
    return o;
  }

  /** Of the first and the last frame, where the pictures state it and their rate. */
  static Optional<List<String>> timecode(PlateSequence p) {
    if (p.facts().timecode().isEmpty() || p.facts().rate().isEmpty()) {
      return Optional.empty();
    }
    String first = p.facts().timecode().get();
    try {
      Rate rate = p.facts().rate().get();
      return Optional.of(List.of(first, Timecode.later(first, p.frames().count() - 1, rate)));
    } catch (IllegalArgumentException e) {
      return Optional.empty(); // stated, but at no such rate
    }
  }

  private static void entry(ObjectNode o, HandoverNote.Entry e) {
    o.put("recipient", e.delivery().name());
    ArrayNode files = o.putArray("files");
    for (FileFacts f : e.files()) {
      files.addObject().put("name", f.name()).put("bytes", f.bytes()).put("sha256", f.sha256());
    }
    o.put("format", e.delivery().format().id());
    o.set("dialect", DialectJson.write(e.delivery().dialect()));
    ObjectNode frames = o.putObject("frames");
    frames.put("first", e.frames().recipientFrames().first());
    frames.put("last", e.frames().recipientFrames().last());
    frames.put("rate", e.frames().recipientRate().toString());
    frames.put("policy", e.frames().policy().word());
    o.put("plates", e.delivery().plate().word());
    o.set("proof", ProofJson.of(e.proof()).without("losses"));
    ArrayNode losses = o.putArray("losses");
    e.proof().losses().forEach(n -> losses.add(n.kind().word() + ": " + n));
    ArrayNode settings = o.putArray("settings");
    e.settings().forEach(settings::add);
    ArrayNode bites = o.putArray("onPlainImport");
    for (Bite b : e.plain().bites()) {
      bites
          .addObject()
          .put("setting", b.setting().word())
          .put("wrong", b.harms())
          .put("says", b.says());
    }
  }
}
