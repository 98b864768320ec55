package flarvo.format.fbx;

import flarvo.format.SceneFormat;
import flarvo.format.SceneFormatContract;

class FbxBinaryFormatTest extends SceneFormatContract {

  @Override
  protected SceneFormat format() {
    return new FbxBinaryFormat();
  }

  @Override
  protected double limitPx() {
    return 0.005;
  }

  /** The footer repeats nothing of the scene. */
  @Override
  protected boolean readsTheSame(int cut, byte[] whole) {
    return cut >= whole.length - FbxBinaryWriter.SHORTEST_FOOTER - 16;
  }
}
