package flarvo.desktop.session;

/** The six places of work, in the order of the line. */
public enum Stop {
  RECEIVE("Receive", ""),
  VET("Vet", ""),
  LEVEL("Level", ""),
  PLATE(
      "Plate",
      "Plate is not built yet. It will need the original plates and a lens, and will make the"
          + " undistorted sequence. Until then undistorted plates are brought in ready-made."),
  DISPATCH("Dispatch", ""),
  PROOF("Proof", "");

  private final String title;
  private final String needs;

  Stop(String title, String needs) {
    this.title = title;
    this.needs = needs;
  }

  public String title() {
    return title;
  }

  /** What a stop that is not built yet will need; empty for the others. */
  public String needs() {
    return needs;
  }

  public boolean isBuilt() {
    return needs.isEmpty();
  }

  /** Its key, 1 to 6. */
  public int number() {
    return switch (this) {
      case RECEIVE -> 1;
      case VET -> 2;
      case LEVEL -> 3;
      case PLATE -> 4;
      case DISPATCH -> 5;
      case PROOF -> 6;
    };
  }
}
