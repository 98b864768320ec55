package flarvo.format.usd;

/**
 * A file that a layer points to, and the prim in it.
 *
 * @param path empty when the same file is meant
 * @param prim path of a prim; empty for the file's default one
 * @param offset added to the file's time codes after scaling
 * @param scale of the file's time codes
 */
record UsdAsset(String path, String prim, double offset, double scale) {

  UsdAsset(String path, String prim) {
    this(path, prim, 0, 1);
  }

  UsdAsset withTime(double newOffset, double newScale) {
    return new UsdAsset(path, prim, newOffset, newScale);
  }
}
