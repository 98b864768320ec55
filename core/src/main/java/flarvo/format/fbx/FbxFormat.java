package flarvo.format.fbx;

import flarvo.convention.CameraAxes;
import flarvo.convention.Dialect;
import flarvo.convention.SignedAxis;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.format.Settlement;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** What the two containers of FBX share: its rules. */
abstract class FbxFormat implements SceneFormat {

  /** Cameras of this format look along their own +X. */
  static final CameraAxes CAMERA = new CameraAxes(SignedAxis.POSITIVE_X, SignedAxis.POSITIVE_Y);

  @Override
  public final List<String> extensions() {
    return List.of(".fbx");
  }

  @Override
  public final Settlement nearestSupported(Dialect wanted) {
    return Settlement.rightHanded(wanted, CAMERA, "FBX", ", as every importer expects");
  }

  @Override
  public final boolean timeInSeconds() {
    return true;
  }

  @Override
  public final boolean holdsLocatorSizes() {
    return true;
  }

  @Override
  public final List<String> cannotCarry() {
    return List.of(
        SceneFormat.CHANGING_BACK,
        "left-handed worlds",
        "animation finer than 32-bit floats",
        CLOUDS,
        "2D tracks");
  }

  /** The container's records. */
  abstract FbxNode tree(Path file, ReadLimits limits, Progress progress);

  @Override
  public final FileScene read(Path file, Dialect from, ReadLimits limits, Progress progress) {
    return read(file, from, limits, Optional.empty(), progress);
  }

  @Override
  public final FileScene read(
      Path file, Dialect from, ReadLimits limits, Optional<String> take, Progress progress) {
    FbxNode root = tree(file, limits, progress);
    return new FbxSceneReader(file.toString(), limits, progress).read(root, take);
  }
}
