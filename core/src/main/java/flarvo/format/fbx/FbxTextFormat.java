package flarvo.format.fbx;

import flarvo.convention.CameraAxes;
import flarvo.convention.Dialect;
import flarvo.convention.Handedness;
import flarvo.convention.SignedAxis;
import flarvo.convention.WorldAxes;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.format.Settlement;
import flarvo.format.TextSource;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;

/** FBX 7.x as text; written as 7.5. */
public final class FbxTextFormat implements SceneFormat {

  /** Cameras of this format look along their own +X. */
  static final CameraAxes CAMERA = new CameraAxes(SignedAxis.POSITIVE_X, SignedAxis.POSITIVE_Y);

  private static final Pattern HEAD =
      Pattern.compile("\\A(\\s*;[^\\n]*\\n|\\s+)*FBXHeaderExtension\\s*:");

  @Override
  public String id() {
    return "fbx-text";
  }

  @Override
  public String title() {
    return "FBX text";
  }

  @Override
  public List<String> extensions() {
    return List.of(".fbx");
  }

  @Override
  public boolean recognises(byte[] head) {
    return HEAD.matcher(new String(head, StandardCharsets.ISO_8859_1)).find();
  }

  @Override
  public Settlement settle(Dialect wanted) {
    List<Note> notes = new ArrayList<>();
    WorldAxes world = wanted.world();
    if (world.handedness() == Handedness.LEFT) {
      world = world.mirrored();
      notes.add(
          Note.changed(
              "handedness",
              "FBX is written right-handed, as every importer expects; "
                  + wanted.name()
                  + " is left-handed and its importer mirrors the right axis"));
    }
    if (!wanted.camera().equals(CAMERA)) {
      notes.add(Note.changed("camera axes", "FBX cameras always look along +X with +Y up"));
    }
    return new Settlement(wanted.withWorld(world).withCamera(CAMERA), notes);
  }

  @Override
  public List<String> cannotCarry() {
    return List.of(
        "left-handed worlds",
        "animation finer than 32-bit floats",
        "a film back or lens shift that changes over time",
        "2D tracks");
  }

  @Override
  public FileScene read(Path file, Dialect from, ReadLimits limits, Progress progress) {
    String name = file.toString();
    FbxNode root = new FbxTextParser(name, TextSource.read(file, limits), limits, progress).parse();
    return new FbxSceneReader(name, limits, progress).read(root);
  }

  @Override
  public List<Note> write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
      throws IOException {
    return new FbxTextWriter(scene, spoken, out, progress).write();
  }
}
