package flarvo.desktop.stop;

/**
 * Something done with the mouse or with keys held down, for the key card.
 *
 * @param how such as Alt+drag
 */
public record Gesture(String how, String what) {}
