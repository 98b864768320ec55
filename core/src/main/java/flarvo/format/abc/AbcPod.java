package flarvo.format.abc;

/** Plain data of a property, by the number stored. */
enum AbcPod {
  BOOLEAN(0, 1),
  UINT8(1, 1),
  INT8(2, 1),
  UINT16(3, 2),
  INT16(4, 2),
  UINT32(5, 4),
  INT32(6, 4),
  UINT64(7, 8),
  INT64(8, 8),
  FLOAT16(9, 2),
  FLOAT32(10, 4),
  FLOAT64(11, 8),
  STRING(12, 1),
  WSTRING(13, 4);

  final int number;
  final int bytes;

  AbcPod(int number, int bytes) {
    this.number = number;
    this.bytes = bytes;
  }

  /** Null for a number that is none. */
  static AbcPod of(int number) {
    for (AbcPod p : values()) {
      if (p.number == number) {
        return p;
      }
    }
    return null;
  }
}
