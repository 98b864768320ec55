package flarvo.desktop.stop;

import flarvo.convention.Lengths;
import flarvo.desktop.state.Session;
import java.util.OptionalDouble;
import java.util.function.Function;
import javafx.scene.control.Button;
import javafx.scene.control.TextField;
import javafx.scene.layout.Region;
import javafx.util.StringConverter;

/** Small fields and buttons of the desks. */
public final class Fields {

  private Fields() {}

  public static TextField small(String id, String text, String accessible, double width) {
    TextField f = new TextField(text);
    f.setId(id);
    f.setAccessibleText(accessible);
    f.getStyleClass().addAll("small-field", "number");
    f.setPrefWidth(width);
    return f;
  }

  public static Button button(String id, String text, Runnable action) {
    Button b = new Button(text);
    b.setId(id);
    b.setMinWidth(Region.USE_PREF_SIZE);
    b.getStyleClass().add("small-button");
    b.setOnAction(e -> action.run());
    return b;
  }

  /** Shows the values of a choice that is not typed by their words. */
  public static <T> StringConverter<T> shown(Function<T, String> word) {
    return new StringConverter<>() {
      @Override
      public String toString(T t) {
        return t == null ? "" : word.apply(t);
      }

      @Override
      public T fromString(String s) {
        throw new IllegalStateException("the choice is not typed");
      }
    };
  }

  /** A length that was typed; empty, with a word to the user, where it is none. */
  public static OptionalDouble metres(Session session, TextField f) {
    try {
      return OptionalDouble.of(Lengths.metres(f.getText()));
    } catch (IllegalArgumentException e) {
      session.message().set(e.getMessage());
      return OptionalDouble.empty();
    }
  }

  /** A plain number that was typed, with a unit behind it or not. */
  public static OptionalDouble number(Session session, TextField f, String what) {
    String t = f.getText().trim().replaceAll("\\s*[°×%]$", "").replaceAll("^×\\s*", "");
    try {
      double v = Double.parseDouble(t);
      if (Double.isFinite(v)) {
        return OptionalDouble.of(v);
      }
    } catch (NumberFormatException e) {
      // said below
    }
    session.message().set("'" + f.getText() + "' is no " + what);
    return OptionalDouble.empty();
  }
}
