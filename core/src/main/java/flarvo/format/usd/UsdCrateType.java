package flarvo.format.usd;

import java.util.HashMap;
import java.util.Map;

/**
 * Kinds of values in a crate: the number stored, the name in text, and how entries lie in bytes.
 */
enum UsdCrateType {
  BOOL(1, "bool", 'B', 1),
  UCHAR(2, "uchar", 'B', 1),
  INT(3, "int", 'i', 1),
  UINT(4, "uint", 'u', 1),
  INT64(5, "int64", 'l', 1),
  UINT64(6, "uint64", 'l', 1),
  HALF(7, "half", 'h', 1),
  FLOAT(8, "float", 'f', 1),
  DOUBLE(9, "double", 'd', 1),
  STRING(10, "string", 's', 1),
  TOKEN(11, "token", 't', 1),
  ASSET(12, "asset", 'a', 1),
  MATRIX2D(13, "matrix2d", 'd', 4),
  MATRIX3D(14, "matrix3d", 'd', 9),
  MATRIX4D(15, "matrix4d", 'd', 16),
  QUATD(16, "quatd", 'd', 4),
  QUATF(17, "quatf", 'f', 4),
  QUATH(18, "quath", 'h', 4),
  VEC2D(19, "double2", 'd', 2),
  VEC2F(20, "float2", 'f', 2),
  VEC2H(21, "half2", 'h', 2),
  VEC2I(22, "int2", 'i', 2),
  VEC3D(23, "double3", 'd', 3),
  VEC3F(24, "float3", 'f', 3),
  VEC3H(25, "half3", 'h', 3),
  VEC3I(26, "int3", 'i', 3),
  VEC4D(27, "double4", 'd', 4),
  VEC4F(28, "float4", 'f', 4),
  VEC4H(29, "half4", 'h', 4),
  VEC4I(30, "int4", 'i', 4),
  DICTIONARY(31, "dictionary", ' ', 0),
  TOKEN_LIST_OP(32, "", ' ', 0),
  STRING_LIST_OP(33, "", ' ', 0),
  PATH_LIST_OP(34, "", ' ', 0),
  REFERENCE_LIST_OP(35, "", ' ', 0),
  PATH_VECTOR(40, "", ' ', 0),
  TOKEN_VECTOR(41, "", ' ', 0),
  SPECIFIER(42, "", ' ', 0),
  PERMISSION(43, "", ' ', 0),
  VARIABILITY(44, "", ' ', 0),
  VARIANT_SELECTIONS(45, "", ' ', 0),
  TIME_SAMPLES(46, "", ' ', 0),
  PAYLOAD(47, "", ' ', 0),
  DOUBLE_VECTOR(48, "", ' ', 0),
  LAYER_OFFSETS(49, "", ' ', 0),
  STRING_VECTOR(50, "", ' ', 0),
  VALUE_BLOCK(51, "", ' ', 0),
  PAYLOAD_LIST_OP(55, "", ' ', 0),
  TIME_CODE(56, "timecode", 'd', 1),
  RELOCATES(58, "", ' ', 0),
  SPLINE(59, "", ' ', 0);

  final int number;

  /** The scalar's name in text; empty for what no attribute holds. */
  final String text;

  /**
   * B byte, i u l integers, h f d floats, s t a indices; blank for what has a layout of its own.
   */
  final char entry;

  final int components;

  private static final Map<Integer, UsdCrateType> BY_NUMBER = new HashMap<>();
  private static final Map<String, UsdCrateType> BY_TEXT = new HashMap<>();

  static {
    for (UsdCrateType t : values()) {
      BY_NUMBER.put(t.number, t);
      if (!t.text.isEmpty()) {
        BY_TEXT.put(t.text, t);
      }
    }
    // Roles of the same values.
    for (String role : new String[] {"point3", "vector3", "normal3", "color3", "texCoord3"}) {
      BY_TEXT.put(role + "f", VEC3F);
      BY_TEXT.put(role + "d", VEC3D);
      BY_TEXT.put(role + "h", VEC3H);
    }
    BY_TEXT.put("texCoord2f", VEC2F);
    BY_TEXT.put("texCoord2d", VEC2D);
    BY_TEXT.put("texCoord2h", VEC2H);
    BY_TEXT.put("color4f", VEC4F);
    BY_TEXT.put("color4d", VEC4D);
    BY_TEXT.put("frame4d", MATRIX4D);
  }

  UsdCrateType(int number, String text, char entry, int components) {
    this.number = number;
    this.text = text;
    this.entry = entry;
    this.components = components;
  }

  /** Null for a number that is not known here. */
  static UsdCrateType of(int number) {
    return BY_NUMBER.get(number);
  }

  /** By the scalar's name in text; null for one that is not known here. */
  static UsdCrateType of(String text) {
    return BY_TEXT.get(text);
  }

  /** Bytes of one component. */
  int width() {
    return switch (entry) {
      case 'B' -> 1;
      case 'h' -> 2;
      case 'i', 'u', 'f', 's', 't', 'a' -> 4;
      case 'l', 'd' -> 8;
      default -> 0;
    };
  }

  boolean isNumeric() {
    return "BiulhfdB".indexOf(entry) >= 0;
  }
}
