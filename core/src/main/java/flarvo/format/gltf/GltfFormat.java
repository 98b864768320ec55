package flarvo.format.gltf;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.BackPolicy;
import flarvo.convention.CameraAxes;
import flarvo.convention.Dialect;
import flarvo.convention.FilmBack;
import flarvo.convention.FilmConvention;
import flarvo.convention.FilmFit;
import flarvo.convention.LensShift;
import flarvo.convention.LinearUnit;
import flarvo.convention.SceneSetting;
import flarvo.convention.ShiftUnit;
import flarvo.convention.WorldAxes;
import flarvo.format.ByteSink;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.format.Settlement;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** glTF 2.0: {@code .glb} in one binary file, {@code .gltf} as text with the numbers inside. */
public final class GltfFormat implements SceneFormat {

  private static final LinearUnit METRE = new LinearUnit(1);

  /** The angle of view is stated as it is; there is no lens shift. */
  private static final FilmConvention AS_STATED =
      new FilmConvention(
          new FilmBack(36, 24),
          BackPolicy.FROM_FILE,
          FilmFit.HEIGHT,
          LensShift.IGNORED,
          ShiftUnit.MILLIMETRES);

  private final boolean binary;

  private GltfFormat(boolean binary) {
    this.binary = binary;
  }

  /** {@code .glb}, with its buffer inside. */
  public static GltfFormat binary() {
    return new GltfFormat(true);
  }

  /** {@code .gltf}, with its buffer as a data URI. */
  public static GltfFormat text() {
    return new GltfFormat(false);
  }

  @Override
  public boolean holdsClouds() {
    return true;
  }

  @Override
  public String id() {
    return binary ? "gltf-binary" : "gltf-text";
  }

  @Override
  public String title() {
    return binary ? "glTF binary" : "glTF text";
  }

  @Override
  public List<String> extensions() {
    return List.of(binary ? ".glb" : ".gltf");
  }

  @Override
  public boolean recognises(byte[] head) {
    if (binary) {
      return GltfFile.isBinary(head);
    }
    String s = new String(head, StandardCharsets.ISO_8859_1);
    return s.stripLeading().startsWith("{")
        && (s.contains("\"asset\"") || s.contains("\"nodes\""))
        && !s.contains("\"schema\"");
  }

  @Override
  public Settlement nearestSupported(Dialect wanted) {
    List<Note> notes = new ArrayList<>();
    if (!wanted.world().equals(WorldAxes.CANONICAL)) {
      notes.add(
          Note.changed("axes", "glTF is always right-handed with +Y up; its importer turns it"));
    }
    if (!wanted.unit().equals(METRE)) {
      notes.add(Note.changed("unit", "glTF is always in metres; its importer scales it"));
    }
    if (!wanted.camera().equals(CameraAxes.CANONICAL)) {
      notes.add(Note.changed("camera axes", "glTF cameras always look along -Z with +Y up"));
    }
    Dialect spoken =
        wanted
            .withWorld(WorldAxes.CANONICAL)
            .withUnit(METRE)
            .withCamera(CameraAxes.CANONICAL)
            .withFilm(AS_STATED);
    return new Settlement(spoken, notes);
  }

  @Override
  public Set<SceneSetting> states() {
    return Set.of(SceneSetting.UNIT, SceneSetting.AXES);
  }

  @Override
  public boolean timeInSeconds() {
    return true;
  }

  @Override
  public List<String> cannotCarry() {
    return List.of(
        "other axes and units",
        "the film back (replaced by the vertical angle of view)",
        "a focal length that changes",
        "lens shift",
        "the rate, the picture's size and the plates' path",
        "places and times finer than 32-bit floats",
        SEQUENCES,
        "2D tracks");
  }

  @Override
  public boolean holdsPicture(String name) {
    return GltfMaterialMaker.holds(name);
  }

  @Override
  public FileScene read(Path file, Dialect from, ReadLimits limits, Progress progress) {
    return read(file, from, limits, Optional.empty(), progress);
  }

  @Override
  public FileScene read(
      Path file, Dialect from, ReadLimits limits, Optional<String> take, Progress progress) {
    return new GltfSceneReader(file.toString(), GltfFile.read(file, limits), limits, progress)
        .read(take);
  }

  @Override
  public List<Note> write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
      throws IOException {
    GltfMaker maker = new GltfMaker(scene, progress);
    ObjectNode json = maker.make();
    byte[] buffer = maker.buffer();
    if (binary) {
      glb(new ObjectMapper().writeValueAsBytes(json), buffer).writeTo(out);
    } else {
      if (json.has("buffers")) {
        ((ObjectNode) json.get("buffers").get(0))
            .put(
                "uri",
                "data:application/octet-stream;base64,"
                    + Base64.getEncoder().encodeToString(buffer));
      }
      out.write(
          (new ObjectMapper().writerWithDefaultPrettyPrinter().writeValueAsString(json) + "\n")
              .getBytes(StandardCharsets.UTF_8));
    }
    return maker.notes();
  }

  /** {@code "glTF" 2 length ( size kind bytes )*}, every chunk filled up to four bytes. */
  private static ByteSink glb(byte[] json, byte[] buffer) {
    ByteSink out = new ByteSink(json.length + buffer.length + 64);
    out.text("glTF");
    out.i32(2);
    out.i32(0);
    chunk(out, "JSON", json, ' ');
    if (buffer.length > 0) {
      chunk(out, "BIN\0", buffer, 0);
    }
    out.put32(8, out.position());
    return out;
  }

  private static void chunk(ByteSink out, String kind, byte[] bytes, int filler) {
    int fill = (4 - bytes.length % 4) % 4;
    out.i32(bytes.length + fill);
    out.text(kind);
    out.bytes(bytes);
    for (int i = 0; i < fill; i++) {
      out.u8(filler);
    }
  }
}
