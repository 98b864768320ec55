package flarvo.format.fbx;

import flarvo.report.Note;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;

/** Says where readers of the format are known to differ about a model's rotation. */
final class FbxRotationNotes {

  private static final int SPHERIC = 6;

  private static final int MOST_NAMES = 5;

  private FbxRotationNotes() {}

  static void add(List<FbxObject> models, List<Note> notes) {
    Set<FbxObject> active = Collections.newSetFromMap(new IdentityHashMap<>());
    models.stream().filter(o -> o.number("RotationActive", 0) != 0).forEach(active::add);
    say(
        models,
        o -> !active.contains(o) && statesMore(o),
        " states a rotation order, pre- or post-rotation without RotationActive; by the format's"
            + " documentation they do not count, but some readers apply them",
        notes);
    say(
        models,
        o -> active.contains(o) && o.number("RotationOrder", 0) == SPHERIC,
        " has the spherical rotation order; it is read as XYZ",
        notes);
  }

  private static boolean statesMore(FbxObject o) {
    return o.number("RotationOrder", 0) != 0 || turns(o, "PreRotation") || turns(o, "PostRotation");
  }

  private static boolean turns(FbxObject o, String property) {
    return !o.fixed(property, 0).equals(0, 0, 0);
  }

  private static void say(
      List<FbxObject> models, Predicate<FbxObject> which, String text, List<Note> notes) {
    List<String> names = models.stream().filter(which).map(o -> o.name).toList();
    if (!names.isEmpty()) {
      List<String> first = names.subList(0, Math.min(MOST_NAMES, names.size()));
      String more =
          names.size() > MOST_NAMES ? " and " + (names.size() - MOST_NAMES) + " more" : "";
      notes.add(Note.assumed("Model " + String.join(", ", first) + more, text.strip()));
    }
  }
}
