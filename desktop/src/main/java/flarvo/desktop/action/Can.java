package flarvo.desktop.action;

/**
 * Whether something can be done now.
 *
 * @param reason why not; empty where it can
 */
public record Can(String reason) {

  public static final Can YES = new Can("");

  public static Can no(String reason) {
    return new Can(reason);
  }

  /**
   * @param reason for the user where it cannot be done
   */
  public static Can when(boolean possible, String reason) {
    return possible ? YES : no(reason);
  }

  public boolean isYes() {
    return reason.isEmpty();
  }
}
