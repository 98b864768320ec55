package flarvo.tools.soak;

import java.util.List;

/**
 * What one kind of trouble led to.
 *
 * @param tries how often it was made
 * @param faults one line each; none where all is well
 */
record Outcome(String kind, int tries, List<String> faults) {

  Outcome {
    faults = List.copyOf(faults);
  }

  String line() {
    String head =
        kind + ": " + tries + (faults.isEmpty() ? ", all well" : ", " + faults.size() + " faults");
    return faults.isEmpty() ? head : head + "\n    " + String.join("\n    ", faults);
  }
}
