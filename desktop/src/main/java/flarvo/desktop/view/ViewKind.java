package flarvo.desktop.view;

/** The two ways to look at a shot. */
public enum ViewKind {
  /** Through its camera, over the plate. */
  PICTURE,
  /** From outside. */
  SPACE
}
