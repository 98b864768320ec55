package flarvo.format;

import flarvo.scene.PlateRole;

/** The plates a file tells its recipient to show, as a path with {@code ####} for the number. */
public record PlateMention(String path, PlateRole role) {}
