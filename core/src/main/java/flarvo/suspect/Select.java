package flarvo.suspect;

/** The k-th smallest of numbers without sorting them all (Hoare's quickselect). */
final class Select {

  /** As many are sorted by insertion, which is quicker for few. */
  private static final int FEW = 12;

  private Select() {}

  /**
   * Puts the number that would be at {@code k} of a sorted array there, and none that is larger
   * before it.
   *
   * @param n how many numbers, from the first; none of them NaN
   * @param k from 0 to {@code n − 1}
   * @return that number
   */
  static double nth(double[] a, int n, int k) {
    int lo = 0;
    int hi = n - 1;
    while (hi - lo >= FEW) {
      double pivot = middle(a[lo], a[(lo + hi) >>> 1], a[hi]);
      int i = lo;
      int j = hi;
      while (i <= j) {
        while (a[i] < pivot) {
          i++;
        }
        while (a[j] > pivot) {
          j--;
        }
        if (i <= j) {
          double t = a[i];
          a[i++] = a[j];
          a[j--] = t;
        }
      }
      if (k <= j) {
        hi = j;
      } else if (k >= i) {
        lo = i;
      } else {
        return a[k];
      }
    }
    for (int i = lo + 1; i <= hi; i++) {
      double v = a[i];
      int j = i - 1;
      while (j >= lo && a[j] > v) {
        a[j + 1] = a[j--];
      }
      a[j + 1] = v;
    }
    return a[k];
  }

  /** The median of the roots of the first {@code n} numbers, which are put in another order. */
  static double medianRoot(double[] squares, int n) {
    double high = Math.sqrt(nth(squares, n, n / 2));
    if (n % 2 == 1) {
      return high;
    }
    double low = squares[0];
    for (int i = 1; i < n / 2; i++) {
      low = Math.max(low, squares[i]);
    }
    return (Math.sqrt(low) + high) / 2;
  }

  static double middle(double a, double b, double c) {
    return Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));
  }
}
