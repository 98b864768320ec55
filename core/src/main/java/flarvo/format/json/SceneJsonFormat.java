package flarvo.format.json;

import flarvo.convention.CameraAxes;
import flarvo.convention.Dialect;
import flarvo.convention.SceneSetting;
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
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/** Scene JSON: states axes, unit and rate, and holds every number as it is. */
public final class SceneJsonFormat implements SceneFormat {

  static final String SCHEMA = "flarvo-scene";
  static final int VERSION = 1;

  @Override
  public String id() {
    return "scene-json";
  }

  @Override
  public String title() {
    return "Scene JSON";
  }

  @Override
  public List<String> extensions() {
    return List.of(".json");
  }

  @Override
  public boolean recognises(byte[] head) {
    String s = new String(head, StandardCharsets.ISO_8859_1);
    return s.stripLeading().startsWith("{") && s.contains("\"" + SCHEMA + "\"");
  }

  @Override
  public Settlement nearestSupported(Dialect wanted) {
    boolean same = wanted.camera().equals(CameraAxes.CANONICAL);
    return new Settlement(
        wanted.withCamera(CameraAxes.CANONICAL),
        same
            ? List.of()
            : List.of(Note.changed("camera axes", "cameras of this format look along -Z")));
  }

  @Override
  public Set<SceneSetting> states() {
    return EnumSet.allOf(SceneSetting.class);
  }

  @Override
  public List<String> cannotCarry() {
    return List.of("locators and planes", PARENTS);
  }

  @Override
  public FileScene read(Path file, Dialect from, ReadLimits limits, Progress progress) {
    return new SceneJsonReader(file, limits, progress).read();
  }

  @Override
  public List<Note> write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
      throws IOException {
    new SceneJsonWriter(scene, spoken, progress).write(out);
    return List.of();
  }
}
