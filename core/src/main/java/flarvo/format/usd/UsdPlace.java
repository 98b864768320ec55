package flarvo.format.usd;

import java.nio.file.Path;

/**
 * Where a layer lies: a file, or an entry of a package.
 *
 * @param entry path inside the package, {@code a.usdz[b.usda]} where packages nest; empty for a
 *     file of its own
 */
record UsdPlace(Path file, String entry) {

  static UsdPlace of(Path file) {
    return new UsdPlace(file.toAbsolutePath().normalize(), "");
  }

  boolean isPackaged() {
    return !entry.isEmpty();
  }

  @Override
  public String toString() {
    return isPackaged() ? file + "[" + entry + "]" : file.toString();
  }
}
