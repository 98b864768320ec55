package flarvo.dispatch;

/** A part of a shot that a delivery contains, or leaves out. */
public enum Part {
  CAMERA("camera", "Camera", false),
  TRACKERS("trackers", "Trackers", false),
  /** Stand-ins, and meshes that came in. */
  GEOMETRY("geometry", "Geometry", false),
  /** Gauges, as meshes. */
  GAUGES("gauges", "Gauges", false),
  /** A card behind everything that the plates fill, with the plates on it. */
  CARD("card", "Picture card", false),
  /** The lens of the original plates, as a lens sheet beside the file. */
  LENS("lens", "Lens sheet", true),
  /** Maps that undistort and redistort, as OpenEXR beside the file. */
  MAPS("maps", "Distortion maps", true),
  /** 2D tracks on the plates that go along, as a table beside the file. */
  TRACKS("tracks", "2D tracks", true),
  /** The plates behind the camera, copied into a folder beside the file. */
  PLATES("plates", "Copies of the plates", true);

  private final String word;
  private final String label;
  private final boolean sidecar;

  Part(String word, String label, boolean sidecar) {
    this.word = word;
    this.label = label;
    this.sidecar = sidecar;
  }

  /** Whether it lies beside the delivery's file, and not in it. */
  public boolean isSidecar() {
    return sidecar;
  }

  /** In files. */
  public String word() {
    return word;
  }

  /** On screen. */
  public String label() {
    return label;
  }
}
