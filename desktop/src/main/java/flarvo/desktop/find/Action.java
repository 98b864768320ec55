package flarvo.desktop.find;

/**
 * Something that can be done, or an object that can be gone to.
 *
 * @param keys as a person reads them; empty where there are none
 */
public record Action(String title, String keys, Runnable run) {}
