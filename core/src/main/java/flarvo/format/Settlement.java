package flarvo.format;

import flarvo.convention.CameraAxes;
import flarvo.convention.Dialect;
import flarvo.convention.Handedness;
import flarvo.convention.WorldAxes;
import flarvo.report.Note;
import java.util.ArrayList;
import java.util.List;

/**
 * The nearest to a wanted dialect that a format can state, and what differs. The recipient's own
 * importer bridges the rest, as it does for every file of that format.
 */
public record Settlement(Dialect spoken, List<Note> notes) {

  public Settlement {
    notes = List.copyOf(notes);
  }

  /**
   * For a format that can state any axes but is right-handed, with cameras of its own.
   *
   * @param format its name in words
   * @param why whose rule the hand is, to follow the name
   */
  public static Settlement rightHanded(
      Dialect wanted, CameraAxes camera, String format, String why) {
    List<Note> notes = new ArrayList<>();
    WorldAxes world = wanted.world();
    if (world.handedness() == Handedness.LEFT) {
      world = world.mirrored();
      notes.add(
          Note.changed(
              "handedness",
              format
                  + " is right-handed"
                  + why
                  + "; "
                  + wanted.name()
                  + " is left-handed and its importer mirrors the right axis"));
    }
    if (!wanted.camera().equals(camera)) {
      String looks = " cameras always look along " + camera.view() + " with " + camera.up() + " up";
      notes.add(Note.changed("camera axes", format + looks));
    }
    return new Settlement(wanted.withWorld(world).withCamera(camera), notes);
  }
}
