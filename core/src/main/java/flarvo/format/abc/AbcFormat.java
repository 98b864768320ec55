package flarvo.format.abc;

import flarvo.convention.CameraAxes;
import flarvo.convention.Dialect;
import flarvo.convention.SceneSetting;
import flarvo.format.ByteSource;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.format.Settlement;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;

/** Alembic in the Ogawa container, {@code .abc}. */
public final class AbcFormat implements SceneFormat {

  @Override
  public boolean holdsClouds() {
    return true;
  }

  @Override
  public String id() {
    return "alembic";
  }

  @Override
  public String title() {
    return "Alembic";
  }

  @Override
  public List<String> extensions() {
    return List.of(".abc");
  }

  @Override
  public boolean recognises(byte[] head) {
    return OgawaFile.recognises(head);
  }

  @Override
  public Settlement nearestSupported(Dialect wanted) {
    return Settlement.rightHanded(wanted, CameraAxes.CANONICAL, "Alembic", " by convention");
  }

  @Override
  public Set<SceneSetting> states() {
    return Set.of();
  }

  @Override
  public boolean timeInSeconds() {
    return true;
  }

  @Override
  public List<String> cannotCarry() {
    return List.of(
        "left-handed worlds",
        "up axis and unit (the recipient must know them)",
        "the picture's size and the plates' path",
        TEXTURES,
        "2D tracks");
  }

  @Override
  public FileScene read(Path file, Dialect from, ReadLimits limits, Progress progress) {
    AbcArchive archive = new AbcArchive(ByteSource.open(file, limits), limits);
    return new AbcSceneReader(file.toString(), archive, from, limits, progress).read();
  }

  @Override
  public List<Note> write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
      throws IOException {
    AbcMaker maker = new AbcMaker(scene, spoken, progress);
    maker.make().writeTo(out);
    return maker.notes();
  }
}
