package flarvo.desktop.action;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Supplier;

/**
 * Something that can be done, or an object that can be gone to: by its key, by a button, or found
 * by name.
 *
 * @param id stable and unique in the window
 * @param title as the user reads it
 * @param alsoCalled other words that it is found by
 * @param can asked on the window's thread whenever it is shown or run
 */
public record Action(
    String id,
    String title,
    List<String> alsoCalled,
    Optional<Keys> keys,
    Supplier<Can> can,
    Runnable deed) {

  public Action {
    alsoCalled = List.copyOf(alsoCalled);
  }

  public static Action of(String id, String title, Runnable deed) {
    return new Action(id, title, List.of(), Optional.empty(), () -> Can.YES, deed);
  }

  public Action called(String... words) {
    return new Action(id, title, List.of(words), keys, can, deed);
  }

  public Action on(Keys k) {
    return new Action(id, title, alsoCalled, Optional.of(k), can, deed);
  }

  public Action when(Supplier<Can> c) {
    return new Action(id, title, alsoCalled, keys, c, deed);
  }

  /** Runs it, or tells why it cannot be done now. */
  public void run(java.util.function.Consumer<String> say) {
    Can c = can.get();
    if (c.isYes()) {
      deed.run();
    } else {
      say.accept(c.reason());
    }
  }

  /** Everything that it is found by, in lower case. */
  public String text() {
    return (title + " " + String.join(" ", alsoCalled)).toLowerCase(Locale.ROOT);
  }
}
