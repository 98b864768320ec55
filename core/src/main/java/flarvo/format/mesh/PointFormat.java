package flarvo.format.mesh;

import flarvo.convention.Dialect;
import flarvo.convention.SceneSetting;
import flarvo.format.FileMesh;
import flarvo.format.FileScene;
import flarvo.format.SceneFormat;
import flarvo.format.Settlement;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.joml.Matrix4d;

/** What PLY and OBJ share. */
abstract class PointFormat implements SceneFormat {

  @Override
  public final Settlement nearestSupported(Dialect wanted) {
    return new Settlement(wanted, List.of());
  }

  @Override
  public final Set<SceneSetting> states() {
    return Set.of();
  }

  @Override
  public final List<String> cannotCarry() {
    return List.of("cameras", "axes and unit (the recipient must know them)", "time", "2D tracks");
  }

  @Override
  public final boolean writes() {
    return false;
  }

  @Override
  public final List<Note> write(
      FileScene scene, Dialect spoken, OutputStream out, Progress progress) {
    throw InputError.words(
        title() + " files are read and not written", "Send the points as USD, FBX or Alembic");
  }

  /** A mesh where there are faces, else points that are called by their number. */
  static FileScene scene(String name, double[] xyz, int[] sizes, int[] indices, String file) {
    FileScene.Builder out = new FileScene.Builder();
    if (sizes.length > 0) {
      out.meshes.add(
          FileMesh.of(
              name,
              xyz,
              new Matrix4d(),
              sizes,
              indices,
              Optional.empty(),
              Optional.empty(),
              file,
              "faces"));
    } else {
      List<String> names = new ArrayList<>();
      for (int i = 0; i < xyz.length / 3; i++) {
        names.add(name + "_" + (i + 1));
        for (int k = 0; k < 3; k++) {
          if (!Double.isFinite(xyz[3 * i + k])) {
            throw new InputError(file, "point " + (i + 1), "the position is not finite", "");
          }
        }
      }
      if (!names.isEmpty()) {
        out.trackers.add(TrackerSet.of(name, names, xyz));
      }
    }
    return out.build();
  }
}
