package flarvo.format.usd;

import flarvo.convention.CameraAxes;
import flarvo.convention.Dialect;
import flarvo.convention.Handedness;
import flarvo.convention.SignedAxis;
import flarvo.convention.WorldAxes;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.format.Settlement;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** What the three containers of USD share: its rules, and reading, which goes by content. */
abstract class UsdFormat implements SceneFormat {

  @Override
  public boolean holdsClouds() {
    return true;
  }

  @Override
  public boolean holdsLocatorSizes() {
    return true;
  }

  @Override
  public final Settlement nearestSupported(Dialect wanted) {
    List<Note> notes = new ArrayList<>();
    WorldAxes world = wanted.world();
    if (world.up() != SignedAxis.POSITIVE_Y && world.up() != SignedAxis.POSITIVE_Z) {
      world = WorldAxes.CANONICAL;
      notes.add(
          Note.changed(
              "up axis",
              "USD is +Y or +Z up; "
                  + wanted.name()
                  + "'s "
                  + wanted.world().up()
                  + " up is written as +Y up"));
    }
    if (world.handedness() == Handedness.LEFT) {
      world = world.mirrored();
      notes.add(
          Note.changed(
              "handedness",
              "USD is always right-handed; "
                  + wanted.name()
                  + " is left-handed and its importer mirrors the right axis"));
    }
    if (!wanted.camera().equals(CameraAxes.CANONICAL)) {
      notes.add(Note.changed("camera axes", "USD cameras always look along -Z with +Y up"));
    }
    return new Settlement(wanted.withWorld(world).withCamera(CameraAxes.CANONICAL), notes);
  }

  @Override
  public List<String> cannotCarry() {
    return List.of(
        "left-handed worlds",
        "an up axis other than +Y or +Z",
        "lens values finer than 32-bit floats",
        "2D tracks");
  }

  @Override
  public final FileScene read(Path file, Dialect from, ReadLimits limits, Progress progress) {
    String name = file.toString();
    return new UsdSceneReader(name, limits, progress).read(new UsdLibrary(file, limits, progress));
  }
}
