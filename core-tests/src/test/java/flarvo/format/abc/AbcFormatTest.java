package flarvo.format.abc;

import flarvo.format.SceneFormat;
import flarvo.format.SceneFormatContract;

class AbcFormatTest extends SceneFormatContract {

  @Override
  protected SceneFormat format() {
    return new AbcFormat();
  }

  @Override
  protected double limitPx() {
    return 1e-6;
  }
}
