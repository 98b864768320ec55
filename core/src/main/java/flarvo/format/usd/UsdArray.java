package flarvo.format.usd;

/**
 * A tuple, matrix or array of numbers, flat.
 *
 * @param count entries: 1 for a tuple, else the array's length
 * @param numbers count × components; owned by the layer and never changed
 */
record UsdArray(int count, double[] numbers) {

  int components() {
    return count == 0 ? 0 : numbers.length / count;
  }

  double at(int i) {
    return numbers[i];
  }
}
