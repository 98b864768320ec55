package flarvo.proof;

import flarvo.dispatch.Contents;
import flarvo.dispatch.Part;
import flarvo.format.FileScene;
import flarvo.format.SceneFormat;
import flarvo.scene.WorldShot;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Whether what was asked for as clouds of points came so, and nothing else did. */
final class CloudCheck {

  private CloudCheck() {}

  /** Empty where nobody asked for clouds, or the format has none. */
  static Optional<Check> of(
      WorldShot source, FileScene scene, Contents contents, SceneFormat format) {
    if (!contents.has(Part.TRACKERS) || contents.clouds().isEmpty() || !format.holdsClouds()) {
      return Optional.empty();
    }
    Set<String> expected = new TreeSet<>();
    source.trackers().stream()
        .filter(t -> t.size() > 0 && contents.clouds().contains(t.name()))
        .forEach(t -> expected.add(Checks.plain(t.name())));
    Set<String> found = new TreeSet<>();
    scene.clouds().forEach(c -> found.add(Checks.plain(c)));
    return Optional.of(
        new Check("clouds", expected.equals(found), expected.toString(), found.toString()));
  }
}
