package flarvo.desktop.theme;

import atlantafx.base.theme.PrimerDark;
import atlantafx.base.theme.PrimerLight;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import javafx.application.Application;
import javafx.scene.Scene;
import javafx.scene.text.Font;

/** Neutral dark, so that plates are judged fairly, or light. */
public enum Theme {
  DARK("dark", Palette.DARK),
  LIGHT("light", Palette.LIGHT);

  /** Families of the shipped type. */
  public static final String WORDS = "B612";

  public static final String NUMBERS = "B612";

  private static final String[] FONTS = {"B612-Regular.otf", "B612-Bold.otf"};

  private final String word;
  private final Palette palette;

  Theme(String word, Palette palette) {
    this.word = word;
    this.palette = palette;
  }

  public String word() {
    return word;
  }

  public Palette palette() {
    return palette;
  }

  public Theme other() {
    return this == DARK ? LIGHT : DARK;
  }

  /** Best called before the first control is made: else the toolkit loads its own look first. */
  public void applyBase() {
    Application.setUserAgentStylesheet(ControlRules.address(ControlRules.kept(library())));
  }

  /** All of the library's rules for this theme. */
  public String library() {
    String file =
        this == DARK
            ? new PrimerDark().getUserAgentStylesheet()
            : new PrimerLight().getUserAgentStylesheet();
    try (InputStream in = PrimerDark.class.getResourceAsStream(file)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  public void applyTo(Scene scene) {
    applyBase();
    scene
        .getStylesheets()
        .setAll(
            Theme.class.getResource("/flarvo/desktop/" + word + ".css").toExternalForm(),
            Theme.class.getResource("/flarvo/desktop/flarvo.css").toExternalForm());
  }

  public static void loadFonts() {
    for (String f : FONTS) {
      try (InputStream in = Theme.class.getResourceAsStream("/flarvo/desktop/" + f)) {
        Font.loadFont(in, 13);
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
  }
}
