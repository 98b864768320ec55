package flarvo.desktop.theme;

import javafx.scene.paint.Color;

/** Colours for what is drawn on a canvas; the style sheets hold the same for controls. */
public record Palette(
    Color surround,
    Color panel,
    Color raised,
    Color ink,
    Color quiet,
    Color accent,
    Color attention,
    Color conflict,
    Color lines) {

  static final Palette DARK =
      new Palette(
          Color.web("#2A2C2C"),
          Color.web("#1E2122"),
          Color.web("#272B2C"),
          Color.web("#E9E4D8"),
          Color.web("#9BA09C"),
          Color.web("#57B8A2"),
          Color.web("#E2B95B"),
          Color.web("#E8603F"),
          Color.web("#3A3F40"));

  static final Palette LIGHT =
      new Palette(
          Color.web("#8E9090"),
          Color.web("#ECEAE4"),
          Color.web("#F7F5F0"),
          Color.web("#1D2323"),
          Color.web("#59625F"),
          Color.web("#17705D"),
          Color.web("#8A6206"),
          Color.web("#B5341A"),
          Color.web("#C6C3BA"));

  /** Always with the letter beside it. */
  public static final Color AXIS_X = Color.web("#D9534F");

  public static final Color AXIS_Y = Color.web("#6DB35A");
  public static final Color AXIS_Z = Color.web("#5B8FD6");
}
