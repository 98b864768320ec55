package flarvo.desktop.theme;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.Set;

/**
 * The library's stylesheet without the rules for controls that the window does not use. Whenever a
 * node is added to a scene, the toolkit goes through every set of style classes that any rule
 * names, and most of the library's are for such controls.
 */
public final class ControlRules {

  /** Style classes that no node of the window has: unused controls and variants of controls. */
  private static final Set<String> ABSENT =
      Set.of(
          "accordion",
          "axis",
          "bordered",
          "breadcrumbs",
          "button-circle",
          "button-icon",
          "button-outlined",
          "calendar",
          "calendar-grid",
          "center-pill",
          "chart",
          "chart-legend",
          "chart-pie",
          "chart-plot-background",
          "chart-series-line",
          "choice-box",
          "color-palette",
          "color-picker",
          "custom-color-dialog",
          "danger",
          "date-cell",
          "date-picker",
          "date-picker-popup",
          "day-name-cell",
          "deck-pane",
          "dense",
          "dialog-pane",
          "flat",
          "floating",
          "html-editor",
          "hyperlink",
          "ikonli-font-icon",
          "left-pill",
          "menu-bar",
          "message",
          "month-year-pane",
          "notification",
          "pagination",
          "pagination-control",
          "progress-indicator",
          "radio-button",
          "radio-menu-item",
          "right-pill",
          "ring-progress-indicator",
          "rounded",
          "spinner",
          "split-menu-button",
          "striped",
          "success",
          "tab",
          "tab-content-area",
          "tab-header-area",
          "tab-pane",
          "tile",
          "tile-base",
          "titled-pane",
          "toggle-switch",
          "tool-bar",
          "tree-cell",
          "tree-table-cell",
          "tree-table-row-cell",
          "tree-table-view",
          "tree-view");

  private ControlRules() {}

  /** The rules that may apply to a node of the window, without selectors that cannot. */
  public static String kept(String css) {
    return sift(css, true);
  }

  /** The rest of {@link #kept}. */
  public static String leftOut(String css) {
    return sift(css, false);
  }

  /** As an address that the toolkit reads a stylesheet from. */
  static String address(String css) {
    return "data:text/css;charset=utf-8;base64,"
        + Base64.getEncoder().encodeToString(css.getBytes(StandardCharsets.UTF_8));
  }

  private static String sift(String sheet, boolean keep) {
    String css = withoutComments(sheet);
    StringBuilder out = new StringBuilder(css.length());
    int at = 0;
    while (true) {
      int open = css.indexOf('{', at);
      int close = css.indexOf('}', open + 1);
      if (open < 0 || close < 0) {
        return out.toString();
      }
      int before = out.length();
      for (String selector : css.substring(at, open).split(",", -1)) {
        // An empty selector, as after a last comma, would be read as one that matches everything.
        if (!selector.isBlank() && isAbsent(selector) != keep) {
          out.append(out.length() > before ? "," : "").append(selector);
        }
      }
      if (out.length() > before) {
        out.append(css, open, close + 1).append('\n');
      }
      at = close + 1;
    }
  }

  /** Comments may hold examples of rules. */
  private static String withoutComments(String text) {
    StringBuilder out = new StringBuilder(text.length());
    int at = 0;
    int from = text.indexOf("/*");
    while (from >= 0) {
      out.append(text, at, from);
      int to = text.indexOf("*/", from);
      at = to < 0 ? text.length() : to + 2;
      from = text.indexOf("/*", at);
    }
    return out.append(text, at, text.length()).toString();
  }

  /** Whether it names a class that no node has. */
  private static boolean isAbsent(String selector) {
    int dot = selector.indexOf('.');
    while (dot >= 0) {
      int end = dot + 1;
      while (end < selector.length() && isOfName(selector.charAt(end))) {
        end++;
      }
      if (ABSENT.contains(selector.substring(dot + 1, end))) {
        return true;
      }
      dot = selector.indexOf('.', end);
    }
    return false;
  }

  private static boolean isOfName(char c) {
    return c >= 'a' && c <= 'z'
        || c >= 'A' && c <= 'Z'
        || c >= '0' && c <= '9'
        || c == '-'
        || c == '_';
  }
}
