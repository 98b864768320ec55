package flarvo.format.usd;

import flarvo.format.SceneFormat;
import flarvo.format.SceneFormatContract;

class UsdPackageFormatTest extends SceneFormatContract {

  @Override
  protected SceneFormat format() {
    return new UsdPackageFormat();
  }

  @Override
  protected double limitPx() {
    return 1e-4;
  }
}
