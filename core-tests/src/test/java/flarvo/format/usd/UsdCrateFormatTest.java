package flarvo.format.usd;

import flarvo.format.SceneFormat;
import flarvo.format.SceneFormatContract;

class UsdCrateFormatTest extends SceneFormatContract {

  @Override
  protected SceneFormat format() {
    return new UsdCrateFormat();
  }

  @Override
  protected double limitPx() {
    return 1e-4;
  }
}
