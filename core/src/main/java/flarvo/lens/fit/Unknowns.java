package flarvo.lens.fit;

import flarvo.lens.Lens;
import java.util.ArrayList;
import java.util.List;

/** Which numbers of a lens are looked for, and the lens that a list of them makes. */
final class Unknowns {

  private final LensFitOptions options;
  private final int[] indices;

  Unknowns(LensFitOptions options) {
    this.options = options;
    List<String> all = options.start().distortion().model().coefficients();
    indices = options.terms().stream().mapToInt(all::indexOf).toArray();
  }

  int size() {
    return indices.length + (options.centre() ? 2 : 0);
  }

  List<String> names() {
    List<String> names = new ArrayList<>(options.terms());
    if (options.centre()) {
      names.add("centre x");
      names.add("centre y");
    }
    return names;
  }

  double[] start() {
    double[] p = new double[size()];
    double[] k = options.start().distortion().coefficients();
    for (int i = 0; i < indices.length; i++) {
      p[i] = k[indices[i]];
    }
    if (options.centre()) {
      p[indices.length] = options.start().centreX();
      p[indices.length + 1] = options.start().centreY();
    }
    return p;
  }

  Lens lens(double[] p) {
    Lens s = options.start();
    double[] k = s.distortion().coefficients();
    for (int i = 0; i < indices.length; i++) {
      k[indices[i]] = p[i];
    }
    int n = indices.length;
    return new Lens(
        s.distortion().model().make(k),
        s.normalisation(),
        options.centre() ? p[n] : s.centreX(),
        options.centre() ? p[n + 1] : s.centreY(),
        s.focal());
  }
}
