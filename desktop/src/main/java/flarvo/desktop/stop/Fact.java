package flarvo.desktop.stop;

/**
 * The one fact under a stop's name that matters now, and how far the stop has come.
 *
 * @param bad whether it asks for attention
 */
public record Fact(String text, Mark mark, boolean bad) {

  /** How full the station's marker is, so that it reads without colour. */
  public enum Mark {
    HOLLOW,
    HALF,
    FULL
  }

  public static final Fact NONE = new Fact("–", Mark.HOLLOW, false);
}
