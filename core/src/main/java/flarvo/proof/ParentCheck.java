package flarvo.proof;

import flarvo.convention.Dialect;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Part;
import flarvo.format.FileParent;
import flarvo.format.FileScene;
import flarvo.format.SceneFormat;
import flarvo.motion.Parents;
import flarvo.receive.ReceivedFile;
import flarvo.report.Figures;
import flarvo.scene.Group;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * Whether things hang from what they should. No picture shows it: a file without the parent looks
 * the same.
 */
final class ParentCheck {

  /** Of a length or a turn, for formats of 32-bit floats. */
  private static final double RELATIVE = 1e-6;

  private ParentCheck() {}

  /**
   * @param shot as it was sent
   * @param file as it was read back
   */
  static List<Check> of(
      Parents parents, Shot shot, ReceivedFile file, Dialect to, Contents contents) {
    List<Check> out = new ArrayList<>();
    if (file.format().cannotCarry().contains(SceneFormat.PARENTS)) {
      return out; // said among the losses
    }
    FileScene scene = file.scene();
    Dialect spoken = file.format().nearestSupported(to).spoken();
    parents
        .under()
        .ifPresent(
            p -> {
              Similarity wanted = spoken.spaceChange(shot.picture()).toDialect(p.place());
              out.add(place(p.name(), wanted, scene.parents()));
            });
    if (contents.has(Part.CAMERA)) {
      for (int i = 0; i < scene.cameras().size(); i++) {
        String wanted =
            GroupCheck.path(
                i == 0 ? parents.ofCamera(shot) : parents.under().map(p -> Group.still(p.name())));
        String found = GroupCheck.path(scene.cameras().get(i).group());
        if (!wanted.equals(found) || i == 0) {
          out.add(
              new Check(
                  "cameraParent", wanted.equals(found), "camera in " + wanted, "in " + found));
        }
      }
    }
    return out;
  }

  private static Check place(String name, Similarity wanted, List<FileParent> found) {
    // A parent that stands where the world does is told by its name alone.
    Optional<FileParent> is =
        found.stream().filter(p -> Checks.plain(p.name()).equals(Checks.plain(name))).findFirst();
    Similarity there = is.map(FileParent::place).orElse(Similarity.IDENTITY);
    return new Check(
        "parentPlace",
        alike(wanted, there),
        words(wanted),
        is.isEmpty() ? "as the world" : words(there));
  }

  private static boolean alike(Similarity a, Similarity b) {
    double reach = Math.max(1, a.translation().length());
    double turn = a.rotation().angleTo(b.rotation());
    return Math.abs(a.scale() / b.scale() - 1) <= RELATIVE
        && a.translation().minus(b.translation()).length() <= RELATIVE * reach
        && turn <= RELATIVE;
  }

  private static String words(Similarity s) {
    Vec3 t = s.translation();
    return String.format(
        Locale.ROOT,
        "scale %s at %.4f %.4f %.4f, turned %.4f°",
        Figures.of(s.scale()),
        t.x(),
        t.y(),
        t.z(),
        Math.toDegrees(Rotation.IDENTITY.angleTo(s.rotation())));
  }
}
