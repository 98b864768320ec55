package flarvo.plate.tag;

/** How a picture keeps what it covers. */
public enum Alpha {
  NONE,

  /** Beside colours that do not depend on it, as in PNG and some TIFF files. */
  STRAIGHT,

  /** Colours are multiplied by it, as in OpenEXR and other TIFF files. */
  MULTIPLIED
}
