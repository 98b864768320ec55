package flarvo.desktop.stop.dispatch;

import java.util.List;

/** What was decided since a delivery was sent, in words. */
final class Since {

  /** More titles than these are a list that nobody reads. */
  private static final int MOST = 3;

  private Since() {}

  static String words(List<String> since) {
    String first = String.join("; ", since.subList(Math.max(0, since.size() - MOST), since.size()));
    return since.size() > MOST ? first + "; and " + (since.size() - MOST) + " more" : first;
  }
}
