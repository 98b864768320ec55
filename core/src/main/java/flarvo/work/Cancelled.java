package flarvo.work;

/** The user stopped the work; nothing half-done remains. */
public final class Cancelled extends RuntimeException {

  private static final long serialVersionUID = 1L;

  public Cancelled() {
    super("cancelled", null, false, false);
  }
}
