package flarvo.format.usd;

/** A file that a layer points to, and the prim in it; {@code prim} may be empty. */
record UsdAsset(String path, String prim) {}
