package flarvo.trace;

import java.util.Optional;
import java.util.OptionalInt;

/**
 * The following of features that was cancelled last in this process, so that the same one goes on
 * where it stopped. There is one at most: paths of features, no pictures.
 */
public final class UnfinishedTrace {

  private static Object of;
  private static long stamp;
  private static Tracer tracer;

  private UnfinishedTrace() {}

  /**
   * Keeps one that was cancelled, in the place of another.
   *
   * @param key equal for the same plates, settings and masks only
   * @param pictures changes with any of the pictures
   */
  public static synchronized void keep(Object key, long pictures, Tracer cancelled) {
    of = key;
    stamp = pictures;
    tracer = cancelled;
  }

  /** Takes it; empty where none, or another, was cancelled last. */
  public static synchronized Optional<Tracer> take(Object key, long pictures) {
    if (!key.equals(of) || stamp != pictures) {
      return Optional.empty();
    }
    Tracer t = tracer;
    of = null;
    tracer = null;
    return Optional.of(t);
  }

  /** The frame that it goes on with; empty where there is none of that key. */
  public static synchronized OptionalInt next(Object key) {
    return key.equals(of) ? OptionalInt.of(tracer.next()) : OptionalInt.empty();
  }
}
