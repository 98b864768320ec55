package flarvo.format.gltf;

import flarvo.format.SceneFormat;

class GltfTextFormatTest extends GltfBinaryFormatTest {

  @Override
  protected SceneFormat format() {
    return GltfFormat.text();
  }
}
