package flarvo.format.fbx;

import flarvo.convention.CameraAxes;
import flarvo.convention.Dialect;
import flarvo.convention.Handedness;
import flarvo.convention.SignedAxis;
import flarvo.convention.WorldAxes;
import flarvo.format.SceneFormat;
import flarvo.format.Settlement;
import flarvo.report.Note;
import java.util.ArrayList;
import java.util.List;

/** What the two containers of FBX share: its rules. */
abstract class FbxFormat implements SceneFormat {

  /** Cameras of this format look along their own +X. */
  static final CameraAxes CAMERA = new CameraAxes(SignedAxis.POSITIVE_X, SignedAxis.POSITIVE_Y);

  @Override
  public final List<String> extensions() {
    return List.of(".fbx");
  }

  @Override
  public final Settlement settle(Dialect wanted) {
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
  public final List<String> cannotCarry() {
    return List.of(
        "left-handed worlds",
        "animation finer than 32-bit floats",
        "a film back or lens shift that changes over time",
        "2D tracks");
  }
}
